import { seamOf } from '../../catalog/index.ts';
import { type Assembly, type FlatPattern, type Piece, type Step, cut, emptyAssembly, inCourse } from '../../assembly/index.ts';
import { type Outline, rectangle, slopeToWall } from '../../roof/index.ts';
import { type RuleKey, leastOf } from '../../rules/index.ts';
import {
  BESIDE_NAMES,
  type Front,
  type PlacedWall,
  type PlaneContext,
  besideWallOf,
  cutFromStock,
  hasPan,
  stepMark,
  wallFacetId,
} from '../../slope/index.ts';
import { interfaceLines } from '../../surface/index.ts';

const KEYS: RuleKey[] = ['apron.roofLeg', 'apron.wallLeg', 'apron.lap', 'flashing.thickness'];

export type ApronSizes = { readonly leg: number; readonly up: number; readonly lap: number; readonly course: number };

/**
 * The inside corners of a headwall: where a sidewall meets it a pan goes in under the apron's end and over the last step, turned up both
 * walls, its corner soldered. An apron and a step that only butt there leave a hole at the corner.
 */
export function planInsideCorners(context: PlaneContext, front: Front, facet: string, sizes: ApronSizes): Assembly {
  const corners = context.found.insideCorners.filter((corner) => corner.front === front);
  const made = corners.map(({ wall }) => panAt(context, front, facet, wall, sizes));
  return { ...emptyAssembly, pieces: made.map(({ piece }) => piece), steps: made.map(({ step }) => step) };
}

function panAt(
  context: PlaneContext,
  front: Front,
  facet: string,
  wall: PlacedWall,
  sizes: ApronSizes,
): { piece: Piece; step: Step } {
  const { rules, lines } = context;
  const { leg, up, lap, course } = sizes;
  // wide enough for the apron to lap on to it, and for the step's leg below it
  const across = Math.max(context.stepLeg(wall), lap);
  const side = leastOf(rules, 'stepFlashing.wallLeg');
  const { pitch } = context.plane;
  const flat = panFlat(across, leg, up, side, pitch);
  const mark = `${front.id}-I${wall.side === 1 ? 'L' : 'R'}`;
  const [x0, x1] = [Math.min(wall.x, wall.x + wall.side * across), Math.max(wall.x, wall.x + wall.side * across)];
  const y0 = front.y - leg;
  const { first, last } = interfaceLines(lines, wall.from, wall.to);
  // a pan beside tiles lies under them
  const beside = hasPan(context, wall) ? 'the tiles beside' : `the ${BESIDE_NAMES[besideWallOf(context, wall)]} of`;
  const lay = inCourse(context, course, 'insideCorner', wall.x);
  return {
    piece: {
      mark,
      detail: front.id,
      role: 'cornerPan',
      ...cutFromStock(context, flat),
      course,
      covers: [
        { facet: context.facet, outline: rectangle(x0, y0, x1, front.y), holds: ['open'] },
        { facet, outline: rectangle(x0, 0, x1, up), holds: ['open'] },
        { facet: wallFacetId(context, wall), outline: besideCorner(y0, front.y, side, pitch), holds: ['open'] },
      ],
      lay,
      // a step whose line is above the apron's lower edge comes after, over both
      liesOn: [stepMark(wall, Math.min(last, course - 1) - first + 1)],
      flat,
      keys: KEYS,
    },
    step: {
      lay,
      detail: front.id,
      course,
      stage: 'covering',
      action: [
        `${front.name}: lay corner pan ${mark} over ${beside} ${wall.id}, `,
        cut(across),
        ' along the wall and ',
        cut(leg),
        ' down the roof, ',
        cut(up),
        ' up the headwall and ',
        cut(side),
        ` up the sidewall; corner ${seamOf(context.covering.metal)}.`,
      ],
      pieces: [mark],
      people: 1,
      holdPoint: 'corner seam tight',
      keys: KEYS,
    },
  };
}

/** The part up the sidewall: from its lower end, square to the roof line, to the corner, which stands plumb. */
function besideCorner(from: number, to: number, up: number, pitch: number): Outline {
  const [x, y] = slopeToWall(to, 0, pitch);
  return [slopeToWall(from, 0, pitch), [x, y], [x, y + up * Math.hypot(1, pitch)], slopeToWall(from, up, pitch)];
}

/** The roof's part with a leg up each wall; the corner between the legs is left out and soldered. The sidewall's leg ends plumb at the corner. */
const panFlat = (across: number, leg: number, up: number, side: number, pitch: number): FlatPattern => ({
  outline: [[0, 0], [across + side, 0], [across + side, leg + side * pitch], [across, leg], [across, leg + up], [0, leg + up]], // prettier-ignore
  bends: [
    { from: [0, leg], to: [across, leg], direction: 'up', degrees: 90 },
    { from: [across, 0], to: [across, leg], direction: 'up', degrees: 90 },
  ],
});
