import { ROLES } from '../assembly/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';
import { climb } from './climb.ts';
import { creep, spreadOut } from './creep.ts';
import { fall } from './fall.ts';
import { fasteners } from './fasteners.ts';
import { film, overrun } from './overrun.ts';
import { type Sheet, chartAt, topOf } from './sheet.ts';
import { type FlowSettings, type Water, harm, hasRun, nodeOf, run, startWater } from './water.ts';

/**
 * Lets water run over a sheet: which states get wet, by what way, and every fault. A reachability question, not fluid dynamics: the moves are fall,
 * creep, reach, fasteners and overrun. Falls are done at once; what takes reach or creep waits, the least first, so that the first leak tells the least
 * distance that leaks.
 */
export function runWater(sheet: Sheet, settings: FlowSettings, finished: boolean): Water {
  const water = startWater(sheet, settings, finished);
  for (const cell of settings.sources ?? rainedOn(sheet)) run(water, topOf(sheet, cell), -1, 'rain');
  for (;;) {
    settle(water);
    if (settings.stopAtLeak && water.faults.some(({ harm: done }) => done !== undefined)) break;
    const next = water.waiting.take();
    if (!next) break;
    water.granted = Math.max(water.granted, next.key);
    next.go();
  }
  return water;
}

/** Open cells that rain falls on. */
function rainedOn(sheet: Sheet): number[] {
  const cells: number[] = [];
  for (let cell = 0; cell < sheet.cellCount; cell++) {
    if (sheet.sheltered[cell]) continue;
    const chart = chartAt(sheet, cell);
    const top = sheet.layerAt[topOf(sheet, cell)]!;
    // below the deck's edge there is no deck to be rained on, and a sheet folded down there stands behind the eave metal
    const overhang = chart.kind === 'roof' && Math.max(sheet.highLeft[cell]!, sheet.highRight[cell]!) <= LINE_TOLERANCE;
    if (overhang && (top === 0 || ROLES[sheet.pieces[top]!.role].surface === 'sheet')) continue;
    cells.push(cell);
  }
  return cells;
}

/** All that follows from what is wet, without any distance more being granted. */
function settle(water: Water): void {
  const { todo, queued } = water;
  for (let i = 0; i < todo.length; i++) {
    const state = todo[i]!;
    queued[state] = 0;
    water.visited++;
    expand(water, state);
  }
  todo.length = 0;
}

function expand(water: Water, state: number): void {
  const { settings } = water;
  if (hasRun(water, state)) {
    judge(water, state);
    film(water, state);
    overrun(water, state);
    fall(water, state);
    spreadOut(water, state);
    creep(water, state);
  }
  fasteners(water, state);
  if (settings.reach > 0) climb(water, state);
}

/** Does water where it is do harm? */
function judge(water: Water, state: number): void {
  const { sheet, finished } = water;
  const layer = sheet.layerAt[state]!;
  const node = nodeOf(water, state);
  const gone = water.faultOf[node] !== 0;
  if (layer === 0) {
    if (finished || gone || chartAt(sheet, sheet.cellOf[state]!).kind === 'roof') harm(water, node, 'bare', 'gap', layer);
  } else if (finished && ROLES[sheet.pieces[layer]!.role].surface === 'sheet') harm(water, node, 'under', 'gap', layer);
}
