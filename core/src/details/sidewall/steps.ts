import {
  type Assembly,
  type Fastener,
  type Finding,
  type FlatPattern,
  type Piece,
  type Step,
  type Words,
  type Zone,
  cut,
  emptyAssembly,
  inCourse,
  mm,
  notInCatalog,
} from '../../assembly/index.ts';
import { type ItemOf, chooseNail } from '../../catalog/index.ts';
import { type Outline, bounds, rectangle, slopeToWall } from '../../roof/index.ts';
import { type RuleKey, leastOf } from '../../rules/index.ts';
import {
  type PlacedWall,
  type PlaneContext,
  type SidePiece,
  detailOf,
  setAgainst,
  stepMark,
  turnsCorner,
  wallFacetId,
} from '../../slope/index.ts';
import { LINE_TOLERANCE, inches } from '../../units/index.ts';
import { OVER_BEND, besideWall, sideLines, sidePiece } from './side.ts';

/** A step's nail stands this far in from its top and its outer edge (top outer corner). */
const CORNER_NAIL = inches(0.5);

/** Step flashings, one a course, each nailed where the next hides the nail. */
export function planSteps(context: PlaneContext, wall: PlacedWall, item: SidePiece, footMark: string | undefined): Assembly {
  const { rules, catalog, covering } = context;
  const nail = chooseNail(catalog, 'roofing', covering.deckThickness + inches(1 / 8), covering.metal);
  const nails = leastOf(rules, 'stepFlashing.nails');
  const keys: RuleKey[] = [
    'stepFlashing.headlap',
    'stepFlashing.roofLeg',
    'stepFlashing.wallLeg',
    'stepFlashing.nails',
    'stepFlashing.nailSide',
    'stepFlashing.perCourse',
    'flashing.thickness',
  ];
  const pieces: Piece[] = [];
  const fasteners: Fastener[] = [];
  const zones: Zone[] = [];
  const steps: Step[] = [];
  const side = sideLines(
    context,
    wall,
    item,
    leastOf(rules, 'stepFlashing.headlap'),
    footMark === `${wall.id}-K` ? OVER_BEND : undefined,
  );
  for (const line of side) {
    const { n, i, mark, isCorner, lower, upper, coveredBy, nextLine } = line;
    const isUppermost = line === side.at(-1);
    // behind a chimney the back piece's wing laps over the last step and its nail; elsewhere nothing does, so the nail goes where the strip
    // or the counterflashing covers it
    const underWing =
      wall.cladding !== 'frame' && wall.partOf !== undefined && context.found.frame(wall.partOf)?.hasBack === true;
    // beside a frame the head flashing's arm laps over it: two nails to the deck, never into the frame
    const underHead = isUppermost && wall.cladding === 'frame';
    const last = isUppermost && !underWing && !underHead;
    const school = last ? 'wall' : underHead ? 'deck' : wall.nailSide;
    const count = underHead ? Math.max(2, nails) : nails;
    // a nail to the wall stands no higher than the wall goes
    const top = school === 'wall' || underHead ? Math.min(upper, wall.to) : upper;
    const spot =
      last || underHead
        ? lastNailSpot(lower, top)
        : isUppermost
          ? Math.max(top - CORNER_NAIL, lower + CORNER_NAIL)
          : nailSpot(top, nextLine);
    pieces.push({
      ...sidePiece(context, wall, item, line, footMark),
      role: 'step',
      flat: stepFlat(item, upper - lower, isCorner ? wall.from - lower : 0),
      keys,
    });
    if (nail) {
      const placed =
        school === 'deck'
          ? { facet: context.facet, at: [wall.x + wall.side * (item.roofLeg - CORNER_NAIL), spot] as const }
          : { facet: wallFacetId(context, wall), at: slopeToWall(spot, item.wallLeg - CORNER_NAIL, context.plane.pitch) };
      // a second nail, where a rule wants two, stands an inch further in from the outer edge, at the same height
      for (let j = 0; j < count; j++) {
        const shift = j * inches(1);
        const at =
          school === 'deck'
            ? ([placed.at[0] - wall.side * shift, placed.at[1]] as const)
            : slopeToWall(spot, item.wallLeg - CORNER_NAIL - shift, context.plane.pitch);
        fasteners.push({ piece: mark, facet: placed.facet, at, product: nail.id, keptDry: 'covered' });
      }
    }
    const wet = isUppermost ? lower + (spot - lower) / 2 : Math.min(nextLine, upper - CORNER_NAIL);
    if (wet > lower)
      zones.push({
        facet: context.facet,
        outline: besideWall(wall, item.roofLeg, lower, wet),
        rule: 'stepFlashing.headlap',
        against: ['step', 'course'],
        detail: detailOf(wall),
        piece: mark,
      });
    steps.push(
      stepLine(context, wall, {
        n,
        i,
        mark,
        isCorner,
        coveredBy,
        lower,
        upper,
        nails: count,
        last,
        underHead,
        overKickOut: i === 1 && footMark === `${wall.id}-K`,
        keys,
      }),
    );
  }
  return {
    ...emptyAssembly,
    pieces,
    fasteners,
    zones,
    steps,
    findings: [...nailFindings(context, wall, nail), ...lastStepFindings(context, wall, pieces)],
  };
}

/** A last step too short to lap and be nailed, or one under a course that is not laid, because an apron comes first. */
function lastStepFindings(context: PlaneContext, wall: PlacedWall, steps: readonly Piece[]): Finding[] {
  const { lines, rules } = context;
  const last = steps.at(-1);
  if (!last || wall.cladding === 'frame') return [];
  const { y0, y1 } = bounds(last.covers[0]!.outline);
  const isShort = wall.to >= lines.end - 1 && y1 - y0 < leastOf(rules, 'stepFlashing.headlap') - LINE_TOLERANCE;
  const short: Words = isShort ? [', cut to ', cut(y1 - y0), ' at the top,'] : [];
  if (last.course! > lines.count)
    return [
      {
        id: `${wall.id}.lastStep`,
        severity: 'worth a look',
        sentence: [
          `${wall.name}: its last step, ${last.mark}`,
          ...short,
          ` belongs under course ${last.course}, which is not laid: the apron above comes first and covers it.`,
        ],
        fix: ['Leave it out and carry the step below up under the apron, or fit the courses of this slope.'],
        piece: last.mark,
        key: 'stepFlashing.perCourse',
      },
    ];
  return isShort
    ? [
        {
          id: `${wall.id}.lastStep`,
          severity: 'worth a look',
          sentence: [`${wall.name}: its last step, ${last.mark}`, ...short, ' is too short to lap and hold.'],
          fix: ['Leave it out and carry the step below up to the top, or fit the courses.'],
          piece: last.mark,
          key: 'stepFlashing.headlap',
        },
      ]
    : [];
}

/** Distance up the slope of a step's nail: near its top, within the part the next piece covers. */
const nailSpot = (upper: number, nextLine: number): number =>
  upper - CORNER_NAIL > nextLine ? upper - CORNER_NAIL : (nextLine + upper) / 2;

/** The last step's nail: near the top of what stands against the wall, under the ridge cap or the course above. */
const lastNailSpot = (lower: number, top: number): number => top - Math.min(CORNER_NAIL, (top - lower) / 4);

/** A step as cut from flat sheet: roof leg left, wall leg right, folded up 90° between; a corner piece's wall leg is cut away below the corner. */
function stepFlat(item: SidePiece, length: number, cutAway: number): FlatPattern {
  const width = item.roofLeg + item.wallLeg;
  const outline: Outline =
    cutAway > 0
      ? [
          [0, 0],
          [item.roofLeg, 0],
          [item.roofLeg, cutAway],
          [width, cutAway],
          [width, length],
          [0, length],
        ]
      : rectangle(0, 0, width, length);
  return { outline, bends: [{ from: [item.roofLeg, cutAway], to: [item.roofLeg, length], direction: 'up', degrees: 90 }] };
}

type StepLine = {
  n: number;
  i: number;
  mark: string;
  isCorner: boolean;
  coveredBy: number;
  lower: number;
  upper: number;
  nails: number;
  last: boolean;
  underHead: boolean;
  overKickOut: boolean;
  keys: readonly RuleKey[];
};

function stepLine(context: PlaneContext, wall: PlacedWall, line: StepLine): Step {
  const on = line.coveredBy <= 1 ? 'the starter' : `course ${line.coveredBy - 1}`;
  const action: Words = line.isCorner
    ? [
        `${wall.name}: set corner piece ${line.mark} on the ${turnsCorner(wall)}’s ear, lower edge at `,
        mm(line.lower),
        '; upright leg cut at the corner.',
      ]
    : [
        `${line.i === 1 ? `${wall.name}: set step` : 'Set step'} ${line.mark} ${line.overKickOut ? 'over the kick-out' : `on ${on}`}, `,
        ...(line.overKickOut
          ? ['lower edge ', cut(OVER_BEND), ' above the bend, so that it does not stand in it, tight to the wall']
          : [`lower edge on the butt line, tight to the ${setAgainst(wall)}`]),
        ...(line.last && line.upper >= context.lines.end - 1
          ? [`; cut off at the ${context.plane.top === 'wall' ? 'wall above' : 'ridge'}, `, cut(line.upper - line.lower), ' long']
          : []),
        '.',
      ];
  return {
    lay: inCourse(context, line.coveredBy, 'flashing', line.lower),
    detail: detailOf(wall),
    course: line.coveredBy,
    stage: 'covering',
    action,
    pieces: [line.mark],
    fasteners: [
      line.underHead
        ? `${line.nails} nails to the deck, top outer corner, under the head flashing’s arm; none in the frame`
        : wall.nailSide === 'deck' && !line.last
          ? `${line.nails} ${line.nails === 1 ? 'nail' : 'nails'} to the deck, top outer corner, none in the ${setAgainst(wall)}`
          : `${line.nails} ${line.nails === 1 ? 'nail' : 'nails'} to the wall, top of the wall leg, none in the deck${line.last && wall.nailSide === 'deck' ? ' (nothing laps over the last step)' : ''}`,
    ],
    people: 1,
    ...(line.i === 2 ? { holdPoint: 'the first two steps: nails in the headlap, lower edges on the line' } : {}),
    keys: line.keys,
  };
}

function nailFindings(context: PlaneContext, wall: PlacedWall, nail: ItemOf<'nail'> | undefined): Finding[] {
  const findings: Finding[] = [];
  if (!nail) {
    findings.push(
      notInCatalog(wall.name, [`roofing nail that suits ${context.covering.metal} and reaches through the deck`], {
        id: `${wall.id}.nail`,
        severity: 'breaks a rule',
        fix: ['Add one to the catalog, or choose another metal.'],
        piece: stepMark(wall, 1),
        key: 'stepFlashing.nails',
      }),
    );
  }
  for (const [key, chosen, what] of [
    ['stepFlashing.nailSide', wall.nailSide, 'steps nailed to the '],
    ['sidewall.nailSchool', wall.fieldNails, 'field nails '],
  ] as const) {
    const rule = context.rules.get(key);
    if (rule.status === 'conflict' || rule.allowed === undefined || rule.allowed.includes(chosen)) continue;
    findings.push({
      id: `${wall.id}.${key}`,
      severity: 'breaks a rule',
      sentence: [
        `${wall.name}: ${what}${chosen.replaceAll('-', ' ')}, where ${rule.allowed.join(' or ').replaceAll('-', ' ')} is what governs.`,
      ],
      fix: ['Change the nail school at this wall.'],
      piece: stepMark(wall, 1),
      key,
    });
  }
  return findings;
}
