import type { FlatPattern } from '../../assembly/index.ts';
import type { Cricket, Point } from '../../roof/index.ts';

/**
 * Flat pattern of one half: the side's true triangle (right-angled at the front of the ridge), an upstand along the back face, a flange
 * along the valley, and a lap over the ridge on to the other half. Corners: front of the ridge at the origin, ridge along x.
 */
export function cricketFlat(cricket: Cricket, upstand: number, flange: number, lap: number): FlatPattern {
  const { ridge, slant, valley } = cricket;
  const apex: Point = [ridge, 0];
  const corner: Point = [0, -slant];
  const along: Point = [(apex[0] - corner[0]) / valley, (apex[1] - corner[1]) / valley];
  const out: Point = [along[1], -along[0]];
  const off = ([x, y]: Point): Point => [x + out[0] * flange, y + out[1] * flange];
  const degrees = (radians: number): number => Math.round((radians * 1800) / Math.PI) / 10;
  return {
    outline: [[-upstand, -slant], corner, off(corner), off(apex), apex, [ridge, lap], [0, lap], [0, 0], [-upstand, 0]],
    bends: [
      { from: [0, 0], to: corner, direction: 'up', degrees: 90 },
      { from: corner, to: apex, direction: 'up', degrees: degrees(cricket.valleyBend) },
      { from: [0, 0], to: apex, direction: 'down', degrees: degrees(cricket.ridgeBend) },
    ],
  };
}
