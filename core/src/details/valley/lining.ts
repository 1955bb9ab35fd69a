import {
  type Assembly,
  type Fastener,
  type FlatPattern,
  type LayKey,
  type Piece,
  cementBand,
  cut,
  emptyAssembly,
  fastenersAt,
  inCourse,
  laid,
  notInCatalog,
  onlySaying,
  piecesOf,
  valleyMetal,
} from '../../assembly/index.ts';
import { itemsOf } from '../../catalog/index.ts';
import { isWithin, rectangle } from '../../roof/index.ts';
import { type RuleKey, leastOf, mostOf } from '../../rules/index.ts';
import { type PlaneContext, type ValleySide, isOnTiles, isUnderRake, liningStock } from '../../slope/index.ts';
import { buttLine } from '../../surface/index.ts';
import { inches, stepsToReach } from '../../units/index.ts';
import type { Valley } from './find.ts';
import { type One, besidePoint, hostOf, sideOf } from './one.ts';
import { cutAlong, stripCovers } from './strip.ts';

/** Metal at a valley's lower end reaches so far past it (trade practice). */
export const METAL_TAIL = inches(4);

export function planLining(one: One): Assembly {
  const { valley, rules, covering } = one;
  const width = leastOf(rules, 'valley.lining');
  const lap = leastOf(rules, 'valley.liningLap');
  const stock = liningStock(one, valley.ribbed);
  const host = hostOf(one);
  const stands = host?.context === one.a ? one.b : one.a;
  // on the course it empties on to, and before the covering of what stands there
  const layOf = (along: number): LayKey =>
    host ? inCourse(stands, 0, 'backPiece', along) : valleyMetal({ order: Math.max(one.a.order, one.b.order) }, along);
  // up a slope it ends on the course under it, and on tiles, which it is dressed to, past that course's tail
  const foot = (context: PlaneContext, side: ValleySide): number =>
    isOnTiles(context) ? METAL_TAIL : Math.min(METAL_TAIL, side.low[1] - buttLine(context.lines, side.footOn));
  if (!stock)
    return onlySaying(
      notInCatalog(
        valley.name,
        [`${valley.ribbed ? 'ribbed ' : ''}${covering.metal} valley lining `, cut(width), ' wide, so the open valley has none'],
        {
          id: `${valley.id}.lining`,
          severity: 'leaks',
          fix: ['Add it to the catalog, choose another metal, or a closed valley.'],
          piece: `${valley.id}-S1`,
          key: 'valley.lining',
        },
      ),
    );
  const half = stock.first;
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
    flat: liningFlat(half, cutLength, bendDegrees(valley), stock.rib),
    keys,
  }));
  const cleats = cleatsOf(one, pieces, stretches.map(({ stretch }) => stretch.from), half); // prettier-ignore
  return {
    ...emptyAssembly,
    pieces,
    fasteners: cleats.fasteners,
    findings: cleats.past.map((context) => ({
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
        ...liningStep(one, pieces, half, cleats),
        lay: layOf(0),
        plane: host ? stands.plane.id : valley.a,
        ...(host ? { stage: 'covering', course: 0 } : { stage: 'dry-in' }),
      },
    ],
  };
}

type Cleats = {
  readonly fasteners: readonly Fastener[];
  /** How many along an edge, on which slopes, and on which there is none since the lining's edge runs past the slope. */
  readonly count: number;
  readonly held: readonly PlaneContext[];
  readonly past: readonly PlaneContext[];
};

/** Cleats along both edges of a lining, evenly from where the edge comes on to its slope up to the head. `starts`: where each piece begins up the valley. */
function cleatsOf(
  { valley, rules, covering, catalog, a, b }: One,
  pieces: readonly Piece[],
  starts: readonly number[],
  half: number,
): Cleats {
  const cleat = itemsOf(catalog, 'cleat').find(({ metal }) => metal === covering.metal);
  const length = valley.line.trueLength;
  const count = Math.max(1, stepsToReach(length, mostOf(rules, 'valley.cleats'))) + 1;
  const edges = [a, b].map((context) => {
    const side = sideOf(valley, context.plane.id);
    const onSlope = (along: number): boolean => isWithin(context.plane.outline, besidePoint(side, along, half));
    let first = inches(0.5);
    while (first < length && !onSlope(first)) first += inches(0.5);
    let last = length - inches(0.5);
    while (last > first && !onSlope(last)) last -= inches(0.5);
    return { context, side, first, last };
  });
  const held = edges.filter(({ first, last }) => first < last);
  return {
    count,
    held: held.map(({ context }) => context),
    past: edges.filter(({ first, last }) => first >= last).map(({ context }) => context),
    fasteners: held.flatMap(({ context, side, first, last }) =>
      Array.from({ length: count }, (_, i) => first + ((last - first) * i) / (count - 1)).flatMap((along) => {
        const on = pieces.findLast((_piece, p) => starts[p]! <= along)!;
        const place = { piece: on.mark, facet: context.plane.id, keptDry: 'sheet seals' } as const;
        return fastenersAt(cleat, place, [besidePoint(side, along, half)]);
      }),
    ),
  };
}

function liningStep(one: One, pieces: readonly Piece[], half: number, { fasteners, count, held, past }: Cleats) {
  const { valley, rules, covering, catalog } = one;
  const host = hostOf(one);
  const wanted = held.length * count;
  return laid(pieces, {
    stage: 'dry-in',
    action: [
      `${valley.id}: lay metal lining `,
      cut(2 * half),
      ` wide${valley.ribbed ? ', its rib along the centre' : ''}, ${pieces.length} ${pieces.length === 1 ? 'piece' : 'pieces from the eave up, laps '}`,
      ...(pieces.length === 1 ? [] : [cut(leastOf(rules, 'valley.liningLap'))]),
      [one.a, one.b].some((context) => isUnderRake(context, valley.id))
        ? '; slide its edge at the foot under the rake metal'
        : '',
      host
        ? `; lap its lower end on course ${host.side.footOn} of ${host.context.plane.name}, beside the wall. Snap chalk lines `
        : '; turn its lower end into the gutter. Snap chalk lines ',
      cut(2 * valley.openHigh),
      ' apart at the top, ',
      cut(2 * valley.openLow),
      ' at the lower end.',
    ],
    fasteners:
      held.length === 0
        ? ['0 cleats: both its edges run past their slopes']
        : [
            `${wanted} cleats, ${count} along ${past.length === 0 ? 'each edge' : `its edge on ${held[0]!.plane.name}`}, at most `,
            cut(mostOf(rules, 'valley.cleats')),
            ' apart; no nail through the metal, it must move',
          ],
    // a band under each of its edges
    uses: [
      cementBand(catalog, 2 * valley.line.trueLength),
      ...(wanted === 0 || fasteners.length > 0 ? [] : [piecesOf(undefined, `${covering.metal} valley cleat`, wanted)]),
    ],
    people: 2,
    caution: 'Sharp metal: gloves. Long lengths and wind.',
    holdPoint: 'lining free to move, nothing driven through it',
  });
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
