import {
  type Assembly,
  type Finding,
  type FlatPattern,
  type Piece,
  type Step,
  type Words,
  cut,
  emptyAssembly,
  inCourse,
  mm,
} from '../../assembly/index.ts';
import { type Outline, bounds } from '../../roof/index.ts';
import { type RuleKey, leastOf } from '../../rules/index.ts';
import {
  type PlacedWall,
  type PlaneContext,
  type SidePiece,
  detailOf,
  setAgainst,
  stepMark,
  turnsCorner,
} from '../../slope/index.ts';
import { LINE_TOLERANCE } from '../../units/index.ts';
import { type SideLine, sideLines, sidePiece } from './side.ts';

/** What goes down over the head of the course is bent by a right angle. */
const OVER_HEAD = 90;

/**
 * Soakers, one a course, under the covering and up the wall: each lies on the course below from the tail line of its own, and what is left of it is turned down over
 * the head of the course it lies on, so that no nail holds it. A cover flashing goes over their upstands.
 */
export function planSoakers(context: PlaneContext, wall: PlacedWall, item: SidePiece, footMark: string | undefined): Assembly {
  const { lines, rules, covering } = context;
  const turned = leastOf(rules, 'soaker.turned');
  const keys: RuleKey[] = ['soaker.under', 'soaker.up', 'soaker.turned', 'soaker.thickness'];
  // an apron along the top takes the place of one on the last course's head
  const laid = sideLines(context, wall, item, turned).filter(({ n }) => n <= lines.count);
  // under a ridge nothing comes down over the last one: it is cut long enough to reach it
  const toRidge = wall.to >= lines.end && !context.found.insideCorners.some((corner) => corner.wall === wall);
  const side = laid.map((line, i) =>
    toRidge && i === laid.length - 1
      ? { ...line, upper: lines.end, reaches: Math.max(line.reaches, lines.end + item.wallLeg) }
      : line,
  );
  const pieces = side.map((line): Piece => {
    const { lower, upper } = line;
    const hooked = upper < lines.end - LINE_TOLERANCE && upper - lower > item.length - LINE_TOLERANCE ? turned : 0;
    return {
      ...sidePiece(context, wall, item, line, footMark),
      role: 'soaker',
      flat: soakerFlat(item, upper - lower, hooked, line.isCorner ? wall.from - lower : 0),
      keys,
    };
  });
  return {
    ...emptyAssembly,
    pieces,
    steps: side.map((line, index) => soakerLine(context, wall, line, pieces[index]!, index === 1)),
    findings: wall.cladding === 'masonry' ? [] : uncovered(wall, covering.metal),
  };
}

/** A soaker as cut: roof leg left, upstand right, and what is turned down at its head, notched at the fold so that the upstand stays upright. */
function soakerFlat({ roofLeg, wallLeg }: SidePiece, length: number, hooked: number, cutAway: number): FlatPattern {
  const width = roofLeg + wallLeg;
  const outline: Outline = [
    [0, 0],
    [roofLeg, 0],
    ...(cutAway > 0 ? ([[roofLeg, cutAway]] as const) : []),
    [width, cutAway],
    [width, length],
    ...(hooked > 0
      ? ([
          [roofLeg, length],
          [roofLeg, length + hooked],
          [0, length + hooked],
        ] as const)
      : ([[0, length]] as const)),
  ];
  return {
    outline,
    bends: [
      { from: [roofLeg, cutAway], to: [roofLeg, length], direction: 'up', degrees: 90 },
      ...(hooked > 0 ? [{ from: [0, length], to: [roofLeg, length], direction: 'down', degrees: OVER_HEAD } as const] : []),
    ],
  };
}

function soakerLine(context: PlaneContext, wall: PlacedWall, line: SideLine, piece: Piece, isSecond: boolean): Step {
  const { lower, coveredBy, i, mark, isCorner } = line;
  const on = coveredBy <= 1 ? 'the under-eave course' : `course ${coveredBy - 1}`;
  const { y1 } = bounds(piece.flat!.outline);
  const action: Words = isCorner
    ? [
        `${wall.name}: set corner soaker ${mark} on the ${turnsCorner(wall)}’s ear, lower edge at `,
        mm(lower),
        '; upstand cut at the corner.',
      ]
    : [
        `${i === 1 ? `${wall.name}: set soaker` : 'Set soaker'} ${mark} on ${on}, lower edge on the tail line, tight to the ${setAgainst(wall)}, `,
        cut(y1),
        ' long',
        ...(piece.flat!.bends.length > 1 ? ['; its head turned down over what it lies on, no nail.'] : ['; cut off at the top.']),
      ];
  return {
    lay: inCourse(context, coveredBy, 'flashing', lower),
    detail: detailOf(wall),
    course: coveredBy,
    stage: 'covering',
    action,
    pieces: [mark],
    people: 1,
    ...(context.covering.metal === 'lead' && i === 1 ? { caution: 'Lead: gloves, wash before eating.' } : {}),
    ...(isSecond ? { holdPoint: 'the first two soakers: heads turned down, lower edges on the line' } : {}),
    keys: piece.keys,
  };
}

/** Only a cover flashing let into masonry is planned over soakers; cladding over them is told. */
const uncovered = (wall: PlacedWall, metal: string): Finding[] =>
  wall.cladding === 'frame' || wall.inKit
    ? []
    : [
        {
          id: `${wall.id}.cover`,
          severity: 'worth a look',
          sentence: [
            `${wall.name}: its soakers stand behind the cladding, which must lap over their upstands by as much as a cover flashing would.`,
          ],
          fix: [`See that the cladding laps them, or fix a ${metal} cover flashing behind it.`],
          piece: stepMark(wall, 1),
          key: 'soaker.up',
        },
      ];
