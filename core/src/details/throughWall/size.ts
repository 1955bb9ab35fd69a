import { piecesForRun } from '../../assembly/index.ts';
import { type Catalog, type ItemOf, itemsOf, smallest } from '../../catalog/index.ts';
import { MM_PER_FOOT, NOISE, isAtLeast, stepsToReach } from '../../units/index.ts';

/** Width needed to cross the veneer's bearing and the cavity and go up the backup wall; the next width the catalog has. */
export function chooseWidth(catalog: Catalog, needed: number): ItemOf<'wallFlashing'> | undefined {
  return smallest(
    itemsOf(catalog, 'wallFlashing').filter(({ width }) => isAtLeast(width, needed)),
    ({ width }) => width,
  );
}

/** Pieces with end laps: 22 ft in 5 ft lengths with 6 in laps → 5; 12 ft → 3. */
export const flashingPieces = (run: number, piece: number, lap: number): number => piecesForRun(run, piece, lap);

/** Weeps at most `spacing` apart, one at each end: 22 ft → 9, 12 ft → 6 at 33 in. */
export const weepCount = (run: number, spacing: number): number => stepsToReach(run, spacing) + 1;

/** Pieces of a drainage body and the outlets they bring: 22 ft in 3 ft pieces with 1 1/2 outlets a foot → 8 pieces, 33 outlets. */
export const drainageBody = (run: number, piece: number, outletsPerFoot: number): { pieces: number; outlets: number } => ({
  pieces: stepsToReach(run, piece),
  outlets: Math.floor((run / MM_PER_FOOT) * outletsPerFoot + NOISE),
});
