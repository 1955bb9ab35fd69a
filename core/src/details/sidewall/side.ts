import { type Cover, type EdgeHold, type Piece, inCourse } from '../../assembly/index.ts';
import { type Outline, type Point, rectangle } from '../../roof/index.ts';
import { leastOf, unheard } from '../../rules/index.ts';
import {
  type PlacedWall,
  type PlaneContext,
  type SidePiece,
  besideFace,
  cornerPiece,
  detailOf,
  faceAt,
  onWall,
  stepMark,
  wallFacetId,
} from '../../slope/index.ts';
import { STARTER_MARK, buttLine, courseMark, interfaceLines } from '../../surface/index.ts';
import { LINE_TOLERANCE, inches } from '../../units/index.ts';

/** The lower edge of what laps over a kick-out stands so far above its bend (trade practice). */
export const OVER_BEND = inches(2);

/** What lies on the roof from the wall's face outwards. */
export const besideWall = (wall: PlacedWall, reach: number, y0: number, y1: number): Outline =>
  wall.lean === 0
    ? rectangle(Math.min(wall.x, wall.x + wall.side * reach), y0, Math.max(wall.x, wall.x + wall.side * reach), y1)
    : besideFace(wall, 0, reach, y0, y1);

/** What runs beside a wall as a channel, its free side turned up all along: water neither gets past it nor leaves over it. */
export function turnedUpBeside({ facet }: PlaneContext, wall: PlacedWall, width: number, y0: number, y1: number): Cover {
  const outline = besideWall(wall, width, y0, y1);
  const isFree = ([x, y]: Point): boolean => Math.abs(x - faceAt(wall, Math.max(y, 0))) > width / 2;
  const holds = outline.map((from, i): EdgeHold => {
    const to = outline[(i + 1) % outline.length]!;
    return isFree(from) && isFree(to) ? 'letIn' : 'open';
  });
  return { facet, outline, holds };
}

/** One piece beside a wall: the course it belongs to (`n`), its number from the foot, and where it lies up the slope. */
export type SideLine = {
  readonly n: number;
  readonly i: number;
  readonly mark: string;
  /** At the foot of a wall that starts up the slope: its wall leg is cut at the corner. */
  readonly isCorner: boolean;
  readonly lower: number;
  readonly upper: number;
  /** How far up the wall its metal goes. */
  readonly reaches: number;
  readonly coveredBy: number;
  /** Line of the course over it. */
  readonly nextLine: number;
};

/**
 * Courses whose pieces stand beside a wall, from its foot to its top. Against a ridge the last is left out where it would be shorter than a headlap: the piece below reaches
 * the ridge by itself. So is one of a course that is not laid, because an apron covers it: the piece below goes up under the apron by a headlap.
 */
export function coursesBeside(
  { lines, rules }: PlaneContext,
  wall: PlacedWall,
  item: SidePiece,
): { first: number; last: number } {
  const { first, last } = interfaceLines(lines, wall.from, wall.to);
  const headlap = leastOf(unheard(rules), 'stepFlashing.headlap');
  if (last === first || wall.to < lines.end) return { first, last };
  const below = buttLine(lines, last - 1) + item.length;
  const short = lines.end - buttLine(lines, last) < headlap - LINE_TOLERANCE && below >= lines.end - LINE_TOLERANCE;
  const underApron = last > lines.count && below >= Math.min(lines.end, buttLine(lines, last) + headlap) - LINE_TOLERANCE;
  return { first, last: short || underApron ? last - 1 : last };
}

/**
 * The pieces beside a wall, one a course it meets, from the foot up; the last one runs `past` a wall that ends on the slope. Over a kick-out the first begins `overBend` up the
 * slope, so that it does not stand in the bend of the diverter, which is at the deck’s eave edge.
 */
export function sideLines(context: PlaneContext, wall: PlacedWall, item: SidePiece, past: number, overBend?: number): SideLine[] {
  const { lines } = context;
  const { first, last } = coursesBeside(context, wall, item);
  const corner = wall.from > 0 ? cornerPiece(context, wall) : undefined;
  const against = wall.to >= lines.end;
  return Array.from({ length: last - first + 1 }, (_, index): SideLine => {
    const n = first + index;
    const cornerHere = index === 0 ? corner : undefined;
    const lower = cornerHere?.lower ?? (index === 0 && overBend !== undefined ? overBend : buttLine(lines, n));
    const top = (cornerHere ? buttLine(lines, n) : lower) + item.length;
    // at the ridge a piece is cut off level with it; where the wall ends on the slope the last one runs on past its end
    const upper = Math.min(top, against ? lines.end : wall.cladding === 'frame' ? wall.to : wall.to + past);
    return {
      n,
      i: index + 1,
      mark: stepMark(wall, index + 1),
      isCorner: cornerHere !== undefined,
      lower,
      upper,
      // up the wall the last one runs on past the ridge or to the frame's corner, as far as its stock goes
      reaches: against || wall.cladding === 'frame' ? top : upper,
      coveredBy: cornerHere?.coveredBy ?? n,
      nextLine: buttLine(lines, n + 1),
    };
  });
}

/** What every piece beside a wall is, but for its role, its pattern and its requirements: on the course below, under its own, lapped over the piece before it. */
export function sidePiece(
  context: PlaneContext,
  wall: PlacedWall,
  item: SidePiece,
  { n, i, mark, lower, upper, reaches, coveredBy }: SideLine,
  footMark: string | undefined,
): Omit<Piece, 'role' | 'keys'> {
  return {
    mark,
    detail: detailOf(wall),
    ...(wall.inKit || item.product === undefined ? {} : { product: item.product }),
    course: n,
    covers: [
      { facet: context.facet, outline: besideWall(wall, item.roofLeg, lower, upper), holds: ['open'] },
      {
        facet: wallFacetId(context, wall),
        outline: onWall(context, wall, Math.max(lower, wall.from), Math.min(upper, wall.to), 0, item.wallLeg, reaches),
        holds: ['open'],
      },
    ],
    lay: inCourse(context, coveredBy, 'flashing', lower),
    liesOn: [
      ...new Set([
        coveredBy <= 1 ? STARTER_MARK : courseMark(coveredBy - 1),
        i === 1 ? (footMark ?? `${wall.id}-M1`) : stepMark(wall, i - 1),
      ]),
    ],
  };
}
