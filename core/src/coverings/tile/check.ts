import { itemById } from '../../catalog/index.ts';
import { type Feature, type Issue, coveringOfKind } from '../../document/index.ts';
import { leastOf } from '../../rules/index.ts';
import type { ToCheck } from '../../slope/index.ts';
import { isOver, isUnder, printLength } from '../../units/index.ts';
import { tooFarApart, tooFlat } from '../check.ts';
import { fillWithTiles, isTooClose } from './gauge.ts';
import { tilesOf } from './tiles.ts';

/**
 * A pitch under the least, a gauge that opens the headlap or is closer than the tile allows, an eave too short, a tile and a half of another kind; and what
 * stands on a tile slope, whose flashing is not planned.
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
    ...(wide && (wide.height !== tile.height || wide.bond !== tile.bond || wide.cover <= tile.cover)
      ? [{ path: `${path}.tileAndHalf`, message: `Tile and a half: ${wide.name} is not ${tile.name} half as wide again.` }]
      : []),
    ...(itemById(catalog, 'ridgeCap', covering.ridge).for === 'tile'
      ? []
      : [{ path: `${path}.ridge`, message: 'Ridge: it is not made for tiles.' }]),
    ...standingOn(asked),
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

/** What of the features is flashed on tiles. */
const PLANNED: readonly Feature['kind'][] = ['headwall', 'pipe', 'chimney', 'skylight', 'tileFault'];

/** What the flashing kept here does not suit: a grid of legs, and walls that end where a valley begins. */
function standingOn({ job, plane }: ToCheck): Issue[] {
  const words = 'tile is flashed there past its crowns on every side, which is not planned';
  return [
    ...job.features.flatMap((feature, i) =>
      feature.plane === plane.id && !PLANNED.includes(feature.kind)
        ? [{ path: `features.${i}`, message: `${feature.id}, ${feature.name}: ${words}.` }]
        : [],
    ),
    // the cheeks of a dormer, and of a gable whose eaves stand above this slope's
    ...job.parts.flatMap((part, i) =>
      'host' in part && part.host === plane.id && (part.kind === 'dormer' || part.rise > 0)
        ? [{ path: `parts.${i}`, message: `${part.name}, its walls: ${words}.` }]
        : [],
    ),
  ];
}
