import type { ItemOf } from '../../catalog/index.ts';
import { isSlanted } from '../../document/index.ts';
import type { Span } from '../../roof/index.ts';
import type { PlaneContext } from '../../slope/index.ts';
import type { LockedColumns } from '../../surface/index.ts';
import { LINE_TOLERANCE } from '../../units/index.ts';
import { tilesOf } from './tiles.ts';

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

type Eave = Pick<PlaneContext, 'plane'>;

/** How wide each whole tile lies: its cover, opened or closed where that fills the slope without a cut. */
export function pitchOf(context: Pick<PlaneContext, 'covering' | 'catalog'> & Eave): number {
  const { tile } = tilesOf(context);
  const { eaveLength, walls } = context.plane;
  // a course that ends on a slant is cut there: nothing is taken up by opening it
  if (walls.some(isSlanted)) return tile.cover;
  const { cut: last, opened } = columnsOver(eaveLength, tile);
  return last === 0 ? tile.cover + opened : tile.cover;
}

/** The end of a slope its columns are counted from: the one away from the open side channel, but for an end at a wall at an angle, where they are cut. */
function startOf(
  { eaveLength, walls }: Pick<PlaneContext['plane'], 'eaveLength' | 'walls'>,
  { channel }: ItemOf<'tile'>,
): number {
  const slanted = walls.find(isSlanted);
  if (slanted) return slanted.stands === 'right' ? 0 : eaveLength;
  return channel === 'left' ? eaveLength : 0;
}

/** The columns of a slope: from where, how wide, and in which bond. */
export function lockedColumns(context: Pick<PlaneContext, 'covering' | 'catalog'> & Eave): LockedColumns {
  const { tile } = tilesOf(context);
  return { from: startOf(context.plane, tile), width: pitchOf(context), broken: tile.bond === 'broken' };
}

/** The places within a stretch that are so many steps from another. */
export function everyAlong([from, to]: Span, origin: number, step: number): number[] {
  const first = Math.ceil((from - origin + LINE_TOLERANCE) / step);
  const count = Math.max(0, Math.ceil((to - LINE_TOLERANCE - origin) / step) - first);
  return Array.from({ length: count }, (_, i) => origin + (first + i) * step);
}

/** Where the crowns of a profiled tile come, straight up the slope: so far from the left edge of each column, and on from there; none on a flat one. */
export function crownsOn(context: Pick<PlaneContext, 'covering' | 'catalog'> & Eave): readonly number[] | undefined {
  const { tile } = tilesOf(context);
  const { crowns, cover } = tile;
  if (!crowns) return undefined;
  const { eaveLength } = context.plane;
  const inEach = Array.from(
    { length: Math.ceil((cover - crowns.first) / crowns.apart) },
    (_, i) => crowns.first + i * crowns.apart,
  );
  return inEach
    .flatMap((at) => everyAlong([0, eaveLength], startOf(context.plane, tile) + at, pitchOf(context)))
    .toSorted((a, b) => a - b);
}
