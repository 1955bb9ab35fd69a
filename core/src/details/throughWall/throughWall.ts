import {
  type Assembly,
  type FigurePanel,
  type FlatPattern,
  HUNG_IN_WALL,
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
  masonryAbove,
  mm,
  piecesOf,
  wallFinish,
} from '../../assembly/index.ts';
import { type ItemOf, coatingFor, itemsOf, sealantFor } from '../../catalog/index.ts';
import type { FeatureOf } from '../../document/index.ts';
import { rectangle } from '../../roof/index.ts';
import { type RuleKey, leastOf, mostOf } from '../../rules/index.ts';
import { type Front, type PlaneContext, cutFromStock, frontFacet, turnedUpFront } from '../../slope/index.ts';
import { inches } from '../../units/index.ts';
import { cavityBehind, inCavity } from './cavity.ts';
import { cavityInflow, inflowFigure } from './inflow.ts';
import { OPEN_AT_ONCE, shortfalls } from './shortfalls.ts';
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
        const front = context.found.front(feature.id);
        return front ? [planOne(context, feature, front)] : [];
      }),
      ...context.walls.map((wall) => planTrays(context, wall)),
    ]),
  );

/** A face of masonry above a roof, and the sizes of what goes through it. */
type Wall = {
  readonly front: Front;
  readonly facet: string;
  readonly veneer: number;
  readonly cavity: number;
  readonly rise: number;
  readonly needed: number;
  readonly product: ItemOf<'wallFlashing'> | undefined;
  readonly run: number;
  /** Height of the lower edge of its ledge metal, and of the bed joint it lies in, above the roof. */
  readonly low: number;
  readonly joint: number;
};

function planOne(context: PlaneContext, headwall: FeatureOf<'headwall'>, front: Front): Assembly {
  const { rules, catalog, surface } = context;
  const { veneer, cavity, pieceLength, pointing } = headwall.throughWall;
  const rise = Math.max(headwall.throughWall.rise, leastOf(rules, 'throughWall.rise'));
  const needed = veneer + cavity + rise;
  const run = front.x1 - front.x0;
  // the ledge metal's leg comes down over the apron's wall leg from the bed joint the flashing lies in
  const above = Math.max(leastOf(rules, 'apron.wallLeg'), leastOf(rules, 'wallMembrane.up')) + inches(0.5);
  const wall: Wall = {
    front,
    facet: frontFacet(context, front),
    veneer,
    cavity,
    rise,
    needed,
    product: chooseWidth(catalog, needed),
    run,
    low: leastOf(rules, 'counterflashing.clearance') + surface.thickness,
    joint: Math.ceil(above / headwall.jointSpacing) * headwall.jointSpacing,
  };
  const weep = itemsOf(catalog, 'weep')[0];
  const weeps = weepCount(run, mostOf(rules, 'throughWall.weeps'));
  const ledges = ledgesOf(context, wall);
  const lap = leastOf(rules, 'throughWall.endLap');
  const sheets = sheetsOf(context, wall, pieceLength, lap, ledges[0]!.mark);
  const inflow = cavityInflow(context, pointing, run * front.height);
  const capacity = weep ? weeps * weep.litresPerMinute : 0;
  const face: Piece = {
    mark: `${front.id}-CL`,
    detail: front.id,
    role: 'cladding',
    covers: [
      {
        facet: wall.facet,
        outline: rectangle(front.x0, wall.joint, front.x1, Math.max(front.height, wall.joint + 1)),
        holds: ['open'],
      },
    ],
    lay: beforeAll(),
    liesOn: [],
    keys: [],
  };
  return {
    ...emptyAssembly,
    ...cavityBehind({ face: wall.facet, slope: context.facet, detail: front.id, name: front.name }, [
      { from: front.x0, to: front.x1, joint: wall.joint, rise },
    ]),
    pieces: [face, ...ledges, ...sheets],
    steps: stepsOf(context, wall, ledges, sheets, lap, weep, weeps),
    findings: shortfalls(front, sheets[0]!.mark, {
      product: wall.product, needed, weeps: weep ? weeps : 0, capacity, inflow, run, ledge: context.covering.metal,
    }), // prettier-ignore
    panels: [panelOf(context, headwall, wall, { pieces: sheets.length, lap, weeps, inflow, capacity })],
  };
}

const layOf = (context: PlaneContext, { front }: Wall, along: number): LayKey =>
  wallFinish(context, 'throughWall', front.x0, along);

/** Metal on the ledge, its leg down over the apron's. */
function ledgesOf(context: PlaneContext, wall: Wall): Piece[] {
  const { front, facet, veneer, run, low, joint } = wall;
  return cutRun(run, inches(120), inches(3)).map(({ from, to }, i): Piece => {
    const flat: FlatPattern = {
      outline: rectangle(0, 0, to - from, joint - low + veneer),
      bends: [{ from: [0, joint - low], to: [to - from, joint - low], direction: 'down', degrees: 90 }],
    };
    return {
      mark: `${front.id}-LG${i + 1}`,
      detail: front.id,
      role: 'ledge',
      ...cutFromStock(context, flat),
      covers: [{ facet, outline: rectangle(front.x0 + from, low, front.x0 + to, joint), holds: HUNG_IN_WALL }],
      lay: layOf(context, wall, i / 1000),
      liesOn: [i === 0 ? turnedUpFront(front) : `${front.id}-LG${i}`],
      flat,
      keys: KEYS,
    };
  });
}

/** The sheet carried through, in lengths: over the ledge, and up the backup wall. */
function sheetsOf(context: PlaneContext, wall: Wall, pieceLength: number, lap: number, ledge: string): Piece[] {
  const { front, facet, veneer, cavity, rise, needed, product, run, joint } = wall;
  return cutRun(run, pieceLength, lap).map((stretch, i): Piece => {
    const [from, to] = [front.x0 + stretch.from, front.x0 + stretch.to];
    const length = stretch.to - stretch.from;
    return {
      mark: `${front.id}-TW${i + 1}`,
      detail: front.id,
      role: 'throughWall',
      ...(product ? { product: product.id } : {}),
      covers: [
        // on the face only its drip edge shows, over the ledge metal
        {
          facet,
          outline: rectangle(from, joint - inches(0.5), to, joint + inches(0.25)),
          holds: ['open', 'bonded', 'letIn', 'bonded'],
        },
        // behind the veneer it goes up the backup wall, its ends dammed, its laps bedded
        inCavity(facet, { from, to, joint, rise }),
      ],
      lay: layOf(context, wall, 1 + i / 1000),
      liesOn: [i === 0 ? ledge : `${front.id}-TW${i}`],
      cutLength: length,
      flat: {
        outline: rectangle(0, 0, length, product?.width ?? needed),
        bends: [{ from: [0, veneer + cavity], to: [length, veneer + cavity], direction: 'up', degrees: 90 }],
      },
      keys: KEYS,
    };
  });
}

function stepsOf(
  context: PlaneContext,
  wall: Wall,
  ledges: readonly Piece[],
  sheets: readonly Piece[],
  lap: number,
  weep: ItemOf<'weep'> | undefined,
  weeps: number,
): Step[] {
  const { rules, catalog } = context;
  const { front, cavity, rise, needed, product, run, joint } = wall;
  const mastic = sealantFor(catalog, 'mastic');
  const lines: (Pick<Step, 'action'> & Partial<Step>)[] = [
    {
      lay: masonryAbove(context, front.x0),
      stage: 'dry-in',
      action: [
        `${front.name}: board the roof below, prop the veneer and take it out above the bed joint `,
        cut(joint),
        ' up, at most ',
        mm(OPEN_AT_ONCE),
        ' open at once.',
      ],
      people: 2,
      caution: 'Silica dust: wet cutting or extraction, mask.',
    },
    {
      lay: masonryAbove(context, front.x0, 1),
      stage: 'dry-in',
      action: [
        `${front.name}: fill holes and board joints in the backup wall; roll on the liquid air barrier, 40 mil (1 mm) wet.`,
      ],
      holdPoint: 'backup wall whole and coated',
      wait: 'air barrier cured, by its label',
      uses: [coat(coatingFor(catalog, 'air barrier'), 'liquid air barrier', run * (rise + cavity))],
    },
    {
      lay: layOf(context, wall, 0.5),
      action: [
        `${front.name}: lay ledge metal `,
        ledges.map(({ mark }) => mark).join(', '),
        ': its leg down over the apron’s, ',
        cut(leastOf(rules, 'counterflashing.cover')),
        ' at least; sloped cants behind it.',
      ],
      pieces: ledges.map(({ mark }) => mark),
    },
    {
      lay: layOf(context, wall, 1),
      action: [
        `Stick ${sheets.length} ${sheets.length === 1 ? 'length' : 'lengths'} of ${product?.name ?? 'through-wall sheet'}, laps `,
        cut(lap),
        ' with mastic, ',
        cut(rise),
        ' up the backup wall, out past the face; end dams ',
        cut(leastOf(rules, 'throughWall.endDam')),
        ' at both ends. Fix the termination strip along its top; tool the mastic to shed.',
      ],
      pieces: sheets.map(({ mark }) => mark),
      people: 2,
      holdPoint: 'no blister, no open edge, end dams closed; each fault repaired',
      uses: [
        lengths(itemsOf(catalog, 'strip')[0], 'termination strip', [run]),
        // along the strip, at both dams and in every lap
        bead(mastic, 'wall-sheet mastic', run + (sheets.length + 1) * needed, mastic?.bead ?? inches(0.375)),
      ],
    },
    {
      lay: layOf(context, wall, 2),
      action: [
        `${front.name}: set ${weeps} weeps in head joints right on the flashing, at most `,
        cut(mostOf(rules, 'throughWall.weeps')),
        ' apart, one at each end. Lay the first course of brick in a full bed; trim the tails once the joint is thumb-hard.',
      ],
      uses: [piecesOf(weep, 'weep', weeps)],
      wait: 'mortar thumb-hard before the tails are trimmed',
    },
  ];
  return lines.map((line): Step => ({
    lay: layOf(context, wall, 0),
    detail: front.id,
    stage: 'finish',
    pieces: [],
    people: 1,
    keys: KEYS,
    ...line,
  }));
}

type Sizes = Readonly<Record<'pieces' | 'lap' | 'weeps' | 'inflow' | 'capacity', number>>;

function panelOf(context: PlaneContext, headwall: FeatureOf<'headwall'>, wall: Wall, sizes: Sizes): FigurePanel {
  const { front } = wall;
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
          cut(wall.needed),
          ' (veneer ',
          cut(headwall.throughWall.veneer),
          ', cavity ',
          cut(headwall.throughWall.cavity),
          ', rise)',
        ],
        key: 'throughWall.rise',
      },
      { label: 'Sheet', value: [wall.product?.name ?? 'none wide enough in the catalog'] },
      {
        label: 'Lengths',
        value: [`${sizes.pieces} of `, mm(headwall.throughWall.pieceLength), ', laps ', cut(sizes.lap)],
        key: 'throughWall.endLap',
      },
      { label: 'Bed joint it lies in', value: [cut(wall.joint), ' above the roof'] },
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
