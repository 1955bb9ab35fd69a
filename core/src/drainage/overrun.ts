import { ROLES } from '../assembly/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';
import { follow } from './fasteners.ts';
import { type Mesh, beside, borderX, chartAt, findLayer, highestOf, highestUpTo, lowestOf } from './mesh.ts';
import { type Stretch, place, stretch } from './stretch.ts';
import { type Water, cellsBelow, isFlatMetal, isOpen, layerOf, rowsBetween, seep, wetByFilm } from './water.ts';

/** Water that has passed so many butt lines on one flat piece leaves over its side as well. */
const OVERRUN_LINES = 2;

/** A film on covered metal wets every fastener head on its way, across the whole piece. */
export function film(water: Water, state: number, from: Stretch): void {
  const { mesh } = water;
  const layer = layerOf(water, state);
  if (layer === 0) return;
  const { surface } = ROLES[mesh.pieces[layer]!.role];
  if (surface !== 'flat metal' && surface !== 'shaped metal') return;
  const cell = mesh.cellOf[state]!;
  if (chartAt(mesh, cell).kind === 'wall') return;
  const high = Math.min(highestOf(mesh, cell), from.y1);
  if ((water.filmed.get(state) ?? Number.NEGATIVE_INFINITY) >= high) return;
  water.filmed.set(state, high);
  for (const side of [-1, 1] as const) filmAlong(water, state, side, lowestOf(mesh, cell), high);
}

type Rows = { readonly cell: number; readonly low: number; readonly high: number };

/** The cells that one piece covers to one side of a cell, between two heights, itself first. */
function rowsOf(mesh: Mesh, cell: number, layer: number, side: 1 | -1, low: number, high: number): Rows[] {
  const rows: Rows[] = [{ cell, low, high }];
  for (const here of rows)
    for (const next of beside(mesh, here.cell, side)) {
      if (findLayer(mesh, next, layer) < 0) continue;
      const [bottom, top] = rowsBetween(mesh, here.cell, next, side);
      const span = { cell: next, low: Math.max(here.low, bottom), high: Math.min(here.high, top) };
      if (span.high - span.low > LINE_TOLERANCE) rows.push(span);
    }
  return rows;
}

function filmAlong(water: Water, from: number, side: 1 | -1, low: number, high: number): void {
  const { mesh } = water;
  const layer = layerOf(water, from);
  for (const { cell, low: bottom, high: top } of rowsOf(mesh, mesh.cellOf[from]!, layer, side, low, high)) {
    const there = findLayer(mesh, cell, layer);
    if (isOpen(water, there)) continue;
    for (const hole of mesh.holes.get(cell) ?? []) {
      if (hole.layer < layer || hole.sealed || hole.drips || hole.y < bottom || hole.y > top) continue;
      wetByFilm(water, there, from, place(hole.x, hole.y, 0));
      follow(water, there, hole, 2 * there);
    }
  }
}

/** Water on flat metal that has passed two butt lines on one piece gathers, and leaves over its sides too. */
export function gather(water: Water, state: number, from: Stretch): void {
  const { mesh } = water;
  if (!isFlatMetal(water, layerOf(water, state))) return;
  const cell = mesh.cellOf[state]!;
  if (chartAt(mesh, cell).kind === 'roof') gatherFrom(water, state, Math.min(from.y1, highestOf(mesh, cell)));
}

/** On a piece since a height. */
function gatherFrom(water: Water, state: number, height: number): void {
  const { mesh, cameOn } = water;
  if ((cameOn.get(state) ?? Number.NEGATIVE_INFINITY) >= height - LINE_TOLERANCE) return;
  cameOn.set(state, height);
  const cell = mesh.cellOf[state]!;
  const layer = layerOf(water, state);
  const low = lowestOf(mesh, cell);
  const { butts } = chartAt(mesh, cell);
  // the butt lines between where the water came on to the piece and here, from the highest down
  const passed = [...butts].filter((y) => y < height - LINE_TOLERANCE && y > low - LINE_TOLERANCE).reverse();
  const first = passed[OVERRUN_LINES - 1];
  if (first !== undefined)
    for (const side of [-1, 1] as const) overSide(water, state, side, low, Math.min(first, highestOf(mesh, cell)));
  for (const below of cellsBelow(mesh, cell)) {
    const there = findLayer(mesh, below, layer);
    if (there >= 0) gatherFrom(water, there, height);
  }
}

/** Out over one side of the piece, between two heights. */
function overSide(water: Water, from: number, side: 1 | -1, low: number, high: number): void {
  const { mesh } = water;
  const layer = layerOf(water, from);
  for (const { cell, low: bottom, high: top } of rowsOf(mesh, mesh.cellOf[from]!, layer, side, low, high))
    for (const next of beside(mesh, cell, side)) {
      if (findLayer(mesh, next, layer) >= 0) continue;
      const rows = rowsBetween(mesh, cell, next, side);
      const [foot, head] = [Math.max(bottom, rows[0]), Math.min(top, rows[1])];
      if (head - foot <= LINE_TOLERANCE) continue;
      const x = borderX(mesh, cell, side);
      seep(water, highestUpTo(mesh, next, layer), stretch(x, foot, 0, x, head, 0), 2 * from, 'leaves over the side', {
        cause: 'overrun',
        layer,
      });
    }
}
