import { isTileAndHalf, itemById } from '../../catalog/index.ts';
import { type Issue, coveringOfKind } from '../../document/index.ts';
import { leastOf } from '../../rules/index.ts';
import type { ToCheck } from '../../slope/index.ts';
import { isOver, isUnder, printLength } from '../../units/index.ts';
import { tooFarApart, tooFlat } from '../check.ts';
import { fillWithTiles, isTooClose } from './gauge.ts';
import { tilesOf } from './tiles.ts';

/**
 * A pitch under the least, a gauge that opens the headlap or is closer than the tile allows, an eave too short, a tile and a half of another kind; a cricket and
 * a pipe that tiles have no place for.
 */
export function check(asked: ToCheck): Issue[] {
  const { job, plane, rules, catalog, path, partPath } = asked;
  const covering = coveringOfKind(asked, 'singleLap');
  const { tile, wide } = tilesOf(asked);
  const print = (mm: number): string => printLength(mm, job.units);
  const headlap = leastOf(rules, 'tile.headlap');
  const { overhang, topBatten: top } = covering;
  const filled = fillWithTiles(plane.slope.length, { length: tile.height, nib: tile.nib }, { overhang, top, headlap });
  const gauge = plane.exposure ?? covering.gauge ?? filled.gauge;
  return [
    ...tooFlat(asked, tile.name, 'degrees'),
    ...tooFarApart(
      asked,
      { field: 'gauge', name: 'gauge', given: covering.gauge },
      filled.largest,
      (most) => `the ${most} that leaves ${tile.name} a headlap of ${print(headlap)}`,
    ),
    ...(isTooClose({ gauge }, tile)
      ? [
          {
            path: `${path}.gauge`,
            message: `Gauge: ${plane.name} would take courses ${print(gauge)} apart, under the least of ${tile.name}, ${print(tile.leastGauge)}. Change the overhang, or cut the top course.`,
            planned: true as const,
          },
        ]
      : []),
    ...(isUnder(plane.eaveLength, 2 * tile.cover)
      ? [
          {
            path: `${partPath}.eaveLength`,
            message: `Eave length: ${print(plane.eaveLength)} is less than two tiles, ${print(2 * tile.cover)}.`,
            planned: true as const,
          },
        ]
      : []),
    ...(tile.crowns && tile.bond === 'broken'
      ? [
          {
            path: `${path}.tile`,
            message: `Tile: ${tile.name} has crowns, and those run straight up the slope: it cannot be laid in broken bond.`,
          },
        ]
      : []),
    ...(wide && !isTileAndHalf(tile, wide)
      ? [{ path: `${path}.tileAndHalf`, message: `Tile and a half: ${wide.name} is not ${tile.name} half as wide again.` }]
      : []),
    ...(itemById(catalog, 'ridgeCap', covering.ridge).for === 'tile'
      ? []
      : [{ path: `${path}.ridge`, message: 'Ridge: it is not made for tiles.' }]),
    ...job.features.flatMap((feature, i) =>
      feature.kind === 'chimney' && feature.plane === plane.id && feature.back === 'cricket'
        ? [
            {
              path: `features.${i}.back`,
              message: `${feature.name}, back: behind it on tiles a back gutter is planned, not a cricket.`,
              planned: true as const,
            },
          ]
        : [],
    ),
    ...job.features.flatMap((feature, i) =>
      feature.kind === 'pipe' && feature.plane === plane.id && isOver(feature.diameter, tile.cover)
        ? [
            {
              path: `features.${i}.diameter`,
              message: `${feature.name}, outside diameter: ${print(feature.diameter)} is more than a tile covers, ${print(tile.cover)}. Flash it as a chimney.`,
            },
          ]
        : [],
    ),
  ];
}
