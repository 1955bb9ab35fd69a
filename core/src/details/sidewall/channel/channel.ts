import {
  type Assembly,
  type FlatPattern,
  type Piece,
  type Step,
  type Words,
  assemble,
  cut,
  emptyAssembly,
  inCourse,
  inStarter,
  laid,
  mm,
  notInCatalog,
  rightAfter,
} from '../../../assembly/index.ts';
import { rectangle } from '../../../roof/index.ts';
import { type RuleKey, leastOf } from '../../../rules/index.ts';
import {
  type Asks,
  type BaseContext,
  type PlaneContext,
  alongWall,
  besideFace,
  cutBeside,
  cutFromStock,
  onWall,
  reachPastCrowns,
  wallFacetId,
} from '../../../slope/index.ts';
import { courseMark } from '../../../surface/index.ts';
import { channelFindings } from './findings.ts';
import { turnedUpBeside } from '../side.ts';
import {
  type Channel,
  type Slanted,
  channelGround,
  channelOf,
  channelStart,
  firstOver,
  openAlong,
  slantedIn,
} from './slanted.ts';

const KEYS: RuleKey[] = ['channel.lap', 'channel.free', 'channel.freeboard'];

/** Along a wall at an angle the tiles end short of it, and none of their nails goes through the channel. */
export function channelAsks(context: BaseContext): Partial<Asks> {
  const walls = slantedIn(context);
  return {
    openings: walls.map((wall) => openAlong(context, wall)),
    metal: walls.flatMap((wall) => {
      const channel = channelOf(context, wall);
      return channel ? [channelGround(context, wall, channel)] : [];
    }),
  };
}

/** What drains the cut edges of the tiles along each wall at an angle, and what is to be said of it. */
export const planChannels = (context: PlaneContext): Assembly =>
  assemble(
    slantedIn(context).flatMap((wall): Assembly[] => {
      const channel = channelOf(context, wall);
      const findings = channelFindings(context, wall, channel);
      if (!channel) return [{ ...emptyAssembly, findings }];
      const foot = footOf(context, wall, channel);
      const pieces = channelPieces(context, wall, channel, foot);
      return [
        {
          ...emptyAssembly,
          pieces: [...(foot ? [foot] : []), ...pieces],
          steps: [
            battenEnds(context, wall, channel),
            ...(foot ? [footStep(context, wall, foot)] : []),
            channelStep(context, wall, pieces),
            cutTilesStep(context, wall, pieces.at(-1)!),
          ],
          findings: [
            ...findings,
            ...(channel.made === 'moulded' && !channel.item
              ? [
                  notInCatalog(wall.name, ['moulded channel'], {
                    id: `${wall.id}.noChannel`,
                    severity: 'breaks a rule',
                    fix: ['Choose folded lead, or add a channel to the catalog.'],
                    piece: pieces[0]!.mark,
                  }),
                ]
              : []),
          ],
        },
      ];
    }),
  );

/** The lengths of a channel from its foot up, each over the one below, its inner side up the wall under the cover flashing. */
function channelPieces(context: PlaneContext, wall: Slanted, channel: Channel, foot: Piece | undefined): Piece[] {
  const { lines, rules } = context;
  const from = channelStart(context, wall);
  const up = leastOf(rules, 'cover.up');
  const over = firstOver(context, wall);
  return cutBeside(wall, lines.end - from, channel.longest, leastOf(rules, 'channel.lap')).map((stretch, i): Piece => {
    const [y0, y1] = [from + stretch.from, from + stretch.to];
    const length = (y1 - y0) * alongWall(wall);
    const flat = channelFlat(channel, up, length);
    return {
      mark: `${wall.id}-CH${i + 1}`,
      detail: wall.id,
      role: 'channel',
      ...(channel.made === 'metal' ? { ...cutFromStock(context, flat), flat } : channel.item ? { product: channel.item.id } : {}),
      covers: [
        turnedUpBeside(context, wall, channel.width, y0, y1),
        { facet: wallFacetId(context, wall), outline: onWall(context, wall, Math.max(0, y0), y1, 0, up), holds: ['open'] },
      ],
      lay: inCourse(context, over, 'backPiece', wall.x + (i + 1) / 1000),
      liesOn: [i > 0 ? `${wall.id}-CH${i}` : (foot?.mark ?? `${wall.id}-M1`)],
      ...(channel.made === 'moulded' ? { cutLength: length } : {}),
      keys: KEYS,
    };
  });
}

/** As folded from a sheet: the side board, the floor, and up the wall. */
const channelFlat = ({ width, depth }: Channel, up: number, length: number): FlatPattern => ({
  outline: rectangle(0, 0, length, depth + width + up),
  bends: [depth, depth + width].map((at) => ({ from: [0, at], to: [length, at], direction: 'up', degrees: 90 })),
});

/** Soft metal that takes the channel's water on to the tiles below its end: over them to the eave and past a crown, under the course above. Undefined where the channel runs into the gutter. */
function footOf(context: PlaneContext, wall: Slanted, channel: Channel): Piece | undefined {
  if (wall.slant.channelFrom === 0) return undefined;
  const { lines, rules, facet } = context;
  const [y0, y1] = [lines.first, wall.slant.channelFrom + leastOf(rules, 'channel.lap') / alongWall(wall)];
  const reach = footReach(context, wall, channel);
  const up = leastOf(rules, 'cover.up');
  const flat: FlatPattern = {
    outline: rectangle(0, 0, (y1 - y0) * alongWall(wall), reach + up),
    bends: [{ from: [0, reach], to: [(y1 - y0) * alongWall(wall), reach], direction: 'up', degrees: 90 }],
  };
  const over = firstOver(context, wall);
  return {
    mark: `${wall.id}-CF`,
    detail: wall.id,
    role: 'channelFoot',
    ...cutFromStock(context, flat),
    flat,
    covers: [
      { facet, outline: besideFace(wall, 0, reach, y0, y1), holds: ['open'] },
      { facet: wallFacetId(context, wall), outline: onWall(context, wall, 0, y1, 0, up), holds: ['open'] },
    ],
    lay: inCourse(context, over, 'backPiece', wall.x),
    liesOn: [courseMark(Math.max(1, over - 1))],
    keys: ['channel.lap', 'cover.pastCrown'],
  };
}

/** How far the foot reaches over the tiles: past a crown all along, and past the channel. */
const footReach = (context: PlaneContext, wall: Slanted, channel: Channel): number =>
  Math.max(
    channel.width,
    reachPastCrowns(context, wall, context.lines.first, wall.slant.channelFrom, leastOf(context.rules, 'cover.roofLeg')),
  );

/** How the battens' cut ends are to bear, by what of the rafters can be got at. */
const ENDS = {
  'set back': 'the last rafter stands back from it: cut only the ends that run on past it',
  'at the wall':
    'fix a support timber from inside the loft first, beside the rafter at the wall, re-fix the battens to it, then cut them',
  'no access':
    'the rafter at the wall cannot be got at: only where the battens are sound, cut them and fix their free ends to the channel’s side board',
} as const;

function battenEnds(context: PlaneContext, wall: Slanted, channel: Channel): Step {
  return {
    lay: rightAfter(inStarter(context, -1), wall.x + 1),
    detail: wall.id,
    course: 0,
    stage: 'covering',
    action: [
      `${wall.name}: cut the battens back `,
      cut(channel.width + leastOf(context.rules, 'channel.free')),
      ` from its face, without touching the sheet; ${ENDS[wall.slant.rafter]}.`,
    ],
    pieces: [],
    people: 1,
    caution: 'Whole foot on the battens that stay; nothing bears on a cut end.',
    keys: ['channel.free'],
  };
}

function footStep(context: PlaneContext, wall: Slanted, foot: Piece): Step {
  return laid([foot], {
    course: firstOver(context, wall),
    stage: 'covering',
    action: [
      `${wall.name}: dress foot ${foot.mark} to the channel and to the tiles below, a turned roll for stiffness, from the eave to `,
      cut(leastOf(context.rules, 'channel.lap')),
      ' under the channel’s end and past a crown, its other side up the wall.',
    ],
    people: 1,
    ...(context.covering.metal === 'lead' ? { caution: 'Lead: gloves, wash before eating.' } : {}),
  });
}

function channelStep(context: PlaneContext, wall: Slanted, pieces: readonly Piece[]): Step {
  const { rules } = context;
  const which = pieces.length > 1 ? `${pieces[0]!.mark} to ${pieces.at(-1)!.mark}` : pieces[0]!.mark;
  const ends: Words =
    wall.slant.channelFrom === 0 ? [' into the gutter'] : [' on to the foot, ', mm(wall.slant.channelFrom), ' up the slope'];
  return laid(pieces, {
    course: firstOver(context, wall),
    stage: 'covering',
    action: [
      `${wall.name}: dry-fit and cut channel ${which}, lay it from the foot up, upper over lower`,
      ...(pieces.length > 1 ? ([', laps ', cut(leastOf(rules, 'channel.lap'))] as const) : []),
      ',',
      ...ends,
      ', ',
      cut(leastOf(rules, 'channel.free')),
      ' free beside it to move.',
    ],
    fasteners: ['0 nails through the channel: clipped at its side board'],
    people: 1,
    holdPoint: 'clear all the way down, floor below the battens',
    keys: KEYS,
  });
}

/** How the tiles are cut that drain into it. */
function cutTilesStep(context: PlaneContext, wall: Slanted, channel: Piece): Step {
  return {
    lay: rightAfter(channel.lay, 1),
    detail: wall.id,
    course: firstOver(context, wall),
    stage: 'covering',
    action: [
      `${wall.name}: cut the last tile of each course over the channel: lug off, a new hole where the nail misses it`,
      wall.slant.mortar ? ', bedded on the bonding strip alone, no mortar in the channel.' : ', no mortar.',
    ],
    pieces: [],
    people: 1,
    holdPoint: 'no nail in the channel, nothing fallen into it',
    caution: 'Silica dust: wet cutting or extraction, mask; eyes and ears.',
    keys: KEYS,
  };
}
