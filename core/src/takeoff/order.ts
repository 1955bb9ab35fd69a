import { type Assembly, type Blank, type Piece, type Use, partsOf, piecesForRun } from '../assembly/index.ts';
import type { Catalog, Item } from '../catalog/index.ts';
import { bounds } from '../roof/index.ts';
import { NOISE, inches, isAtMost, stepsToReach } from '../units/index.ts';
import { packCuts } from './packCuts.ts';
import { packFlatStock } from './packFlatStock.ts';

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
  /** Bought beside what the plan needs, each with its reason. */
  readonly extra: readonly { readonly count: number; readonly why: string }[];
  /** Length of cut ends among what is needed that fit nowhere else, of units laid in courses. */
  readonly cutEnds?: number;
  /** Bought one by one beside whole packages. */
  readonly loose?: number;
  /** What it is for, by detail. */
  readonly uses: readonly { readonly detail: string; readonly count: number }[];
};

/**
 * The order list by product and package size. Everything is counted from the plan: metal and sheet are cut from their stock lengths,
 * whole shingles and the parts cut for the ends are packed into shingles, nails are counted one by one.
 */
export function listOrder(assembly: Assembly, catalog: Catalog, spare: Spare): OrderLine[] {
  const byProduct = new Map<string, Wanted>();
  const entry = (product: string): Wanted => {
    const found = byProduct.get(product) ?? { pieces: [], uses: [] };
    byProduct.set(product, found);
    return found;
  };
  for (const piece of assembly.pieces) if (piece.product !== undefined) entry(piece.product).pieces.push(piece);
  for (const { detail, uses = [] } of assembly.steps)
    for (const use of uses) if (use.product !== undefined) entry(use.product).uses.push({ detail, use });
  return catalog.items.flatMap((item) => {
    const wanted = byProduct.get(item.id);
    return wanted ? [orderLine(item, wanted, spare)] : [];
  });
}

/** All that is wanted of one product: pieces of it, and what steps use. */
type Wanted = { readonly pieces: Piece[]; readonly uses: { readonly detail: string; readonly use: Use }[] };

/** Shares bought beside what the plan needs: of what is laid in courses, for breakage; of fasteners, for those dropped and bent. */
export type Spare = { readonly covering: number; readonly fasteners: number };

/** Counted one by one, to be bought in packages of an item. */
type Counted = Pick<OrderLine, 'needed' | 'unit' | 'leftLength' | 'bound' | 'cutEnds'> & {
  readonly of: { readonly perPackage: number; readonly package: string; readonly loose?: true | undefined };
};
/** Cut from rolls or filled into packages: nothing is bought beside it. */
type Filled = Pick<OrderLine, 'needed' | 'unit' | 'packages' | 'package' | 'perPackage' | 'leftLength' | 'bound'>;
type Quantity = Counted | Filled;

/** What is bought beside what is needed, and in what packages. */
function bought(quantity: Quantity, item: Item, spare: Spare): Omit<OrderLine, 'product' | 'name' | 'maker' | 'uses'> {
  if (!('of' in quantity)) return { ...quantity, extra: [] };
  const { of, ...rest } = quantity;
  const { perPackage } = of;
  const extra = extraOf(item, rest.needed, spare);
  const total = rest.needed + extra.reduce((sum, { count }) => sum + count, 0);
  const over = total % perPackage;
  // loose ones until half a package of them: then the package is the smaller parcel
  const loose = of.loose && over > 0 && over <= perPackage / 2 ? over : 0;
  const packages = stepsToReach(total - loose, perPackage);
  return {
    ...rest,
    extra,
    packages,
    package: of.package,
    perPackage,
    ...(loose > 0 ? { loose } : {}),
    leftPieces: packages * perPackage + loose - total,
  };
}

function extraOf({ kind }: Item, needed: number, spare: Spare): OrderLine['extra'] {
  const share = (part: number, why: string): OrderLine['extra'] =>
    part > 0 && needed > 0 ? [{ count: Math.ceil(needed * part - NOISE), why: `${why}, ${Math.round(part * 1000) / 10} %` }] : [];
  switch (kind) {
    case 'shingle':
    case 'starter':
    case 'ridgeCap':
    case 'slate':
    case 'tile':
    case 'shake':
      return share(spare.covering, 'breakage');
    case 'nail':
    case 'screw':
    case 'cleat':
    case 'wedge':
      return share(spare.fasteners, 'dropped and bent');
    default:
      return [];
  }
}

function orderLine(item: Item, wanted: Wanted, spare: Spare): OrderLine {
  const uses = new Map<string, number>();
  for (const { detail, use } of wanted.uses)
    uses.set(detail, (uses.get(detail) ?? 0) + (use.unit === 'pieces' ? use.amount : (use.cuts?.length ?? 1)));
  for (const { detail } of wanted.pieces) uses.set(detail, (uses.get(detail) ?? 0) + 1);
  return {
    product: item.id,
    name: item.name,
    maker: item.maker,
    ...bought(quantity(item, wanted), item, spare),
    uses: [...uses].map(([detail, count]) => ({ detail, count })),
  };
}

const MM3_PER_MILLILITRE = 1000;
const MM2_PER_SQUARE_METRE = 1e6;

function quantity(item: Item, { pieces, uses }: Wanted): Quantity {
  const amounts = (unit: Use['unit']): number =>
    uses.reduce((sum, { use }) => sum + (use.unit === unit ? use.amount * (use.section ?? 1) : 0), 0);
  const cuts = [...lengthsOf(pieces), ...uses.flatMap(({ use }) => (use.unit === 'length' ? (use.cuts ?? [use.amount]) : []))];
  switch (item.kind) {
    case 'shingle':
    case 'starter':
    case 'ridgeCap': {
      const laid = countUnits(pieces, item.kind === 'ridgeCap' ? Number.POSITIVE_INFINITY : item.width);
      return counted({ ...laid, needed: laid.needed + amounts('pieces') }, item);
    }
    case 'slate':
    case 'tile':
    case 'shake':
      return counted({ needed: unitsIn(pieces) + amounts('pieces') }, item);
    case 'stepFlashing':
    case 'kickOut':
    case 'boot':
      return counted({ needed: pieces.length + amounts('pieces') }, item);
    case 'skylightKit':
    case 'weep':
    case 'wedge':
    case 'tarp':
    case 'sheathing':
    case 'skylightUnit':
    case 'cleat':
    case 'tileClip':
    case 'ridgeVent':
    case 'screw':
    case 'nail':
      return counted({ needed: amounts('pieces') }, item);
    case 'dripEdge':
    case 'gutterApron':
    case 'apron':
    case 'reglet':
    case 'valleyMetal':
    case 'strip':
    case 'timber':
    case 'channel':
    case 'batten': {
      const packing = packCuts(
        cuts.flatMap((length) => cutsOf(length, item.length)),
        item.length,
      );
      return {
        ...counted({ needed: packing.bins.length, bound: packing.bound }, item),
        unit: 'lengths',
        leftLength: packing.waste,
      };
    }
    case 'flatSheet': {
      const packing = packFlatStock(
        pieces.flatMap((piece) => blanksOf(piece).flatMap((blank) => partsOf(blank, item))),
        item,
      );
      return { ...counted({ needed: packing.needed, bound: packing.bound }, item), unit: 'sheets' };
    }
    case 'iceBarrier':
    case 'underlayment':
      return rolls(
        [
          ...stripsFromRolls(pieces, item.width),
          ...uses.flatMap(({ use }) => (use.unit === 'length' ? (use.cuts ?? [use.amount]) : [])),
        ],
        item.rollLength,
      );
    case 'wallFlashing':
    case 'tape':
    case 'fabric':
    case 'interlay':
      return rolls(cuts, item.rollLength);
    case 'sealant':
      return filled(amounts('bead') / MM3_PER_MILLILITRE, item.tubeMillilitres, item.package);
    case 'coating':
      return filled((amounts('area') / MM2_PER_SQUARE_METRE) * item.litresPerSquareMetre, item.litres, item.package);
  }
}

/** Packages of something that is poured or squeezed out; a hair over a full one opens no other. */
function filled(amount: number, perPackage: number, name: string): Quantity {
  const packages = Math.max(0, Math.ceil(amount / perPackage - NOISE));
  return { needed: packages, unit: 'pieces', packages, package: name, perPackage: 1 };
}

/**
 * Lengths of whole roll that strips take. Two strips half a roll wide come side by side from the longer one's length; a strip wider than the roll is
 * laid as several, each lapping the next.
 */
function stripsFromRolls(pieces: readonly Piece[], rollWidth: number): number[] {
  const length = ({ cutLength }: Piece): number => cutLength ?? 0;
  const half = pieces
    .filter((piece) => isHalfWide(piece, rollWidth))
    .map(length)
    .sort((a, b) => b - a);
  const full = pieces
    .filter((piece) => !isHalfWide(piece, rollWidth))
    .flatMap((piece) => Array.from({ length: stripsAcross(piece.sheetWidth ?? 0, rollWidth) }, () => length(piece)));
  return [...full, ...half.filter((_, i) => i % 2 === 0)];
}

/** Strips side by side lap by this much (trade practice). */
export const STRIP_LAP = inches(3);

/** How many strips of a roll it takes, lapped, to make one so wide. */
export const stripsAcross = (width: number, rollWidth: number): number => piecesForRun(width, rollWidth, STRIP_LAP);

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
  sheetWidth !== undefined && isAtMost(sheetWidth, rollWidth / 2);

function rolls(lengths: readonly number[], rollLength: number): Quantity {
  const packing = packCuts(
    lengths.flatMap((length) => cutsOf(length, rollLength)),
    rollLength,
  );
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

const counted = (count: Pick<Counted, 'needed' | 'bound' | 'cutEnds'>, of: Counted['of']): Counted => ({
  ...count,
  unit: 'pieces',
  of,
});

/** Units in pieces, each part from one of its own: what is left of a cut slate or shake is waste. */
const unitsIn = (pieces: readonly Piece[]): number =>
  pieces.reduce((sum, { units }) => sum + (units ? units.whole + units.parts.length : 0), 0);

/** Whole units and the parts cut from further ones, offcuts used where they fit. */
function countUnits(pieces: readonly Piece[], width: number): { needed: number; bound?: number; cutEnds?: number } {
  const whole = pieces.reduce((sum, { units }) => sum + (units?.whole ?? 0), 0);
  const parts = pieces.flatMap(({ units }) => units?.parts ?? []);
  if (parts.length === 0) return { needed: whole };
  const packing = packCuts(parts, width);
  return { needed: whole + packing.bins.length, bound: whole + packing.bound, cutEnds: packing.waste };
}
