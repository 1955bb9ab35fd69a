import { runoff, slopeFactor } from '../roof/index.ts';
import { type Lines, buttLine, interfaceLines } from '../surface/index.ts';
import type { PlacedWall, PlaneContext } from './model.ts';

export type WallFlowInput = {
  readonly lines: Lines;
  readonly pitch: number;
  readonly from: number;
  readonly to: number;
  readonly wallHeight: number;
  readonly roofLeg: number;
  readonly rainPerHour: number;
  /** Part of the rain on the wall that runs down it. */
  readonly drivenRainShare: number;
};

/** Litres a minute along a wall at the line of course `n`, were it all kept in one piece; and what a single step takes. */
export type FlowAtLine = { readonly course: number; readonly y: number; readonly collected: number; readonly perStep: number };

/**
 * Water collected along a wall, from the eave up: at line n, rainfall × level run above y(n) × (roof-leg width + wall height × share).
 * The wall's own part counts only as far up as the wall goes. One piece a course hands its own share back each course.
 */
export function wallFlow(input: WallFlowInput): FlowAtLine[] {
  const { lines, from, to } = input;
  const k = slopeFactor(input.pitch);
  const collectedFrom = (y: number): number => {
    const roof = (Math.max(0, lines.end - y) / k) * input.roofLeg;
    const wall = (Math.max(0, to - Math.max(y, from)) / k) * input.wallHeight * input.drivenRainShare;
    return runoff(input.rainPerHour, roof + wall);
  };
  const { first, last } = interfaceLines(lines, from, to);
  return Array.from({ length: last - first + 1 }, (_, i) => {
    const course = first + i;
    const y = Math.max(buttLine(lines, course), 0);
    const next = Math.min(buttLine(lines, course + 1), lines.end);
    const collected = collectedFrom(y);
    return { course, y, collected, perStep: collected - collectedFrom(next) };
  });
}

const SHEET_METAL_ROUGHNESS = 0.012;

/**
 * Normal depth (millimetres) of water running down the roof leg beside a wall: a flat-bottomed channel as wide as the leg, by Manning
 * with n = 0.012 for metal and the slope term sin θ. Depth is small beside the width, so the hydraulic radius is taken as the depth.
 */
export function channelDepth(
  litresPerMinute: number,
  width: number,
  angle: number,
  roughness: number = SHEET_METAL_ROUGHNESS,
): number {
  if (litresPerMinute <= 0 || width <= 0) return 0;
  const flow = litresPerMinute / 60_000;
  return 1000 * ((flow * roughness) / ((width / 1000) * Math.sqrt(Math.sin(angle)))) ** 0.6;
}

/** Water collected along this wall, line by line, with the legs the plan uses. */
export const flowAlong = (context: PlaneContext, wall: PlacedWall, roofLeg: number): FlowAtLine[] =>
  wallFlow({
    lines: context.lines,
    pitch: context.plane.pitch,
    from: wall.from,
    to: wall.to,
    wallHeight: wall.height,
    roofLeg,
    rainPerHour: context.job.site.rainPerHour,
    drivenRainShare: context.job.site.drivenRainShare,
  });
