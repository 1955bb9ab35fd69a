import {
  type Assembly,
  type Cover,
  type EaveLayer,
  type Fastener,
  type Finding,
  type LayKey,
  type Piece,
  type Role,
  type Step,
  type Stretch,
  type Words,
  alongEave,
  alongRake,
  barrierAmongSheets,
  barrierFlap,
  barrierRow,
  barrierRowOverSheet,
  cut,
  cutRun,
  emptyAssembly,
  isAfterValleySheets,
  mm,
  onDeck,
  slitRow,
  underlaymentRow,
} from '../assembly/index.ts';
import { type ItemOf, type LengthMetal, chooseLengthMetal, chooseNail, chooseTape, itemById } from '../catalog/index.ts';
import {
  type Outline,
  type Point,
  type Span,
  bounds,
  intersectOutlines,
  mergeSpans,
  rectangle,
  spansAcross,
  subtractOutlines,
} from '../roof/index.ts';
import { type RuleKey, isRequired, leastOf, mostOf } from '../rules/index.ts';
import { type PlaneContext, type ValleySide, besideValley, onPlane, patchesRound, rakeStretches } from '../slope/index.ts';
import { LINE_TOLERANCE, inches, stepsToReach } from '../units/index.ts';
import { type BarrierExtent, barrierExtent, underlaymentRows } from './extent.ts';

/** Narrowest strip that seals the back edge of metal laid over a barrier: 2 in on each. */
const EDGE_SEAL = inches(4);

/** Eave metal past the corner where a valley comes down. */
const PAST_CORNER = inches(4);

/** Field underlayment and its fasteners stop this far short of a valley's centre; the sheet there reaches much farther. */
const VALLEY_FREE = inches(8);

/** Ice barrier along this plane's eave, or undefined where none is required. */
export function extentFor(context: Pick<PlaneContext, 'covering' | 'plane' | 'rules' | 'catalog'>): BarrierExtent | undefined {
  const { covering, plane, rules, catalog } = context;
  if (!isRequired(rules, 'iceBarrier.required')) return undefined;
  const product = itemById(catalog, 'iceBarrier', covering.underlayers.iceBarrier);
  return barrierExtent({
    pitch: plane.pitch,
    overhang: plane.overhang,
    wallThickness: plane.wallThickness,
    insideWall: leastOf(rules, 'iceBarrier.insideWall'),
    alongSlope: leastOf(rules, 'iceBarrier.alongSlope'),
    rollWidth: product.width,
    sideLap: leastOf(rules, 'iceBarrier.sideLap'),
    fold: covering.underlayers.eaveOrder === 'barrier-first' ? foldOf(context) : 0,
    top: plane.slope.length,
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
    findings: [
      ...parts.flatMap(({ findings }) => findings),
      // without a barrier there is nothing that could go first
      ...(barrier.pieces.length > 0 ? schoolFindings(context) : []),
    ],
  };
}

function deckStep(context: PlaneContext): Step {
  const { covering, surface } = context;
  const bare = surface.held === 'battens';
  return {
    lay: onDeck(context),
    detail: 'underlayers',
    stage: 'dry-in',
    action: bare
      ? ['Rafters sound and in line, old nails out; no deck: nobody treads between them.']
      : [
          'Deck sound, swept and dry; sheathing joints looked over, old nail holes covered. Sheathing ',
          cut(covering.deckThickness),
          '.',
        ],
    pieces: [],
    people: 1,
    caution: 'Tie off before anything else; frost, dew or dust: do not go up.',
    holdPoint: bare
      ? 'Rafters seen sound and in line before they are covered'
      : 'Deck seen sound, clean and dry before it is covered',
    keys: [],
  };
}

type EdgeMetal = { role: Role; mark: string; product: LengthMetal; rank: number; layer: EaveLayer | 'rake' };

/** An edge that metal runs along: from where to where, what a piece covers, and the line of its fasteners on the chart. */
type MetalEdge = {
  readonly run: Stretch;
  at(from: number, to: number, flange: number): Outline;
  /** Along the eave at this height, or up the slope at this distance from its left end. */
  readonly line: { readonly y: number } | { readonly x: number };
};

const flipped = (outline: Outline): Outline => outline.map(([x, y]): Point => [y, x]);

/** Places on a line across shapes, evenly between the ends of every stretch of it on them, an inch in and at most `spacing` apart. */
function evenlyOn(outlines: readonly Outline[], line: MetalEdge['line'], spacing: number): Point[] {
  const level = 'y' in line;
  const at = level ? line.y : line.x;
  const spans = mergeSpans(
    outlines.flatMap((outline) => spansAcross(level ? outline : flipped(outline), at)),
    LINE_TOLERANCE,
  );
  return spans.flatMap((span) => {
    const inset = Math.min(inches(1), (span[1] - span[0]) / 4);
    const run = span[1] - span[0] - 2 * inset;
    const gaps = Math.max(1, stepsToReach(run, spacing));
    return Array.from({ length: gaps + 1 }, (_, i): Point => {
      const along = span[0] + inset + (run * i) / gaps;
      return level ? [along, at] : [at, along];
    });
  });
}

/** Edge metal cut from stock along an eave or rake; fasteners at most the ruled spacing apart, half an inch in from the flange's edge. */
function edgePieces(context: PlaneContext, metal: EdgeMetal, { run, at, line }: MetalEdge, liesOn: readonly string[]) {
  const { rules, catalog, covering } = context;
  const lap = leastOf(rules, 'edgeMetal.lap');
  const spacing = mostOf(rules, 'edgeMetal.fastenerSpacing');
  const nail = chooseNail(catalog, 'roofing', leastOf(rules, 'nail.embedment'), covering.metal);
  const pieces: Piece[] = [];
  const fasteners: Fastener[] = [];
  cutRun(run.to - run.from, metal.product.length, lap).forEach((stretch, i) => {
    const mark = `${metal.mark}-${i + 1}`;
    pieces.push({
      mark,
      detail: 'underlayers',
      role: metal.role,
      product: metal.product.id,
      covers: onPlane(context.plane, at(run.from + stretch.from, run.from + stretch.to, metal.product.first)).map((outline) => ({
        facet: context.facet,
        outline,
        holds: ['open'],
      })),
      lay:
        metal.layer === 'rake'
          ? alongRake(context, metal.rank, run.from + stretch.from)
          : alongEave(context, metal.layer, metal.rank, run.from + stretch.from),
      liesOn: i === 0 ? liesOn : [`${metal.mark}-${i}`],
      cutLength: stretch.to - stretch.from,
      keys: ['edgeMetal.lap', 'edgeMetal.onDeck', 'edgeMetal.belowSheathing', 'edgeMetal.fastenerSpacing', 'flashing.thickness'],
    });
    if (!nail) return;
    // where a mitre or a valley cuts the piece back, its nails keep to what is left
    for (const place of evenlyOn(
      pieces.at(-1)!.covers.map(({ outline }) => outline),
      line,
      spacing,
    ))
      fasteners.push({
        piece: mark,
        facet: context.facet,
        at: place,
        product: nail.id,
        // its flat heads hold the metal down on the sheet: for the days before the covering they count like caps
        keptDry: 'cap',
      });
  });
  return { pieces, fasteners };
}

const EDGE_KEYS: RuleKey[] = ['edgeMetal.lap', 'edgeMetal.fastenerSpacing', 'edgeMetal.dripGap', 'eave.order'];

function planEaveMetal(context: PlaneContext): Assembly & { first: Piece[] } {
  const { covering, plane, catalog, rules } = context;
  if (!isRequired(rules, 'edgeMetal.required')) return { ...emptyAssembly, first: [] };
  const least = {
    first: leastOf(rules, 'edgeMetal.onDeck'),
    second: leastOf(rules, 'edgeMetal.belowSheathing'),
    thickness: leastOf(rules, 'flashing.thickness'),
  };
  const barrierFirst = covering.underlayers.eaveOrder === 'barrier-first' && isRequired(rules, 'iceBarrier.required');
  const gutter = covering.underlayers.gutter ? chooseLengthMetal(catalog, 'gutterApron', covering.metal, least) : undefined;
  const drip =
    !covering.underlayers.gutter || barrierFirst ? chooseLengthMetal(catalog, 'dripEdge', covering.metal, least) : undefined;
  const findings: Finding[] = [];
  if (covering.underlayers.gutter && !gutter) findings.push(noStock('gutter apron', covering.metal));
  if ((!covering.underlayers.gutter || barrierFirst) && !drip) findings.push(noStock('drip edge', covering.metal));
  // into the corner of a valley the metal runs on, cut to the slope
  const intoValley = (x: number): number =>
    context.valleys.some(({ low }) => Math.abs(low[0] - x) < 1 && Math.abs(low[1]) < 1) ? PAST_CORNER : 0;
  const eaves = plane.edges
    .filter(({ kind }) => kind === 'eave')
    .map(({ from, to }) => ({ from: from[0] - intoValley(from[0]), to: to[0] + intoValley(to[0]) }));
  if (eaves.length === 0) return { ...emptyAssembly, first: [] };
  const at = (a: number, b: number, flange: number): Outline => rectangle(a, 0, b, flange);
  const along = (metal: Omit<EdgeMetal, 'rank'>, liesOn: readonly string[]) => {
    const made = eaves.map((run, i) =>
      edgePieces(
        context,
        { ...metal, mark: `${metal.mark}${i === 0 ? '' : String.fromCharCode(97 + i)}`, rank: i },
        { run, at, line: { y: metal.product.first - inches(0.5) } },
        liesOn,
      ),
    );
    return { pieces: made.flatMap(({ pieces }) => pieces), fasteners: made.flatMap(({ fasteners }) => fasteners) };
  };
  const none = { pieces: [], fasteners: [] };
  const first = gutter
    ? along({ role: 'gutterApron', mark: 'GA', product: gutter, layer: 'on deck' }, [])
    : drip && !barrierFirst
      ? along({ role: 'dripEdge', mark: 'DE', product: drip, layer: 'on deck' }, [])
      : none;
  const over =
    barrierFirst && drip ? along({ role: 'dripEdge', mark: 'DE', product: drip, layer: overBarrier(context) }, ['IB1-1']) : none;
  const seal = drip && over.pieces.length > 0 ? edgeSeal(context, drip, over.pieces) : [];
  const steps: Step[] = [];
  if (first.pieces.length > 0) {
    const name = gutter ? 'Gutter apron' : 'Drip edge';
    steps.push({
      lay: alongEave(context, 'on deck'),
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
      lay: alongEave(context, overBarrier(context)),
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
      covers: onPlane(context.plane, rectangle(0, y0, context.plane.eaveLength, y0 + tape.width)).map((outline) => ({
        facet: context.facet,
        outline,
        holds: ['bonded'],
      })),
      lay: alongEave(context, overBarrier(context), 1),
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

/**
 * Strips of one row across the plane, cut round what stands on it; every second row starts half a strip short, so that end laps are staggered. Where
 * the slope is parted (by a cross gable) each part has strips of its own: none runs on under what parts it.
 */
function stripRow(
  context: PlaneContext,
  row: Stretch,
  index: number,
  roll: number,
  endLap: number,
  longest: number,
  off: readonly Outline[] = [],
): { outlines: Outline[]; from: number; to: number }[] {
  const top = Math.min(row.to, context.lines.end);
  const parts = onPlane(context.plane, rectangle(0, row.from, context.plane.eaveLength, top)).map(bounds);
  const stock = Math.min(roll, longest);
  return mergeSpans(parts.map(({ x0, x1 }): Span => [x0, x1])).flatMap(([start, end]) => {
    const first = index % 2 === 1 && end - start > stock ? stock / 2 : stock;
    return cutRun(end - start, stock, endLap, first).map((strip) => {
      const [from, to] = [start + strip.from, start + strip.to];
      const patches = patchesRound({ x0: from, x1: to, y0: row.from, y1: row.to }, context.blocks, 0);
      const outlines = patches.flatMap(({ x0, x1, y0, y1 }) => onPlane(context.plane, rectangle(x0, y0, x1, y1), off));
      return { from, to, outlines };
    });
  });
}

/**
 * Valleys whose line runs flatter than 45° on a slope: there the edge of the sheet would face uphill over the barrier and dam what runs down it, so the
 * barrier beside it is laid after the sheet, over it (trade practice: an edge within 45° of straight up the fall is a reverse lap).
 */
const flatValleys = ({ valleys }: PlaneContext): ValleySide[] =>
  valleys.filter(({ low, high }) => Math.abs(high[1] - low[1]) <= Math.abs(high[0] - low[0]));

const atEave = (height: number): boolean => height < 1;

const goesOverSheet = (context: PlaneContext): boolean =>
  flatValleys(context).some(({ low, acrossLow }) => atEave(low[1]) && atEave(acrossLow));

/** From where up a row of barrier laps over the sheets of valleys, and the place in the order of laying that this gives it. */
type OverSheets = { readonly from: number; readonly lay: LayKey };

/**
 * A row goes over the sheet of a flat valley from its foot up, and over the head of any that ends on the slope: the sheet's end faces uphill there.
 * Undefined where it lies under all sheets.
 */
function overSheets(context: PlaneContext, row: { readonly to: number }, r: number, along: number): OverSheets | undefined {
  const { valleys } = context;
  const flat = flatValleys(context);
  const within = (height: number): boolean => !atEave(height) && height < row.to;
  const places = [
    ...flat.map(({ low }) => low[1]).filter(within),
    ...valleys.map(({ high }) => high[1]).filter((height) => within(height) && height < context.lines.end - LINE_TOLERANCE),
  ];
  const hosted = valleys.filter(({ low }) => within(low[1])).map(({ low }) => low[1]);
  // beside a dormer whose valley begins within the barrier: in place up the slope, after the dormer's sheet
  if (hosted.length > 0 && places.length > 0)
    return { from: Math.min(...places), lay: barrierAmongSheets(context, Math.max(...hosted), r, along) };
  // on the dormer itself, after the slope below it has its sheets
  if (flat.some(({ low, acrossLow }) => atEave(low[1]) && !atEave(acrossLow)))
    return { from: Number.NEGATIVE_INFINITY, lay: barrierAmongSheets(context, undefined, r, along) };
  const lay = barrierRowOverSheet(context, r, along);
  if (goesOverSheet(context)) return { from: Number.NEGATIVE_INFINITY, lay };
  return places.length > 0 ? { from: Math.min(...places), lay } : undefined;
}

const barrierLay = (context: PlaneContext, row: { readonly to: number }, r: number, along: number): LayKey =>
  overSheets(context, row, r, along)?.lay ?? barrierRow(context, r, along);

/**
 * A strip that laps over a sheet only from some height up is slit level there: what is below is slid under the sheet. Above a pipe a flap of it is lifted
 * over the upper collar, whose edge would face uphill.
 */
function barrierCovers(context: PlaneContext, row: { readonly to: number }, r: number, along: number, outline: Outline): Cover[] {
  const cover = (part: Outline, lay?: LayKey): Cover => ({
    facet: context.facet,
    outline: part,
    holds: ['bonded'],
    ...(lay ? { lay } : {}),
  });
  const { x0, x1, y0, y1 } = bounds(outline);
  const part = (low: number, high: number): Outline[] =>
    low < high ? intersectOutlines(outline, rectangle(x0, low, x1, high)) : [];
  const from = overSheets(context, row, r, along)?.from ?? y0;
  if (from > y0)
    return [
      ...part(y0, Math.min(y1, from)).map((below) => cover(below, barrierRow(context, r, along))),
      ...part(from, y1).map((above) => cover(above)),
    ];
  const flaps = context.pierced.flatMap((hole) => {
    const at = bounds(hole);
    const slit = context.slits.find((one) => one.x0 < at.x0 && one.x1 > at.x1 && Math.abs(one.from - at.y0) < 1);
    return slit && at.y1 < y1 ? [{ outline: rectangle(slit.x0, at.y1, slit.x1, y1 + 1), from: slit.from }] : [];
  });
  return [
    ...subtractOutlines(outline, flaps.map((flap) => flap.outline)).map((rest) => cover(rest)), // prettier-ignore
    ...flaps.flatMap((flap) =>
      intersectOutlines(outline, flap.outline).map((lifted) => cover(lifted, barrierFlap(context, flap.from, r, along))),
    ),
  ];
}

const overBarrier = (context: PlaneContext): EaveLayer => (goesOverSheet(context) ? 'over barrier over sheet' : 'over barrier');

function planBarrier(context: PlaneContext, extent: BarrierExtent, metal: readonly Piece[]): Assembly {
  const { covering, catalog, rules, lines } = context;
  const product = itemById(catalog, 'iceBarrier', covering.underlayers.iceBarrier);
  const longest = covering.underlayers.longestStrip ?? product.rollLength;
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
    stripRow(context, { from: row.from, to: Math.min(row.to, lines.end) }, r, product.rollLength, endLap, longest).forEach(
      (strip, i) => {
        if (strip.outlines.length === 0) return;
        inRow.push({
          mark: `IB${r + 1}-${i + 1}`,
          detail: 'underlayers',
          role: 'iceBarrier',
          product: product.id,
          covers: strip.outlines.flatMap((outline) => barrierCovers(context, row, r, strip.from, outline)),
          lay: barrierLay(context, row, r, strip.from),
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
      },
    );
    if (inRow.length === 0) return;
    pieces.push(...inRow);
    steps.push({
      lay: barrierLay(context, row, r, 0),
      detail: 'underlayers',
      stage: 'dry-in',
      action: [
        `Ice barrier row ${r + 1} on the bare deck, `,
        ...(r === 0 && row.from < 0
          ? ['folded ', cut(-row.from), ' down over the deck edge']
          : r === 0
            ? [metal.length > 0 ? 'lower edge on the eave metal' : 'its lower end in the valley, over the sheet there']
            : ['lower edge at ', mm(row.from), ', lapped ', cut(extent.rows[r - 1]!.to - row.from)]),
        `: ${inRow.length} ${inRow.length === 1 ? 'strip' : 'strips, end laps '}`,
        ...(inRow.length === 1 ? [] : [cut(endLap), r % 2 === 1 ? ', staggered' : '']),
        '; upper edge at ',
        mm(Math.min(row.to, lines.end)),
        ...(isAfterValleySheets(barrierLay(context, row, r, 0))
          ? ['; over the valley sheet, whose edge would face uphill here']
          : []),
        ...(r === extent.rows.length - 1 ? extentWords(extent) : ['.']),
        ...(r === 0 ? [layingWords(context, product)] : []),
      ],
      pieces: inRow.map(({ mark }) => mark),
      people: inRow.some(({ cutLength }) => (cutLength ?? 0) > inches(180)) ? 2 : 1,
      caution: 'Release paper is slick: fold it, off the roof at once.',
      ...(r === extent.rows.length - 1
        ? { holdPoint: 'Barrier on bare deck, not on felt, far enough up: seen before it is covered' }
        : {}),
      keys: r === 0 ? [...keys, 'iceBarrier.laying', 'iceBarrier.uncovered'] : keys,
    });
  });
  return { ...emptyAssembly, pieces, steps, findings: pieces.length > 0 ? barrierFindings(context, extent, product) : [] };
}

/** How cold it may be, and how long it may lie open: by its maker and the rules. */
function layingWords({ rules }: PlaneContext, product: ItemOf<'iceBarrier'>): string {
  const celsius = Math.max(product.leastLayingCelsius, leastOf(rules, 'iceBarrier.laying'));
  const days = Math.min(product.daysUncovered, mostOf(rules, 'iceBarrier.uncovered') / MINUTES_A_DAY);
  return ` Deck dry, air and deck no colder than ${celsius} °C (${Math.round((celsius * 9) / 5 + 32)} °F); covered within ${days} days.`;
}

const MINUTES_A_DAY = 24 * 60;

/** How far the barrier must reach, and what measuring the level distance along the slope would lose. */
const extentWords = (extent: BarrierExtent): Words => [
  '. Needed: ',
  cut(extent.level),
  ' level, which is ',
  cut(extent.byLevel),
  ' along the slope; laid off as ',
  cut(extent.level),
  ' along the slope it would end ',
  cut(extent.shortfall),
  ' short.',
  ...(extent.needed > extent.byLevel + LINE_TOLERANCE
    ? [' At this pitch the least along the slope governs: ', cut(extent.needed), '.']
    : []),
];

function barrierFindings(context: PlaneContext, extent: BarrierExtent, product: ItemOf<'iceBarrier'>): Finding[] {
  const findings: Finding[] = [];
  if (extent.needed > context.lines.end) {
    findings.push({
      id: 'iceBarrier.past-ridge',
      severity: 'worth a look',
      sentence: [
        'The ice barrier would need ',
        mm(extent.needed),
        ' but the slope ends at ',
        mm(context.lines.end),
        ': the barrier covers the whole slope.',
      ],
      fix: ['Carry it over the ridge, and ask whether a sheet over the whole deck suits this roof: it is also a vapour barrier.'],
      piece: 'IB1-1',
      key: 'iceBarrier.insideWall',
    });
  }
  if (product.grade === 'standard' && context.covering.metal === 'copper') {
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
  const { covering, catalog, rules, lines, plane } = context;
  const product = itemById(catalog, 'underlayment', covering.underlayers.underlayment);
  const layers = leastOf(rules, 'underlayment.layers');
  const start = extent ? extent.covered - leastOf(rules, 'iceBarrier.sideLap') : 0;
  if (start >= lines.end) return emptyAssembly;
  const endLap = leastOf(rules, 'underlayment.endLap');
  const cap = chooseNail(catalog, 'cap', 0);
  const pieces: Piece[] = [];
  const fasteners: Fastener[] = [];
  // at a valley it laps on to the sheet there and leaves the trough free
  const off = context.valleys.map((valley) => besideValley(valley, VALLEY_FREE, VALLEY_FREE));
  const rows = underlaymentRows(start, lines.end, product.width, layers, rules);
  rows.forEach((row, r) => {
    stripRow(
      context,
      { from: row.from, to: Math.min(row.to, lines.end) },
      r,
      product.rollLength,
      endLap,
      product.rollLength,
      off,
    ).forEach((strip, i) => {
      if (strip.outlines.length === 0) return;
      const mark = `UL${r + 1}-${i + 1}`;
      pieces.push({
        mark,
        detail: 'underlayers',
        role: 'underlayment',
        product: product.id,
        covers: slitCovers(context, strip.outlines, r, strip.from),
        lay: underlaymentRow(context, r, strip.from),
        liesOn:
          r === 0
            ? under.map((piece) => piece.mark)
            : pieces.filter((piece) => piece.mark.startsWith(`UL${r}-`)).map((piece) => piece.mark),
        cutLength: strip.to - strip.from,
        keys: ['underlayment.layers', 'underlayment.sideLap', 'underlayment.endLap', 'underlayment.endLapStagger'],
      });
      if (cap) fasteners.push(...capFasteners(context, mark, row, strip.outlines, product, cap.id));
    });
  });
  const width = plane.eaveLength;
  const steps: Step[] = [
    {
      lay: underlaymentRow(context, 0, 0),
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
        ...(context.walls.some(({ partOf }) => partOf === undefined)
          ? [context.surface.held === 'deck' ? '; over the deck leg of the wall membrane' : '; over what is turned up the wall']
          : []),
        ...(context.slits.length > 0
          ? ['; slit at what stands on the slope: under the bottom strips below, over the side and top strips beside and above']
          : []),
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

/**
 * A sheet of underlayment slit in the columns of what stands on the slope: in each, what lies below a thing goes under its bottom strip,
 * what lies beside it and above over its side and top strips.
 */
function slitCovers(context: PlaneContext, outlines: readonly Outline[], row: number, along: number): Cover[] {
  const plain = (outline: Outline): Cover => ({ facet: context.facet, outline, holds: ['open'] });
  const { slits } = context;
  if (slits.length === 0) return outlines.map(plain);
  return outlines.flatMap((outline) => {
    const { x0, x1, y0, y1 } = bounds(outline);
    const xs = [x0, x1, ...slits.flatMap((slit) => [slit.x0, slit.x1])].filter((x) => x >= x0 && x <= x1).sort((a, b) => a - b);
    return xs.slice(1).flatMap((right, i): Cover[] => {
      const left = xs[i]!;
      if (right - left < LINE_TOLERANCE) return [];
      const levels = slits.filter((slit) => slit.x0 < right - 1 && slit.x1 > left + 1).map(({ from }) => from);
      if (levels.length === 0) return intersectOutlines(outline, rectangle(left, y0, right, y1)).map(plain);
      const edges = [Number.NEGATIVE_INFINITY, ...levels, Number.POSITIVE_INFINITY];
      return edges.slice(1).flatMap((top, l): Cover[] => {
        const [low, high] = [Math.max(y0, edges[l]!), Math.min(y1, top)];
        if (high - low < LINE_TOLERANCE) return [];
        const above = l === 0 ? undefined : edges[l]!;
        return intersectOutlines(outline, rectangle(left, low, right, high)).map((part) => ({
          ...plain(part),
          lay: slitRow(context, above, row, along),
        }));
      });
    });
  });
}

/** Cap fasteners by the product's two spacings: along the lower edge's lap, and once more along the middle of the sheet. */
function capFasteners(
  context: PlaneContext,
  mark: string,
  row: Stretch,
  outlines: readonly Outline[],
  product: ItemOf<'underlayment'>,
  cap: string,
): Fastener[] {
  const inset = inches(1);
  const top = Math.min(row.to, context.lines.end);
  return (
    [
      [row.from + inset, product.capsAlongLap],
      [(row.from + top) / 2, product.capsInField],
    ] as const
  ).flatMap(([y, spacing]) =>
    evenlyOn(outlines, { y }, spacing).map((at): Fastener => ({
      piece: mark,
      facet: context.facet,
      at,
      product: cap,
      keptDry: 'cap',
      daysSealed: product.daysUncovered,
    })),
  );
}

function planRakeMetal(context: PlaneContext, under: readonly Piece[]): Assembly {
  const { covering, catalog, rules } = context;
  if (!isRequired(rules, 'edgeMetal.required')) return emptyAssembly;
  const product = chooseLengthMetal(catalog, 'dripEdge', covering.metal, {
    first: leastOf(rules, 'edgeMetal.onDeck'),
    second: leastOf(rules, 'edgeMetal.belowSheathing'),
    thickness: leastOf(rules, 'flashing.thickness'),
  });
  const sides = (['left', 'right'] as const).flatMap((side) =>
    rakeStretches(context, side).map((stretch, i) => ({ side, ...stretch, i })),
  );
  if (sides.length === 0) return emptyAssembly;
  if (!product) return { ...emptyAssembly, findings: [noStock('drip edge', covering.metal)] };
  const made = sides.map(({ side, x: edge, from, to, i }) => {
    const inward = side === 'left' ? 1 : -1;
    return edgePieces(
      context,
      {
        role: 'rakeMetal',
        mark: `RM${side === 'left' ? 'L' : 'R'}${i === 0 ? '' : i + 1}`,
        product,
        rank: side === 'left' ? 0 : 1,
        layer: 'rake',
      },
      {
        run: { from, to },
        at: (a, b, flange) => rectangle(Math.min(edge, edge + inward * flange), a, Math.max(edge, edge + inward * flange), b),
        line: { x: edge + inward * (product.first - inches(0.5)) },
      },
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
        lay: alongRake(context),
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

function schoolFindings({ covering, rules }: PlaneContext): Finding[] {
  const order = rules.get('eave.order');
  const findings: Finding[] = [];
  if (order.status !== 'conflict' && !order.allowed?.includes(covering.underlayers.eaveOrder)) {
    findings.push({
      id: 'eave.order',
      severity: 'breaks a rule',
      sentence: [
        `The eave is laid ${SCHOOL[covering.underlayers.eaveOrder]}, but ${order.allowed?.map((school) => SCHOOL[school as keyof typeof SCHOOL] ?? school).join(' or ')} is what governs.`,
      ],
      fix: ['Change the order at the eave, or the product whose maker asks for it.'],
      piece: 'IB1-1',
      key: 'eave.order',
    });
  }
  return findings;
}

const SCHOOL = { 'metal-first': 'metal first', 'barrier-first': 'barrier first' } as const;
