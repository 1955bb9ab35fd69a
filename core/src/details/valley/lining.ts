import {
  type Assembly,
  type Fastener,
  type FlatPattern,
  type LayKey,
  type Piece,
  type Words,
  cementBand,
  cut,
  emptyAssembly,
  inCourse,
  onlySaying,
  piecesOf,
  valleyMetal,
} from '../../assembly/index.ts';
import { chooseLengthMetal, itemsOf } from '../../catalog/index.ts';
import { isWithin, rectangle } from '../../roof/index.ts';
import { type RuleKey, leastOf, mostOf } from '../../rules/index.ts';
import type { PlaneContext, ValleySide } from '../../slope/index.ts';
import { buttLine } from '../../surface/index.ts';
import { inches, stepsToReach } from '../../units/index.ts';
import type { Valley } from './find.ts';
import { type One, besidePoint, hostOf, sideOf } from './one.ts';
import { cutAlong, stripCovers } from './strip.ts';

const METAL_TAIL = inches(4);

export function planLining(one: One): Assembly {
  const { valley, rules, covering, catalog } = one;
  const width = leastOf(rules, 'valley.lining');
  const lap = leastOf(rules, 'valley.liningLap');
  const linings = itemsOf(catalog, 'valleyMetal').filter(({ rib }) => (rib !== undefined) === valley.ribbed);
  const stock = chooseLengthMetal({ ...catalog, items: linings }, 'valleyMetal', covering.metal, { first: width / 2, second: width / 2, thickness: leastOf(rules, 'flashing.thickness') }); // prettier-ignore
  const host = hostOf(one);
  const stands = host?.context === one.a ? one.b : one.a;
  // on the course it empties on to, and before the covering of what stands there
  const layOf = (along: number): LayKey =>
    host ? inCourse(stands, 0, 'backPiece', along) : valleyMetal({ order: Math.max(one.a.order, one.b.order) }, along);
  const foot = (context: PlaneContext, side: ValleySide): number =>
    Math.min(METAL_TAIL, side.low[1] - buttLine(context.lines, side.footOn));
  if (!stock)
    return onlySaying({
      id: `${valley.id}.lining`,
      severity: 'leaks',
      sentence: [
        `${valley.name}: the catalog has no ${valley.ribbed ? 'ribbed ' : ''}${covering.metal} valley lining `,
        cut(width),
        ' wide, so the open valley has none.',
      ],
      fix: ['Add it to the catalog, choose another metal, or a closed valley.'],
      piece: `${valley.id}-S1`,
      key: 'valley.lining',
    });
  const half = stock.first;
  const rib = linings.find(({ id }) => id === stock.id)?.rib ?? 0;
  const keys: RuleKey[] = [
    'valley.lining',
    'valley.liningLap',
    'valley.openTop',
    'valley.widening',
    'valley.cleats',
    'flashing.thickness',
  ];
  const stretches = cutAlong(one, stock.length, lap, METAL_TAIL);
  const pieces = stretches.map(({ stretch, cutLength }, i): Piece => ({
    mark: `${valley.id}-L${i + 1}`,
    detail: valley.id,
    role: 'valleyLining',
    product: stock.id,
    covers: stripCovers(one, half, stretch.from, stretch.to, ['open'], foot),
    lay: layOf(stretch.from),
    liesOn: [i === 0 ? `${valley.id}-S1` : `${valley.id}-L${i}`],
    cutLength,
    flat: liningFlat(half, cutLength, bendDegrees(valley), rib),
    keys,
  }));
  const spacing = mostOf(rules, 'valley.cleats');
  const cleat = itemsOf(catalog, 'cleat').find(({ metal }) => metal === covering.metal);
  const count = Math.max(1, stepsToReach(valley.line.trueLength, spacing)) + 1;
  const edges = [one.a, one.b].map((context) => {
    const side = sideOf(valley, context.plane.id);
    // the edge of the lining meets the eave a little way up the valley: from there to the head, evenly
    const onSlope = (along: number): boolean => isWithin(context.plane.outline, besidePoint(side, along, half));
    let first = inches(0.5);
    while (first < valley.line.trueLength && !onSlope(first)) first += inches(0.5);
    let last = valley.line.trueLength - inches(0.5);
    while (last > first && !onSlope(last)) last -= inches(0.5);
    return { context, side, first, last };
  });
  const [held, past] = [edges.filter(({ first, last }) => first < last), edges.filter(({ first, last }) => first >= last)];
  const fasteners = held.flatMap(({ context, side, first, last }) =>
    (cleat ? Array.from({ length: count }) : []).map((_, i): Fastener => {
      const along = first + ((last - first) * i) / (count - 1);
      const on = pieces.findLast((_piece, p) => stretches[p]!.stretch.from <= along)!;
      const at = besidePoint(side, along, half);
      return { piece: on.mark, facet: context.plane.id, at, product: cleat!.id, keptDry: 'sheet seals' };
    }),
  );
  const open = (at: number): Words => [cut(2 * at)];
  return {
    ...emptyAssembly,
    pieces,
    fasteners,
    findings: past.map(({ context }) => ({
      id: `${valley.id}.${context.plane.id}.cleats`,
      severity: 'worth a look' as const,
      sentence: [
        `${valley.name}: so near the end of ${context.plane.name} that the lining’s edge runs past it, so no cleat holds it on that side.`,
      ],
      fix: ['Turn that edge over on to the next slope under its caps, or move the valley away.'],
      piece: pieces[0]!.mark,
      key: 'valley.cleats' as const,
    })),
    steps: [
      {
        lay: layOf(0),
        detail: valley.id,
        plane: host ? stands.plane.id : valley.a,
        ...(host ? { stage: 'covering', course: 0 } : { stage: 'dry-in' }),
        action: [
          `${valley.id}: metal lining `,
          cut(2 * half),
          ` wide${valley.ribbed ? ', its rib along the centre' : ''}, ${pieces.length} ${pieces.length === 1 ? 'piece' : 'pieces from the eave up, laps '}`,
          ...(pieces.length === 1 ? [] : [cut(lap)]),
          host
            ? `; lower end on course ${host.side.footOn} of ${host.context.plane.name}, beside the wall. Chalk lines `
            : '; lower end turned into the gutter. Chalk lines ',
          ...open(valley.openHigh),
          ' apart at the top, ',
          ...open(valley.openLow),
          ' at the lower end.',
        ],
        pieces: pieces.map(({ mark }) => mark),
        fasteners:
          held.length === 0
            ? ['No cleats: both its edges run past their slopes']
            : [
                `${held.length * count} cleats, ${count} along ${past.length === 0 ? 'each edge' : `its edge on ${held[0]!.context.plane.name}`}, at most `,
                cut(spacing),
                ' apart; no nail through the metal, it must move',
              ],
        // a band under each of its edges
        uses: [
          cementBand(catalog, 2 * valley.line.trueLength),
          ...(cleat ? [] : [piecesOf(undefined, `${covering.metal} valley cleat`, held.length * count)]),
        ],
        people: 2,
        caution: 'Sharp metal: gloves. Long lengths and wind.',
        holdPoint: 'Lining free to move, nothing driven through it',
        keys,
      },
    ],
  };
}

/** The lining as it is cut: bent along its middle, or with a rib folded up there. */
function liningFlat(half: number, length: number, degrees: number, rib: number): FlatPattern {
  const bend = (x: number, direction: 'up' | 'down', by: number) => ({ from: [x, 0], to: [x, length], direction, degrees: by }) as const; // prettier-ignore
  return {
    outline: rectangle(0, 0, 2 * (half + rib), length),
    bends:
      rib > 0
        ? [bend(half, 'up', 90 + degrees / 2), bend(half + rib, 'down', 180), bend(half + 2 * rib, 'up', 90 + degrees / 2)]
        : [bend(half, 'up', degrees)],
  };
}

/** Between the two slopes' planes as the lining was flat, degrees. */
const bendDegrees = ({ section }: Valley): number => {
  const degrees = ((Math.atan(1 / section.zA) + Math.atan(1 / section.zB)) * 180) / Math.PI;
  return Math.round(degrees * 10) / 10;
};
