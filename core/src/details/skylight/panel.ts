import { type Figure, type FigurePanel, type Words, cut, mm } from '../../assembly/index.ts';
import type { ItemOf } from '../../catalog/index.ts';
import type { FeatureOf } from '../../document/index.ts';
import { leastOf } from '../../rules/index.ts';
import { type Footprint, type PlaneContext, isOnTiles } from '../../slope/index.ts';
import { interfaceLines } from '../../surface/index.ts';
import { inches } from '../../units/index.ts';
import { headLayers } from './asks.ts';
import { openingOf, stripOff } from './opening.ts';

export function panelOf(
  context: PlaneContext,
  skylight: FeatureOf<'skylight'>,
  foot: Footprint,
  kit: ItemOf<'skylightKit'> | undefined,
): FigurePanel {
  const { lines, plane, surface } = context;
  const met = interfaceLines(lines, foot.from, foot.to);
  const opening = openingOf(context, skylight, foot, kit);
  const off =
    skylight.work === 'replacement'
      ? stripOff(skylight.strip, skylight, { width: surface.unit.width, exposure: lines.gauge })
      : undefined;
  const rafters: Words = !plane.rafters
    ? ['not measured']
    : opening.cutRafters.length === 0
      ? ['none cut']
      : [
          `${opening.cutRafters.length} cut, at `,
          ...opening.cutRafters.flatMap((at, i): Words => [...(i > 0 ? [', '] : []), mm(at)]),
          ...(opening.nudge
            ? [
                '; moved ',
                cut(Math.abs(opening.nudge.by)),
                ` to the ${opening.nudge.by > 0 ? 'right' : 'left'} it cuts ${opening.nudge.cut}`,
              ]
            : []),
        ];
  return {
    detail: skylight.id,
    title: `${skylight.id} · ${skylight.name}`,
    family: 'skylight',
    plane: context.facet,
    window: { x0: foot.x0 - inches(24), x1: foot.x1 + inches(24), y0: foot.from - inches(18), y1: foot.to + inches(24) },
    figures: [
      { label: 'Frame outside', value: [cut(skylight.width), ' × ', cut(skylight.height)] },
      { label: 'Sill up the slope', value: [mm(foot.from)] },
      ...sidesOf(context, skylight, met),
      { label: 'Kit', value: [kit ? kit.name : skylight.flashing === 'kit' ? 'none in the catalog' : 'bent on site'] },
      ...(off
        ? [
            {
              label: 'Strip off',
              value: [
                mm(off.width),
                ' × ',
                mm(off.height),
                `, ${off.shingles} ${surface.sides === 'steps' ? 'shingles' : 'pieces'} with breakage`,
              ] as Words,
            },
          ]
        : [
            {
              label: 'Rough opening',
              value: [cut(opening.roughWidth), ' × ', cut(opening.roughHeight), ', diagonal ', cut(opening.diagonal)] as Words,
            },
            { label: 'Ceiling cut', value: [cut(opening.ceilingWidth), ' × ', cut(opening.ceilingHeight)] as Words },
            { label: 'Marking block', value: [cut(opening.blockWidth), ' × ', cut(opening.blockHeight)] as Words },
            { label: 'Rafters', value: rafters },
          ]),
    ],
  };
}

/** What stands at its sides and what goes over its head: steps under a course without a joint, or on tiles cover flashings past a crown. */
function sidesOf(
  context: PlaneContext,
  skylight: FeatureOf<'skylight'>,
  { first, last }: { first: number; last: number },
): Figure[] {
  const { surface, rules, found } = context;
  const [left, right] = ['L', 'R'].map((side) => found.wall(`${skylight.id}${side}`)!);
  if (isOnTiles(context))
    return [
      {
        label: 'Cover flashing on the tiles',
        value: [cut(context.stepLeg(left!)), ' at its left, ', cut(context.stepLeg(right!)), ' at its right'],
        key: surface.crowns ? 'cover.pastCrown' : 'cover.roofLeg',
      },
    ];
  return [
    { label: 'Steps a side', value: [`${last - first + 1}, courses ${first} to ${last}`] },
    {
      label: 'Head course without a joint',
      value: [
        cut(skylight.width + 2 * leastOf(rules, 'skylight.headCourse')),
        headLayers(context, skylight) === 2 ? ' wanted: two layers, joints broken' : ' wanted',
      ],
      key: 'skylight.headCourse',
    },
  ];
}
