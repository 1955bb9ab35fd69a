import {
  type Assembly,
  type Fastener,
  type Finding,
  type Piece,
  type Role,
  STAGE,
  type Step,
  type Words,
  cut,
  emptyAssembly,
  mm,
} from '../../assembly/index.ts';
import { type ItemOf, type LengthMetal, chooseLengthMetal, chooseNail, chooseTape, itemById } from '../../catalog/index.ts';
import { type Outline, rectangle } from '../../roof/index.ts';
import { type RuleKey, isRequired, leastOf, mostOf, requirement } from '../../rules/index.ts';
import { type Stretch, cutRun } from '../../takeoff/runs.ts';
import { inches, stepsToReach } from '../../units/index.ts';
import type { PlaneContext } from '../context.ts';
import { type Patch, patchesRound, rakeStretches } from '../covering/index.ts';
import { type BarrierExtent, barrierExtent, underlaymentRows } from './extent.ts';

/** Narrowest strip that seals the back edge of metal laid over a barrier: 2 in on each. */
const EDGE_SEAL = inches(4);

/** Ice barrier along this plane's eave, or undefined where none is required. */
export function extentFor(context: Pick<PlaneContext, 'job' | 'plane' | 'rules' | 'catalog'>): BarrierExtent | undefined {
  const { job, plane, rules, catalog } = context;
  if (!isRequired(rules, 'iceBarrier.required')) return undefined;
  const product = itemById(catalog, 'iceBarrier', job.underlayers.iceBarrier);
  return barrierExtent({
    pitch: plane.pitch,
    overhang: plane.overhang,
    wallThickness: plane.wallThickness,
    insideWall: leastOf(rules, 'iceBarrier.insideWall'),
    alongSlope: leastOf(rules, 'iceBarrier.alongSlope'),
    rollWidth: product.width,
    sideLap: leastOf(rules, 'iceBarrier.sideLap'),
    fold: job.underlayers.eaveOrder === 'barrier-first' ? foldOf(context) : 0,
  });
}

const foldOf = ({ rules }: Pick<PlaneContext, 'rules'>): number => leastOf(rules, 'iceBarrier.fold');

/**
 * Eave metal, ice barrier, underlayment and rake metal of one plane, in the order of the school chosen: metal first (the barrier laps
 * on to the metal) or barrier first (the barrier folds over the deck edge, metal on it, a narrow strip seals the metal's back edge).
 * Where a gutter hangs its apron goes in before the barrier in both.
 */
export function planUnderlayers(context: PlaneContext): Assembly {
  const extent = extentFor(context);
  const metal = planEaveMetal(context);
  const barrier = extent ? planBarrier(context, extent, metal.first) : emptyAssembly;
  const field = planUnderlayment(context, extent, barrier.pieces.length > 0 ? barrier.pieces : metal.first);
  const rake = planRakeMetal(context, field.pieces);
  const parts = [metal, barrier, field, rake];
  return {
    ...emptyAssembly,
    pieces: parts.flatMap(({ pieces }) => pieces),
    fasteners: parts.flatMap(({ fasteners }) => fasteners),
    zones: parts.flatMap(({ zones }) => zones),
    steps: [deckStep(context), ...parts.flatMap(({ steps }) => steps)],
    findings: [...parts.flatMap(({ findings }) => findings), ...schoolFindings(context)],
  };
}

function deckStep({ job }: PlaneContext): Step {
  return {
    lay: [STAGE.eaveMetal, 0, -1, 0],
    detail: 'underlayers',
    stage: 'dry-in',
    action: [
      'Deck sound, swept and dry; sheathing joints looked over, old nail holes covered. Sheathing ',
      cut(job.deckThickness),
      '.',
    ],
    pieces: [],
    people: 1,
    caution: 'Tie off before anything else; frost, dew or dust: do not go up.',
    holdPoint: 'Deck seen sound, clean and dry before it is covered',
    keys: [],
  };
}

type EdgeMetal = { role: Role; mark: string; product: LengthMetal; rank: number; stage: number };

/** Edge metal cut from stock along an eave or rake; fasteners at most the ruled spacing apart, half an inch in from the flange's edge. */
function edgePieces(
  context: PlaneContext,
  metal: EdgeMetal,
  run: Stretch,
  at: (a: number, b: number, flange: number) => Outline,
  spot: (along: number) => readonly [number, number],
  liesOn: readonly string[],
) {
  const { rules, catalog, job } = context;
  const lap = leastOf(rules, 'edgeMetal.lap');
  const spacing = mostOf(rules, 'edgeMetal.fastenerSpacing');
  const nail = chooseNail(catalog, 'roofing', leastOf(rules, 'nail.embedment'), job.metal);
  const pieces: Piece[] = [];
  const fasteners: Fastener[] = [];
  cutRun(run.to - run.from, metal.product.length, lap).forEach((stretch, i) => {
    const mark = `${metal.mark}-${i + 1}`;
    pieces.push({
      mark,
      detail: 'underlayers',
      role: metal.role,
      product: metal.product.id,
      covers: [
        {
          facet: context.facet,
          outline: at(run.from + stretch.from, run.from + stretch.to, metal.product.first),
          holds: ['open'],
        },
      ],
      lay: [metal.stage, 0, metal.rank, run.from + stretch.from],
      liesOn: i === 0 ? liesOn : [`${metal.mark}-${i}`],
      cutLength: stretch.to - stretch.from,
      keys: ['edgeMetal.lap', 'edgeMetal.onDeck', 'edgeMetal.belowSheathing', 'edgeMetal.fastenerSpacing', 'flashing.thickness'],
    });
    if (!nail) return;
    const inset = Math.min(inches(1), (stretch.to - stretch.from) / 4);
    const length = stretch.to - stretch.from - 2 * inset;
    const gaps = Math.max(1, stepsToReach(length, spacing));
    for (let j = 0; j <= gaps; j++) {
      fasteners.push({
        piece: mark,
        facet: context.facet,
        at: spot(run.from + stretch.from + inset + (length * j) / gaps),
        product: nail.id,
        // its flat heads hold the metal down on the sheet: for the days before the covering they count like caps
        keptDry: 'cap',
      });
    }
  });
  return { pieces, fasteners };
}

const EDGE_KEYS: RuleKey[] = ['edgeMetal.lap', 'edgeMetal.fastenerSpacing', 'edgeMetal.dripGap', 'eave.order'];

function planEaveMetal(context: PlaneContext): Assembly & { first: Piece[] } {
  const { job, plane, catalog, rules } = context;
  if (!isRequired(rules, 'edgeMetal.required')) return { ...emptyAssembly, first: [] };
  const least = {
    first: leastOf(rules, 'edgeMetal.onDeck'),
    second: leastOf(rules, 'edgeMetal.belowSheathing'),
    thickness: leastOf(rules, 'flashing.thickness'),
  };
  const barrierFirst = job.underlayers.eaveOrder === 'barrier-first' && isRequired(rules, 'iceBarrier.required');
  const gutter = job.underlayers.gutter ? chooseLengthMetal(catalog, 'gutterApron', job.metal, least) : undefined;
  const drip = !job.underlayers.gutter || barrierFirst ? chooseLengthMetal(catalog, 'dripEdge', job.metal, least) : undefined;
  const findings: Finding[] = [];
  if (job.underlayers.gutter && !gutter) findings.push(noStock('gutter apron', job.metal));
  if ((!job.underlayers.gutter || barrierFirst) && !drip) findings.push(noStock('drip edge', job.metal));
  const run = { from: 0, to: plane.eaveLength };
  const at = (a: number, b: number, flange: number): Outline => rectangle(a, 0, b, flange);
  const spot = (flange: number) => (along: number) => [along, flange - inches(0.5)] as const;
  const first = gutter
    ? edgePieces(
        context,
        { role: 'gutterApron', mark: 'GA', product: gutter, rank: 0, stage: STAGE.eaveMetal },
        run,
        at,
        spot(gutter.first),
        [],
      )
    : drip && !barrierFirst
      ? edgePieces(
          context,
          { role: 'dripEdge', mark: 'DE', product: drip, rank: 0, stage: STAGE.eaveMetal },
          run,
          at,
          spot(drip.first),
          [],
        )
      : { pieces: [], fasteners: [] };
  const over =
    barrierFirst && drip
      ? edgePieces(
          context,
          { role: 'dripEdge', mark: 'DE', product: drip, rank: 0, stage: STAGE.overBarrier },
          run,
          at,
          spot(drip.first),
          ['IB1-1'],
        )
      : { pieces: [], fasteners: [] };
  const seal = drip && over.pieces.length > 0 ? edgeSeal(context, drip, over.pieces) : [];
  const steps: Step[] = [];
  if (first.pieces.length > 0) {
    const name = gutter ? 'Gutter apron' : 'Drip edge';
    steps.push({
      lay: [STAGE.eaveMetal, 0, 0, 0],
      detail: 'underlayers',
      stage: 'dry-in',
      action: [
        `${name} along the eave, ${first.pieces.length} pieces lapped `,
        cut(leastOf(rules, 'edgeMetal.lap')),
        gutter
          ? '; its flange tight against the back of the gutter, brackets flush to it, not draped across them.'
          : '; its drip ',
        ...(gutter ? [] : [cut(leastOf(rules, 'edgeMetal.dripGap')), ' clear of the fascia.']),
      ],
      pieces: first.pieces.map(({ mark }) => mark),
      fasteners: [
        `${first.fasteners.length} nails, at most `,
        cut(mostOf(rules, 'edgeMetal.fastenerSpacing')),
        ' apart, high on the flange',
      ],
      people: 1,
      caution: 'Cut edges: gloves. Ladder tied, 3 ft past the eave.',
      keys: EDGE_KEYS,
    });
  }
  if (over.pieces.length > 0) {
    steps.push({
      lay: [STAGE.overBarrier, 0, 0, 0],
      detail: 'underlayers',
      stage: 'dry-in',
      action: [
        `Drip edge over the barrier, ${over.pieces.length} pieces lapped `,
        cut(leastOf(rules, 'edgeMetal.lap')),
        '; the sheet heals round its nails. A narrow strip seals its back edge.',
      ],
      pieces: [...over.pieces, ...seal].map(({ mark }) => mark),
      fasteners: [`${over.fasteners.length} nails, at most `, cut(mostOf(rules, 'edgeMetal.fastenerSpacing')), ' apart'],
      people: 1,
      caution: 'Cut edges: gloves.',
      keys: EDGE_KEYS,
    });
  }
  return {
    ...emptyAssembly,
    pieces: [...first.pieces, ...over.pieces, ...seal],
    fasteners: [...first.fasteners, ...over.fasteners],
    steps,
    findings,
    first: first.pieces,
  };
}

function edgeSeal(context: PlaneContext, drip: LengthMetal, under: readonly Piece[]): Piece[] {
  const tape = chooseTape(context.catalog, EDGE_SEAL);
  if (!tape) return [];
  const y0 = drip.first - tape.width / 2;
  return [
    {
      mark: 'ES',
      detail: 'underlayers',
      role: 'edgeSeal',
      product: tape.id,
      covers: [{ facet: context.facet, outline: rectangle(0, y0, context.plane.eaveLength, y0 + tape.width), holds: ['bonded'] }],
      lay: [STAGE.overBarrier, 0, 1, 0],
      liesOn: under.map(({ mark }) => mark),
      cutLength: context.plane.eaveLength,
      keys: ['eave.order'],
    },
  ];
}

const noStock = (what: string, metal: string): Finding => ({
  id: `stock.${what}`,
  severity: 'breaks a rule',
  sentence: [`The catalog has no ${what} in ${metal} that meets the rules for edge metal.`],
  fix: ['Choose another metal, or add the item to the catalog.'],
  key: 'edgeMetal.onDeck',
});

/** Strips of one row across the plane, cut round what stands on it; every second row starts half a strip short, so that end laps are staggered. */
function stripRow(
  context: PlaneContext,
  row: Stretch,
  index: number,
  roll: number,
  endLap: number,
  longest: number,
): { patches: Patch[]; from: number; to: number }[] {
  const width = context.plane.eaveLength;
  const stock = Math.min(roll, longest);
  const first = index % 2 === 1 && width > stock ? stock / 2 : stock;
  return cutRun(width, stock, endLap, first).map(({ from, to }) => ({
    from,
    to,
    patches: patchesRound({ x0: from, x1: to, y0: row.from, y1: row.to }, context.blocks, 0),
  }));
}

function planBarrier(context: PlaneContext, extent: BarrierExtent, metal: readonly Piece[]): Assembly {
  const { job, catalog, rules, layout } = context;
  const product = itemById(catalog, 'iceBarrier', job.underlayers.iceBarrier);
  const longest = job.underlayers.longestStrip ?? product.rollLength;
  const endLap = leastOf(rules, 'iceBarrier.endLap');
  const keys: RuleKey[] = [
    'iceBarrier.insideWall',
    'iceBarrier.alongSlope',
    'iceBarrier.sideLap',
    'iceBarrier.endLap',
    'eave.order',
  ];
  const pieces: Piece[] = [];
  const steps: Step[] = [];
  extent.rows.forEach((row, r) => {
    const inRow: Piece[] = [];
    stripRow(
      context,
      { from: row.from, to: Math.min(row.to, layout.slopeLength) },
      r,
      product.rollLength,
      endLap,
      longest,
    ).forEach((strip, i) => {
      if (strip.patches.length === 0) return;
      inRow.push({
        mark: `IB${r + 1}-${i + 1}`,
        detail: 'underlayers',
        role: 'iceBarrier',
        product: product.id,
        covers: strip.patches.map((patch) => ({
          facet: context.facet,
          outline: rectangle(patch.x0, patch.y0, patch.x1, patch.y1),
          holds: ['bonded'],
        })),
        lay: [STAGE.iceBarrier, r, 0, strip.from],
        liesOn: [
          ...(inRow.length > 0 ? [inRow.at(-1)!.mark] : []),
          ...(r > 0
            ? pieces.filter(({ mark }) => mark.startsWith(`IB${r}-`)).map(({ mark }) => mark)
            : metal.map(({ mark }) => mark)),
        ],
        cutLength: strip.to - strip.from,
        sealsNails: product.sealsNails,
        keys,
      });
    });
    pieces.push(...inRow);
    steps.push({
      lay: [STAGE.iceBarrier, r, 0, 0],
      detail: 'underlayers',
      stage: 'dry-in',
      action: [
        `Ice barrier row ${r + 1} on the bare deck, `,
        ...(r === 0 && row.from < 0
          ? ['folded ', cut(-row.from), ' down over the deck edge']
          : r === 0
            ? ['lower edge on the eave metal']
            : ['lower edge at ', mm(row.from), ', lapped ', cut(extent.rows[r - 1]!.to - row.from)]),
        `: ${inRow.length} ${inRow.length === 1 ? 'strip' : 'strips, end laps '}`,
        ...(inRow.length === 1 ? [] : [cut(endLap), r % 2 === 1 ? ', staggered' : '']),
        '; upper edge at ',
        mm(Math.min(row.to, layout.slopeLength)),
        ...(r === extent.rows.length - 1 ? extentWords(extent) : ['.']),
      ],
      pieces: inRow.map(({ mark }) => mark),
      people: inRow.some(({ cutLength }) => (cutLength ?? 0) > inches(180)) ? 2 : 1,
      caution: 'Release paper is slick: fold it, off the roof at once.',
      ...(r === extent.rows.length - 1
        ? { holdPoint: 'Barrier on bare deck, not on felt, far enough up: seen before it is covered' }
        : {}),
      keys,
    });
  });
  return { ...emptyAssembly, pieces, steps, findings: barrierFindings(context, extent, product) };
}

/** How far the barrier must reach, and what measuring the level distance along the slope would lose. */
const extentWords = (extent: BarrierExtent): Words => [
  '. Needed: ',
  cut(extent.level),
  ' level, which is ',
  cut(extent.needed),
  ' along the slope; laid off as ',
  cut(extent.level),
  ' along the slope it would end ',
  cut(extent.needed - extent.level),
  ' short.',
];

function barrierFindings(context: PlaneContext, extent: BarrierExtent, product: ItemOf<'iceBarrier'>): Finding[] {
  const findings: Finding[] = [];
  if (extent.needed > context.layout.slopeLength) {
    findings.push({
      id: 'iceBarrier.past-ridge',
      severity: 'worth a look',
      sentence: [
        'The ice barrier would need ',
        mm(extent.needed),
        ' but the slope ends at ',
        mm(context.layout.slopeLength),
        ': the barrier covers the whole slope.',
      ],
      fix: ['Carry it over the ridge, and ask whether a sheet over the whole deck suits this roof: it is also a vapour barrier.'],
      piece: 'IB1-1',
      key: 'iceBarrier.insideWall',
    });
  }
  if (product.grade === 'standard' && context.job.metal === 'copper') {
    findings.push({
      id: 'iceBarrier.grade',
      severity: 'worth a look',
      sentence: [
        `${product.name} is standard grade (to ${product.serviceCelsius} °C); copper in full sun asks for high-temperature sheet where the makers are silent.`,
      ],
      fix: ['Choose a high-temperature ice barrier.'],
      piece: 'IB1-1',
    });
  }
  return findings;
}

function planUnderlayment(context: PlaneContext, extent: BarrierExtent | undefined, under: readonly Piece[]): Assembly {
  const { job, catalog, rules, layout, plane } = context;
  const product = itemById(catalog, 'underlayment', job.underlayers.underlayment);
  const layers = leastOf(rules, 'underlayment.layers');
  const overBarrier = leastOf(rules, 'iceBarrier.sideLap');
  const start = extent ? extent.covered - overBarrier : 0;
  if (start >= layout.slopeLength) return emptyAssembly;
  const endLap = leastOf(rules, 'underlayment.endLap');
  const cap = chooseNail(catalog, 'cap', 0);
  const pieces: Piece[] = [];
  const fasteners: Fastener[] = [];
  const rows = underlaymentRows(start, layout.slopeLength, product.width, layers, rules);
  rows.forEach((row, r) => {
    stripRow(context, row, r, product.rollLength, endLap, product.rollLength).forEach((strip, i) => {
      if (strip.patches.length === 0) return;
      const mark = `UL${r + 1}-${i + 1}`;
      pieces.push({
        mark,
        detail: 'underlayers',
        role: 'underlayment',
        product: product.id,
        covers: strip.patches.map((patch) => ({
          facet: context.facet,
          outline: rectangle(patch.x0, patch.y0, patch.x1, patch.y1),
          holds: ['open'],
        })),
        lay: [STAGE.underlayment, r, 0, strip.from],
        liesOn:
          r === 0
            ? under.map((piece) => piece.mark)
            : pieces.filter((piece) => piece.mark.startsWith(`UL${r}-`)).map((piece) => piece.mark),
        cutLength: strip.to - strip.from,
        keys: ['underlayment.layers', 'underlayment.sideLap', 'underlayment.endLap', 'underlayment.endLapStagger'],
      });
      if (cap) fasteners.push(...capFasteners(context, mark, strip.patches, product, cap.id));
    });
  });
  const width = plane.eaveLength;
  const steps: Step[] = [
    {
      lay: [STAGE.underlayment, 0, 0, 0],
      detail: 'underlayers',
      stage: 'dry-in',
      action: [
        `${product.name}, ${layers >= 2 ? 'two layers (low pitch)' : 'one layer'}, ${rows.length} rows from `,
        mm(start),
        ' to the top; side laps ',
        cut(
          layers >= 2
            ? Math.max(leastOf(rules, 'underlayment.sideLap'), product.width / 2)
            : leastOf(rules, 'underlayment.sideLap'),
        ),
        ...(width > product.rollLength
          ? [
              ', end laps ',
              cut(endLap),
              ' and at least ',
              mm(leastOf(rules, 'underlayment.endLapStagger')),
              ' apart from row to row',
            ]
          : []),
        ...(context.walls.length > 0 ? ['; over the deck leg of the wall membrane'] : []),
        '.',
      ],
      pieces: pieces.map(({ mark }) => mark),
      fasteners: [`${fasteners.length} cap-headed fasteners; no staples`],
      people: 2,
      caution: 'Wind and sheets: fasten as you unroll.',
      keys: ['underlayment.layers', 'underlayment.sideLap', 'underlayment.endLap'],
    },
  ];
  return { ...emptyAssembly, pieces, fasteners, steps };
}

/** Cap fasteners by the product's two spacings: along the lower edge's lap, and once more along the middle of the sheet. */
function capFasteners(
  context: PlaneContext,
  mark: string,
  patches: readonly Patch[],
  product: ItemOf<'underlayment'>,
  cap: string,
): Fastener[] {
  const inset = inches(1);
  return patches.flatMap((patch) =>
    (
      [
        [patch.y0 + inset, product.capsAlongLap],
        [(patch.y0 + patch.y1) / 2, product.capsInField],
      ] as const
    ).flatMap(([y, spacing]) => {
      const run = patch.x1 - patch.x0 - 2 * inset;
      if (run <= 0 || y >= patch.y1) return [];
      const gaps = Math.max(1, stepsToReach(run, spacing));
      return Array.from({ length: gaps + 1 }, (_, i): Fastener => ({
        piece: mark,
        facet: context.facet,
        at: [patch.x0 + inset + (run * i) / gaps, y],
        product: cap,
        keptDry: 'cap',
      }));
    }),
  );
}

function planRakeMetal(context: PlaneContext, under: readonly Piece[]): Assembly {
  const { job, catalog, rules, plane } = context;
  if (!isRequired(rules, 'edgeMetal.required')) return emptyAssembly;
  const product = chooseLengthMetal(catalog, 'dripEdge', job.metal, {
    first: leastOf(rules, 'edgeMetal.onDeck'),
    second: leastOf(rules, 'edgeMetal.belowSheathing'),
    thickness: leastOf(rules, 'flashing.thickness'),
  });
  const sides = (['left', 'right'] as const).flatMap((side) =>
    rakeStretches(context, side).map(([from, to], i) => ({ side, from, to, i })),
  );
  if (sides.length === 0) return emptyAssembly;
  if (!product) return { ...emptyAssembly, findings: [noStock('drip edge', job.metal)] };
  const made = sides.map(({ side, from, to, i }) => {
    const edge = side === 'left' ? 0 : plane.eaveLength;
    const inward = side === 'left' ? 1 : -1;
    return edgePieces(
      context,
      {
        role: 'rakeMetal',
        mark: `RM${side === 'left' ? 'L' : 'R'}${i === 0 ? '' : i + 1}`,
        product,
        rank: side === 'left' ? 0 : 1,
        stage: STAGE.rakeMetal,
      },
      { from, to },
      (a, b, flange) => rectangle(Math.min(edge, edge + inward * flange), a, Math.max(edge, edge + inward * flange), b),
      (along) => [edge + inward * (product.first - inches(0.5)), along],
      under.map(({ mark }) => mark),
    );
  });
  const pieces = made.flatMap((part) => part.pieces);
  const fasteners = made.flatMap((part) => part.fasteners);
  return {
    ...emptyAssembly,
    pieces,
    fasteners,
    steps: [
      {
        lay: [STAGE.rakeMetal, 0, 0, 0],
        detail: 'underlayers',
        stage: 'dry-in',
        action: [
          `Rake metal over the underlayment, from the eave up: ${pieces.length} ${pieces.length === 1 ? 'piece' : 'pieces'}, upper over lower, lapped `,
          cut(leastOf(rules, 'edgeMetal.lap')),
          '.',
        ],
        pieces: pieces.map(({ mark }) => mark),
        fasteners: [`${fasteners.length} nails, at most `, cut(mostOf(rules, 'edgeMetal.fastenerSpacing')), ' apart'],
        people: 1,
        caution: 'Rake edge: tie off.',
        keys: EDGE_KEYS,
      },
    ],
  };
}

function schoolFindings({ job, rules }: PlaneContext): Finding[] {
  const order = requirement(rules, 'eave.order');
  const findings: Finding[] = [];
  if (order.status !== 'conflict' && !order.allowed?.includes(job.underlayers.eaveOrder)) {
    findings.push({
      id: 'eave.order',
      severity: 'breaks a rule',
      sentence: [
        `The eave is laid ${SCHOOL[job.underlayers.eaveOrder]}, but ${order.allowed?.map((school) => SCHOOL[school as keyof typeof SCHOOL] ?? school).join(' or ')} is what governs.`,
      ],
      fix: ['Change the order at the eave, or the product whose maker asks for it.'],
      piece: 'IB1-1',
      key: 'eave.order',
    });
  }
  return findings;
}

const SCHOOL = { 'metal-first': 'metal first', 'barrier-first': 'barrier first' } as const;
