import { byExtent } from '../roof/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';
import type { Block } from './model.ts';

/** A rectangle on the plane. */
export type Patch = { readonly x0: number; readonly x1: number; readonly y0: number; readonly y1: number };

/** What is left of an interval once others are taken out, lowest first. Slivers within the line tolerance are dropped. */
export function subtract(from: number, to: number, taken: readonly (readonly [number, number])[]): [number, number][] {
  let left: [number, number][] = [[from, to]];
  for (const [a, b] of taken) {
    const pieces = left.flatMap(([low, high]): [number, number][] => [
      [low, Math.min(high, a)],
      [Math.max(low, b), high],
    ]);
    left = pieces.filter(([low, high]) => high - low > LINE_TOLERANCE);
  }
  return left;
}

/**
 * The patches a band across the plane covers, cut round the blocks standing in it, left to right. `gap` is kept open beside each block.
 * Nothing is cut away where a block only touches the band.
 */
export function patchesRound(band: Patch, blocks: readonly Block[], gap: number): Patch[] {
  const standing = blocks.filter((block) => block.from < band.y1 - LINE_TOLERANCE && block.to > band.y0 + LINE_TOLERANCE);
  const breaks = [band.x0, band.x1];
  for (const block of standing) breaks.push(block.x0 - gap, block.x1 + gap);
  const columns = [...new Set(breaks)].filter((x) => x >= band.x0 && x <= band.x1).sort((a, b) => a - b);
  const inColumn = byExtent(standing, (block) => [block.x0 - gap, block.x1 + gap]);
  const patches: Patch[] = [];
  for (let i = 1; i < columns.length; i++) {
    const [x0, x1] = [columns[i - 1]!, columns[i]!];
    if (x1 - x0 <= LINE_TOLERANCE) continue;
    const middle = (x0 + x1) / 2;
    const taken = inColumn(middle, middle)
      .filter((block) => block.x0 - gap < middle && block.x1 + gap > middle)
      .map(({ from, to }) => [from, to] as const);
    for (const [y0, y1] of subtract(band.y0, band.y1, taken)) {
      const before = patches.at(-1);
      if (before && Math.abs(before.x1 - x0) <= LINE_TOLERANCE && before.y0 === y0 && before.y1 === y1)
        patches[patches.length - 1] = { ...before, x1 };
      else patches.push({ x0, x1, y0, y1 });
    }
  }
  return patches;
}

/** The stretches along the eave that patches cover, merged and in order. */
export function spansOf(patches: readonly Patch[]): [number, number][] {
  const spans: [number, number][] = [];
  for (const { x0, x1 } of [...patches].sort((a, b) => a.x0 - b.x0)) {
    const last = spans.at(-1);
    if (last && x0 <= last[1] + LINE_TOLERANCE) last[1] = Math.max(last[1], x1);
    else spans.push([x0, x1]);
  }
  return spans;
}
