import { LINE_TOLERANCE } from '../../units/index.ts';

/** What of a tile says how many fill a width; millimetres. */
export type TileWidths = {
  /** What one covers across. */
  readonly cover: number;
  /** How much each may be opened or closed. */
  readonly play: number;
};

/** The tiles of a course from the end they are laid from. */
export type Columns = {
  /** Whole ones, each `opened` (below 0: closed) by the same. */
  readonly whole: number;
  readonly opened: number;
  /** The width of the last one, where it is cut; 0 where none is. */
  readonly cut: number;
  /** It would be under half a tile: it and the one before it are one, cut from a tile and a half. */
  readonly wide: boolean;
};

/**
 * Tiles over a width: all whole where the play takes up what is over, |W − n·c| ≤ n·s; else whole ones as they come and one cut, and never one under half a
 * tile. 9025 at 300 ± 1.5: 30, opened 0.83. 9060: 30 would need 2 each, so 29 whole and a 360 from a tile and a half.
 */
export function columnsOver(width: number, { cover, play }: TileWidths): Columns {
  const whole = Math.max(1, Math.round(width / cover));
  const over = width - whole * cover;
  if (Math.abs(over) <= whole * play + LINE_TOLERANCE) return { whole, opened: over / whole, cut: 0, wide: false };
  return cutAt(width, cover);
}

/** The same without play, as where a course ends on a slant: 8671.5 at 300: 28 and a 271.5; 8717.4: 28 and a 317.4 from a tile and a half. */
export function cutAt(width: number, cover: number): Columns {
  const fit = Math.floor((width + LINE_TOLERANCE) / cover);
  const rest = Math.max(0, width - fit * cover);
  if (rest <= LINE_TOLERANCE) return { whole: fit, opened: 0, cut: 0, wide: false };
  const wide = fit > 0 && rest < cover / 2 - LINE_TOLERANCE;
  return { whole: wide ? fit - 1 : fit, opened: 0, cut: wide ? rest + cover : rest, wide };
}
