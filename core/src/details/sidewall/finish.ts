import {
  type Assembly,
  HUNG_IN_WALL,
  type Piece,
  STUCK_TO_WALL,
  cut,
  doneBy,
  emptyAssembly,
  laid,
  topSeal,
  wallFinish,
} from '../../assembly/index.ts';
import { chooseTape } from '../../catalog/index.ts';
import { isRequired, leastOf } from '../../rules/index.ts';
import {
  type PlacedWall,
  type PlaneContext,
  type SidePiece,
  alongWall,
  besideWallOf,
  cutBeside,
  detailOf,
  onWall,
  stepMark,
  wallFacetId,
  claddingWords,
} from '../../slope/index.ts';
import { inches } from '../../units/index.ts';

/** Stuck down all round, its upper edge behind the wall's own drainage layer: lower, right, upper, left edge. */
const BEHIND_DRAINAGE_LAYER = STUCK_TO_WALL;

/** Narrowest strip over the steps' top edges: 2 in on the metal and 2 in on the wall. */
const TOP_STRIP = inches(4);

/** What the strip goes over. */
const TOP_EDGES = {
  steps: 'the steps’ top edges',
  soakers: 'the soakers’ top edges',
  covers: 'the cover flashing’s top edge',
  pans: 'the pan flashing’s top edge',
} as const;

export function planTopSeal(context: PlaneContext, wall: PlacedWall, item: SidePiece): Assembly {
  if (wall.cladding === 'masonry' || wall.cladding === 'frame' || !isRequired(context.rules, 'stepFlashing.topSealed'))
    return emptyAssembly;
  const tape = chooseTape(context.catalog, TOP_STRIP);
  if (!tape) return emptyAssembly;
  const lap = leastOf(context.rules, 'iceBarrier.sideLap');
  const u0 = item.wallLeg - tape.width / 2;
  const pieces = cutBeside(wall, wall.to - wall.from, tape.rollLength, lap).map((stretch, i): Piece => ({
    mark: `${wall.id}-T${i + 1}`,
    detail: detailOf(wall),
    role: 'topSeal',
    product: tape.id,
    covers: [
      {
        facet: wallFacetId(context, wall),
        outline: onWall(context, wall, wall.from + stretch.from, wall.from + stretch.to, u0, u0 + tape.width),
        holds: BEHIND_DRAINAGE_LAYER,
      },
    ],
    lay: topSeal(context, wall.x, wall.from + stretch.from),
    liesOn: i === 0 ? [stepMark(wall, 1)] : [`${wall.id}-T${i}`],
    cutLength: (stretch.to - stretch.from) * alongWall(wall),
    keys: ['stepFlashing.topSealed'],
  }));
  return {
    ...emptyAssembly,
    pieces,
    steps: [
      laid(pieces, {
        stage: 'finish',
        action: [
          `${wall.name}: stick strip `,
          cut(tape.width),
          ` wide over ${TOP_EDGES[besideWallOf(context, wall)]}, half on the metal and half on the wall, from the eave up.`,
        ],
        people: 1,
        holdPoint: context.surface.sides === 'steps' ? 'strip over every step' : 'strip on the metal all the way up',
        keys: ['stepFlashing.topSealed'],
      }),
    ],
  };
}

export function planFinish(context: PlaneContext, wall: PlacedWall, item: SidePiece): Assembly {
  switch (wall.cladding) {
    case 'masonry':
      // let into the wall by the counterflashing family
      return emptyAssembly;
    case 'frame':
      return planFrameCladding(context, wall, item);
    default:
      return doneBy('cladders', planCladding(context, wall));
  }
}

/** Existing or new cladding: not ours to order, but what covers the steps' wall legs, so the plan shows it. */
function planCladding(context: PlaneContext, wall: PlacedWall): Assembly {
  const clear = leastOf(context.rules, 'cladding.clearance') + context.surface.thickness;
  const mark = `${wall.id}-CL`;
  const what = claddingWords(context, wall.cladding);
  return {
    ...emptyAssembly,
    pieces: [
      {
        mark,
        detail: detailOf(wall),
        role: 'cladding',
        covers: [
          {
            facet: wallFacetId(context, wall),
            outline: onWall(context, wall, wall.from, wall.to, clear, wall.height),
            holds: ['open'],
          },
        ],
        lay: wallFinish(context, 'face', wall.x, 0),
        liesOn: [`${wall.id}-T1`],
        keys: ['cladding.clearance'],
      },
    ],
    steps: [
      {
        lay: wallFinish(context, 'face', wall.x, 0),
        detail: detailOf(wall),
        stage: 'finish',
        action: [
          `${wall.name}: close with ${what}, which laps over the wall legs; lower edge `,
          cut(leastOf(context.rules, 'cladding.clearance')),
          ' clear of the covering.',
        ],
        pieces: [mark],
        people: 2,
        keys: ['cladding.clearance'],
      },
    ],
  };
}

/** A skylight's own cladding over the steps, from the kit: there to be screwed on, not cut. */
function planFrameCladding(context: PlaneContext, wall: PlacedWall, item: SidePiece): Assembly {
  const mark = `${wall.id}-CL`;
  const low = Math.min(item.wallLeg, wall.height) / 3;
  return {
    ...emptyAssembly,
    pieces: [
      {
        mark,
        detail: detailOf(wall),
        role: 'frame',
        covers: [
          {
            facet: wallFacetId(context, wall),
            outline: onWall(context, wall, wall.from, wall.to, low, wall.height),
            holds: HUNG_IN_WALL,
          },
        ],
        lay: topSeal(context, wall.x, 0),
        liesOn: [stepMark(wall, 1)],
        keys: [],
      },
    ],
  };
}
