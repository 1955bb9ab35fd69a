import type { Assembly, Piece } from '../assembly/index.ts';
import type { Catalog, Item } from '../catalog/index.ts';
import { stepsToReach } from '../units/index.ts';
import { packCuts } from './packCuts.ts';

/** One product to order. */
export type OrderLine = {
  readonly product: string;
  readonly name: string;
  readonly maker: string;
  /** What the plan needs, in `unit`. */
  readonly needed: number;
  readonly unit: 'pieces' | 'lengths' | 'rolls';
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
  return catalog.items.flatMap((item) => {
    const wanted = byProduct.get(item.id);
    return wanted ? [orderLine(item, wanted.pieces, wanted.fasteners)] : [];
  });
}

type Quantity = Pick<
  OrderLine,
  'needed' | 'unit' | 'packages' | 'package' | 'perPackage' | 'leftPieces' | 'leftLength' | 'bound'
>;

function orderLine(item: Item, pieces: readonly Piece[], fasteners: ReadonlyMap<string, number>): OrderLine {
  const uses = new Map(fasteners);
  for (const { detail } of pieces) uses.set(detail, (uses.get(detail) ?? 0) + 1);
  return {
    product: item.id,
    name: item.name,
    maker: item.maker,
    ...quantity(item, pieces, fasteners),
    uses: [...uses].map(([detail, count]) => ({ detail, count })),
  };
}

function quantity(item: Item, pieces: readonly Piece[], fasteners: ReadonlyMap<string, number>): Quantity {
  switch (item.kind) {
    case 'shingle':
    case 'starter':
    case 'ridgeCap':
      return packaged(countUnits(pieces, item.kind === 'ridgeCap' ? Number.POSITIVE_INFINITY : item.width), item);
    case 'stepFlashing':
    case 'kickOut':
      return packaged({ needed: pieces.length }, item);
    case 'nail':
      return packaged({ needed: [...fasteners.values()].reduce((sum, count) => sum + count, 0) }, item);
    case 'dripEdge':
    case 'gutterApron':
    case 'apron':
    case 'reglet': {
      const packing = packCuts(lengthsOf(pieces), item.length);
      return {
        ...packaged({ needed: packing.bins.length, bound: packing.bound }, item),
        unit: 'lengths',
        leftLength: packing.waste,
      };
    }
    case 'iceBarrier':
      return rolls(
        // a strip half a roll wide takes half its length of roll
        pieces.map((piece) => (piece.cutLength ?? 0) * (isHalfWide(piece, item.width) ? 0.5 : 1)),
        item.rollLength,
      );
    case 'underlayment':
    case 'tape':
      return rolls(lengthsOf(pieces), item.rollLength);
    case 'sealant':
      return { needed: 0, unit: 'pieces', packages: 0, package: 'tube', perPackage: 1 };
  }
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
