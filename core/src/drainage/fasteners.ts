import { climbedTo } from './climb.ts';
import { creptTo } from './creep.ts';
import { type Hole, type Sheet, chartAt } from './sheet.ts';
import { type Water, harm, isWet, layerOf, nodeOf, run, wait } from './water.ts';

/** Water that reaches a fastener not sealed there follows it through to the next piece down: a slow leak. */
export function fasteners(water: Water, state: number): void {
  const { sheet } = water;
  const layer = layerOf(water, state);
  if (layer === 0) return;
  const cell = sheet.cellOf[state]!;
  const holes = sheet.holes.get(cell);
  if (!holes) return;
  for (const hole of holes) {
    if (hole.layer < layer || hole.sealed || sheet.pieces[layer]!.sealsNails) continue;
    if (isWet(water, state)) {
      follow(water, state, hole);
      continue;
    }
    const crept = creptTo(water, state, hole.x, hole.y);
    if (crept < Number.POSITIVE_INFINITY) wait(water, 'creep', crept, () => follow(water, state, hole));
    // the covering's own nails count only where water runs over them
    if (hole.covering || water.settings.reach === 0) continue;
    const climbed = climbedTo(water, state, shareOf(sheet, cell, hole.x), hole.y);
    if (climbed < Number.POSITIVE_INFINITY) wait(water, 'reach', climbed, () => follow(water, state, hole));
  }
}

function shareOf(sheet: Sheet, cell: number, x: number): number {
  const { lines, firstSlab } = chartAt(sheet, cell);
  const slab = sheet.slabOf[cell]! - firstSlab;
  return Math.max(0, Math.min(1, (x - lines[slab]!) / (lines[slab + 1]! - lines[slab]!)));
}

/** Through the stack: what is already gone wrong is not told again, but goes on down. */
export function follow(water: Water, state: number, hole: Hole): void {
  const node = nodeOf(water, state);
  if (water.faultOf[node] === 0) harm(water, node, 'fastener', 'fastener', hole.layer);
  run(water, state - 1, node, 'follows a fastener', 'fastener', hole.layer);
}
