import type { Assembly, Step, Use, Words } from './model.ts';
import { LINE_TOLERANCE } from '../units/index.ts';
import { cut } from './assemble.ts';

/** Something of the catalog, as far as a line needs to know it. */
type Product = { readonly id: string; readonly name: string };

/** So many pieces of a product; of something the catalog lacks, only its name is known. */
export const pieces = (product: Product | undefined, lacking: string, amount: number): Use => ({
  ...named(product, lacking),
  amount,
  unit: 'pieces',
});

/** A length of a product sold by the roll or length, cut to these pieces. */
export const lengths = (product: Product | undefined, lacking: string, cuts: readonly number[]): Use => ({
  ...named(product, lacking),
  amount: cuts.reduce((sum, length) => sum + length, 0),
  unit: 'length',
  cuts,
});

/** A run of sealant of a round section, by its diameter. */
export const bead = (product: Product | undefined, lacking: string, length: number, diameter: number): Use => ({
  ...named(product, lacking),
  amount: length,
  unit: 'bead',
  section: (Math.PI * diameter * diameter) / 4,
  size: [cut(diameter), ' bead'],
});

/** A band of cement of a width and thickness. */
export const band = (product: Product | undefined, lacking: string, length: number, width: number, thickness: number): Use => ({
  ...named(product, lacking),
  amount: length,
  unit: 'bead',
  section: width * thickness,
  size: [cut(width), ' × ', cut(thickness), ' band'],
});

/** An area coated with a liquid. */
export const coat = (product: Product | undefined, lacking: string, area: number): Use => ({
  ...named(product, lacking),
  amount: area,
  unit: 'area',
});

const named = (product: Product | undefined, lacking: string): Pick<Use, 'product' | 'name'> =>
  product ? { product: product.id, name: product.name } : { name: lacking };

/**
 * Every step with what it takes: what its family said, and the fasteners of the pieces it lays, counted. Line and order are both written from this,
 * so that neither can forget what the other says.
 */
export function withUses(assembly: Assembly, nameOf: (product: string) => string): Assembly {
  const byPiece = new Map<string, Map<string, number>>();
  for (const { piece, product } of assembly.fasteners) {
    const counts = byPiece.get(piece) ?? new Map<string, number>();
    counts.set(product, (counts.get(product) ?? 0) + 1);
    byPiece.set(piece, counts);
  }
  const steps = assembly.steps.map(({ uses: told = [], ...step }): Step => {
    const counts = new Map<string, number>();
    for (const mark of step.pieces)
      for (const [product, count] of byPiece.get(mark) ?? []) counts.set(product, (counts.get(product) ?? 0) + count);
    const driven = [...counts].map(([product, amount]): Use => ({ product, name: nameOf(product), amount, unit: 'pieces' }));
    const uses = [...driven, ...told].filter(({ amount }) => amount > 0);
    return uses.length > 0 ? { ...step, uses } : step;
  });
  return { ...assembly, steps };
}

/** What a step takes, in a sentence: `148 × Roofing nail 1 1/4 in; Asphalt cement, 37" of 3/8" bead`. */
export const usesWords = (uses: readonly Use[]): Words =>
  uses.flatMap((use, i): Words => [...(i > 0 ? ['; '] : []), ...oneUse(use)]);

/** Lengths one after another; of the same one, how many: `3 × 2400 mm, 1200 mm`. */
function cutsWords(cuts: readonly number[]): Words {
  const runs: { length: number; count: number }[] = [];
  for (const length of cuts) {
    const last = runs.at(-1);
    if (last && Math.abs(last.length - length) < LINE_TOLERANCE) last.count++;
    else runs.push({ length, count: 1 });
  }
  return runs.flatMap(({ length, count }, i): Words => [
    ...(i > 0 ? [', '] : []),
    ...(count > 1 ? [`${count} × `] : []),
    cut(length),
  ]);
}

function oneUse(use: Use): Words {
  switch (use.unit) {
    case 'pieces':
      return [`${use.amount} × ${use.name}`];
    case 'length': {
      const cuts = use.cuts ?? [use.amount];
      return [`${use.name}: `, ...cutsWords(cuts)];
    }
    case 'bead':
      return [`${use.name}, `, cut(use.amount), ' of ', ...(use.size ?? [])];
    case 'area':
      return [`${use.name}, `, { area: use.amount }];
  }
}
