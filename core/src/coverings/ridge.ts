import { type Piece, type Step, bead, cut, piecesOf, ridge } from '../assembly/index.ts';
import { type ItemOf, chooseNail, itemsOf, sealantFor } from '../catalog/index.ts';
import { type Outline, type Point, compass, rectangle, slopeFactor, toPlan } from '../roof/index.ts';
import { leastOf } from '../rules/index.ts';
import { type PlaneContext, type RidgeEnd, onPlane, patchesRound, ridgeVentOf, ridgesOf, spansOf } from '../slope/index.ts';
import { RIDGE_MARK, courseMark } from '../surface/index.ts';
import { LINE_TOLERANCE, inches, stepsToReach } from '../units/index.ts';

/** Caps along a slope's ridge and hips, where it has any; caps on a line two slopes share are counted on one of them. */
export function ridgePieces(context: PlaneContext, cap: ItemOf<'ridgeCap'>): Piece[] {
  const { plane } = context;
  const capped = plane.edges.filter(
    ({ kind, from, to }) =>
      kind === 'ridge' || kind === 'hip' || (kind === 'top' && plane.top === 'ridge' && Math.abs(from[1] - to[1]) < 1),
  );
  if (capped.length === 0) return [];
  const level = capped.filter(({ kind }) => kind !== 'hip');
  const patches = level.flatMap(({ from, to }) =>
    patchesRound(
      { x0: Math.min(from[0], to[0]), x1: Math.max(from[0], to[0]), y0: from[1] - cap.halfWidth, y1: from[1] },
      context.blocks,
      0,
    ),
  );
  const hips = capped.filter(({ kind }) => kind === 'hip');
  const hipLength = hips.reduce((sum, { from, to }) => sum + Math.hypot(to[0] - from[0], to[1] - from[1]), 0);
  const run = spansOf(patches).reduce((sum, [a, b]) => sum + b - a, 0) + hipLength;
  if (run <= 0) return [];
  // caps lie on both slopes of a line they share; they are counted on one
  const counted = capped.filter(({ other }) => other === undefined || plane.id < other);
  const countedLength = counted.reduce((sum, { from, to }) => sum + Math.hypot(to[0] - from[0], to[1] - from[1]), 0);
  const blocked = run < hipLength + level.reduce((sum, { from, to }) => sum + Math.abs(to[0] - from[0]), 0) - 1;
  return [
    {
      mark: RIDGE_MARK,
      detail: 'covering',
      role: 'ridgeCap',
      ...(counted.length > 0 ? { product: cap.id } : {}),
      covers: [
        ...patches.flatMap(({ x0, x1, y0, y1 }) => onPlane(plane, rectangle(x0, y0, x1, y1))),
        ...hips.flatMap(({ from, to }) => onPlane(plane, stripInside(from, to, cap.halfWidth))),
      ].map((outline) => ({ facet: context.facet, outline, holds: ['open'] })),
      lay: ridge(context, 'caps'),
      liesOn: [courseMark(context.lines.count)],
      ...(counted.length > 0 ? { units: { whole: stepsToReach(blocked ? run : countedLength, cap.exposure), parts: [] } } : {}),
      keys: [],
    },
  ];
}

/** A strip along an edge of the slope, on the slope's side of it. */
function stripInside(from: Point, to: Point, width: number): Outline {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
  const inward: Point = [(-(to[1] - from[1]) / length) * width, ((to[0] - from[0]) / length) * width];
  return [from, to, [to[0] + inward[0], to[1] + inward[1]], [from[0] + inward[0], from[1] + inward[1]]];
}

/** Through a cap of two layers and what lies under it at a ridge, three layers of covering and the vent if there is one, into the deck. */
const capNail = ({ surface, rules, covering, job, catalog, vented }: PlaneContext): number =>
  5 * surface.thickness +
  (vented ? (ridgeVentOf(job, catalog)?.height ?? 0) : 0) +
  Math.min(leastOf(rules, 'nail.embedment'), covering.deckThickness + inches(1 / 8));

/** The end the caps are begun at, so that their laps look away from the weather: by the compass where it was said where that comes from. */
function leeEnd({ plane, job }: PlaneContext): string {
  const wind = job.site.wind?.from;
  const line = ridgesOf(plane)[0];
  if (wind === undefined || !line) return 'the end away from the weather';
  const turn = (wind * Math.PI) / 180;
  const upwind = ({ at: [x, y] }: RidgeEnd): number => {
    const [east, north] = toPlan(plane.joined.face, [x, y / slopeFactor(plane.pitch)]);
    return east * Math.sin(turn) + north * Math.cos(turn);
  };
  const [one, other] = line.ends;
  if (Math.abs(upwind(one) - upwind(other)) < LINE_TOLERANCE)
    return `either end, the weather coming square to it from the ${compass(wind)}`;
  const [lee, windward] = upwind(one) < upwind(other) ? [one, other] : [other, one];
  const [a, b] = [windward, lee].map(({ at: [x, y] }) => toPlan(plane.joined.face, [x, y / slopeFactor(plane.pitch)]));
  const towards = (Math.atan2(b![0] - a![0], b![1] - a![1]) * 180) / Math.PI;
  return `its ${compass(towards)} end, away from the weather from the ${compass(wind)}`;
}

/** The step that lays them. */
export function ridgeSteps(context: PlaneContext, cap: ItemOf<'ridgeCap'>): Step[] {
  const pieces = ridgePieces(context, cap);
  const caps = pieces[0];
  if (!caps) return [];
  if (cap.for === 'tile') return [ridgeTilesStep(context, cap, caps)];
  const each = leastOf(context.rules, 'ridgeCap.nails');
  const count = each * (caps.units?.whole ?? 0);
  const longNail = capNail(context);
  const nail = chooseNail(context.catalog, 'roofing', longNail, 'galvanised steel');
  return [
    {
      lay: ridge(context, 'caps'),
      detail: 'covering',
      stage: 'finish',
      action: caps.units
        ? [
            `${context.plane.edges.some(({ kind }) => kind === 'hip') ? 'Cap the hips from the eave up, then the ridge,' : 'Cap the ridge'} once both slopes are laid: ${caps.units.whole} caps, begun at ${leeEnd(context)}.`,
          ]
        : ['Leave its ridge to the slope behind: its caps are counted and laid with that.'],
      pieces: [RIDGE_MARK],
      ...(caps.units
        ? {
            fasteners: [
              `${count} nails, ${each} to a cap, one each side, an inch above the part that shows; `,
              cut(longNail),
              ' or longer',
            ],
            uses: [piecesOf(nail, 'roofing nail', count)],
          }
        : {}),
      people: 1,
      ...(caps.units ? { caution: 'Tie off on the ridge.' } : {}),
      keys: [],
    },
  ];
}

const isBedded = ({ covering }: PlaneContext): boolean => covering.kind === 'singleLap' && covering.ridgeSet === 'bedded';

/** Mortar along a ridge tile's edges, and across its laps: as deep as it is wide (trade practice). */
const BED = 50;

/** Ridge tiles, in mortar or dry; those of a ridge shared with the slope behind are laid with that. */
function ridgeTilesStep(context: PlaneContext, { exposure }: ItemOf<'ridgeCap'>, { units }: Piece): Step {
  const set = isBedded(context) ? bedded(context, exposure, units?.whole ?? 0) : clamped(context, units?.whole ?? 0);
  return {
    lay: ridge(context, 'caps'),
    detail: 'covering',
    stage: 'finish',
    pieces: [RIDGE_MARK],
    people: 1,
    keys: [],
    ...(units ? set : { action: ['Leave its ridge to the slope behind: its ridge tiles are counted and laid with that.'] }),
  };
}

/** What a step says of how its ridge tiles are held. */
type RidgeSet = Pick<Step, 'action' | 'fasteners' | 'uses' | 'wait' | 'caution'>;

/** In mortar: bedded along both edges, solid at every lap and end (trade practice). */
function bedded(context: PlaneContext, exposure: number, count: number): RidgeSet {
  const mortar = sealantFor(context.catalog, 'mortar');
  return {
    action: [
      `Bed ${onRidgeAndHips(context)}${count} ridge tiles on mortar once both slopes are laid, begun at ${leeEnd(context)}: along both edges, solid at every lap and end, `,
      cut(BED),
      ' wide; no mortar down in the pans.',
    ],
    fasteners: ['0 clamps: the mortar holds them; where code or wind asks for more, set them dry'],
    uses: [bead(mortar, 'bedding mortar', 2 * count * exposure + (count + 1) * 2 * BED, BED)],
    wait: 'mortar set, no frost before',
    caution: 'Tie off on the ridge; wet cement burns: gloves, eyes.',
  };
}

/** Dry: clamped at every lap and at both ends to the ridge batten, none nailed through (trade practice). */
function clamped(context: PlaneContext, count: number): RidgeSet {
  const clamp = itemsOf(context.catalog, 'screw').find(({ use }) => use === 'ridge clamp');
  const clamps = count + 1;
  return {
    action: [`Set ${onRidgeAndHips(context)}${count} ridge tiles dry once both slopes are laid, begun at ${leeEnd(context)}.`],
    fasteners: [
      `${clamps} clamps, at every lap and both ends, screwed to the ridge batten; nothing nailed through, nothing bedded`,
    ],
    uses: [piecesOf(clamp, 'ridge clamp with its screw', clamps)],
    caution: 'Tie off on the ridge.',
  };
}

/** The hips first where there are any. */
const onRidgeAndHips = ({ plane }: PlaneContext): string =>
  plane.edges.some(({ kind }) => kind === 'hip') ? 'the hips from the eave up, then the ridge: ' : '';
