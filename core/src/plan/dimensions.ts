import { type FigurePanel, type Piece, isSidePiece } from '../assembly/index.ts';
import { type Point, bounds } from '../roof/index.ts';
import { buttLine } from '../surface/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';
import type { Plan } from './planJob.ts';

/** A length the tape meets on a detail's drawing: between two places on the slope's chart, millimetres, and the way its line stands off from them. */
export type Dimension = {
  readonly what: string;
  /** The piece whose size it is. */
  readonly piece: string;
  readonly from: Point;
  readonly to: Point;
  readonly off: Point;
};

/** How long it is, millimetres. */
export const lengthOf = ({ from, to }: Dimension): number => Math.hypot(to[0] - from[0], to[1] - from[1]);

type Box = ReturnType<typeof bounds>;

const LEFT: Point = [-1, 0];
const RIGHT: Point = [1, 0];
const DOWN: Point = [0, -1];

/** What the tape meets on a detail as it lies on its slope, read off the pieces themselves: legs, laps, ears, and how much of a base shows. */
export function dimensionsOf(
  plan: Plan,
  { detail, plane, window }: Pick<FigurePanel, 'detail' | 'plane' | 'window'>,
): Dimension[] {
  const own = plan.pieces.filter((piece) => piece.detail === detail && boxOf(piece, plane));
  const faces = new Set(plan.facets.flatMap((facet) => (facet.on === plane && facet.detail === detail ? [facet.id] : [])));
  const joints = plan.joints.filter(({ a, b }) => a === plane && faces.has(b));
  const lineOf = (kind: 'front' | 'back') => joints.find((joint) => joint.kind === kind)?.onA;
  const [front, back] = [lineOf('front'), lineOf('back')];
  const ofRole = (...roles: Piece['role'][]): Piece | undefined => own.find(({ role }) => roles.includes(role));
  const apron = ofRole('apron', 'sill');
  // both sides of a chimney or frame are alike: one is measured
  const wall = joints
    .flatMap(({ kind, side, onA, b }) =>
      kind === 'side' ? [{ side, x: onA[0][0], steps: sidePieces(own, b, plane, window) }] : [],
    )
    .find(({ steps }) => steps.length > 0);
  const behind = ofRole('pan', 'cricket', 'head');
  return [
    ...(apron && front ? across(apron, boxOf(apron, plane)!, front, 'front') : []),
    ...(behind && back ? across(behind, boxOf(behind, plane)!, back, 'back') : []),
    ...(wall ? beside(wall.steps, plane, wall.x, wall.side) : []),
    ...own.flatMap((piece) => (piece.role === 'boot' ? base(plan, piece, plane) : [])),
    ...valleyOf(plan, detail, plane).flatMap((line) =>
      (['valleyLining', 'valleySheet'] as const).flatMap((role) => {
        const piece = ofRole(role);
        return piece ? [fromCentre(piece, plane, line)] : [];
      }),
    ),
  ];
}

/** The box round what a piece covers of a slope; undefined where it covers nothing there. */
function boxOf({ covers }: Piece, plane: string): Box | undefined {
  const here = covers.filter(({ facet }) => facet === plane).flatMap(({ outline }) => outline);
  return here.length > 0 ? bounds(here) : undefined;
}

/** Aprons, sills, pans and heads: how far on the roof from the face, and past its left corner. */
function across({ mark }: Piece, box: Box, [[ax, y], [bx]]: readonly [Point, Point], end: 'front' | 'back'): Dimension[] {
  const corner = Math.min(ax, bx);
  const [x, edge, off] = end === 'front' ? [box.x0, box.y0, LEFT] : [box.x1, box.y1, RIGHT];
  const level = end === 'front' ? box.y0 : box.y1;
  return [
    { what: end === 'front' ? 'on the roof' : 'up the roof', piece: mark, from: [x, y], to: [x, edge], off },
    ...(box.x0 < corner - LINE_TOLERANCE && end === 'front'
      ? [{ what: 'past the corner', piece: mark, from: [box.x0, level] as const, to: [corner, level] as const, off: DOWN }]
      : []),
  ];
}

/** Steps or soakers along one wall that are drawn whole, from the lowest up. */
const sidePieces = (own: readonly Piece[], facet: string, plane: string, { y0, y1 }: FigurePanel['window']): Piece[] =>
  own
    .filter(({ role, covers }) => isSidePiece(role) && covers.some((cover) => cover.facet === facet))
    .filter((piece) => boxOf(piece, plane)!.y0 > y0 && boxOf(piece, plane)!.y1 < y1)
    .sort((a, b) => (a.course ?? 0) - (b.course ?? 0));

/** The leg of a step on the roof and how far the next one laps it, in the middle of what is drawn of the wall; above it the length of another. */
function beside(steps: readonly Piece[], plane: string, x: number, side: 1 | -1): Dimension[] {
  const i = Math.max(0, Math.floor((steps.length - 1) / 2));
  const [step, next, another] = [steps[i], steps[i + 1], steps[i + 2]];
  if (!step) return [];
  const box = boxOf(step, plane)!;
  const far = side === 1 ? box.x1 : box.x0;
  const off = side === 1 ? RIGHT : LEFT;
  const above = next && boxOf(next, plane)!;
  return [
    { what: 'leg on the roof', piece: step.mark, from: [x, box.y0], to: [far, box.y0], off: DOWN },
    ...(above && above.y0 < box.y1 - LINE_TOLERANCE
      ? [{ what: 'headlap', piece: step.mark, from: [far, above.y0] as const, to: [far, box.y1] as const, off }]
      : []),
    ...(another ? [long(another, boxOf(another, plane)!, far, off)] : []),
  ];
}

const long = ({ mark }: Pick<Piece, 'mark'>, { y0, y1 }: Pick<Box, 'y0' | 'y1'>, x: number, off: Point): Dimension => ({
  what: 'long',
  piece: mark,
  from: [x, y0],
  to: [x, y1],
  off,
});

/** A base: its width and length, and how much of it shows below the first course over it. */
function base(plan: Plan, { mark, course, covers }: Piece, plane: string): Dimension[] {
  const { x0, x1, y0, y1 } = bounds(covers.find(({ facet }) => facet === plane)!.outline);
  const { lines } = plan.planes.find(({ id }) => id === plane)!;
  const butt = course === undefined ? y0 : buttLine(lines, course);
  return [
    { what: 'wide', piece: mark, from: [x0, y0], to: [x1, y0], off: DOWN },
    long({ mark }, { y0, y1 }, x1, RIGHT),
    ...(butt > y0 + LINE_TOLERANCE
      ? [{ what: 'showing', piece: mark, from: [x0, y0] as const, to: [x0, butt] as const, off: LEFT }]
      : []),
  ];
}

/** The centre line of a valley on one of its slopes. */
const valleyOf = (plan: Plan, detail: string, plane: string): (readonly [Point, Point])[] => {
  const valley = plan.valleys.find(({ id }) => id === detail);
  const joint = valley && plan.joints.find(({ kind, a, b }) => kind === 'valley' && a === valley.a && b === valley.b);
  return joint ? [joint.a === plane ? joint.onA : joint.onB] : [];
};

/** How far a strip in a valley reaches from the centre, square to it, at the middle of the valley. */
function fromCentre({ mark, role, covers }: Piece, plane: string, [low, high]: readonly [Point, Point]): Dimension {
  const length = Math.hypot(high[0] - low[0], high[1] - low[1]);
  const run: Point = [(high[0] - low[0]) / length, (high[1] - low[1]) / length];
  const offs = covers
    .filter(({ facet }) => facet === plane)
    .flatMap(({ outline }) => outline.map(([x, y]) => (x - low[0]) * run[1] - (y - low[1]) * run[0]));
  const most = offs.reduce((far, off) => (Math.abs(off) > Math.abs(far) ? off : far), 0);
  // a lining and the sheet under it are measured at two places, so that neither lies on the other
  const share = role === 'valleySheet' ? 0.62 : 0.4;
  const from: Point = [low[0] + (high[0] - low[0]) * share, low[1] + (high[1] - low[1]) * share];
  return {
    what: role === 'valleySheet' ? 'sheet from the centre' : 'lining from the centre',
    piece: mark,
    from,
    to: [from[0] + run[1] * most, from[1] - run[0] * most],
    off: [0, 0],
  };
}
