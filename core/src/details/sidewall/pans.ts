import {
  type Assembly,
  type FlatPattern,
  type Piece,
  type Step,
  cut,
  emptyAssembly,
  inCourse,
  inStarter,
  laid,
  rightAfter,
} from '../../assembly/index.ts';
import { rectangle } from '../../roof/index.ts';
import { type RuleKey, leastOf } from '../../rules/index.ts';
import {
  type Asks,
  type BaseContext,
  type PlacedWall,
  type PlaneContext,
  type SidePiece,
  clipsAlong,
  coverFor,
  cutBeside,
  cutFromStock,
  detailOf,
  hasPan,
  onWall,
  stepMark,
  wallFacetId,
} from '../../slope/index.ts';
import { inches } from '../../units/index.ts';
import { besideWall, turnedUpBeside } from './side.ts';

const KEYS: RuleKey[] = ['cover.roofLeg', 'cover.up', 'cover.lap', 'cover.longest', 'flashing.thickness'];

/** A pan's free edge is turned up and back by so much: it stops the water and takes the clips (trade practice). */
const HEM = inches(1);
/** Clips over a pan's hem stand at most so far apart (trade practice). */
const CLIPS_APART = inches(24);

/** No nail of the tiles goes through a pan. */
export const panAsks = (context: BaseContext): Partial<Asks> => ({
  metal: context.walls.flatMap((wall) =>
    hasPan(context, wall) ? [besideWall(wall, coverFor(context, wall).roofLeg, context.lines.first, wall.to)] : [],
  ),
});

/** As cut: the hem, the floor under the tiles, and up the wall. */
const panFlat = ({ roofLeg, wallLeg }: SidePiece, length: number): FlatPattern => ({
  outline: rectangle(0, 0, length, HEM + roofLeg + wallLeg),
  bends: [HEM, HEM + roofLeg].map((at) => ({ from: [0, at], to: [length, at], direction: 'up', degrees: at === HEM ? 180 : 90 })),
});

/** A hemmed pan under the tiles beside a wall, from past the eave up in lengths, each over the one below; its other leg up the wall under what closes it there. */
export function planPans(context: PlaneContext, wall: PlacedWall, item: SidePiece): Assembly {
  const { lines, rules } = context;
  const [from, to] = [lines.first, Math.min(wall.to, lines.end)];
  const pieces = cutBeside(wall, to - from, item.length, leastOf(rules, 'cover.lap')).map((stretch, i): Piece => {
    const [y0, y1] = [from + stretch.from, from + stretch.to];
    const flat = panFlat(item, y1 - y0);
    return {
      mark: stepMark(wall, i + 1),
      detail: detailOf(wall),
      role: 'panFlashing',
      ...cutFromStock(context, flat),
      flat,
      covers: [
        turnedUpBeside(context, wall, item.roofLeg, y0, y1),
        {
          facet: wallFacetId(context, wall),
          outline: onWall(context, wall, Math.max(0, y0), y1, 0, item.wallLeg),
          holds: ['open'],
        },
      ],
      lay: inCourse(context, 1, 'backPiece', wall.x + i / 1000),
      liesOn: [i > 0 ? stepMark(wall, i) : `${wall.id}-M1`],
      keys: KEYS,
    };
  });
  return { ...emptyAssembly, pieces, steps: [battenEnds(context, wall, item), panStep(context, wall, item, pieces)] };
}

const battenEnds = (context: PlaneContext, wall: PlacedWall, { roofLeg }: SidePiece): Step => ({
  lay: rightAfter(inStarter(context, -1), wall.x + 1),
  detail: detailOf(wall),
  course: 0,
  stage: 'covering',
  action: [
    `${wall.name}: end the battens `,
    cut(roofLeg),
    ' from its face, without cutting the sheet, their ends on a rafter or a bearer: the pan lies between them and the wall.',
  ],
  pieces: [],
  people: 1,
  caution: 'Whole foot on the battens that stay; nothing bears on a free end.',
  keys: ['cover.roofLeg'],
});

function panStep(context: PlaneContext, wall: PlacedWall, item: SidePiece, pieces: readonly Piece[]): Step {
  const { rules, lines } = context;
  const which = pieces.length > 1 ? `${pieces[0]!.mark} to ${pieces.at(-1)!.mark}` : pieces[0]!.mark;
  return laid(pieces, {
    course: 1,
    stage: 'covering',
    action: [
      `${wall.name}: lay pan flashing ${which} on the sheet from past the eave up, `,
      cut(item.roofLeg),
      ' wide, hem ',
      cut(HEM),
      ' turned back, ',
      cut(item.wallLeg),
      ' up the wall',
      ...(pieces.length > 1
        ? ([`; ${pieces.length} lengths lapped `, cut(leastOf(rules, 'cover.lap')), ', upper over lower'] as const)
        : []),
      '. Tiles go over it to the wall’s gap, none bedded in it.',
    ],
    ...clipsAlong(
      context,
      wall.to - lines.first,
      CLIPS_APART,
      'hooked over its hem, nailed to the battens’ ends; no nail through it',
    ),
    people: 1,
    ...(context.covering.metal === 'lead' ? { caution: 'Lead: gloves, wash before eating.' } : {}),
    holdPoint: 'clear all the way down, hem whole, no nail in it',
    keys: KEYS,
  });
}
