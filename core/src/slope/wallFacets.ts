import { type Outline, slopeToWall } from '../roof/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';
import type { Front, PlacedWall, PlaneContext } from './model.ts';

/** What a wall belongs to: itself, or the chimney, dormer or frame it is a face of. */
export const detailOf = ({ id, face, partOf }: PlacedWall): string => (face && partOf) ?? id;

/** What a side piece is set against, in the crew’s words. */
export const setAgainst = ({ face }: Pick<PlacedWall, 'face'>): string => face ?? 'wall';
/** What turns round the corner at its foot, and what its corner piece laps. */
export const turnsCorner = ({ cladding }: Pick<PlacedWall, 'cladding'>): 'sill flashing' | 'apron' =>
  cladding === 'frame' ? 'sill flashing' : 'apron';

/** Mark of a wall’s step, counted from 1 at its foot: `SW1-07`. */
export const stepMark = (wall: { id: string }, i: number): string => `${wall.id}-${String(i).padStart(2, '0')}`;

/** Facet id of a sidewall. */
export const wallFacetId = (context: PlaneContext, wall: { id: string }): string => `${context.facet}/${wall.id}`;

/** A rectangle along the roof line (`s`) and square to it (`u`), on the wall's own upright chart. */
export function wallOutline(context: PlaneContext, s0: number, s1: number, u0: number, u1: number): Outline {
  const pitch = context.plane.pitch;
  return [slopeToWall(s0, u0, pitch), slopeToWall(s1, u0, pitch), slopeToWall(s1, u1, pitch), slopeToWall(s0, u1, pitch)];
}

/**
 * A strip along a wall between two places up the slope, square to it; where it reaches an end of the wall it is cut plumb there, so that no wedge of wall
 * stays bare above its upper corner. `most`: how far up the slope its metal or sheet goes at all.
 */
export function onWall(
  context: PlaneContext,
  wall: Pick<PlacedWall, 'from' | 'to'>,
  s0: number,
  s1: number,
  u0: number,
  u1: number,
  most = Number.POSITIVE_INFINITY,
): Outline {
  const pitch = context.plane.pitch;
  const low = (u: number): number => (s0 <= wall.from + LINE_TOLERANCE ? wall.from + u * pitch : s0);
  const high = (u: number): number => (s1 >= wall.to - LINE_TOLERANCE ? Math.min(wall.to + u * pitch, Math.max(s1, most)) : s1);
  // a piece so short, on a slope so steep, that it ends before its upper corner stands over the wall's lower end
  if (low(u1) > high(u1) && low(u0) < s1)
    return ([[low(u0), u0], [s1, u0], [s1, (s1 - wall.from) / pitch]] as const).map(([s, u]) => slopeToWall(s, u, pitch)); // prettier-ignore
  const corners: [number, number][] = [[low(u0), u0], [high(u0), u0], [high(u1), u1], [low(u1), u1]]; // prettier-ignore
  // where the metal gives out before the plumb end is reached
  if (most < wall.to + u1 * pitch && most > wall.to + u0 * pitch && s1 >= wall.to - LINE_TOLERANCE)
    corners.splice(2, 0, [most, (most - wall.to) / pitch]);
  return corners.map(([s, u]) => slopeToWall(s, u, pitch));
}

/** Facet id of a face that looks down the slope. */
export const frontFacet = (context: { facet: string }, front: { id: string }): string => `${context.facet}/${front.id}`;

/** Facet id of the back of a chimney or frame. */
export const backFacet = (plane: string, id: string): string => `${plane}/${id}B`;

/** The piece turned up a front that its cladding or counterflashing laps: its apron, or the sheet where that is left out. */
export const turnedUpFront = ({ id, apron }: Front): string => `${id}-${apron === 'left out' ? 'M1' : 'A1'}`;
