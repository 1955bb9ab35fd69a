import { type Curve, type FigurePanel, type Table, type Words, cut, flow, mm } from '../../assembly/index.ts';
import { bounds } from '../../roof/index.ts';
import { leastOf } from '../../rules/index.ts';
import type { PlaneContext, ValleySide } from '../../slope/index.ts';
import { buttLine, chalkLine } from '../../surface/index.ts';
import { inches } from '../../units/index.ts';
import { FOOT, type One, openAt, sideOf, stationsOf, waterAt } from './one.ts';

/** Courses that meet a valley on one slope. */
const coursesAt = (context: PlaneContext, { low, high }: ValleySide): number =>
  Array.from({ length: context.lines.count }, (_, i) => i + 1).filter(
    (n) => buttLine(context.lines, n) < high[1] && chalkLine(context.lines, n) > low[1],
  ).length;

export function panelOf(one: One): FigurePanel {
  const { valley, a, b, rules } = one;
  const side = sideOf(valley, a.plane.id);
  const box = bounds([side.low, side.high]);
  const angle = (context: PlaneContext): number => {
    const { low, high } = sideOf(valley, context.plane.id);
    return Math.atan2(Math.abs(high[1] - low[1]), Math.abs(high[0] - low[0]));
  };
  const degrees = (radians: number): string => `${((radians * 180) / Math.PI).toFixed(1)}°`;
  const isMetric = one.job.units === 'metric';
  const drained = (area: number): string => {
    const squareMetres = `${(area / 1e6).toFixed(2)} m²`;
    return isMetric ? squareMetres : `${(area / FOOT ** 2).toFixed(1)} ft² (${squareMetres})`;
  };
  const water = waterAt(one, 0);
  const through = valley.through === undefined ? undefined : valley.through === a.plane.id ? a : b;
  const stations = stationsOf(valley);
  const curve: Curve = {
    title: valley.style === 'open' ? 'Water against half the open width' : 'Water a side of the centre',
    along: 'up the valley from its lower end',
    lines: [
      {
        name: 'water, wider side',
        points: stations.map((at) => {
          const { spreadA, spreadB } = waterAt(one, at);
          return [at, Math.max(spreadA, spreadB)] as const;
        }),
      },
      ...(valley.style === 'open'
        ? [{ name: 'half the open width', points: stations.map((at) => [at, openAt(valley, at)] as const) }]
        : [{ name: 'no nail within', points: stations.map((at) => [at, leastOf(rules, 'valley.noNail')] as const) }]),
    ],
  };
  const chalk: Table[] =
    valley.style === 'open'
      ? [
          {
            title: 'Chalk lines, a foot at a time',
            columns: ['Up the valley', 'From the centre', 'Between the lines'],
            rows: stations.map((at) => [[mm(at)], [cut(openAt(valley, at))], [cut(2 * openAt(valley, at))]]),
          },
        ]
      : [];
  const courses = (context: PlaneContext): Words => [
    `${coursesAt(context, sideOf(valley, context.plane.id))} courses, cut at ${degrees(angle(context))}, `,
    cut(context.lines.gauge / Math.sin(angle(context))),
    ' of valley a course',
  ];
  return {
    detail: valley.id,
    title: `${valley.id} · ${valley.name}`,
    family: 'valley',
    plane: valley.a,
    window: {
      x0: box.x0 - inches(36),
      x1: box.x1 + inches(36),
      y0: box.y0 - inches(box.y0 > 1 ? 24 : 4),
      y1: box.y1 + inches(24),
    },
    figures: [
      { label: 'Style', value: [valley.style] },
      { label: 'True length', value: [mm(valley.line.trueLength)] },
      {
        label: 'Fall of the valley',
        value: [isMetric ? degrees(Math.atan(valley.line.slope)) : `${(valley.line.slope * 12).toFixed(2)}/12`],
      },
      { label: `From ${a.plane.name}`, value: [`${drained(valley.areaA)}, `, flow(valley.flowA)] },
      { label: `From ${b.plane.name}`, value: [`${drained(valley.areaB)}, `, flow(valley.flowB)] },
      ...(through
        ? [
            {
              label: 'Runs through',
              value: [
                `${through.plane.name}: ${valley.through === valley.asked.plane ? valley.asked.because : 'decided on site'}`,
              ],
            },
          ]
        : []),
      ...(through
        ? [
            {
              label: 'Crossing shingles past the centre',
              value: [cut(leastOf(rules, 'valley.cross'))],
              key: 'valley.cross' as const,
            },
            { label: 'Crossing shingles', value: [`${coursesAt(through, sideOf(valley, through.plane.id))}`] },
            {
              label: 'Cut side back from the centre',
              value: [cut((valley.through === a.plane.id ? sideOf(valley, b.plane.id) : sideOf(valley, a.plane.id)).clearLow)],
              key: 'valley.trim' as const,
            },
          ]
        : [
            { label: 'Lining', value: [valley.ribbed ? 'with a rib along its middle' : 'plain'], key: 'valley.lining' as const },
            { label: 'Open width at the top', value: [cut(2 * valley.openHigh)], key: 'valley.openTop' as const },
            { label: 'Open width at the lower end', value: [cut(2 * valley.openLow)], key: 'valley.widening' as const },
          ]),
      { label: a.plane.name, value: courses(a) },
      { label: b.plane.name, value: courses(b) },
      { label: 'No nail within', value: [cut(leastOf(rules, 'valley.noNail')), ' of the centre'], key: 'valley.noNail' },
      {
        label: 'Water at the lower end',
        value: [
          `${water.depth.toFixed(1)} mm deep, `,
          cut(Math.max(water.spreadA, water.spreadB)),
          ' a side (steady flow, an estimate)',
        ],
      },
    ],
    tables: chalk,
    curve,
  };
}
