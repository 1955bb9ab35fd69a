import { itemById } from '../../catalog/index.ts';
import { coveringOfKind } from '../../document/index.ts';
import { leastOf } from '../../rules/index.ts';
import type { ToLayOut } from '../../slope/index.ts';
import { type Lines, type Surface, fittedLines } from '../../surface/index.ts';
import { stepsToReach } from '../../units/index.ts';
import { crownsOn, lockedColumns } from './columns.ts';
import { fillWithTiles } from './gauge.ts';
import { dams } from './battens.ts';
import { battenAbove, battensOn, tilesOf } from './tiles.ts';

/** A slope in tiles: the fewest courses whose top batten comes where it is wanted, without opening the least headlap. */
export function layOut(asked: ToLayOut): Surface {
  const { tile } = tilesOf(asked);
  const crowns = crownsOn(asked);
  const lines = linesOf(asked);
  const covering = coveringOfKind(asked, 'singleLap');
  const battens = battensOn(lines, tile);
  return {
    product: tile.id,
    name: tile.name,
    maker: tile.maker,
    lines,
    battens,
    unit: { width: tile.cover, height: tile.height },
    wholeOverHead: false,
    thickness: tile.thickness,
    underRidge: itemById(asked.catalog, 'ridgeCap', covering.ridge).halfWidth,
    sides: 'covers',
    ...(crowns ? { crowns } : {}),
    columns: lockedColumns(asked),
    valleys: 'open',
    bearing: covering.bearing,
    ...(dams(covering) ? { dams: battens } : {}),
  };
}

/** Tails of its courses: fitted up to the top batten from the eave, or from the last one measured on the roof; at the gauge that was chosen, if one was. */
function linesOf(asked: ToLayOut): Lines {
  const { slope, exposure, measuredButts } = asked.plane;
  const { overhang, topBatten: top, gauge: chosen } = coveringOfKind(asked, 'singleLap');
  const { tile } = tilesOf(asked);
  const headlap = leastOf(asked.rules, 'tile.headlap');
  const filled = fillWithTiles(slope.length, { length: tile.height, nib: tile.nib }, { overhang, top, headlap });
  const given = exposure ?? chosen;
  const even: Lines = { first: -overhang, gauge: given ?? filled.gauge, reach: tile.height, end: slope.length, count: 1 };
  const lines = measuredButts?.length ? fittedLines(even, measuredButts) : even;
  const left = slope.length - top - battenAbove(lines.at?.at(-1) ?? lines.first, tile);
  const gauges = stepsToReach(left, given ?? filled.largest);
  return {
    ...lines,
    gauge: given ?? (gauges > 0 ? left / gauges : filled.gauge),
    count: (lines.at?.length ?? 1) + gauges,
  };
}
