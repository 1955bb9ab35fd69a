import { type Figure, type FigurePanel, type Words, cut, mm } from '../../assembly/index.ts';
import type { FeatureOf } from '../../document/index.ts';
import { type Cricket, tableHeight } from '../../roof/index.ts';
import { leastOf } from '../../rules/index.ts';
import {
  type PlacedWall,
  type PlaneContext,
  apronLegFor,
  footprint,
  lastTall,
  lastUnderApron,
  lowestJointWords,
  pickStep,
  stepNeed,
  upBehind,
  stepsOf,
  isOnTiles,
} from '../../slope/index.ts';
import { interfaceLines } from '../../surface/index.ts';
import { inches, stepsToReach } from '../../units/index.ts';

export function panelOf(context: PlaneContext, chimney: FeatureOf<'chimney'>, cricket: Cricket | undefined): FigurePanel {
  const { lines, rules, plane } = context;
  const foot = footprint(chimney, plane);
  const met = interfaceLines(lines, foot.from, foot.to);
  const under = lastUnderApron(lines, foot.from, apronLegFor(context, chimney.apronLeg));
  const wall = context.found.wall(`${chimney.id}L`)!;
  const wallLeg = pickStep(context, wall).item?.wallLeg ?? stepNeed(context, wall).wallLeg;
  const stepped = chimney.masonry && chimney.counter === 'stepped' ? stepsOf(context, wall, wallLeg) : undefined;
  const squareInches = (area: number): string => `${(area / 25.4 ** 2).toFixed(1)} in² (${(area / 100).toFixed(0)} cm²)`;
  const behind =
    cricket && stepped
      ? Math.max(0, stepsToReach(chimney.width / 2, (stepped.joints * chimney.jointSpacing) / cricket.sidePitch))
      : 0;
  return {
    detail: chimney.id,
    title: `${chimney.id} · ${chimney.name}`,
    family: 'chimney',
    plane: context.facet,
    window: {
      x0: foot.x0 - inches(24),
      x1: foot.x1 + inches(24),
      y0: foot.from - inches(20),
      y1: foot.to + (cricket?.up ?? inches(12)) + inches(20),
    },
    figures: [
      { label: 'Across the slope × up it', value: [cut(chimney.width), ' × ', cut(foot.to - foot.from)] },
      { label: 'Front face up the slope', value: [mm(foot.from)] },
      {
        label: 'Last course under the apron',
        value: [`${under}, `, cut(lastTall(lines, foot.from, under)), ' tall'],
        key: 'headwall.lastCourse',
      },
      besideFigure(context, wall, met),
      ...(cricket
        ? [
            {
              label: 'Cricket height',
              value: [cut(cricket.height), ', by the table ', cut(tableHeight(chimney.width, plane.pitch))] as Words,
              key: 'chimney.cricketOver' as const,
            },
            { label: 'Cricket ridge, level', value: [cut(cricket.ridge)] as Words },
            { label: 'Cricket valleys', value: [cut(cricket.valley)] as Words },
            { label: 'Each side', value: [squareInches(cricket.sideArea)] as Words },
          ]
        : [
            {
              label: 'Back pan',
              value: [
                cut(upBehind(lines, foot, leastOf(rules, 'pan.up'))),
                ' up the roof, ',
                cut(leastOf(rules, 'pan.upstand')),
                ' up the chimney',
              ] as Words,
              key: 'pan.up' as const,
            },
          ]),
      ...(stepped
        ? [
            {
              label: 'Counterflashing steps a side',
              value: [`${stepped.pieces}, level spacing `, cut(stepped.spacing)] as Words,
              key: 'counterflashing.stepSpacing' as const,
            },
            {
              label: 'Lowest joint above the roof line',
              value: lowestJointWords(context, wallLeg, stepped.lowest),
              key: 'counterflashing.aboveBase' as const,
            },
            { label: 'Tall end of a step', value: [cut(stepped.tallEnd)] as Words },
            ...(cricket
              ? [{ label: 'Counterflashing behind the cricket', value: [`${behind} a half and a ridge piece`] as Words }]
              : []),
          ]
        : []),
      { label: 'Wood framing clear of masonry', value: [cut(leastOf(rules, 'chimney.clearance'))], key: 'chimney.clearance' },
    ],
  };
}

/** What stands at its sides: a piece a course, or on tiles lengths of cover flashing, each side as far as its crown asks. */
function besideFigure(context: PlaneContext, left: PlacedWall, { first, last }: { first: number; last: number }): Figure {
  if (!isOnTiles(context))
    return {
      label: context.surface.sides === 'soakers' ? 'Soakers a side' : 'Steps a side',
      value: [`${last - first + 1}, courses ${first} to ${last}`],
    };
  const right = context.found.wall(left.id.replace(/L$/, 'R'))!;
  return {
    label: 'Cover flashing on the tiles',
    value: [cut(context.stepLeg(left)), ' at its left, ', cut(context.stepLeg(right)), ' at its right'],
    key: context.surface.crowns ? 'cover.pastCrown' : 'cover.roofLeg',
  };
}
