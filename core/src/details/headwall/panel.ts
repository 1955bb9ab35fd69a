import { type FigurePanel, type Words, cut, mm } from '../../assembly/index.ts';
import { leastOf } from '../../rules/index.ts';
import { type Front, type PlaneContext, isOnTiles, lastTall, lastUnderApron } from '../../slope/index.ts';
import { buttLine, courseCount } from '../../surface/index.ts';
import { inches, isUnder } from '../../units/index.ts';
import { heldBy } from './apron.ts';
import { fitFor } from './fit.ts';

export function panelOf(context: PlaneContext, front: Front): FigurePanel {
  const { lines, rules } = context;
  const under = lastUnderApron(lines, front.y, front.apronLeg);
  const tall = lastTall(lines, front.y, under);
  const all = courseCount(lines);
  const sliver = front.y - buttLine(lines, all);
  const fit = isUnder(tall, leastOf(rules, 'headwall.lastCourse')) ? fitFor(context, front) : undefined;
  return {
    detail: front.id,
    title: `${front.id} · ${front.name}`,
    family: 'headwall',
    ...(fit ? { fit: fit.exposure } : {}),
    plane: context.facet,
    window: { x0: front.x0 - inches(12), x1: front.x1 + inches(12), y0: front.y - inches(40), y1: front.y + inches(4) },
    figures: [
      { label: 'Along the wall', value: [mm(front.x1 - front.x0)] },
      ...(front.apron === 'left out'
        ? []
        : [{ label: 'Apron on the roof', value: [cut(front.apronLeg)] as Words, key: 'apron.roofLeg' as const }]),
      // tiles are set out by their battens: none goes on to the wall
      ...(isOnTiles(context)
        ? []
        : [{ label: 'Courses to the wall as laid', value: [`${all}, the last `, cut(sliver), ' tall'] as Words }]),
      {
        label: front.apron === 'left out' ? 'Last course at the wall' : 'Last course under the apron',
        value: [`${front.apron === 'left out' ? lines.count : under}, `, cut(tall), ' tall'],
        key: 'headwall.lastCourse',
      },
      ...(fit
        ? [
            {
              label: 'Fitted',
              value: ['exposure ', cut(fit.exposure), `: ${fit.courses} courses, the last `, cut(fit.lastTall), ' tall'] as Words,
            },
          ]
        : []),
      { label: 'Apron school', value: [heldBy(context, front)] },
    ],
  };
}
