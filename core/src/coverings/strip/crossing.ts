import { type Outline, type Span, clipByLine, rectangle, tidyOutline } from '../../roof/index.ts';
import { leastOf } from '../../rules/index.ts';
import { type PlaneContext, type ValleySide, fromValley, onLine } from '../../slope/index.ts';
import { buttLine, chalkLine } from '../../surface/index.ts';
import { LINE_TOLERANCE, inches } from '../../units/index.ts';
import { shingleOf } from './shingle.ts';

/** What of a course crosses a valley on to the other slope, and the shingle that crosses: whole, no joint in the valley. */
export type Crossing = {
  readonly other: string;
  readonly outlines: readonly Outline[];
  /** Along the eave, where the course meets the centre of the valley. */
  readonly line: { readonly x0: number; readonly x1: number };
  /** Joint before the crossing shingle. */
  readonly joint: number;
  readonly side: 1 | -1;
  readonly farEnd: number;
  readonly across: ValleySide['across'];
  readonly id: string;
};

/** A shingle crosses a valley by this much more than it must, at most. */
const MOST_MORE = inches(8);
const FINE = inches(0.5);
/** The joint before a crossing shingle stands this far from the valley: no joint in it, and room for a nail on this side. */
const IN_VALLEY = inches(9);

/** Reach of the first course round the corner of a valley at the eave. */
const CORNER = inches(8);
const OVER_RIDGE = inches(4);

export function crossing(
  context: PlaneContext,
  valley: ValleySide,
  n: number,
  spans: readonly Span[],
  jointsBelow: readonly number[],
): Crossing[] {
  const { lines, rules } = context;
  const shingle = shingleOf(context);
  // the first course is woven round the corner at the eave: what crosses there is cut to the other slope's butt line
  const atCorner = n === Math.max(1, valley.footOn);
  const y0 = atCorner ? valley.low[1] - CORNER : Math.max(buttLine(lines, n), valley.low[1] + lines.first);
  // at the head of a valley what crosses is bent over the ridge too, under the course above
  const y1 = Math.min(chalkLine(lines, n), lines.end + OVER_RIDGE);
  if (y0 >= valley.high[1] - LINE_TOLERANCE || y1 <= valley.low[1]) return [];
  const at = (y: number): number => onLine(valley.low, valley.high, Math.max(valley.low[1], Math.min(valley.high[1], y)));
  // measured along the shingle from the centre at the place where it reaches furthest
  const far = valley.side === 1 ? Math.min(at(y0), at(y1)) : Math.max(at(y0), at(y1));
  // it crosses farther where its joint would else stand near one of the course below, or leave a sliver at the other end of the course
  const [atLine, atEnd] = valley.side === 1 ? ([0, 1] as const) : ([1, 0] as const);
  const own = spans.toSorted((p, q) => Math.abs(p[atLine] - far) - Math.abs(q[atLine] - far))[0];
  const ends = own?.[atEnd] ?? far;
  const narrowest = leastOf(rules, 'covering.leastPiece');
  const apart = leastOf(rules, 'covering.jointOffset');
  const atLeast = far - valley.side * valley.cross;
  const near = valley.side === 1 ? Math.max(at(y0), at(y1)) : Math.min(at(y0), at(y1));
  // how far the joint before it would stand from those below; a sliver beyond it is as bad as a joint
  const clearOf = (joint: number): number => {
    const left = (ends - joint) * valley.side;
    if (left <= LINE_TOLERANCE) return apart;
    return left < narrowest ? 0 : Math.min(apart, ...jointsBelow.map((other) => Math.abs(other - joint)));
  };
  // whole, crossing as little more as may be; cut shorter only where no whole one will do, and never so that its joint lies in the valley
  const room = (atLeast + valley.side * shingle.width - near) * valley.side - IN_VALLEY;
  const ways = [
    ...Array.from({ length: MOST_MORE / FINE + 1 }, (_, i) => ({ more: i * FINE, less: 0 })),
    ...Array.from({ length: Math.max(0, Math.floor(room / FINE)) }, (_, i) => ({ more: 0, less: (i + 1) * FINE })),
  ].map(({ more, less }) => {
    const farEnd = atLeast - valley.side * more;
    const joint = farEnd + valley.side * (shingle.width - less);
    return { farEnd, joint, clear: clearOf(joint) };
  });
  const { farEnd, joint } =
    ways.find(({ clear }) => clear >= apart - LINE_TOLERANCE) ??
    ways.reduce((best, way) => (way.clear > best.clear ? way : best));
  // a little on this side too: at the head the line ends, and what is bent over the ridge reaches past it
  const inside = near + valley.side * OVER_RIDGE;
  const strip = rectangle(Math.min(farEnd, inside), y0, Math.max(farEnd, inside), y1);
  const beyond = clipByLine(strip, (point) => -fromValley(valley, point));
  if (beyond.length < 3) return [];
  const onOther = (outline: Outline): Outline => tidyOutline(outline.map((point) => valley.across(point)));
  const across = onOther(beyond);
  // over the ridge at the head, where the other slope goes on past the valley's line
  const head =
    y1 > lines.end + LINE_TOLERANCE
      ? [onOther(rectangle(Math.min(farEnd, inside), lines.end, Math.max(farEnd, inside), y1))]
      : [];
  return [
    {
      other: valley.other,
      outlines: [atCorner ? clipByLine(across, ([, y]) => y - valley.acrossLow - lines.first) : across, ...head],
      line: { x0: Math.min(far, near), x1: Math.max(far, near) },
      joint,
      side: valley.side,
      farEnd,
      across: valley.across,
      id: valley.id,
    },
  ];
}
