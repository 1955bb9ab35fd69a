import {
  type Assembly,
  type Cover,
  type EaveLayer,
  type Finding,
  type LayKey,
  type Piece,
  type Step,
  type Words,
  barrierAmongSheets,
  barrierFlap,
  barrierRow,
  barrierRowOverSheet,
  cut,
  emptyAssembly,
  isAfterValleySheets,
  laid,
  mm,
} from '../assembly/index.ts';
import { type ItemOf, itemById } from '../catalog/index.ts';
import { type Outline, bounds, intersectOutlines, rectangle, subtractOutlines } from '../roof/index.ts';
import { type RuleKey, isRequired, leastOf, mostOf } from '../rules/index.ts';
import type { PlaneContext, ValleySide } from '../slope/index.ts';
import { LINE_TOLERANCE, countWhile, inches } from '../units/index.ts';
import { type BarrierExtent, barrierExtent } from './extent.ts';
import { stripRow } from './strips.ts';

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

/** The collar of what comes through the deck: top of its hole, and the slit its flap is lifted in. */
type Collar = { readonly top: number; readonly slit: PlaneContext['slits'][number] };

/** The collars that stand below a height up the slope. */
function collarsBelow({ pierced, slits }: PlaneContext, height: number): Collar[] {
  return pierced
    .map(bounds)
    .filter(({ y1 }) => y1 < height)
    .flatMap(({ x0, x1, y0, y1 }) => {
      const slit = slits
        .slice(countWhile(slits, ({ from }) => from <= y0 - 1))
        .find((one) => one.from >= y0 + 1 || (one.x0 < x0 && one.x1 > x1));
      return slit && slit.from < y0 + 1 ? [{ top: y1, slit }] : [];
    });
}

/**
 * A strip that laps over a sheet only from some height up is slit level there: what is below is slid under the sheet. Above a pipe a flap of it is lifted
 * over the upper collar, whose edge would face uphill.
 */
function barrierCovers(
  context: PlaneContext,
  collars: readonly Collar[],
  row: { readonly to: number },
  r: number,
  along: number,
  outline: Outline,
): Cover[] {
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
  const flaps = collars
    .filter(({ top }) => top < y1)
    .map(({ top, slit }) => ({ outline: rectangle(slit.x0, top, slit.x1, y1 + 1), from: slit.from }));
  return [
    ...subtractOutlines(outline, flaps.map((flap) => flap.outline)).map((rest) => cover(rest)), // prettier-ignore
    ...flaps.flatMap((flap) =>
      intersectOutlines(outline, flap.outline).map((lifted) => cover(lifted, barrierFlap(context, flap.from, r, along))),
    ),
  ];
}

export const overBarrier = (context: PlaneContext): EaveLayer =>
  goesOverSheet(context) ? 'over barrier over sheet' : 'over barrier';

export function planBarrier(context: PlaneContext, extent: BarrierExtent, metal: readonly Piece[]): Assembly {
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
  const collars = collarsBelow(context, extent.covered);
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
          covers: strip.outlines.flatMap((outline) => barrierCovers(context, collars, row, r, strip.from, outline)),
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
    steps.push(
      laid(inRow, {
        stage: 'dry-in',
        action: [
          `Lay ice barrier row ${r + 1} on the bare deck, `,
          ...(r === 0 && row.from < 0
            ? ['folded ', cut(-row.from), ' down over the deck edge']
            : r === 0
              ? [metal.length > 0 ? 'lower edge on the eave metal' : 'its lower end in the valley, over the sheet there']
              : ['lower edge at ', mm(row.from), ', lapped ', cut(extent.rows[r - 1]!.to - row.from)]),
          `: ${inRow.length} ${inRow.length === 1 ? 'strip' : 'strips, end laps '}`,
          ...(inRow.length === 1 ? [] : [cut(endLap), r % 2 === 1 ? ', staggered' : '']),
          '; upper edge at ',
          mm(Math.min(row.to, lines.end)),
          isAfterValleySheets(barrierLay(context, row, r, 0)) ? '; over the valley sheet.' : '.',
          ...(r === extent.rows.length - 1 ? extentWords(extent) : []),
          ...(r === 0 ? [layingWords(context, product)] : []),
        ],
        people: inRow.some(({ cutLength }) => (cutLength ?? 0) > inches(180)) ? 2 : 1,
        caution: 'Release paper is slick: fold it, off the roof at once.',
        ...(r === extent.rows.length - 1 ? { holdPoint: 'barrier on bare deck, not on felt, far enough up' } : {}),
        keys: r === 0 ? [...keys, 'iceBarrier.laying', 'iceBarrier.uncovered'] : keys,
      }),
    );
  });
  return { ...emptyAssembly, pieces, steps, findings: pieces.length > 0 ? barrierFindings(context, extent, product) : [] };
}

/** How cold it may be, and how long it may lie open: by its maker and the rules. */
function layingWords({ rules }: PlaneContext, product: ItemOf<'iceBarrier'>): string {
  const celsius = Math.max(product.leastLayingCelsius, leastOf(rules, 'iceBarrier.laying'));
  const days = Math.min(product.daysUncovered, mostOf(rules, 'iceBarrier.uncovered') / MINUTES_A_DAY);
  return ` Not below ${celsius} °C (${Math.round((celsius * 9) / 5 + 32)} °F), deck dry; cover it within ${days} days.`;
}

const MINUTES_A_DAY = 24 * 60;

/** How far the barrier must reach, and what measuring the level distance along the slope would lose. */
const extentWords = (extent: BarrierExtent): Words => [
  ' Needed: ',
  cut(extent.needed),
  ' along the slope, ',
  cut(extent.level),
  ' level.',
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
