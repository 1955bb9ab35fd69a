import { ROLES } from '../assembly/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';
import { follow } from './fasteners.ts';
import { beside, chartAt, findLayer, highestUpTo } from './sheet.ts';
import { type Water, isOpen, isWet, layerOf, run, wetByFilm } from './water.ts';

/** Water that has passed so many butt lines on one flat piece leaves over its side as well. */
const OVERRUN_LINES = 2;

/** A film on covered metal wets every fastener head on its way, across the whole piece. */
export function film(water: Water, state: number): void {
  const { sheet } = water;
  const layer = layerOf(water, state);
  if (layer === 0 || !isWet(water, state) || water.filmed[state]) return;
  const { surface } = ROLES[sheet.pieces[layer]!.role];
  if (surface !== 'flat metal' && surface !== 'shaped metal') return;
  if (chartAt(sheet, sheet.cellOf[state]!).kind === 'wall') return;
  water.filmed[state] = 1;
  const cell = sheet.cellOf[state]!;
  for (const side of [-1, 1] as const)
    filmAlong(
      water,
      state,
      side,
      Math.min(sheet.lowLeft[cell]!, sheet.lowRight[cell]!),
      Math.max(sheet.highLeft[cell]!, sheet.highRight[cell]!),
    );
}

/** Along the piece to one side, between two heights. */
function filmAlong(water: Water, from: number, side: 1 | -1, low: number, high: number): void {
  const { sheet } = water;
  const layer = layerOf(water, from);
  const row = [{ cell: sheet.cellOf[from]!, low, high }];
  for (const here of row)
    for (const next of beside(sheet, here.cell, side)) {
      const there = findLayer(sheet, next, layer);
      const [bottom, top] =
        side === 1 ? [sheet.lowLeft[next]!, sheet.highLeft[next]!] : [sheet.lowRight[next]!, sheet.highRight[next]!];
      const span = { cell: next, low: Math.max(here.low, bottom), high: Math.min(here.high, top) };
      if (there < 0 || isOpen(water, there) || span.high - span.low <= LINE_TOLERANCE) continue;
      row.push(span);
      for (const hole of sheet.holes.get(next) ?? []) {
        if (hole.layer < layer || hole.sealed || hole.y < span.low || hole.y > span.high || water.filmed[there] === 2) continue;
        water.filmed[there] = 2;
        wetByFilm(water, there, from);
        follow(water, there, hole);
      }
    }
}

/** Water on flat metal that has passed two butt lines on one piece gathers, and leaves over its sides too. */
export function overrun(water: Water, state: number): void {
  const { sheet } = water;
  const layer = layerOf(water, state);
  if (layer === 0 || !isWet(water, state) || ROLES[sheet.pieces[layer]!.role].surface !== 'flat metal') return;
  const cell = sheet.cellOf[state]!;
  const { butts, kind } = chartAt(sheet, cell);
  if (kind === 'wall') return;
  const low = Math.min(sheet.lowLeft[cell]!, sheet.lowRight[cell]!);
  // the butt lines between where the water came on to the piece and here, from the highest down
  const passed = [...butts].filter((y) => y < water.cameOn[state]! - LINE_TOLERANCE && y > low - LINE_TOLERANCE).reverse();
  const from = passed[OVERRUN_LINES - 1];
  if (from === undefined) return;
  for (const side of [-1, 1] as const)
    overSide(water, state, side, low, Math.min(from, Math.max(sheet.highLeft[cell]!, sheet.highRight[cell]!)));
}

/** Out over one side of the piece, between two heights. */
function overSide(water: Water, from: number, side: 1 | -1, low: number, high: number): void {
  const { sheet } = water;
  const layer = layerOf(water, from);
  const row = [sheet.cellOf[from]!];
  for (const cell of row)
    for (const next of beside(sheet, cell, side)) {
      const [bottom, top] =
        side === 1 ? [sheet.lowLeft[next]!, sheet.highLeft[next]!] : [sheet.lowRight[next]!, sheet.highRight[next]!];
      if (bottom > high - LINE_TOLERANCE || top < low + LINE_TOLERANCE || row.includes(next)) continue;
      if (findLayer(sheet, next, layer) >= 0) row.push(next);
      else run(water, highestUpTo(sheet, next, layer), 2 * from, 'leaves over the side', 'overrun', layer);
    }
}
