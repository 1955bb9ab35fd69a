import {
  type Assembly,
  type Cover,
  type Fastener,
  type Piece,
  type Step,
  type Stretch,
  cut,
  emptyAssembly,
  evenlyOn,
  laid,
  mm,
  slitRow,
  underlaymentRow,
} from '../assembly/index.ts';
import { type ItemOf, chooseNail, itemById } from '../catalog/index.ts';
import { type Outline, bounds, intersectOutlines, rectangle } from '../roof/index.ts';
import { leastOf } from '../rules/index.ts';
import { type PlaneContext, besideValley } from '../slope/index.ts';
import { LINE_TOLERANCE, countWhile, inches } from '../units/index.ts';
import { type BarrierExtent, underlaymentRows } from './extent.ts';
import { stripRow } from './strips.ts';

/** Field underlayment and its fasteners stop this far short of a valley's centre; the sheet there reaches much farther. */
const VALLEY_FREE = inches(8);

export function planUnderlayment(context: PlaneContext, extent: BarrierExtent | undefined, under: readonly Piece[]): Assembly {
  const { covering, catalog, rules, lines, plane } = context;
  const product = itemById(catalog, 'underlayment', covering.underlayers.underlayment);
  const layers = leastOf(rules, 'underlayment.layers');
  const start = extent ? extent.covered - leastOf(rules, 'iceBarrier.sideLap') : 0;
  if (start >= lines.end) return emptyAssembly;
  const endLap = leastOf(rules, 'underlayment.endLap');
  const cap = chooseNail(catalog, 'cap', 0);
  const pieces: Piece[] = [];
  const fasteners: Fastener[] = [];
  const columns = columnsOf(context);
  // at a valley it laps on to the sheet there and leaves the trough free
  const off = context.valleys.map((valley) => besideValley(valley, VALLEY_FREE, VALLEY_FREE));
  const rows = underlaymentRows(start, lines.end, product.width, layers, rules);
  // rows that begin below the foot of a thing are laid before it is wrapped, those above after
  const feet = [...new Set(context.slits.map(({ from }) => from))];
  const groupOf = (row: Stretch): number => countWhile(feet, (foot) => foot < row.from + LINE_TOLERANCE);
  const groups = new Map(
    rows.map((row) => [groupOf(row), { rows: [] as { row: Stretch; i: number }[], pieces: [] as Piece[], caps: 0 }]),
  );
  let below = under.map(({ mark }) => mark);
  rows.forEach((row, r) => {
    const group = groups.get(groupOf(row))!;
    group.rows.push({ row, i: r });
    const inRow: string[] = [];
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
      const piece: Piece = {
        mark,
        detail: 'underlayers',
        role: 'underlayment',
        product: product.id,
        covers: slitCovers(context, columns, strip.outlines, r, strip.from),
        lay: groups.size > 1 ? slitRow(context, feet[groupOf(row) - 1], r, strip.from) : underlaymentRow(context, r, strip.from),
        liesOn: below,
        cutLength: strip.to - strip.from,
        keys: ['underlayment.layers', 'underlayment.sideLap', 'underlayment.endLap', 'underlayment.endLapStagger'],
      };
      pieces.push(piece);
      group.pieces.push(piece);
      inRow.push(mark);
      if (!cap) return;
      const caps = capFasteners(context, mark, row, strip.outlines, product, cap.id);
      fasteners.push(...caps);
      group.caps += caps.length;
    });
    below = inRow;
  });
  if (pieces.length === 0) return emptyAssembly;
  const sideLap = leastOf(rules, 'underlayment.sideLap');
  const steps = [...groups.values()].flatMap(({ rows: mine, pieces: own, caps }, g): Step[] => {
    const [first, last] = [mine[0]!, mine.at(-1)!];
    if (own.length === 0) return [];
    // what it runs on past: its lower part goes under the wrap that comes next
    const above = feet[countWhile(feet, (foot) => foot <= first.row.from + LINE_TOLERANCE)];
    const next = above !== undefined && above < last.row.to - LINE_TOLERANCE ? above : undefined;
    const which =
      groups.size === 1
        ? `${rows.length} ${rows.length === 1 ? 'row' : 'rows'}`
        : first === last
          ? `row ${first.i + 1}`
          : `rows ${first.i + 1} to ${last.i + 1}`;
    const isFirst = g === 0;
    return [
      laid(own, {
        stage: 'dry-in',
        action: [
          `Unroll ${product.name}, ${layers >= 2 ? 'two layers (low pitch)' : 'one layer'}, ${which} from `,
          mm(first.row.from),
          ...(last.row.to >= lines.end - LINE_TOLERANCE ? [' to the top'] : [' to ', mm(last.row.to)]),
          '; side laps ',
          cut(layers >= 2 ? Math.max(sideLap, product.width / 2) : sideLap),
          ...(plane.eaveLength > product.rollLength
            ? [
                ', end laps ',
                cut(endLap),
                ' and at least ',
                mm(leastOf(rules, 'underlayment.endLapStagger')),
                ' apart from row to row',
              ]
            : []),
          ...(isFirst && context.walls.some(({ partOf }) => partOf === undefined)
            ? [
                context.surface.bearing === 'deck'
                  ? '; lap it on the wall membrane’s deck leg'
                  : '; lap it on what is turned up the wall',
              ]
            : []),
          ...(isFirst ? [] : ['; over the side and top strips']),
          ...(next === undefined
            ? []
            : ['. Slit it at what stands from ', mm(next), ': bottom strip over it, loose beside for the side strips']),
          '.',
        ],
        fasteners: [`${caps} cap-headed fasteners along the laps and in the field; no staples`],
        people: 2,
        caution: 'Wind and sheets: fasten as you unroll.',
        keys: ['underlayment.layers', 'underlayment.sideLap', 'underlayment.endLap'],
      }),
    ];
  });
  return { ...emptyAssembly, pieces, fasteners, steps };
}

/** A column of what stands on the slope, and where each thing in it begins, from the eave up. */
type Column = { readonly left: number; readonly right: number; readonly feet: readonly number[] };

/** The slope in columns, left to right, parted wherever a thing that stands on it begins or ends; found once for all its rows. */
function columnsOf({ slits }: PlaneContext): Column[] {
  const ends = [...new Set(slits.flatMap(({ x0, x1 }) => [x0, x1]))].sort((a, b) => a - b);
  const xs = [Number.NEGATIVE_INFINITY, ...ends, Number.POSITIVE_INFINITY];
  const columns = xs.slice(1).map((right, i) => ({ left: xs[i]!, right, feet: [] as number[] }));
  for (const { x0, x1, from } of slits)
    for (let i = countWhile(columns, ({ right }) => right <= x0 + 1); i < columns.length && columns[i]!.left < x1 - 1; i++)
      columns[i]!.feet.push(from);
  return columns;
}

/**
 * A sheet of underlayment slit in the columns of what stands on the slope: in each, what lies below a thing goes under its bottom strip,
 * what lies beside it and above over its side and top strips.
 */
function slitCovers(
  context: PlaneContext,
  columns: readonly Column[],
  outlines: readonly Outline[],
  row: number,
  along: number,
): Cover[] {
  const plain = (outline: Outline): Cover => ({ facet: context.facet, outline, holds: ['open'] });
  if (context.slits.length === 0) return outlines.map(plain);
  return outlines.flatMap((outline) => {
    const { x0, x1, y0, y1 } = bounds(outline);
    const near = columns.slice(
      countWhile(columns, (column) => column.right <= x0),
      countWhile(columns, (column) => column.left < x1),
    );
    return near.flatMap((column): Cover[] => {
      const [left, right] = [Math.max(column.left, x0), Math.min(column.right, x1)];
      if (right - left < LINE_TOLERANCE) return [];
      const { feet } = column;
      if (feet.length === 0) return intersectOutlines(outline, rectangle(left, y0, right, y1)).map(plain);
      const under = countWhile(feet, (foot) => foot <= y0);
      const below = feet[under - 1];
      const edges = [
        y0,
        ...feet.slice(
          under,
          countWhile(feet, (foot) => foot < y1),
        ),
        y1,
      ];
      return edges.slice(1).flatMap((high, l): Cover[] => {
        const low = edges[l]!;
        if (high - low < LINE_TOLERANCE) return [];
        const above = l === 0 ? below : low;
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
