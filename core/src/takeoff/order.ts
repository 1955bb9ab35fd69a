import type { Assembly, Extra, Piece } from '../assembly/index.ts';
import type { Catalog, Item } from '../catalog/index.ts';
import { stepsToReach } from '../units/index.ts';
import { bounds } from '../roof/index.ts';
import { packCuts } from './packCuts.ts';
import { type Blank, packSheets } from './packSheets.ts';

/** One product to order. */
export type OrderLine = {
  readonly product: string;
  readonly name: string;
  readonly maker: string;
  /** What the plan needs, in `unit`. */
  readonly needed: number;
  readonly unit: 'pieces' | 'lengths' | 'rolls' | 'sheets';
  readonly packages: number;
  readonly package: string;
  readonly perPackage: number;
  /** Whole pieces or lengths left over once the plan is built. */
  readonly leftPieces?: number;
  /** Offcuts of lengths and rolls, millimetres in all. */
  readonly leftLength?: number;
  /** Fewest stock pieces any cutting could do with, where stock is cut. */
  readonly bound?: number;
  /** What it is for, by detail. */
  readonly uses: readonly { readonly detail: string; readonly count: number }[];
};

/**
 * The order list by product and package size. Everything is counted from the plan: metal and sheet are cut from their stock lengths,
 * whole shingles and the parts cut for the ends are packed into shingles, nails are counted one by one.
 */
export function listOrder(assembly: Assembly, catalog: Catalog): OrderLine[] {
  const byProduct = new Map<string, { pieces: Piece[]; fasteners: Map<string, number> }>();
  const entry = (product: string) => {
    const found = byProduct.get(product) ?? { pieces: [], fasteners: new Map<string, number>() };
    byProduct.set(product, found);
    return found;
  };
  const detailOf = new Map(assembly.pieces.map((piece) => [piece.mark, piece.detail]));
  for (const piece of assembly.pieces) if (piece.product !== undefined) entry(piece.product).pieces.push(piece);
  for (const fastener of assembly.fasteners) {
    const counts = entry(fastener.product).fasteners;
    const detail = detailOf.get(fastener.piece) ?? fastener.piece;
    counts.set(detail, (counts.get(detail) ?? 0) + 1);
  }
  const extras = new Map<string, Extra[]>();
  for (const extra of assembly.extras) extras.set(extra.product, [...(extras.get(extra.product) ?? []), extra]);
  return catalog.items.flatMap((item) => {
    const wanted = byProduct.get(item.id);
    const more = extras.get(item.id) ?? [];
    if (!wanted && more.length === 0) return [];
    return [orderLine(item, wanted?.pieces ?? [], wanted?.fasteners ?? new Map(), more)];
  });
}

type Quantity = Pick<
  OrderLine,
  'needed' | 'unit' | 'packages' | 'package' | 'perPackage' | 'leftPieces' | 'leftLength' | 'bound'
>;

function orderLine(
  item: Item,
  pieces: readonly Piece[],
  fasteners: ReadonlyMap<string, number>,
  extras: readonly Extra[],
): OrderLine {
  const uses = new Map(fasteners);
  for (const { detail, count } of extras) uses.set(detail, (uses.get(detail) ?? 0) + (count ?? 1));
  for (const { detail } of pieces) uses.set(detail, (uses.get(detail) ?? 0) + 1);
  return {
    product: item.id,
    name: item.name,
    maker: item.maker,
    ...quantity(item, pieces, fasteners, extras),
    uses: [...uses].map(([detail, count]) => ({ detail, count })),
  };
}

function quantity(
  item: Item,
  pieces: readonly Piece[],
  fasteners: ReadonlyMap<string, number>,
  extras: readonly Extra[],
): Quantity {
  switch (item.kind) {
    case 'shingle':
    case 'starter':
    case 'ridgeCap':
      return packaged(countUnits(pieces, item.kind === 'ridgeCap' ? Number.POSITIVE_INFINITY : item.width), item);
    case 'stepFlashing':
    case 'kickOut':
    case 'boot':
      return packaged({ needed: pieces.length }, item);
    case 'skylightKit':
    case 'weep':
      return packaged({ needed: extras.reduce((sum, { count }) => sum + (count ?? 0), 0) }, item);
    case 'cleat':
    case 'screw':
    case 'nail':
      return packaged({ needed: [...fasteners.values()].reduce((sum, count) => sum + count, 0) }, item);
    case 'dripEdge':
    case 'gutterApron':
    case 'apron':
    case 'reglet':
    case 'valleyMetal':
    case 'strip': {
      const packing = packCuts(
        [...lengthsOf(pieces), ...extras.flatMap(({ length }) => cutsOf(length ?? 0, item.length))],
        item.length,
      );
      return {
        ...packaged({ needed: packing.bins.length, bound: packing.bound }, item),
        unit: 'lengths',
        leftLength: packing.waste,
      };
    }
    case 'flatSheet': {
      const packing = packSheets(pieces.flatMap(blanksOf), item);
      return { ...packaged({ needed: packing.sheets, bound: packing.bound }, item), unit: 'sheets' };
    }
    case 'iceBarrier':
      return rolls(
        // a strip half a roll wide takes half its length of roll
        pieces.map((piece) => (piece.cutLength ?? 0) * (isHalfWide(piece, item.width) ? 0.5 : 1)),
        item.rollLength,
      );
    case 'underlayment':
    case 'wallFlashing':
    case 'tape':
      return rolls(lengthsOf(pieces), item.rollLength);
    case 'sealant':
      return { needed: 0, unit: 'pieces', packages: 0, package: 'tube', perPackage: 1 };
  }
}

/** A run without laps in stock lengths. */
const cutsOf = (run: number, stock: number): number[] => [
  ...Array.from({ length: Math.floor(run / stock) }, () => stock),
  ...(run % stock > 1 ? [run % stock] : []),
];

/** The rectangle round a flat pattern, twice where it is cut as two halves. */
function blanksOf({ flat, halves }: Piece): Blank[] {
  if (!flat) return [];
  const { x0, x1, y0, y1 } = bounds(flat.outline);
  return Array.from({ length: halves ?? 1 }, () => ({ width: x1 - x0, length: y1 - y0 }));
}

const lengthsOf = (pieces: readonly Piece[]): number[] => pieces.map(({ cutLength }) => cutLength ?? 0);

/** A strip cut from half a roll: its other half gives another one. */
const isHalfWide = ({ sheetWidth }: Piece, rollWidth: number): boolean =>
  sheetWidth !== undefined && sheetWidth <= rollWidth / 2 + 1e-6;

function rolls(lengths: readonly number[], rollLength: number): Quantity {
  const packing = packCuts(lengths, rollLength);
  return {
    needed: packing.bins.length,
    unit: 'rolls',
    packages: packing.bins.length,
    package: 'roll',
    perPackage: 1,
    leftLength: packing.waste,
    bound: packing.bound,
  };
}

function packaged(count: { needed: number; bound?: number }, item: { perPackage: number; package: string }): Quantity {
  const packages = stepsToReach(count.needed, item.perPackage);
  return {
    ...count,
    unit: 'pieces',
    packages,
    package: item.package,
    perPackage: item.perPackage,
    leftPieces: packages * item.perPackage - count.needed,
  };
}

/** Whole units and the parts cut from further ones, offcuts used where they fit. */
function countUnits(pieces: readonly Piece[], width: number): { needed: number; bound?: number } {
  const whole = pieces.reduce((sum, { units }) => sum + (units?.whole ?? 0), 0);
  const parts = pieces.flatMap(({ units }) => units?.parts ?? []);
  if (parts.length === 0) return { needed: whole };
  const packing = packCuts(parts, width);
  return { needed: whole + packing.bins.length, bound: whole + packing.bound };
}
