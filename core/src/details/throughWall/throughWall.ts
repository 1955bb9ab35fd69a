import {
  type Assembly,
  type FigurePanel,
  type FlatPattern,
  type LayKey,
  type Piece,
  type Step,
  assemble,
  bead,
  beforeAll,
  coat,
  cut,
  cutRun,
  doneBy,
  emptyAssembly,
  flow,
  lengths,
  mm,
  piecesOf,
  wallFinish,
} from '../../assembly/index.ts';
import { coatingFor, itemsOf, sealantFor } from '../../catalog/index.ts';
import type { FeatureOf } from '../../document/index.ts';
import { rectangle } from '../../roof/index.ts';
import { type RuleKey, leastOf, mostOf } from '../../rules/index.ts';
import { type Front, type PlaneContext, cutFromStock, frontFacet } from '../../slope/index.ts';
import { inches } from '../../units/index.ts';
import { cavityBehind, inCavity } from './cavity.ts';
import { cavityInflow, inflowFigure } from './inflow.ts';
import { shortfalls } from './shortfalls.ts';
import { chooseWidth, weepCount } from './size.ts';
import { planTrays } from './trays.ts';

const KEYS: RuleKey[] = ['throughWall.rise', 'throughWall.endLap', 'throughWall.endDam', 'throughWall.weeps'];

/** Flashing carried through a cavity wall above a roof, so that what runs down inside it comes out over the apron. */
export const planThroughWalls = (context: PlaneContext): Assembly =>
  doneBy(
    'masons',
    assemble([
      ...context.features.flatMap((feature) => {
        if (feature.kind !== 'headwall' || feature.counter !== 'through-wall') return [];
        const front = context.fronts.find(({ id }) => id === feature.id);
        return front ? [planOne(context, feature, front)] : [];
      }),
      ...context.walls.map((wall) => planTrays(context, wall)),
    ]),
  );

function planOne(context: PlaneContext, headwall: FeatureOf<'headwall'>, front: Front): Assembly {
  const { rules, catalog, surface } = context;
  const { veneer, cavity, pieceLength } = headwall.throughWall;
  const rise = Math.max(headwall.throughWall.rise, leastOf(rules, 'throughWall.rise'));
  const needed = veneer + cavity + rise;
  const lap = leastOf(rules, 'throughWall.endLap');
  const dam = leastOf(rules, 'throughWall.endDam');
  const run = front.x1 - front.x0;
  const product = chooseWidth(catalog, needed);
  const weep = itemsOf(catalog, 'weep')[0];
  const strip = itemsOf(catalog, 'strip')[0];
  const mastic = sealantFor(catalog, 'mastic');
  const weeps = weepCount(run, mostOf(rules, 'throughWall.weeps'));
  // the ledge metal's leg comes down over the apron's wall leg from the bed joint the flashing lies in
  const low = leastOf(rules, 'counterflashing.clearance') + surface.thickness;
  const joint =
    Math.ceil(
      (Math.max(leastOf(rules, 'apron.wallLeg'), leastOf(rules, 'wallMembrane.up')) + inches(0.5)) / headwall.jointSpacing,
    ) * headwall.jointSpacing;
  const facet = frontFacet(context, front);
  const lay = (along: number): LayKey => wallFinish(context, 'throughWall', front.x0, along);
  const face: Piece = {
    mark: `${front.id}-CL`,
    detail: front.id,
    role: 'cladding',
    covers: [{ facet, outline: rectangle(front.x0, joint, front.x1, Math.max(front.height, joint + 1)), holds: ['open'] }],
    lay: beforeAll(),
    liesOn: [],
    keys: [],
  };
  const ledgeFlat = (length: number): FlatPattern => ({
    outline: rectangle(0, 0, length, joint - low + veneer),
    bends: [{ from: [0, joint - low], to: [length, joint - low], direction: 'down', degrees: 90 }],
  });
  const ledges = cutRun(run, inches(120), inches(3)).map((stretch, i): Piece => ({
    mark: `${front.id}-LG${i + 1}`,
    detail: front.id,
    role: 'ledge',
    ...cutFromStock(context, ledgeFlat(stretch.to - stretch.from)),
    covers: [
      {
        facet,
        outline: rectangle(front.x0 + stretch.from, low, front.x0 + stretch.to, joint),
        holds: ['open', 'open', 'letIn', 'open'],
      },
    ],
    lay: lay(i / 1000),
    liesOn: [i === 0 ? `${front.id}-A1` : `${front.id}-LG${i}`],
    flat: ledgeFlat(stretch.to - stretch.from),
    keys: KEYS,
  }));
  const panels = cutRun(run, pieceLength, lap).map((stretch, i): Piece => ({
    mark: `${front.id}-TW${i + 1}`,
    detail: front.id,
    role: 'throughWall',
    ...(product ? { product: product.id } : {}),
    // on the face only its drip edge shows, over the ledge metal
    covers: [
      {
        facet,
        outline: rectangle(front.x0 + stretch.from, joint - inches(0.5), front.x0 + stretch.to, joint + inches(0.25)),
        holds: ['open', 'bonded', 'letIn', 'bonded'],
      },
      // behind the veneer it goes up the backup wall, its ends dammed, its laps bedded
      inCavity(facet, { from: front.x0 + stretch.from, to: front.x0 + stretch.to, joint, rise }),
    ],
    lay: lay(1 + i / 1000),
    liesOn: [i === 0 ? ledges[0]!.mark : `${front.id}-TW${i}`],
    cutLength: stretch.to - stretch.from,
    flat: {
      outline: rectangle(0, 0, stretch.to - stretch.from, product?.width ?? needed),
      bends: [{ from: [0, veneer + cavity], to: [stretch.to - stretch.from, veneer + cavity], direction: 'up', degrees: 90 }],
    },
    keys: KEYS,
  }));
  const inflow = cavityInflow(context, headwall.throughWall.pointing, run * front.height);
  const capacity = weep ? weeps * weep.litresPerMinute : 0;
  const step = (rank: number, action: Step['action'], pieces: readonly string[], rest: Partial<Step> = {}): Step => ({
    lay: lay(rank),
    detail: front.id,
    stage: 'finish',
    action,
    pieces,
    people: 1,
    keys: KEYS,
    ...rest,
  });
  return {
    ...emptyAssembly,
    ...cavityBehind({ face: facet, slope: context.facet, detail: front.id, name: front.name }, [
      { from: front.x0, to: front.x1, joint, rise },
    ]),
    pieces: [face, ...ledges, ...panels],
    steps: [
      step(
        0,
        [
          `${front.name}: veneer off above the joint `,
          cut(joint),
          ' up; holes and board joints in the backup wall filled, liquid air barrier rolled on.',
        ],
        [],
        {
          people: 2,
          caution: 'Silica dust: wet cutting or extraction, mask. Prop the veneer above.',
          holdPoint: 'Backup wall whole and coated, seen before the flashing',
          wait: 'air barrier cured, by its label',
          uses: [coat(coatingFor(catalog, 'air barrier'), 'liquid air barrier', run * (rise + cavity))],
        },
      ),
      step(
        0.5,
        [
          'Ledge metal ',
          ledges.map(({ mark }) => mark).join(', '),
          ': its leg down over the apron’s, ',
          cut(leastOf(rules, 'counterflashing.cover')),
          ' at least; sloped cants behind it.',
        ],
        ledges.map(({ mark }) => mark),
      ),
      step(
        1,
        [
          `${panels.length} lengths of through-wall sheet ${product ? `${product.name}, ` : ''}laps `,
          cut(lap),
          ' with mastic, ',
          cut(rise),
          ' up the backup wall, out past the face; end dams ',
          cut(dam),
          ' at both ends; termination strip at its top, mastic tooled to shed.',
        ],
        panels.map(({ mark }) => mark),
        {
          people: 2,
          holdPoint: 'No blister, no open edge, end dams closed; each fault repaired',
          uses: [
            lengths(strip, 'termination strip', [run]),
            // along the strip, at both dams and in every lap
            bead(mastic, 'wall-sheet mastic', run + (panels.length + 1) * needed, mastic?.bead ?? inches(0.375)),
          ],
        },
      ),
      step(
        2,
        [
          `${weeps} weeps in head joints right on the flashing, at most `,
          cut(mostOf(rules, 'throughWall.weeps')),
          ' apart, one at each end; first course of brick in a full bed; tails trimmed once the joint is thumb-hard.',
        ],
        [],
        { uses: [piecesOf(weep, 'weep', weeps)], wait: 'mortar thumb-hard before the tails are trimmed' },
      ),
    ],
    findings: shortfalls(front, panels[0]!.mark, { product, needed, weeps: weep ? weeps : 0, capacity, inflow }),
    panels: [
      panelOf(context, headwall, front, {
        needed,
        product: product?.name,
        width: product?.width,
        pieces: panels.length,
        lap,
        weeps,
        inflow,
        capacity,
        joint,
      }),
    ],
  };
}

type Sizes = {
  needed: number;
  product: string | undefined;
  width: number | undefined;
  pieces: number;
  lap: number;
  weeps: number;
  inflow: number;
  capacity: number;
  joint: number;
};

function panelOf(context: PlaneContext, headwall: FeatureOf<'headwall'>, front: Front, sizes: Sizes): FigurePanel {
  return {
    detail: front.id,
    title: `${front.id} · Through-wall flashing, ${headwall.name}`,
    family: 'through-wall',
    plane: context.facet,
    window: { x0: front.x0 - inches(12), x1: front.x1 + inches(12), y0: front.y - inches(24), y1: front.y + inches(2) },
    figures: [
      { label: 'Along the wall', value: [mm(front.x1 - front.x0)] },
      {
        label: 'Width needed',
        value: [
          cut(sizes.needed),
          ' (veneer ',
          cut(headwall.throughWall.veneer),
          ', cavity ',
          cut(headwall.throughWall.cavity),
          ', rise)',
        ],
        key: 'throughWall.rise',
      },
      { label: 'Sheet', value: [sizes.product ?? 'none wide enough in the catalog'] },
      {
        label: 'Lengths',
        value: [`${sizes.pieces} of `, mm(headwall.throughWall.pieceLength), ', laps ', cut(sizes.lap)],
        key: 'throughWall.endLap',
      },
      { label: 'Bed joint it lies in', value: [cut(sizes.joint), ' above the roof'] },
      { label: 'Weeps', value: [`${sizes.weeps}`], key: 'throughWall.weeps' },
      inflowFigure(context, headwall.throughWall.pointing, sizes.inflow),
      { label: 'What the weeps drain', value: [flow(sizes.capacity), ' by their maker’s figure'] },
      {
        label: 'End dams',
        value: [cut(leastOf(context.rules, 'throughWall.endDam')), ' at both ends'],
        key: 'throughWall.endDam',
      },
    ],
  };
}
