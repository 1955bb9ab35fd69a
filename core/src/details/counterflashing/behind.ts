import { letIn } from './masonry.ts';
import { type Assembly, HUNG_IN_WALL, type Piece, emptyAssembly, rightAfter, wallFinish, cut } from '../../assembly/index.ts';
import { chooseLengthMetal } from '../../catalog/index.ts';
import { type Outline, type Point, rectangle, slopeFactor } from '../../roof/index.ts';
import { leastOf } from '../../rules/index.ts';
import { type PlaneContext, backFacet, behind, counterSteps, cricketBehind, cutFromStock, footprint } from '../../slope/index.ts';
import { ears, planLevel } from './level.ts';
import { repairSteps } from './repair.ts';
import { STEPPED_KEYS, face, regletFlat } from './masonry.ts';
import { steppedFlat } from './stepped.ts';

/** Over the back pan level; behind a cricket stepped up each half to a ridge piece. */
export function planChimneyBack(context: PlaneContext, id: string): Assembly {
  const { covering, catalog, rules, plane } = context;
  const feature = context.found.feature(id);
  if (feature?.kind !== 'chimney') return emptyAssembly;
  const foot = footprint(feature, plane);
  const facet = backFacet(context.facet, id);
  const cricket = cricketBehind(context, feature);
  const upstand = behind(context, leastOf(rules, cricket ? 'cricket.upstand' : 'pan.upstand'));
  const lay = wallFinish(context, 'back', foot.x0, foot.to);
  const low = leastOf(rules, 'counterflashing.clearance');
  const name = `${feature.name}, back`;
  if (!cricket) {
    const drop = upstand + leastOf(rules, 'counterflashing.aboveBase') - low;
    const stock = chooseLengthMetal(catalog, 'reglet', covering.metal, { first: leastOf(rules, 'counterflashing.reglet'), second: drop, thickness: leastOf(rules, 'flashing.thickness') }); // prettier-ignore
    return planLevel(context, { id: `${id}B`, name, detail: id, end: 'back', facet, x0: foot.x0, x1: foot.x1, low, drop, height: feature.height, repair: feature.counter === 'repair', on: `${id}-P`, lay, stock }); // prettier-ignore
  }
  // the old one is made good
  const loose = feature.counter === 'repair';
  const half = feature.width / 2;
  const m = cricket.sidePitch;
  const steps = counterSteps({ pitch: m, joint: feature.jointSpacing, baseLeg: upstand / slopeFactor(m), run: half, rules });
  const depth = leastOf(rules, 'counterflashing.reglet');
  const mirror = (outline: readonly Point[]): Outline => outline.map(([x, y]): Point => [foot.x0 + foot.x1 - x, y]).toReversed();
  const made = (['L', 'R'] as const).flatMap((side) =>
    Array.from({ length: steps.pieces }, (_, i): Piece => {
      const a = i * steps.spacing - (i === 0 ? 0 : steps.lap);
      const b = Math.min((i + 1) * steps.spacing, half);
      const top = m * (i + 1) * steps.spacing + steps.lowest;
      // the lowest goes on round the corner
      const flat = steppedFlat(b - a + (i === 0 ? steps.lap : 0), top - m * a, m, low / slopeFactor(m), depth);
      const left: Outline = [[foot.x0 + a, m * a + low], [foot.x0 + b, m * b + low], [foot.x0 + b, top], [foot.x0 + a, top]]; // prettier-ignore
      return {
        mark: `${id}B-${side}${i + 1}`,
        detail: id,
        role: 'counter',
        ...(loose ? {} : cutFromStock(context, flat)),
        covers: [
          { facet, outline: side === 'L' ? left : rotated(mirror(left)), holds: HUNG_IN_WALL },
          ...(i === 0 ? ears(context, { detail: id, end: 'back', low }, [side === 'L' ? -1 : 1], steps.lap, top) : []),
        ],
        lay: rightAfter(lay, i / 1000),
        liesOn: [i === 0 ? `${id}-CK` : `${id}B-${side}${i}`],
        flat,
        keys: STEPPED_KEYS,
      };
    }),
  );
  const centre = foot.x0 + half;
  const peak = cricket.height + steps.lowest + steps.joints * feature.jointSpacing;
  const ridge: Piece = {
    mark: `${id}B-T`,
    detail: id,
    role: 'counter',
    ...(loose ? {} : cutFromStock(context, regletFlat(2 * steps.lap, depth, peak - cricket.height - low))),
    covers: [
      {
        facet,
        outline: rectangle(centre - steps.lap, cricket.height + low, centre + steps.lap, peak),
        holds: HUNG_IN_WALL,
      },
    ],
    lay: rightAfter(lay, 0.9),
    liesOn: [`${id}B-L${steps.pieces}`, `${id}B-R${steps.pieces}`],
    flat: regletFlat(2 * steps.lap, depth, peak - cricket.height - low),
    keys: STEPPED_KEYS,
  };
  const lowest = steps.lowest;
  const shown = face(facet, id, `${id}B-CL`, [[foot.x0, lowest], [foot.x1, lowest], [foot.x1, Math.max(feature.height, peak)], [foot.x0, Math.max(feature.height, peak)]]); // prettier-ignore
  const pieces = [...made, ridge];
  return {
    ...emptyAssembly,
    pieces: [shown, ...pieces],
    steps: loose
      ? repairSteps(
          context,
          name,
          id,
          pieces.map(({ mark }) => mark),
          pieces.length * steps.length,
          lay,
        )
      : letIn(context, pieces, pieces.length * steps.length, {
          name,
          cutting: ['rake the joints up each half of the cricket, ', cut(depth), ' deep, ', cut(steps.spacing), ' level apart.'],
          hanging: [
            `hang ${steps.pieces} ${steps.pieces === 1 ? 'piece' : 'pieces'} up each half of the cricket, then the ridge piece over both; after the sides.`,
          ],
        }),
  };
}

/** A mirrored outline starts at its lower left corner again, so that its edges keep their order. */
const rotated = (outline: Outline): Outline => [outline[2]!, outline[3]!, outline[0]!, outline[1]!];
