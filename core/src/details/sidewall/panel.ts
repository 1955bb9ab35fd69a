import { slantFigures } from './channel/figures.ts';
import { type Figure, type FigurePanel, type Table, type Words, cut, flow, mm } from '../../assembly/index.ts';
import { leastOf, mostOf } from '../../rules/index.ts';
import {
  type PlacedWall,
  type PlaneContext,
  type SidePiece,
  besideWallOf,
  crownBeside,
  flowAlong,
  lastTall,
  lastUnderApron,
  turnsCorner,
} from '../../slope/index.ts';
import { buttLine } from '../../surface/index.ts';
import { inches } from '../../units/index.ts';
import { coursesBeside } from './side.ts';

/** Of a long wall the foot is shown: what is above it repeats course by course. */
const SHOWN = inches(72);

/** What a sidewall tells of itself: its steps, its foot and top, and what one long piece would have to carry. */
export function sidewallPanel(
  context: PlaneContext,
  wall: PlacedWall,
  step: SidePiece,
  kickOutHeight: number | undefined,
): FigurePanel {
  const sides = besideWallOf(context, wall);
  const isOneALine = sides === 'steps' || sides === 'soakers';
  const { first, last } = coursesBeside(context, wall, step);
  const along = flowAlong(context, wall, step.roofLeg);
  const table: Table = {
    title: 'Water along the wall, were it kept in one long piece',
    columns: ['Course', 'Butt line', 'In one piece', sides === 'soakers' ? 'A soaker takes' : 'A step takes'],
    rows: along.map(({ course, y, collected, perStep }) => [[`${course}`], [mm(y)], [flow(collected)], [flow(perStep)]]),
  };
  return {
    detail: wall.id,
    title: `${wall.id} · ${wall.name}`,
    family: 'sidewall',
    plane: context.facet,
    window: {
      x0: wall.x - inches(wall.side === 1 ? 12 : 54),
      x1: wall.x + inches(wall.side === 1 ? 54 : 12),
      y0: wall.from - inches(12),
      y1: Math.min(wall.to + inches(12), wall.from + SHOWN),
    },
    figures: [
      { label: 'Along the slope', value: [mm(wall.to - wall.from)] },
      ...{
        soakers: () => soakerFigures(context, step, first, last),
        steps: () => stepFigures(context, wall, step, first, last),
        covers: () => coverFigures(context, wall, step),
        pans: () => panFigures(context, step),
      }[sides](),
      footFigure(wall, kickOutHeight, BARE_FOOT[sides]),
      ...slantFigures(context, wall),
      ...frontFigures(context, wall),
      { label: `Over the ${SIDES[sides]}`, value: [OVER[wall.cladding]] },
      ...(along[0] && isOneALine
        ? [
            { label: 'Water at the foot in one long piece', value: [flow(along[0].collected)] },
            {
              label: `Most that a ${sides === 'soakers' ? 'soaker' : 'step'} takes`,
              value: [flow(Math.max(...along.map(({ perStep }) => perStep)))],
            },
          ]
        : []),
    ],
    tables: isOneALine ? [table] : [],
  };
}

const SIDES = { steps: 'steps', soakers: 'soakers', covers: 'cover flashing', pans: 'pan flashing' } as const;
const BARE_FOOT = {
  steps: 'first step on the starter',
  soakers: 'first soaker on the under-eave course',
  covers: 'over the first course to its tails',
  pans: 'over the eave, under the first course',
} as const;

function coverFigures(context: PlaneContext, { x, side, lean }: PlacedWall, cover: SidePiece): Figure[] {
  const { rules } = context;
  // along a wall at an angle the crowns come and go
  const crown = lean === 0 ? crownBeside(context, x, side) : undefined;
  return [
    {
      label: 'On the tiles',
      value: [cut(cover.roofLeg), ', at least ', cut(leastOf(rules, 'cover.roofLeg'))],
      key: 'cover.roofLeg',
    },
    ...(crown === undefined
      ? []
      : [
          {
            label: 'Past the crown',
            value: [
              cut(cover.roofLeg - crown),
              ', which is ',
              cut(crown),
              ' from the wall; at least ',
              cut(leastOf(rules, 'cover.pastCrown')),
            ],
            key: 'cover.pastCrown' as const,
          },
        ]),
    ...legFigures(context, cover),
    { label: 'Clips', value: ['at most ', cut(mostOf(rules, 'cover.clips')), ' apart along its free edge'], key: 'cover.clips' },
  ];
}

/** The leg up the wall, and what it is cut in, which are told alike for what lies over the tiles and under them. */
const legFigures = ({ rules }: PlaneContext, { wallLeg, length }: SidePiece): Figure[] => [
  { label: 'Up the wall', value: [cut(wallLeg), ' at least'], key: 'cover.up' },
  { label: 'Lengths', value: ['at most ', cut(length), ', lapped ', cut(leastOf(rules, 'cover.lap'))], key: 'cover.longest' },
];

const panFigures = (context: PlaneContext, pan: SidePiece): Figure[] => [
  { label: 'Under the tiles', value: [cut(pan.roofLeg), ', its edge hemmed'], key: 'cover.roofLeg' },
  ...legFigures(context, pan),
];

const stepFigures = (
  { lines, rules }: PlaneContext,
  wall: PlacedWall,
  step: SidePiece,
  first: number,
  last: number,
): Figure[] => [
  { label: 'Steps, one a course', value: [`${last - first + 1}, courses ${first} to ${last}`], key: 'stepFlashing.perCourse' },
  { label: 'Step flashing', value: [step.name] },
  {
    label: 'Headlap',
    value: [cut(step.length - lines.gauge), ', at least ', cut(leastOf(rules, 'stepFlashing.headlap'))],
    key: 'stepFlashing.headlap',
  },
  { label: 'Nailed to the', value: [wall.nailSide], key: 'stepFlashing.nailSide' },
  { label: 'Last step, lower edge', value: [mm(buttLine(lines, last))] },
];

function soakerFigures({ lines, rules }: PlaneContext, soaker: SidePiece, first: number, last: number): Figure[] {
  const turned = leastOf(rules, 'soaker.turned');
  const upTo = Math.min(last, lines.count);
  return [
    { label: 'Soakers, one a course', value: [`${upTo - first + 1}, courses ${first} to ${upTo}`] },
    {
      label: 'Cut',
      value: [cut(soaker.length + turned), ' long: to the head of the course below, and ', cut(turned), ' turned down over it'],
      key: 'soaker.turned',
    },
    { label: 'Under the covering', value: [cut(soaker.roofLeg)], key: 'soaker.under' },
    { label: 'Up the wall', value: [cut(soaker.wallLeg)], key: 'soaker.up' },
    { label: 'Headlap', value: [cut(soaker.length - lines.gauge), ' over the one below'], key: 'covering.headlap' },
  ];
}

/** A wall that begins up the slope has an apron along its front. */
function frontFigures({ found, lines, rules }: PlaneContext, wall: PlacedWall): Figure[] {
  const front = found.front(`${wall.partOf}F`);
  if (!front) return [];
  const under = lastUnderApron(lines, front.y, front.apronLeg);
  return [
    { label: 'Along its front', value: [mm(front.x1 - front.x0), ' of apron, ', cut(leastOf(rules, 'apron.end')), ' past its corner'], key: 'apron.end' }, // prettier-ignore
    { label: 'Last course under the apron', value: [`${under}, `, cut(lastTall(lines, front.y, under)), ' tall'], key: 'headwall.lastCourse' }, // prettier-ignore
  ];
}

function footFigure(wall: PlacedWall, kickOutHeight: number | undefined, bare: string): Figure {
  const value: Words =
    wall.from > 0
      ? [`corner piece over the ${turnsCorner(wall)}’s ear`]
      : wall.foot === 'kick-out'
        ? kickOutHeight === undefined
          ? ['kick-out, none in the catalog is high enough']
          : ['kick-out, at least ', cut(kickOutHeight), ' high']
        : [bare];
  return { label: 'Foot', value, key: wall.from > 0 ? 'apron.end' : 'kickOut.height' };
}

const OVER = {
  boards: 'strip on their top edges, then the drainage layer and boards',
  render: 'strip on their top edges, then the drainage layer and render',
  masonry: 'counterflashing',
  frame: 'the frame’s own cladding',
} as const;
