import {
  type Assembly,
  type FigurePanel,
  type Piece,
  type Step,
  bead,
  coat,
  cut,
  emptyAssembly,
  flow,
  laid,
  masonryAbove,
  mm,
  piecesOf,
  rightAfter,
  wallFinish,
} from '../../assembly/index.ts';
import { coatingFor, itemsOf, sealantFor } from '../../catalog/index.ts';
import { bounds, rectangle } from '../../roof/index.ts';
import { type RuleKey, leastOf, mostOf } from '../../rules/index.ts';
import { type PlacedWall, type PlaneContext, lowestJoint, pickStep, stepsOf, wallFacetId } from '../../slope/index.ts';
import { inches } from '../../units/index.ts';
import { cavityBehind, inCavity } from './cavity.ts';
import { cavityInflow, inflowFigure } from './inflow.ts';
import { shortfalls } from './shortfalls.ts';
import { chooseWidth, weepCount } from './size.ts';

const KEYS: RuleKey[] = ['throughWall.rise', 'throughWall.endDam', 'throughWall.weeps', 'counterflashing.stepSpacing'];

/**
 * Trays through a cavity wall that climbs with the slope: one a step, in the joint over that step's metal, its uphill end stopped, its
 * downhill end open over the tray below, on to which it empties. The lowest is stopped at both ends and drains to the face.
 */
export function planTrays(context: PlaneContext, wall: PlacedWall): Assembly {
  const { item } = pickStep(context, wall);
  if (wall.counter !== 'trays' || wall.cladding !== 'masonry' || !wall.cavityWall || !item) return emptyAssembly;
  const { rules, catalog, plane, slopeFactor: k } = context;
  const { veneer, cavity } = wall.cavityWall;
  const rise = Math.max(wall.cavityWall.rise, leastOf(rules, 'throughWall.rise'));
  const needed = veneer + cavity + rise;
  const dam = leastOf(rules, 'throughWall.endDam');
  const product = chooseWidth(catalog, needed);
  const width = product?.width ?? needed;
  const steps = stepsOf(context, wall, item.wallLeg);
  const [start, end] = [wall.from / k, wall.to / k];
  const weep = itemsOf(catalog, 'weep')[0];
  const mastic = sealantFor(catalog, 'mastic');
  const weeps = weepCount(end - start, mostOf(rules, 'throughWall.weeps'));
  const facet = wallFacetId(context, wall);
  const trays = Array.from({ length: steps.pieces }, (_, i): Piece => {
    const a = start + i * steps.spacing - (i === 0 ? 0 : steps.lap);
    const b = Math.min(start + (i + 1) * steps.spacing, end);
    const joint = plane.pitch * (start + (i + 1) * steps.spacing) + steps.lowest;
    // turned up at the stopped ends
    const [low, high] = [i === 0 ? dam : 0, dam];
    const length = b - a + low + high;
    return {
      mark: `${wall.id}-TR${String(i + 1).padStart(2, '0')}`,
      detail: wall.id,
      role: 'throughWall',
      ...(product ? { product: product.id } : {}),
      // on the face only its drip edge shows, over the step's metal
      covers: [
        {
          facet,
          outline: rectangle(a, joint - inches(0.5), b, joint + inches(0.25)),
          holds: ['open', 'bonded', 'letIn', i === 0 ? 'bonded' : 'open'],
        },
        inCavity(facet, { from: a, to: b, joint, rise }),
      ],
      lay: wallFinish(context, 'throughWall', wall.x, i),
      liesOn: [`${wall.id}-R${String(i + 1).padStart(2, '0')}`],
      cutLength: length,
      flat: {
        outline: rectangle(0, 0, length, width),
        bends: [
          { from: [0, veneer + cavity], to: [length, veneer + cavity], direction: 'up', degrees: 90 },
          { from: [length - high, 0], to: [length - high, width], direction: 'up', degrees: 90 },
          ...(low > 0 ? [{ from: [low, 0] as const, to: [low, width] as const, direction: 'up' as const, degrees: 90 }] : []),
        ],
      },
      keys: KEYS,
    };
  });
  const inflow = cavityInflow(context, wall.cavityWall.pointing, (end - start) * wall.height);
  const capacity = weep ? weeps * weep.litresPerMinute : 0;
  const opened: Pick<Step, 'detail' | 'stage' | 'pieces' | 'people' | 'keys'> = {
    detail: wall.id,
    stage: 'dry-in',
    pieces: [],
    people: 2,
    keys: KEYS,
  };
  const action: Step['action'] = [
    `${wall.name}: lay ${trays.length} trays from the downhill end up${product ? `, ${product.name}` : ''}, one a step, `,
    cut(rise),
    ' up the backup wall, each ',
    cut(steps.lap),
    ' over the one below, its uphill end stopped ',
    cut(dam),
    ' high; the lowest stopped at both ends.',
  ];
  return {
    ...emptyAssembly,
    ...cavityBehind(
      { face: facet, slope: context.facet, detail: wall.id, name: wall.name },
      trays.map(({ covers }) => {
        const { x0, x1, y0, y1 } = bounds(covers[1]!.outline);
        return { from: x0, to: x1, joint: y0, rise: y1 - y0 };
      }),
    ),
    pieces: trays,
    steps: [
      {
        ...opened,
        lay: masonryAbove(context, wall.x),
        action: [
          `${wall.name}: board the roof below. From the downhill end up take the veneer off above each joint, a few bricks at a time; prop what stands above.`,
        ],
        caution: 'Silica dust: wet cutting or extraction, mask.',
      },
      {
        ...opened,
        lay: masonryAbove(context, wall.x, 1),
        action: [
          `${wall.name}: fill holes and board joints in the backup wall behind each tray; roll on the liquid air barrier.`,
        ],
        uses: [coat(coatingFor(catalog, 'air barrier'), 'liquid air barrier', (end - start) * (rise + cavity))],
        wait: 'air barrier cured, by its label',
        holdPoint: 'backup wall whole and coated',
      },
      laid(trays, {
        stage: 'finish',
        action,
        people: 2,
        holdPoint: 'every stop end closed, each tray over the one below',
        uses: [bead(mastic, 'wall-sheet mastic', trays.length * needed, mastic?.bead ?? inches(0.375))],
        wait: 'mortar thumb-hard before the next bricks',
        keys: KEYS,
      }),
      {
        ...opened,
        lay: rightAfter(trays.at(-1)!.lay, 1),
        stage: 'finish',
        people: 1,
        action: [
          `${wall.name}: set ${weeps} weeps at most `,
          cut(mostOf(rules, 'throughWall.weeps')),
          ' apart along the trays, one at the lowest one’s downhill end.',
        ],
        uses: [piecesOf(weep, 'weep', weeps)],
      },
    ],
    findings: shortfalls(wall, trays[0]!.mark, { product, needed, weeps: weep ? weeps : 0, capacity, inflow, run: end - start }),
    panels: [panelOf(context, wall, { steps, needed, sheet: product?.name, dam, weeps, capacity, inflow })],
  };
}

type Sizes = {
  readonly steps: ReturnType<typeof stepsOf>;
  readonly needed: number;
  readonly sheet: string | undefined;
  readonly dam: number;
  readonly weeps: number;
  readonly capacity: number;
  readonly inflow: number;
};

const panelOf = (context: PlaneContext, wall: PlacedWall, sizes: Sizes): FigurePanel => ({
  detail: wall.id,
  title: `${wall.id} · Trays through ${wall.name}`,
  family: 'through-wall',
  plane: context.facet,
  window: { x0: wall.x - inches(40), x1: wall.x + inches(40), y0: wall.from - inches(12), y1: wall.from + inches(72) },
  figures: [
    { label: 'Level run', value: [mm((wall.to - wall.from) / context.slopeFactor)] },
    {
      label: 'Trays, one a step',
      value: [`${sizes.steps.pieces}, `, cut(sizes.steps.spacing), ' level apart'],
      key: 'counterflashing.stepSpacing',
    },
    lowestJoint(context, wall, sizes.steps.lowest),
    { label: 'Width needed', value: [cut(sizes.needed), ' (veneer, cavity, rise)'], key: 'throughWall.rise' },
    { label: 'Sheet', value: [sizes.sheet ?? 'none wide enough in the catalog'] },
    { label: 'Each over the one below', value: [cut(sizes.steps.lap)], key: 'counterflashing.endLap' },
    { label: 'Stop ends', value: [cut(sizes.dam), ' high, uphill; the lowest tray at both ends'], key: 'throughWall.endDam' },
    { label: 'Weeps', value: [`${sizes.weeps}`], key: 'throughWall.weeps' },
    inflowFigure(context, wall.cavityWall?.pointing ?? 'sound', sizes.inflow),
    { label: 'What the weeps drain', value: [flow(sizes.capacity), ' by their maker’s figure'] },
  ],
});
