import {
  type Assembly,
  type Cover,
  type FlatPattern,
  type Piece,
  type Words,
  cut,
  emptyAssembly,
  inCourse,
  laid,
} from '../../assembly/index.ts';
import { type Outline, tidyOutline } from '../../roof/index.ts';
import { type RuleKey, leastOf, mostOf } from '../../rules/index.ts';
import {
  type PlacedWall,
  type PlaneContext,
  type SidePiece,
  claddingWords,
  alongWall,
  clipsAlong,
  cutBeside,
  cutFromStock,
  detailOf,
  endsUnderValley,
  onWall,
  stepMark,
  wallFacetId,
} from '../../slope/index.ts';
import { courseMark, interfaceLines } from '../../surface/index.ts';
import { inches } from '../../units/index.ts';
import { OVER_BEND, besideWall } from './side.ts';

const COVER_KEYS: RuleKey[] = ['cover.roofLeg', 'cover.up', 'cover.lap', 'cover.longest', 'flashing.thickness'];

/** As cut: the leg on the tiles, and up the wall along the fold at the roof line, cut away as far as it begins below a corner. */
const coverFlat = ({ roofLeg, wallLeg }: SidePiece, length: number, below: number): FlatPattern => ({
  outline: tidyOutline([[0, 0], [length, 0], [length, roofLeg + wallLeg], [below, roofLeg + wallLeg], [below, roofLeg], [0, roofLeg]]), // prettier-ignore
  bends: [{ from: [below, roofLeg], to: [length, roofLeg], direction: 'up', degrees: 90 }],
});

/** A kick-out is this wide on the roof, about: there the lowest length begins above its bend (trade practice). */
const KICK_OUT_WIDE = inches(4);

/** What a length covers of the tiles, from a place up the slope to another. */
function onTiles(wall: PlacedWall, item: SidePiece, y0: number, y1: number, overKickOut: boolean): Outline[] {
  if (!overKickOut) return [besideWall(wall, item.roofLeg, y0, y1)];
  const at = (reach: number): number => wall.x + wall.side * reach;
  const { roofLeg } = item;
  return [[[at(0), OVER_BEND], [at(KICK_OUT_WIDE), OVER_BEND], [at(KICK_OUT_WIDE), y0], [at(roofLeg), y0], [at(roofLeg), y1], [at(0), y1]]]; // prettier-ignore
}

/** So far past the wall's end, as wide as it lies at least (trade practice). */
const UNDER_VALLEY = inches(6);

/** The last course a cover flashing lies over: with it it is laid. */
const lastBeside = ({ lines }: PlaneContext, { from, to }: PlacedWall): number =>
  to >= lines.end - 1 ? lines.count : interfaceLines(lines, from, to).last;

/** The lengths of cover flashing beside a wall, from the eave up, each over the one below; over the whole covering and under the ridge. */
function coverPieces(context: PlaneContext, wall: PlacedWall, item: SidePiece): Piece[] {
  const { lines, rules, facet, slopeFactor: k } = context;
  const overKickOut = wall.from === 0 && wall.foot === 'kick-out';
  // beside a front it begins on the apron that comes round the corner
  const from = wall.from > 0 ? wall.from - leastOf(rules, 'cover.lap') : lines.first;
  const course = lastBeside(context, wall);
  // under the metal of a valley that begins there it runs on
  const past = endsUnderValley(context, wall) ? UNDER_VALLEY : 0;
  const stretches = cutBeside(wall, Math.min(wall.to, lines.end) + past - from, item.length, leastOf(rules, 'cover.lap'));
  return stretches.map((stretch, i): Piece => {
    const [y0, y1] = [from + stretch.from, from + stretch.to];
    const [low, high] = [Math.max(y0, wall.from), Math.min(y1, wall.to)];
    const flat = coverFlat(item, (y1 - y0) * alongWall(wall), low - y0);
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

/** Over a channel that takes the water it only closes what lies beside the wall. */
const isTrim = ({ slant }: PlacedWall): boolean => slant !== null && slant.drain !== 'cover alone';

/** How cover flashings lie, in words, after what is done with them. */
function coverWords({ rules, surface }: PlaneContext, wall: PlacedWall, { roofLeg }: SidePiece, pieces: readonly Piece[]): Words {
  const [first, last] = [pieces[0]!.mark, pieces.at(-1)!.mark];
  return [
    ` ${pieces.length > 1 ? `${first} to ${last}` : first} over the tiles from the ${wall.from > 0 ? 'corner' : 'eave'} up, `,
    cut(roofLeg),
    isTrim(wall)
      ? ' on them, dressed to them over the channel'
      : surface.crowns
        ? ' on them, past a crown and dressed into the hollow'
        : ' on them',
    ...(pieces.length > 1
      ? ([`, ${pieces.length} lengths lapped `, cut(leastOf(rules, 'cover.lap')), ', upper over lower'] as const)
      : []),
  ];
}

/** Cover flashing over the tiles beside a wall, in lengths, its other leg straight up the wall, where cladding or counterflashing goes over it. */
export function planCovers(context: PlaneContext, wall: PlacedWall, item: SidePiece): Assembly {
  const pieces = coverPieces(context, wall, item);
  const clips = clipsAlong(
    context,
    (Math.min(wall.to, context.lines.end) - wall.from) * alongWall(wall),
    mostOf(context.rules, 'cover.clips'),
    'hooked under a tile, turned up over its free edge last',
  );
  const over =
    wall.cladding === 'masonry'
      ? 'counterflashing'
      : wall.cladding === 'frame'
        ? 'the frame’s own cladding'
        : claddingWords(context, wall.cladding);
  return {
    ...emptyAssembly,
    pieces,
    steps: [
      laid(pieces, {
        course: lastBeside(context, wall),
        stage: 'covering',
        action: [
          `${wall.name}: dress cover flashing`,
          ...coverWords(context, wall, item, pieces),
          `; its upstand goes behind ${over}.`,
        ],
        ...clips,
        people: 1,
        ...(context.covering.metal === 'lead' ? { caution: 'Lead: gloves, wash before eating.' } : {}),
        holdPoint: isTrim(wall)
          ? 'free edge tight to the tiles, the channel under it clear'
          : context.surface.crowns
            ? 'free edge past a crown all the way up'
            : 'free edge tight to the tiles',
        keys: ['cover.roofLeg', 'cover.clips'],
      }),
    ],
  };
}
