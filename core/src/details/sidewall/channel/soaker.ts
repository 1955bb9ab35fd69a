import { runoff } from '../../../roof/index.ts';
import { channelDepth } from '../../../slope/index.ts';
import { stepsToReach } from '../../../units/index.ts';

/** How far a wall that stands at an angle to the tiles' rolls moves across in one course: tan of the angle × gauge. 4° at 328.46: 23.0. */
export const driftACourse = (angle: number, gauge: number): number => Math.tan(angle) * gauge;

/** A channel beside a wall: as long as it runs, in pieces of the stock that lap. */
export type ChannelLengths = { readonly length: number; readonly pieces: number };

/** 4350 up the slope at 4°: 4361 along the wall; in 3 m lengths lapped 150: 2. */
export function channelLengths(up: number, angle: number, stock: number, lap: number): ChannelLengths {
  const length = up / Math.cos(angle);
  return { length, pieces: Math.max(1, stepsToReach(length - lap, stock - lap)) };
}

/** What drains into a channel soaker; lengths in millimetres, the angle of the wall to the rolls and of the roof in radians. */
export type ChannelCatch = {
  /** Up the slope, of the wall beside it. */
  readonly up: number;
  readonly roofAngle: number;
  /** How far the wall comes in over that length: the wedge of roof whose pans run into it. 0 where the roof's water is led away from the wall. */
  readonly comesIn: number;
  readonly wallHeight: number;
  readonly width: number;
  /** Millimetres an hour, and the share of it that strikes the wall. */
  readonly rainPerHour: number;
  readonly drivenRainShare: number;
};

/** A moulded channel is smoother than folded metal (Manning's n). */
export const ROUGHNESS = { moulded: 0.01, metal: 0.012 } as const;

/**
 * Litres a minute at a channel's foot: the wedge and the channel in plan, and the wall as rain strikes it; and how deep they run there. 4650 at 30°, coming in
 * 325, a wall 2000 high, 75 wide, 75 mm/h half driven: 0.65 + 0.30 + 4.03 m², 6.2 L/min, 1.5 mm.
 */
export function channelWater(
  given: ChannelCatch,
  made: keyof typeof ROUGHNESS,
): { readonly flow: number; readonly depth: number } {
  const { up, roofAngle, comesIn, wallHeight, width, rainPerHour, drivenRainShare } = given;
  const level = up * Math.cos(roofAngle);
  const flow = runoff(rainPerHour, (level * Math.max(0, comesIn)) / 2 + level * width + level * wallHeight * drivenRainShare);
  return { flow, depth: channelDepth(flow, width, roofAngle, ROUGHNESS[made]) };
}
