import type { Feature } from '../document/index.ts';
import { type Span, byExtent } from '../roof/index.ts';
import type { Found, Frame, Front, PlacedWall } from './model.ts';

/** What stands on a slope, to be found by its name, its owner or its height. */
export function findStanding(
  walls: readonly PlacedWall[],
  frames: readonly Frame[],
  fronts: readonly Front[],
  features: readonly Feature[],
): Found {
  const byId = <Thing extends { readonly id: string }>(things: readonly Thing[]): ((id: string) => Thing | undefined) => {
    const known = new Map(things.map((thing) => [thing.id, thing]));
    return (id) => known.get(id);
  };
  const owned = new Map<string, PlacedWall[]>();
  for (const wall of walls) if (wall.partOf !== undefined) owned.set(wall.partOf, [...(owned.get(wall.partOf) ?? []), wall]);
  const against = fronts.filter(({ left, right }) => left === 'wall' || right === 'wall');
  return {
    wall: byId(walls),
    frame: byId(frames),
    front: byId(fronts),
    feature: byId(features),
    wallsOf: (owner) => owned.get(owner) ?? [],
    wallsAt: byExtent(walls, ({ from, to }): Span => [from, to]),
    frontsOver: byExtent(fronts, ({ y, apronLeg }): Span => [y - apronLeg, y - apronLeg]),
    framesOver: byExtent(frames, ({ from, apronLeg }): Span => [from - apronLeg, from - apronLeg]),
    insideCorners: against.flatMap((front) => walls.flatMap((wall) => (meetInside(front, wall) ? [{ front, wall }] : []))),
  };
}

/** Does a side wall meet a headwall in an inside corner, at the slope’s top? */
const meetInside = (front: Front, { x, to, side, cladding }: PlacedWall): boolean =>
  to > front.y - 1 &&
  cladding !== 'frame' &&
  ((side === 1 && front.left === 'wall' && Math.abs(x - front.x0) < 1) ||
    (side === -1 && front.right === 'wall' && Math.abs(x - front.x1) < 1));
