import { type ItemOf, itemsOf } from '../../../catalog/index.ts';
import { type Wall, isSlanted } from '../../../document/index.ts';
import { leastOf } from '../../../rules/index.ts';
import { type BaseContext, type PlacedWall, besideFace, takesWater } from '../../../slope/index.ts';
import { lastCourseAtOrBelow } from '../../../surface/index.ts';
import { inches } from '../../../units/index.ts';
import type { Outline } from '../../../roof/index.ts';
import { channelWater } from './soaker.ts';

/** A wall at an angle to the slope. */
export type Slanted = PlacedWall & { readonly slant: NonNullable<Wall['slant']> };

export const slantedIn = ({ walls }: Pick<BaseContext, 'walls'>): Slanted[] => walls.filter(isSlanted);

/** How many degrees it stands off the line of the tiles, as an angle in radians. */
export const offLine = ({ lean }: Pick<PlacedWall, 'lean'>): number => Math.atan(Math.abs(lean));

/** A channel of folded lead is as wide and deep as the moulded one (trade practice). */
const FOLDED = { width: 75, depth: 50, longest: 1500 };

/** A channel under cut tiles: what it is bought as or folded to, and how it is made. */
export type Channel = {
  readonly made: 'moulded' | 'metal';
  readonly item: ItemOf<'channel'> | undefined;
  /** Floor, side board and the longest length of it. */
  readonly width: number;
  readonly depth: number;
  readonly longest: number;
};

/** The channel a wall asks for; undefined where the cover flashing is to do alone. */
export function channelOf({ catalog }: Pick<BaseContext, 'catalog'>, { slant }: Slanted): Channel | undefined {
  if (slant.drain === 'cover alone') return undefined;
  if (slant.drain === 'lead channel') return { made: 'metal', item: undefined, ...FOLDED };
  const [item] = itemsOf(catalog, 'channel');
  return {
    made: 'moulded',
    item,
    width: item?.width ?? FOLDED.width,
    depth: item?.depth ?? FOLDED.depth,
    longest: item?.length ?? FOLDED.longest,
  };
}

/** Where the channel begins: past the eave into the gutter, or up the slope on the tiles below. */
export const channelStart = ({ lines }: Pick<BaseContext, 'lines'>, { slant }: Slanted): number =>
  slant.channelFrom === 0 ? lines.first : slant.channelFrom;

/** The lowest course that lies over it. */
export const firstOver = (context: Pick<BaseContext, 'lines'>, wall: Slanted): number =>
  wall.slant.channelFrom === 0 ? 1 : lastCourseAtOrBelow(context.lines, wall.slant.channelFrom);

/** What the channel lies on of the slope. */
export const channelGround = (context: BaseContext, wall: Slanted, { width }: Channel): Outline =>
  besideFace(wall, 0, width, channelStart(context, wall), context.lines.end);

/** The room between the face and the tiles' cut edge. */
export const openAlong = ({ rules, lines }: BaseContext, wall: Slanted): Outline =>
  besideFace(wall, -inches(1), leastOf(rules, 'covering.gapAtWall'), lines.first - inches(1), lines.end + inches(1));

/** Litres a minute at the channel's foot, and how deep they run there. */
export function waterIn(
  context: BaseContext,
  wall: Slanted,
  channel: Channel,
): { readonly flow: number; readonly depth: number } {
  const { lines, angle, job } = context;
  return channelWater(
    {
      up: lines.end,
      roofAngle: angle,
      comesIn: takesWater(wall) ? Math.abs(wall.lean) * lines.end : 0,
      wallHeight: wall.height,
      width: channel.width,
      rainPerHour: job.site.rainPerHour,
      drivenRainShare: job.site.drivenRainShare,
    },
    channel.made,
  );
}
