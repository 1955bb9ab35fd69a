import { LINE_TOLERANCE, inches, stepsToReach } from '../units/index.ts';

/** A stretch of a run, from `from` to `to` along it. */
export type Stretch = { readonly from: number; readonly to: number };

/** Shorter than this a closing piece is unhandy; its neighbour gives way and the lap grows. */
const SHORT_PIECE = inches(12);

/** Pieces for a run from stock with end laps: ⌈(L − lap) / (stock − lap)⌉. 22 ft in 5 ft lengths with 6 in laps → 5; 12 ft → 3. */
export const piecesForRun = (run: number, stock: number, lap: number): number =>
  Math.max(1, stepsToReach(run - lap, stock - lap));

/**
 * Cuts a run into pieces no longer than `stock` that lap each other by at least `lap`, from one end. `first` starts with a shorter
 * piece, to stagger the laps of neighbouring rows. `stock` must exceed `lap`.
 */
export function cutRun(run: number, stock: number, lap: number, first = stock): Stretch[] {
  if (stock <= lap) throw new Error(`stock ${stock} must be longer than its lap ${lap}`);
  const stretches: Stretch[] = [{ from: 0, to: Math.min(first, run) }];
  while (run - stretches.at(-1)!.to > LINE_TOLERANCE) {
    const from = stretches.at(-1)!.to - lap;
    const to = Math.min(from + stock, run);
    const short = to >= run - LINE_TOLERANCE && to - from < SHORT_PIECE;
    stretches.push({ from: short ? Math.max(0, Math.min(from, run - Math.min(SHORT_PIECE, stock))) : from, to });
  }
  return stretches;
}

/** Rows of a sheet up a slope from `from` until `to` is covered; each laps the row below by `lap`. The top row is not trimmed. */
export function layRows(from: number, to: number, width: number, lap: number): Stretch[] {
  const rows: Stretch[] = [{ from, to: from + width }];
  while (to - rows.at(-1)!.to > LINE_TOLERANCE) {
    const start = rows.at(-1)!.to - lap;
    rows.push({ from: start, to: start + width });
  }
  return rows;
}
