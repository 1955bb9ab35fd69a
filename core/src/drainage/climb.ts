import { chartAt, findLayer, highestUpTo, topOf } from './sheet.ts';
import { type Water, climbTo, heldBelow, isHeld, isOpen, isSideways, isWet, layerOf, newCover, run, wait } from './water.ts';

const FAR = Number.POSITIVE_INFINITY;

/** Wind or backed-up water climbs under a lap, from the last open cell up; past the piece's upper edge it spills behind it. */
export function climb(water: Water, state: number): void {
  const { sheet } = water;
  const cell = sheet.cellOf[state]!;
  const chart = chartAt(sheet, cell);
  const open = isOpen(water, state) && isWet(water, state);
  if (!open && water.climbLeft[state] === FAR) return;
  // the same head climbs h / sine up a slope and h up a wall
  const head = chart.sine / sheet.charts[0]!.sine;
  const left = open ? 0 : water.climbLeft[state]! + (sheet.highLeft[cell]! - sheet.lowLeft[cell]!) * head;
  const right = open ? 0 : water.climbRight[state]! + (sheet.highRight[cell]! - sheet.lowRight[cell]!) * head;
  const origin = open ? 2 * state : 2 * state + 1;
  const above = sheet.above[cell]!;
  if (above >= 0) climbInto(water, state, above, above, left, right, origin);
  for (const wall of sheet.rises.get(cell) ?? []) climbInto(water, state, wall, -1, left, right, origin);
}

/** Up into a cell, over the lower boundary of `boundary`; −1: from a slope on to the wall beside it. */
function climbInto(
  water: Water,
  state: number,
  next: number,
  boundary: number,
  left: number,
  right: number,
  origin: number,
): void {
  const { sheet } = water;
  const cell = sheet.cellOf[state]!;
  const layer = layerOf(water, state);
  const least = Math.min(left, right);
  const up = (from: number, why: { why?: 'short headlap'; layer?: number }): void => {
    let target = from;
    while (target !== topOf(sheet, next)) {
      const cover = newCover(water, target, cell);
      if (cover <= 0 || !isHeld(water, (boundary >= 0 ? heldBelow(water, boundary, cover) : undefined) ?? 'open')) break;
      target++;
    }
    if (target === topOf(sheet, next)) return;
    wait(water, 'reach', least, () => climbTo(water, target, left, right, origin, why));
  };
  const inside = findLayer(sheet, next, layer);
  if (inside >= 0) return up(inside, {});
  if (layer === 0 || boundary < 0) return;
  if (isHeld(water, heldBelow(water, boundary, layer) ?? 'open')) return;
  // past an edge that faces sideways water creeps, it does not climb
  if (isSideways(water, boundary)) return;
  const why = { why: 'short headlap' as const, layer };
  wait(water, 'reach', least, () =>
    run(water, highestUpTo(sheet, cell, layer - 1), origin, 'spills behind', 'short headlap', layer),
  );
  up(highestUpTo(sheet, next, layer), why);
}

/** Is a place on a cell reached by climbing? */
export function climbedTo({ sheet, climbLeft, climbRight }: Water, state: number, share: number, y: number): number {
  const cell = sheet.cellOf[state]!;
  const head = chartAt(sheet, cell).sine / sheet.charts[0]!.sine;
  const low = sheet.lowLeft[cell]! + (sheet.lowRight[cell]! - sheet.lowLeft[cell]!) * share;
  const begun = climbLeft[state]! + (climbRight[state]! - climbLeft[state]!) * share;
  return Number.isFinite(begun) ? begun + Math.max(0, y - low) * head : FAR;
}
