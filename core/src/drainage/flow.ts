import { ROLES, type RoleSurface } from '../assembly/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';
import { climb } from './climb.ts';
import { creep, spreadOut } from './creep.ts';
import { fall } from './fall.ts';
import { climbedFasteners, fasteners } from './fasteners.ts';
import { film, gather } from './overrun.ts';
import { pierce, pierceClimbed } from './pierce.ts';
import { type Mesh, borderHigh, borderLow, borderX, chartAt, highestOf, topOf } from './mesh.ts';
import { type Stretch, place, stretch } from './stretch.ts';
import { type FlowSettings, type Water, creepTo, harm, isWet, nodeOf, rain, seep, startWater, wholeOf } from './water.ts';

/**
 * Lets water run over a mesh: which states get wet, by what way, and every fault. A reachability question, not fluid dynamics: the moves are fall,
 * creep, reach, fasteners and overrun. Falls are done at once; what takes reach or creep waits, the least first, so that the first leak tells the least
 * distance that leaks.
 */
export function runWater(mesh: Mesh, settings: FlowSettings, finished: boolean): Water {
  const water = startWater(mesh, settings, finished);
  const { source } = settings;
  if (source) seep(water, source.state, place(source.x, source.y, 0), -1, 'rain');
  else
    for (let cell = 0; cell < mesh.cellCount; cell++) {
      if (!isRainedOn(mesh, cell)) continue;
      rain(water, topOf(mesh, cell));
      if (finished) atEdges(water, cell);
    }
  for (;;) {
    settle(water);
    if (settings.stopAtLeak && water.leaked) break;
    const next = water.waiting.take();
    if (!next) break;
    water.granted = Math.max(water.granted, next.key);
    next.go();
  }
  return water;
}

/** Below the deck's edge there is no deck, and a sheet folded down there stands behind the eave metal. */
const overhangs = (mesh: Mesh, cell: number): boolean =>
  chartAt(mesh, cell).kind === 'roof' && highestOf(mesh, cell) <= LINE_TOLERANCE;

function isRainedOn(mesh: Mesh, cell: number): boolean {
  if (mesh.sheltered[cell]) return false;
  const top = mesh.layerAt[topOf(mesh, cell)]!;
  return !overhangs(mesh, cell) || (top > 0 && ROLES[mesh.pieces[top]!.role].surface !== 'sheet');
}

/**
 * Rain on the joint of a ridge or hip without a cap, and on the deck's edge at a rake without metal. Water hangs at the courses' cut ends along a rake
 * and wets the metal there: it creeps in under them, unless a starter bonds them there (trade practice).
 */
function atEdges(water: Water, cell: number): void {
  const { mesh } = water;
  const top = topOf(mesh, cell);
  const surfaceAt = (state: number): RoleSurface | undefined =>
    state > mesh.stackStart[cell]! ? ROLES[mesh.pieces[mesh.layerAt[state]!]!.role].surface : undefined;
  if (surfaceAt(top) !== 'covering') return;
  const why = { cause: 'gap' as const, layer: mesh.layerAt[top]! };
  if (mesh.capped.has(cell) && mesh.pieces[why.layer]!.role !== 'ridgeCap') {
    let under = top - 1;
    while (surfaceAt(under) !== undefined && surfaceAt(under) !== 'sheet') under--;
    seep(water, under, wholeOf(mesh, cell), 2 * top, 'goes under', why);
  }
  const side = mesh.atRake.get(cell);
  if (!side) return;
  let metal = top;
  while (surfaceAt(metal) && surfaceAt(metal) !== 'edge metal') metal--;
  if (!surfaceAt(metal)) return harm(water, 2 * top, 'rake', why);
  for (let state = top; state > metal; state--) if (mesh.pieces[mesh.layerAt[state]!]!.role === 'starter') return;
  const x = borderX(mesh, cell, side);
  const end = stretch(x, borderLow(mesh, cell, side), 0, x, borderHigh(mesh, cell, side), 0);
  creepTo(water, metal, end, 2 * top, { cause: 'short sidelap', layer: mesh.layerAt[metal + 1]! });
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

/** Water goes on from all that is new at a state. */
function expand(water: Water, state: number): void {
  const { mesh, ran, settings } = water;
  judge(water, state);
  if (ran[state] === 1) {
    ran[state] = 2;
    goOn(water, state, wholeOf(mesh, mesh.cellOf[state]!));
  }
  const came = water.crept.get(state);
  if (came) while (came.done < came.stretches.length) goOn(water, state, came.stretches[came.done++]!);
  if (settings.reach === 0) return;
  const climbed = water.climbed.get(state);
  while (climbed && climbed.done < climbed.stretches.length) {
    const by = climbed.stretches[climbed.done++]!;
    climbedFasteners(water, state, by);
    pierceClimbed(water, state, by);
    climb(water, state, by);
  }
}

function goOn(water: Water, state: number, from: Stretch): void {
  if (isWet(from)) {
    film(water, state, from);
    gather(water, state, from);
  }
  fall(water, state, from);
  spreadOut(water, state, from);
  creep(water, state, from);
  pierce(water, state, from);
  fasteners(water, state, from);
  if (water.settings.reach > 0 && isWet(from)) climb(water, state, undefined, from);
}

/** Does water where it is do harm? */
function judge(water: Water, state: number): void {
  const { mesh, finished } = water;
  if (water.ran[state] === 0 && !water.crept.has(state)) return;
  const layer = mesh.layerAt[state]!;
  const node = nodeOf(water, state);
  const gone = water.faultOf[node] !== 0;
  const chart = chartAt(mesh, mesh.cellOf[state]!);
  // in a cavity water runs down the backup wall above what is to lead it out
  if (chart.cavity && !mesh.sheltered[mesh.cellOf[state]!]) return;
  // past the deck's edge it drips into the gutter, as from the sheet
  if (layer === 0 && chart.sheetSheds && overhangs(mesh, mesh.cellOf[state]!)) return;
  if (layer === 0) {
    if (finished || gone || chart.kind === 'roof') harm(water, node, 'bare', { cause: 'gap', layer });
  } else if (
    finished &&
    !chart.sheetSheds &&
    ROLES[mesh.pieces[layer]!.role].surface === 'sheet' &&
    !overhangs(mesh, mesh.cellOf[state]!)
  )
    harm(water, node, 'under', { cause: 'gap', layer });
}
