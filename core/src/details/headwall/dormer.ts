import { type FigurePanel, type Words, cut, mm } from '../../assembly/index.ts';
import { leastOf } from '../../rules/index.ts';
import {
  type Frame,
  type Front,
  type PlaneContext,
  cornerPiece,
  isOnTiles,
  lastTall,
  lastUnderApron,
} from '../../slope/index.ts';
import { interfaceLines } from '../../surface/index.ts';
import { inches } from '../../units/index.ts';

/** What a dormer tells of itself where it stands on the slope: its front, its two side walls and the valleys over them. */
export function dormerPanel(context: PlaneContext, front: Front, frame: Frame): FigurePanel {
  const { lines, rules } = context;
  const { first, last } = interfaceLines(lines, frame.from, frame.to);
  const under = lastUnderApron(lines, front.y, front.apronLeg);
  const corner = cornerPiece(context, frame);
  // its eaves may hang over its walls: the valleys begin where they meet the slope, level with the walls' upper ends
  const valleys = context.valleys.filter(({ footOn, low, high }) => {
    const within = (x: number): boolean => x > frame.x0 - 1 && x < frame.x1 + 1;
    return footOn > 0 && Math.abs(low[1] - frame.to) < 1 && within(high[0]);
  });
  return {
    detail: frame.id,
    title: `${frame.id} · ${front.name.replace(/, front$/, '')}`,
    family: 'dormer',
    plane: context.facet,
    window: { x0: frame.x0 - inches(24), x1: frame.x1 + inches(24), y0: frame.from - inches(18), y1: frame.to + inches(36) },
    figures: [
      { label: 'Between its sidewalls’ faces', value: [mm(frame.x1 - frame.x0)] },
      { label: 'Front face up the slope', value: [mm(frame.from)] },
      { label: 'Its sidewalls end', value: [mm(frame.to), ' up the slope, at its eaves'] },
      {
        label: 'Last course under the apron',
        value: [`${under}, `, cut(lastTall(lines, front.y, under)), ' tall'],
        key: 'headwall.lastCourse',
      },
      { label: 'Apron past each corner', value: [cut(leastOf(rules, 'apron.end'))], key: 'apron.end' },
      ...(isOnTiles(context)
        ? context.found.wallsOf(frame.id).map((wall) => ({
            label: `Cover flashing, ${wall.side === 1 ? 'right' : 'left'}`,
            value: [cut(context.stepLeg(wall)), ' on the tiles'] as Words,
            key: 'cover.roofLeg' as const,
          }))
        : [
            {
              label: 'Corner pieces, lower edge',
              value: [mm(corner.lower), `, under course ${corner.coveredBy}`] as Words,
            },
            {
              label: context.surface.sides === 'soakers' ? 'Soakers a side' : 'Steps a side',
              value: [`${last - first + 1}, courses ${first} to ${last}`] as Words,
              key: 'stepFlashing.perCourse' as const,
            },
          ]),
      ...valleys.map(({ id, footOn }) => ({
        label: `${id} empties on to`,
        value: [`course ${footOn}; lay the slope that far, then the dormer, then the rest`],
      })),
    ],
  };
}
