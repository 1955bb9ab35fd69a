import { type FigurePanel, type Words, cut, mm } from '../../assembly/index.ts';
import { itemsOf } from '../../catalog/index.ts';
import type { RuleKey } from '../../rules/index.ts';
import type { PlaneContext } from '../../slope/index.ts';
import { buttLine } from '../../surface/index.ts';
import { inches } from '../../units/index.ts';
import { type Leg, bootNeeds, withBoot, takes } from './legs.ts';
import { CROWN_WIDE, centredWidth, crownOff } from './tileBase.ts';

const windowRound = (x0: number, x1: number, y0: number, y1: number, by = inches(20)) => ({
  x0: x0 - by,
  x1: x1 + by,
  y0: y0 - by,
  y1: y1 + by,
});

export function legPanel(context: PlaneContext, leg: Leg): FigurePanel {
  const { boot, lies, place } = leg;
  const needs = bootNeeds(context, leg);
  const showing: Words = place ? [`course ${place.firstOver}, butt `, mm(buttLine(context.lines, place.firstOver))] : ['none'];
  return {
    detail: leg.feature,
    title: `${leg.id} · ${leg.name}`,
    family: leg.hot ? 'flue' : 'pipe',
    plane: context.facet,
    window: lies
      ? windowRound(leg.x - lies.left, leg.x + lies.right, leg.y - lies.centre, leg.y + lies.baseLength - lies.centre)
      : windowRound(leg.x, leg.x, leg.y, leg.y),
    figures: [
      {
        label: 'Base',
        value:
          boot && lies
            ? [
                boot.name,
                ', ',
                cut(lies.baseWidth),
                ' × ',
                cut(lies.baseLength),
                ...(lies.turned ? [`, turned a quarter, its head to the ${lies.turned}`] : []),
              ]
            : ['none in the catalog'],
      },
      { label: 'Outside diameter', value: [cut(leg.diameter)] },
      ...reachFigures(context, leg),
      ...(leg.hot
        ? [
            {
              label: 'Clearance, by its listing',
              value: (leg.clearance === undefined
                ? ['not told']
                : [cut(leg.clearance), ', hole ', cut(leg.diameter + 2 * leg.clearance), ' across']) as Words,
            },
          ]
        : []),
      ...(place && leg.formed
        ? [{ label: 'On the tile of', value: [`course ${place.firstOver - 1}, lower edge at `, mm(place.lower)] as Words }]
        : []),
      ...(place && !leg.formed
        ? [
            { label: 'Flange lower edge', value: [mm(place.lower)] },
            { label: 'First course over it', value: showing },
            {
              label: 'Base showing below',
              value: [cut(place.showing), ', at least ', cut(needs.showing)],
              key: (leg.hot ? 'pipe.flueShowing' : 'pipe.showing') as RuleKey,
            },
            { label: 'Top of the cut-out', value: [mm(place.cutTop)] },
            {
              label: 'Flange above the cut-out',
              value: [cut(place.flangeAbove), ', at least ', cut(needs.cover)],
              key: 'pipe.cover' as const,
            },
          ]
        : []),
      {
        label: 'Gap round the pipe',
        value: leg.formed ? [cut(needs.gap), ', drilled tight'] : [cut(needs.gap), ' to ', cut(inches(3 / 8))],
        key: 'pipe.gap',
      },
      ...(boot
        ? [
            { label: 'Made of', value: [boot.metal ?? boot.material] },
            { label: 'Expected life of the base', value: [`${boot.years} years`] },
          ]
        : []),
    ],
    tables: [
      {
        title: 'Bases that take it',
        columns: ['Base', 'First course over', 'Above the cut-out'],
        rows: itemsOf(context.catalog, 'boot')
          .filter((item) => takes(item, leg))
          .map((item) => {
            const its = withBoot(context, leg, item).place!;
            return [[item.name], [`${its.firstOver}`], [cut(its.flangeAbove)]];
          }),
      },
    ],
  };
}

/** On tiles: how far the base must reach to either side, and how wide it is. */
function reachFigures({ surface }: PlaneContext, { reach, lies, formed }: Leg): FigurePanel['figures'] {
  if (!reach || formed) return [];
  const { left, right } = reach;
  return [
    {
      label: surface.crowns ? 'To get past a crown' : 'To get past the pipe',
      value: [
        cut(left),
        ' to the left, ',
        cut(right),
        ' to the right: ',
        cut(centredWidth(reach)),
        ' wide',
        ...(lies ? ([', it is ', cut(lies.baseWidth)] as const) : []),
      ],
      key: surface.crowns ? 'cover.pastCrown' : 'pipe.besideOnTile',
    },
  ];
}

/** Every leg of a grid against the courses and what stands near it. */
export function gridPanel(context: PlaneContext, id: string, name: string, legs: readonly Leg[]): FigurePanel {
  const xs = legs.map(({ x }) => x);
  const ys = legs.map(({ y }) => y);
  const { rafters } = context.plane;
  const { crowns } = context.surface;
  const offRafter = (x: number): Words => {
    if (!rafters) return ['rafters not measured'];
    const nearestRafter = rafters.first + Math.round((x - rafters.first) / rafters.spacing) * rafters.spacing;
    const off = Math.abs(x - nearestRafter);
    return off < inches(0.75) ? ['on a rafter'] : [cut(off), ' off the rafter'];
  };
  return {
    detail: id,
    title: `${id} · ${name}`,
    family: 'standoffs',
    plane: context.facet,
    window: windowRound(Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys), inches(24)),
    figures: [
      { label: 'Legs', value: [`${legs.length}`] },
      { label: 'Base', value: [legs[0]?.boot?.name ?? 'none in the catalog'] },
    ],
    tables: [
      {
        title: 'Leg by leg',
        columns: ['Leg', 'From the left', 'Up the slope', 'First course over', 'Rafter', ...(crowns ? ['Crown'] : [])],
        rows: legs.map((leg) => [
          [leg.id],
          [mm(leg.x)],
          [mm(leg.y)],
          [leg.place ? `${leg.place.firstOver}` : 'none'],
          offRafter(leg.x),
          ...(crowns ? [offCrown(crowns, leg.x)] : []),
        ]),
      },
    ],
  };
}

/** How far from a crown, where its hole is driest, a leg comes through. */
const offCrown = (crowns: readonly number[], x: number): Words => {
  const off = crownOff(crowns, x);
  return off < CROWN_WIDE ? ['on a crown'] : [cut(off), ' off a crown'];
};
