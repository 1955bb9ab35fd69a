import { type FigurePanel, type Piece, isBesideWall, isSideLength } from '../assembly/index.ts';
import { type Outline, type Point, bounds, isWithin, slopeToWall, spansAcross, wallToSlope } from '../roof/index.ts';
import { buttLine } from '../surface/index.ts';
import { LINE_TOLERANCE, inches } from '../units/index.ts';
import type { Plan } from './planJob.ts';

/** A length the tape meets on a detail's drawing: between two places on the chart of a slope or a face, millimetres, and the way its line stands off from them. */
export type Dimension = {
  readonly what: string;
  /** The piece whose size it is. */
  readonly piece: string;
  readonly facet: string;
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
const UP: Point = [0, 1];

/** What the tape meets on a detail as it lies on its slope, read off the pieces themselves: legs, laps, ears, and how much of a base shows. */
export function dimensionsOf(
  plan: Plan,
  { detail, plane, window }: Pick<FigurePanel, 'detail' | 'plane' | 'window'>,
): Dimension[] {
  const ofDetail = plan.pieces.filter((piece) => piece.detail === detail);
  const own = ofDetail.filter((piece) => boxOf(piece, plane));
  const faces = new Set(plan.facets.flatMap((facet) => (facet.on === plane && facet.detail === detail ? [facet.id] : [])));
  const joints = plan.joints.filter(({ a, b }) => a === plane && faces.has(b));
  const lineOf = (kind: 'front' | 'back') => joints.find((joint) => joint.kind === kind)?.onA;
  const [front, back] = [lineOf('front'), lineOf('back')];
  const ofRole = (...roles: Piece['role'][]): Piece | undefined => own.find(({ role }) => roles.includes(role));
  const apron = ofRole('apron', 'sill');
  const sides = joints
    .flatMap(({ kind, side, onA, b }) =>
      kind === 'side' ? [{ side, x: onA[0][0], steps: sidePieces(own, b, plane, window) }] : [],
    )
    .filter(({ steps }) => steps.length > 0);
  const [wall] = sides;
  // where both sides of a chimney or frame are alike, one is measured; a leg as wide as the apron's ear beside it is told by that
  const legOf = ({ steps }: (typeof sides)[number]): number => widthOf(boxOf(steps[0]!, plane)!);
  const isEar = ({ x, side, steps }: (typeof sides)[number]): boolean =>
    steps[0]!.role === 'coverFlashing' && apron !== undefined && side === -1 && Math.abs(x - boxOf(apron, plane)!.x0 - widthOf(boxOf(steps[0]!, plane)!)) < 1; // prettier-ignore
  const measured = sides.filter((one, i) => !isEar(one) && (i === 0 || Math.abs(legOf(one) - legOf(wall!)) > 1));
  const behind = ofRole('pan', 'cricket', 'head');
  const onSlope = [
    ...(apron && front ? across(apron, boxOf(apron, plane)!, front, 'front') : []),
    ...(behind && back ? across(behind, boxOf(behind, plane)!, back, 'back') : []),
    ...measured.flatMap(({ steps, x, side }) => beside(steps, plane, x, side)),
    ...(wall
      ? gapAt(plan, plane, middleOf(boxOf(wall.steps[Math.floor(wall.steps.length / 2)]!, plane)!)[1], wall.x, wall.side)
      : []),
    // the legs of a grid have one base: one is measured
    ...own
      .filter(({ role }) => role === 'boot')
      .slice(0, 1)
      .flatMap((piece) => base(plan, piece, plane)),
    ...valleyOf(plan, detail, plane).flatMap((line) => shinglesAt(plan, plane, line)),
    ...valleyOf(plan, detail, plane).flatMap((line) =>
      (['valleyLining', 'valleySheet'] as const).flatMap((role) => {
        const piece = ofRole(role);
        return piece ? [fromCentre(piece, plane, line)] : [];
      }),
    ),
  ];
  const { pitch } = plan.planes.find(({ id }) => id === plane)!;
  // under a millimetre there is nothing for the tape to meet
  return [
    ...onSlope.map((one) => ({ ...one, facet: plane })),
    ...joints.flatMap(({ kind, b, onA }) => (kind === 'side' ? upSide(ofDetail, b, onA[0][1], pitch) : upFace(ofDetail, b))),
  ].filter((one) => lengthOf(one) > 1);
}

type OnSlope = Omit<Dimension, 'facet'>;

/** What is turned up a face across the slope, and what comes down over it. */
const TURNED_UP: ReadonlySet<Piece['role']> = new Set(['apron', 'sill', 'pan', 'head']);
const COMES_DOWN: ReadonlySet<Piece['role']> = new Set(['counter', 'ledge', 'capStrip', 'frame', 'cladding']);

type OnFace = { readonly piece: Piece; readonly outline: Outline; readonly box: Box };

/** What covers a face, each outline seen as the face is told: plumb, or along the roof line and square to it. */
const onFace = (own: readonly Piece[], facet: string, seen: (at: Point) => Point = (at) => at): OnFace[] =>
  own.flatMap((piece) => {
    const outline = piece.covers.filter((cover) => cover.facet === facet).flatMap((cover) => cover.outline.map(seen));
    return outline.length > 0 ? [{ piece, outline, box: bounds(outline) }] : [];
  });

/** What comes down over a leg that ends at a height: of several side by side the last, beside whose end there is room for a figure. */
const downOver = (on: readonly OnFace[], top: number): OnFace | undefined =>
  on
    .filter(({ piece, box }) => COMES_DOWN.has(piece.role) && box.y0 > LINE_TOLERANCE && box.y0 < top - LINE_TOLERANCE)
    .sort((p, q) => q.box.x1 - p.box.x1 || p.box.x0 - q.box.x0)[0];

/** Up a face across the slope: the leg of what is turned up it, how far what comes down over that stays off the roof, and how far it laps. */
function upFace(own: readonly Piece[], facet: string): Dimension[] {
  const on = onFace(own, facet);
  const leg = on.find(({ piece: { role } }) => TURNED_UP.has(role));
  if (!leg) return [];
  const up = (what: string, { piece, box }: OnFace, x: number, low: number, high: number): Dimension => ({
    what,
    piece: piece.mark,
    facet,
    from: [x, low],
    to: [x, high],
    off: x === box.x0 ? LEFT : RIGHT,
  });
  const over = downOver(on, leg.box.y1);
  return [
    up('up the face', leg, leg.box.x0, 0, leg.box.y1),
    ...(over
      ? [up('off the roof', over, over.box.x1, 0, over.box.y0), up('over the leg', over, over.box.x1, over.box.y0, leg.box.y1)]
      : []),
  ];
}

/** Of a long wall so much of its foot is drawn, level. */
export const DRAWN_OF_WALL = inches(60);

/** Up a side: square to the roof line the leg of a step, how far what comes down over it stays off the roof and laps it; of stepped counterflashing one piece. */
function upSide(own: readonly Piece[], facet: string, foot: number, pitch: number): Dimension[] {
  const on = onFace(own, facet, (at) => {
    const { s, u } = wallToSlope(at, pitch);
    return [s, u];
  });
  const steps = on.filter(({ piece: { role } }) => isBesideWall(role)).sort((p, q) => p.box.x0 - q.box.x0);
  // one whose lower end stands square, not cut plumb at the wall's own, and low enough to be on what is drawn of a long wall
  const step = steps.find(({ box }) => box.x0 > foot + LINE_TOLERANCE) ?? steps[0];
  if (!step) return [];
  const square = (what: string, { mark }: Piece, s: number, low: number, high: number): Dimension => ({
    what,
    piece: mark,
    facet,
    from: slopeToWall(s, low, pitch),
    to: slopeToWall(s, high, pitch),
    off: [0, 0],
  });
  const { box } = step;
  // what is turned round a corner belongs to the face it comes from
  const counters = onFace(own, facet).filter(
    ({ piece: { role, covers }, box: { x0 } }) => role === 'counter' && covers[0]!.facet === facet && x0 > slopeToWall(foot, 0, pitch)[0] + LINE_TOLERANCE); // prettier-ignore
  const over = counters.length > 0 ? undefined : downOver(on, box.y1);
  const at = box.x0 + (box.x1 - box.x0) / 2;
  return [
    square(own.some(({ role }) => role === 'sill') ? 'up the frame' : 'up the wall', step.piece, box.x0, 0, box.y1),
    ...(over
      ? [
          square('off the roof', over.piece, at, 0, over.box.y0),
          square(
            isSideLength(step.piece.role) ? 'over its leg' : step.piece.role === 'soaker' ? 'over the soakers' : 'over the steps',
            over.piece,
            at,
            over.box.y0,
            box.y1,
          ),
        ]
      : []),
    ...steppedCounter(
      counters.filter(({ box: { x1 } }) => x1 <= slopeToWall(foot, 0, pitch)[0] + DRAWN_OF_WALL),
      facet,
      pitch,
    ),
  ];
}

/**
 * Stepped counterflashing of a side, as much as is drawn of it, plumb and level as it is cut and set: of one in the middle its tall end and level length, the lap
 * of the lowest, and how far the highest stays off the roof.
 */
function steppedCounter(counters: readonly OnFace[], facet: string, pitch: number): Dimension[] {
  const inOrder = counters.toSorted((p, q) => p.box.x0 - q.box.x0);
  const one = inOrder[Math.floor((inOrder.length - 1) / 2)];
  const [lowest, second] = inOrder;
  const highest = inOrder.at(-1);
  if (!one || !lowest || !highest) return [];
  const { x0, x1, y1 } = one.box;
  const end = highest.box.x0;
  const low = Math.min(...highest.outline.filter(([x]) => x < end + LINE_TOLERANCE).map(([, y]) => y));
  const line = ({ piece }: OnFace, what: string, from: Point, to: Point, off: Point): Dimension => ({ what, piece: piece.mark, facet, from, to, off }); // prettier-ignore
  return [
    line(one, 'tall end, from the roof', [x0, x0 * pitch], [x0, y1], LEFT),
    line(one, 'level', [x0, y1], [x1, y1], UP),
    ...(second && second.box.x0 < lowest.box.x1 - LINE_TOLERANCE
      ? [line(lowest, 'lap', [second.box.x0, second.box.y1], [lowest.box.x1, second.box.y1], UP)]
      : []),
    line(highest, 'off the roof, plumb', [end, end * pitch], [end, low], RIGHT),
  ];
}

/** The box round what a piece covers of a slope; undefined where it covers nothing there. */
function boxOf({ covers }: Piece, plane: string): Box | undefined {
  const here = covers.filter(({ facet }) => facet === plane).flatMap(({ outline }) => outline);
  return here.length > 0 ? bounds(here) : undefined;
}

/** Aprons, sills, pans and heads: how far on the roof from the face, and past its left corner. */
function across({ mark }: Piece, box: Box, [[ax, y], [bx]]: readonly [Point, Point], end: 'front' | 'back'): OnSlope[] {
  const corner = Math.min(ax, bx);
  const [x, edge, off] = end === 'front' ? [box.x0, box.y0, LEFT] : [box.x1, box.y1, RIGHT];
  const level = end === 'front' ? box.y0 : box.y1;
  return [
    { what: end === 'front' ? 'on the roof' : 'up the roof', piece: mark, from: [x, y], to: [x, edge], off },
    ...(box.x0 < corner - LINE_TOLERANCE && end === 'front'
      ? [{ what: 'past the corner', piece: mark, from: [corner, level] as const, to: [box.x0, level] as const, off: DOWN }]
      : []),
  ];
}

/** Steps, soakers or lengths of cover flashing along one wall that are drawn whole, from the lowest up. */
const sidePieces = (own: readonly Piece[], facet: string, plane: string, { y0, y1 }: FigurePanel['window']): Piece[] =>
  own
    .filter(({ role, covers }) => isBesideWall(role) && covers.some((cover) => cover.facet === facet))
    .filter((piece) => boxOf(piece, plane)!.y0 > y0 && boxOf(piece, plane)!.y1 < y1)
    .sort((a, b) => boxOf(a, plane)!.y0 - boxOf(b, plane)!.y0);

/** The leg of a step on the roof and how far the next one laps it, in the middle of what is drawn of the wall; above it the length of another. */
function beside(steps: readonly Piece[], plane: string, x: number, side: 1 | -1): OnSlope[] {
  const i = Math.max(0, Math.floor((steps.length - 1) / 2));
  const [step, next, another] = [steps[i], steps[i + 1], steps[i + 2]];
  if (!step) return [];
  const box = boxOf(step, plane)!;
  const far = side === 1 ? box.x1 : box.x0;
  const off = side === 1 ? RIGHT : LEFT;
  const above = next && boxOf(next, plane)!;
  return [
    {
      what: step.role === 'panFlashing' ? 'under the tiles' : 'leg on the roof',
      piece: step.mark,
      from: [x, box.y0],
      to: [far, box.y0],
      off: DOWN,
    },
    ...(above && above.y0 < box.y1 - LINE_TOLERANCE
      ? [
          {
            what: isSideLength(step.role) ? 'lap' : 'headlap',
            piece: step.mark,
            from: [far, above.y0] as const,
            to: [far, box.y1] as const,
            off,
          },
        ]
      : []),
    ...(another ? [long(another, boxOf(another, plane)!, far, off)] : []),
  ];
}

const long = ({ mark }: Pick<Piece, 'mark'>, { y0, y1 }: Pick<Box, 'y0' | 'y1'>, x: number, off: Point): OnSlope => ({
  what: 'long',
  piece: mark,
  from: [x, y0],
  to: [x, y1],
  off,
});

const widthOf = ({ x0, x1 }: Box): number => x1 - x0;
const middleOf = ({ x0, x1, y0, y1 }: Box): Point => [(x0 + x1) / 2, (y0 + y1) / 2];

/** How far from a wall or pipe the covering stops, level at a height; to the right (1) or to the left (−1) of it. */
function gapAt({ pieces }: Plan, plane: string, y: number, x: number, side: 1 | -1): OnSlope[] {
  const edges = pieces
    .filter(({ role }) => role === 'course')
    .flatMap(({ mark, covers }) =>
      covers
        .filter(({ facet }) => facet === plane)
        .flatMap(({ outline }) => spansAcross(outline, y).map((span) => ({ mark, at: side === 1 ? span[0] : span[1] }))),
    )
    .filter(({ at }) => (at - x) * side > -LINE_TOLERANCE)
    .sort((a, b) => (a.at - b.at) * side);
  const [edge] = edges;
  return edge && Math.abs(edge.at - x) > LINE_TOLERANCE
    ? [{ what: 'gap', piece: edge.mark, from: [x, y], to: [edge.at, y], off: [0, 0] }]
    : [];
}

/** A base: its width and length, how much of it shows below the first course over it, and the gap round what comes through it. */
function base(plan: Plan, { mark, course, covers }: Piece, plane: string): OnSlope[] {
  const { outline } = covers.find(({ facet }) => facet === plane)!;
  const { x0, x1, y0, y1 } = bounds(outline);
  const hole = plan.facets.find(({ id }) => id === plane)?.pierced?.find((one) => isWithin(outline, middleOf(bounds(one))));
  const { lines } = plan.planes.find(({ id }) => id === plane)!;
  const butt = course === undefined ? y0 : buttLine(lines, course);
  return [
    { what: 'wide', piece: mark, from: [x0, y0], to: [x1, y0], off: DOWN },
    long({ mark }, { y0, y1 }, x1, RIGHT),
    ...(butt > y0 + LINE_TOLERANCE
      ? [{ what: 'showing', piece: mark, from: [x0, y0] as const, to: [x0, butt] as const, off: LEFT }]
      : []),
    // told from the covering's edge, so that the words stand on the base and not on the pipe
    ...(hole
      ? gapAt(plan, plane, middleOf(bounds(hole))[1], bounds(hole).x1, 1).map((gap) => ({ ...gap, from: gap.to, to: gap.from }))
      : []),
  ];
}

/** The centre line of a valley on one of its slopes. */
const valleyOf = (plan: Plan, detail: string, plane: string): (readonly [Point, Point])[] => {
  const valley = plan.valleys.find(({ id }) => id === detail);
  const joint = valley && plan.joints.find(({ kind, a, b }) => kind === 'valley' && a === valley.a && b === valley.b);
  return joint ? [joint.a === plane ? joint.onA : joint.onB] : [];
};

/** In the middle of a valley: how far a shingle from the other slope crosses the centre, along it where it crosses least, and how far back from it those of this slope are cut. */
function shinglesAt({ pieces }: Plan, plane: string, [low, high]: readonly [Point, Point]): OnSlope[] {
  const length = Math.hypot(high[0] - low[0], high[1] - low[1]);
  const run: Point = [(high[0] - low[0]) / length, (high[1] - low[1]) / length];
  const off = ([x, y]: Point): number => (x - low[0]) * run[1] - (y - low[1]) * run[0];
  const along = ([x, y]: Point): number => (x - low[0]) * run[0] + (y - low[1]) * run[1];
  type Line = Pick<OnSlope, 'piece' | 'from' | 'to'>;
  const lines = (isOwn: boolean): Line[] =>
    pieces.flatMap(({ mark, role, covers }) => {
      if (role !== 'course' || (covers[0]!.facet === plane) !== isOwn) return [];
      const outlines = covers.flatMap(({ facet, outline }) => (facet === plane ? [outline] : []));
      if (!isOwn)
        return outlines.flatMap((outline) => crossingEdges(outline, off).map(([from, to]) => ({ piece: mark, from, to })));
      // a course broken by a chimney is cut to the valley at one of its parts, and one above the valley's head nowhere
      const corners = outlines.flat();
      if (Math.min(...corners.map(([, y]) => y)) >= high[1]) return [];
      const nearest = corners.reduce((best, at) => (Math.abs(off(at)) < Math.abs(off(best)) ? at : best));
      const on = along(nearest);
      return [{ piece: mark, from: [low[0] + run[0] * on, low[1] + run[1] * on], to: nearest }];
    });
  return (
    [
      ['past the centre', false],
      ['back from the centre', true],
    ] as const
  ).flatMap(([what, isOwn]) => {
    const found = lines(isOwn)
      .map((line) => ({ ...line, aside: Math.abs(along(line.from) - length / 2) }))
      .sort((a, b) => a.aside - b.aside)[0];
    if (!found || Math.abs(off(found.to)) < LINE_TOLERANCE || found.aside > length / 2) return [];
    const { piece, from, to } = found;
    return [{ what, piece, from, to, off: [0, 0] as const }];
  });
}

/** The edge of a shingle along which it reaches least far over a line: from a corner on the line to one beyond it. */
function crossingEdges(outline: Outline, off: (at: Point) => number): [Point, Point][] {
  const edges = outline.flatMap((a, i): [Point, Point][] => {
    const b = outline[(i + 1) % outline.length]!;
    const [from, to] = Math.abs(off(a)) < Math.abs(off(b)) ? [a, b] : [b, a];
    return Math.abs(off(from)) < 1 && Math.abs(off(to)) > 1 ? [[from, to]] : [];
  });
  const long = ([[ax, ay], [bx, by]]: [Point, Point]): number => Math.hypot(bx - ax, by - ay);
  return edges.sort((p, q) => long(p) - long(q)).slice(0, 1);
}

/** How far a strip in a valley reaches from the centre, square to it, at the middle of the valley. */
function fromCentre({ mark, role, covers }: Piece, plane: string, [low, high]: readonly [Point, Point]): OnSlope {
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
