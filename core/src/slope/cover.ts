import {
  type Cover,
  type FlatPattern,
  type Piece,
  type Step,
  type Words,
  cut,
  cutRun,
  inCourse,
  piecesOf,
} from '../assembly/index.ts';
import { itemsOf } from '../catalog/index.ts';
import { type Outline, rectangle, tidyOutline } from '../roof/index.ts';
import { type RuleKey, leastOf, mostOf } from '../rules/index.ts';
import { courseMark, interfaceLines } from '../surface/index.ts';
import { inches, stepsToReach } from '../units/index.ts';
import { cutFromStock } from './flatStock.ts';
import type { PlacedWall, PlaneContext, SidePiece } from './model.ts';
import { detailOf, onWall, stepMark, wallFacetId } from './wallFacets.ts';

/** The lower edge of what laps over a kick-out stands so far above its bend (trade practice). */
export const OVER_BEND = inches(2);

/** Along a course, for what lies across the foot of a thing on tiles: before the cover flashings beside it. */
export const BEFORE_SIDES = -1;

const COVER_KEYS: RuleKey[] = ['cover.roofLeg', 'cover.up', 'cover.lap', 'cover.longest', 'flashing.thickness'];

/** As cut: the leg on the tiles, and up the wall along the fold at the roof line, cut away as far as it begins below a corner. */
const coverFlat = ({ roofLeg, wallLeg }: SidePiece, length: number, below: number): FlatPattern => ({
  outline: tidyOutline([[0, 0], [length, 0], [length, roofLeg + wallLeg], [below, roofLeg + wallLeg], [below, roofLeg], [0, roofLeg]]), // prettier-ignore
  bends: [{ from: [below, roofLeg], to: [length, roofLeg], direction: 'up', degrees: 90 }],
});

/** A kick-out is this wide on the roof, about: there the lowest length begins above its bend (trade practice). */
const KICK_OUT_WIDE = inches(4);

/** What a length covers of the tiles, from a place up the slope to another. */
function onTiles({ x, side }: PlacedWall, { roofLeg }: SidePiece, y0: number, y1: number, overKickOut: boolean): Outline[] {
  const at = (reach: number): number => x + side * reach;
  const beside = (near: number, far: number, low: number): Outline =>
    rectangle(Math.min(at(near), at(far)), low, Math.max(at(near), at(far)), y1);
  if (!overKickOut) return [beside(0, roofLeg, y0)];
  return [[[at(0), OVER_BEND], [at(KICK_OUT_WIDE), OVER_BEND], [at(KICK_OUT_WIDE), y0], [at(roofLeg), y0], [at(roofLeg), y1], [at(0), y1]]]; // prettier-ignore
}

/** The lengths of cover flashing beside a wall, from the eave up, each over the one below; over the whole covering and under the ridge. */
export function coverPieces(context: PlaneContext, wall: PlacedWall, item: SidePiece): Piece[] {
  const { lines, rules, facet, slopeFactor: k } = context;
  const overKickOut = wall.from === 0 && wall.foot === 'kick-out';
  // beside a front it begins on the apron that comes round the corner
  const from = wall.from > 0 ? wall.from - leastOf(rules, 'cover.lap') : lines.first;
  const course = wall.to >= lines.end - 1 ? lines.count : interfaceLines(lines, wall.from, wall.to).last;
  const stretches = cutRun(Math.min(wall.to, lines.end) - from, item.length, leastOf(rules, 'cover.lap'));
  return stretches.map((stretch, i): Piece => {
    const [y0, y1] = [from + stretch.from, from + stretch.to];
    const [low, high] = [Math.max(y0, wall.from), Math.min(y1, wall.to)];
    const flat = coverFlat(item, y1 - y0, low - y0);
    return {
      mark: stepMark(wall, i + 1),
      detail: detailOf(wall),
      role: 'coverFlashing',
      // of a kit it comes as it is
      ...(wall.inKit ? {} : { ...cutFromStock(context, flat), flat }),
      covers: [
        ...onTiles(wall, item, y0, y1, overKickOut && i === 0).map((outline): Cover => ({ facet, outline, holds: ['open'] })),
        {
          facet: wallFacetId(context, wall),
          outline: onWall(context, wall, low, high, 0, item.wallLeg, high + k * item.wallLeg),
          holds: ['open'],
        },
      ],
      lay: inCourse(context, course, 'pastAll', wall.x + i / 1000),
      liesOn: [i > 0 ? stepMark(wall, i) : wall.partOf ? `${wall.partOf}F-A1` : courseMark(1)],
      keys: COVER_KEYS,
    };
  });
}

/** How cover flashings lie, in words, after what is done with them. */
export function coverWords(
  { rules, surface }: PlaneContext,
  wall: PlacedWall,
  { roofLeg }: SidePiece,
  pieces: readonly Piece[],
): Words {
  const [first, last] = [pieces[0]!.mark, pieces.at(-1)!.mark];
  return [
    ` ${pieces.length > 1 ? `${first} to ${last}` : first} over the tiles from the ${wall.from > 0 ? 'corner' : 'eave'} up, `,
    cut(roofLeg),
    surface.crowns ? ' on them, past a crown and dressed into the hollow' : ' on them',
    ...(pieces.length > 1
      ? ([`, ${pieces.length} lengths lapped `, cut(leastOf(rules, 'cover.lap')), ', upper over lower'] as const)
      : []),
  ];
}

/** The clips along the free edge of what lies over the tiles: never more than so far apart, one at each end. */
export function clipsAlong({ catalog, covering, rules }: PlaneContext, run: number): Required<Pick<Step, 'fasteners' | 'uses'>> {
  const apart = mostOf(rules, 'cover.clips');
  const clip = itemsOf(catalog, 'cleat').find(({ metal }) => metal === covering.metal);
  const count = stepsToReach(run, apart) + 1;
  return {
    fasteners: [`${count} clips, at most `, cut(apart), ' apart: hooked under a tile, turned up over its free edge last'],
    uses: [piecesOf(clip, `${covering.metal} clip`, count)],
  };
}
