import { NOISE, isOver } from '../units/index.ts';

/** What a set of lengths takes from stock: `bins` lists the lengths cut from each stock piece. */
export type Packing = {
  readonly bins: readonly (readonly number[])[];
  /** No packing can do with fewer stock pieces than this (total length over stock length, and the lengths over half of it). */
  readonly bound: number;
  /** Length left over in all. */
  readonly waste: number;
};

/**
 * Cuts lengths from stock pieces, longest first, each from the fullest piece that still takes it (best fit decreasing). At most
 * 22% over the best possible; `bound` tells how near. Every length must fit the stock.
 */
export function packCuts(lengths: readonly number[], stock: number): Packing {
  const sorted = [...lengths].sort((a, b) => b - a);
  if (sorted[0] !== undefined && isOver(sorted[0], stock))
    throw new Error(`a cut of ${sorted[0]} does not fit stock of ${stock}`);
  const bins: number[][] = [];
  /** Bins by what is left in them, ascending: the first that is large enough is the fullest that fits. */
  const open: { left: number; bin: number[] }[] = [];
  for (const length of sorted) {
    const at = lowerBound(open, length - NOISE);
    const found = open[at];
    const bin = found ? found.bin : [];
    const left = (found ? found.left : stock) - length;
    if (found) open.splice(at, 1);
    else bins.push(bin);
    bin.push(length);
    open.splice(lowerBound(open, left), 0, { left, bin });
  }
  const total = sorted.reduce((sum, length) => sum + length, 0);
  const big = sorted.filter((length) => isOver(length, stock / 2)).length;
  return { bins, bound: Math.max(big, Math.ceil(total / stock - NOISE)), waste: bins.length * stock - total };
}

function lowerBound(open: readonly { left: number }[], least: number): number {
  let low = 0;
  let high = open.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (open[middle]!.left < least) low = middle + 1;
    else high = middle;
  }
  return low;
}
