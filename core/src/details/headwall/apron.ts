import {
  type Assembly,
  type Cover,
  type Fastener,
  type LayKey,
  type Piece,
  type Step,
  bead,
  cut,
  cutRun,
  emptyAssembly,
  type Words,
  evenlyAlong,
  fastenersAt,
  inCourse,
  laid,
  notInCatalog,
  onlySaying,
  rightAfter,
} from '../../assembly/index.ts';
import { type ItemOf, type LengthMetal, chooseLengthMetal, chooseNail, chooseTape, sealantFor } from '../../catalog/index.ts';
import { type Outline, rectangle, tidyOutline } from '../../roof/index.ts';
import { type RuleKey, leastOf } from '../../rules/index.ts';
import {
  BEFORE_SIDES,
  type Front,
  type PlaneContext,
  earRise,
  frontFacet,
  lastUnderApron,
  reachOverCrown,
  underCounter,
  isOnTiles,
  clipsAlong,
} from '../../slope/index.ts';
import { STARTER_MARK, courseMark, lastCourseAtOrBelow } from '../../surface/index.ts';
import { inches } from '../../units/index.ts';
import { planInsideCorners } from './insideCorner.ts';
import { ownerOf } from './membrane.ts';

const KEYS: RuleKey[] = ['apron.roofLeg', 'apron.wallLeg', 'apron.lap', 'apron.end', 'flashing.thickness'];

const SCHOOL: Record<Front['apron'], string> = {
  'left out': 'none: wall water runs under the tiles on the sheet turned up the wall',
  exposed: 'fastened along its lower edge where the heads can be seen and resealed',
  'strip adhered': 'a cap strip adhered over its lower edge, no nails',
  'strip nailed': 'a cap strip nailed over its lower edge',
};
/** On tile, where a screw would crack what it goes through. */
const CLIPPED = 'dressed tight over the tiles and into their hollows, its lower edge held by clips';

const isClipped = ({ surface }: Pick<PlaneContext, 'surface'>, { apron }: Front): boolean =>
  apron === 'exposed' && isOnTiles({ surface });

/** How the lower edge of an apron at the top of a slope is held, in words. */
export const heldBy = (context: Pick<PlaneContext, 'surface'>, front: Front): string =>
  isClipped(context, front) ? CLIPPED : SCHOOL[front.apron];

/** Fasteners of an exposed apron this far apart, this far above its lower edge. */
const APRON_SPACING = inches(12);
const APRON_INSET = inches(0.75);
/** Bead on a fastener's head. */
const HEAD_BEAD = inches(1);

/** Sizes and place of a front's apron. */
type Apron = {
  readonly front: Front;
  readonly stock: LengthMetal;
  /** Its ends, ears with it, and its lower edge. */
  readonly x0: number;
  readonly x1: number;
  readonly y0: number;
  readonly lap: number;
  /** How far it goes on past the front's left and right end. */
  readonly ears: readonly [left: number, right: number];
  /** Up the wall. */
  readonly up: number;
  /** The slope ends at the wall: nothing goes over its roof leg. */
  readonly atTop: boolean;
  /** The last course under it, 0 for the starter, and the course it comes with. */
  readonly under: number;
  readonly course: number;
};

export function planApron(context: PlaneContext, front: Front): Assembly {
  if (front.apron === 'left out') return emptyAssembly;
  const { rules, catalog, covering, lines, surface } = context;
  const leg = front.apronLeg;
  const counter = front.cladding === 'masonry' ? underCounter(context) : 0;
  const wallLeg = Math.max(leastOf(rules, 'apron.wallLeg'), counter);
  const stock = chooseLengthMetal(catalog, 'apron', covering.metal, { first: leg, second: wallLeg, thickness: leastOf(rules, 'flashing.thickness') }); // prettier-ignore
  if (!stock)
    return onlySaying(
      notInCatalog(
        front.name,
        [`${covering.metal} apron stock with `, cut(leg), ' on the roof and ', cut(wallLeg), ' up the wall'],
        {
          id: `${front.id}.apron`,
          severity: 'leaks',
          fix: ['Choose a shorter leg, another metal, or add the stock to the catalog.'],
          key: 'apron.roofLeg',
        },
      ),
    );
  const end = leastOf(rules, 'apron.end');
  // over tiles past a crown too
  const ears = [
    front.left === 'corner' ? reachOverCrown(context, front.x0, -1, end) : 0,
    front.right === 'corner' ? reachOverCrown(context, front.x1, 1, end) : 0,
  ] as const;
  const atTop = front.y > lines.end - 1;
  const under = lastUnderApron(lines, front.y, leg);
  const apron: Apron = {
    front,
    stock,
    x0: front.x0 - ears[0],
    x1: front.x1 + ears[1],
    y0: front.y - leg,
    lap: leastOf(rules, 'apron.lap'),
    ears,
    up: Math.min(stock.second, front.height),
    atTop,
    under,
    course: atTop ? lines.count + 1 : under + 1,
  };
  const pieces = piecesOf(context, apron);
  const nail = chooseNail(catalog, 'roofing', covering.deckThickness + surface.thickness * 2, covering.metal);
  const isScrewed = front.apron === 'exposed' && atTop && !isClipped(context, front);
  const fasteners = isScrewed ? exposedFasteners(context, apron, pieces, nail) : [];
  const strip = front.apron === 'exposed' ? { pieces: [], fasteners: [] } : capStrip(context, apron, layOf(context, apron, pieces.length), nail); // prettier-ignore
  const { up, lap, course } = apron;
  const corners = planInsideCorners(context, front, frontFacet(context, front), { leg, up, lap, course });
  return {
    ...emptyAssembly,
    pieces: [...corners.pieces, ...pieces, ...strip.pieces],
    fasteners: [...fasteners, ...strip.fasteners],
    zones: [
      {
        facet: context.facet,
        outline: rectangle(apron.x0, apron.y0 + inches(1), apron.x1, front.y),
        rule: 'apron.roofLeg',
        against: ['apron', 'course', 'capStrip'],
        detail: ownerOf(front),
        piece: pieces[0]!.mark,
      },
    ],
    steps: [...corners.steps, apronStep(context, apron, pieces, strip.pieces, fasteners.length)],
  };
}

/** On the last course; beside a corner, under the course that laps over its ears, or on tiles over all beside it. */
const layOf = (context: PlaneContext, { front, course, y0, atTop }: Apron, i: number): LayKey =>
  isClipped(context, front) && !atTop
    ? inCourse(context, lastCourseAtOrBelow(context.lines, front.y), 'pastAll', BEFORE_SIDES + i / 1000)
    : inCourse(context, course, 'across', y0 + i);

function piecesOf(context: PlaneContext, apron: Apron): Piece[] {
  const { front, stock, x0, x1, y0, lap, up, under, course } = apron;
  const { facet } = context;
  // where the corner piece starts high, the ears run up beside the wall until it laps them properly
  const rise = apron.atTop || isClipped(context, front) ? 0 : earRise(context.lines, front.y, front.apronLeg);
  return cutRun(x1 - x0, stock.length, lap).map((stretch, i): Piece => {
    const [a, b] = [x0 + stretch.from, x0 + stretch.to];
    return {
      mark: `${front.id}-A${i + 1}`,
      detail: ownerOf(front),
      role: 'apron',
      product: stock.id,
      course,
      covers: [
        ...[rectangle(a, y0, b, front.y), ...earsAbove(front, a, b, rise)].map((outline): Cover => ({ facet, outline, holds: ['open'] })), // prettier-ignore
        {
          facet: frontFacet(context, front),
          outline: rectangle(Math.max(a, front.x0), 0, Math.min(b, front.x1), up),
          holds: ['open'],
        },
      ],
      lay: layOf(context, apron, i),
      liesOn: [i > 0 ? `${front.id}-A${i}` : under > 0 ? courseMark(under) : STARTER_MARK],
      cutLength: b - a,
      flat: apronFlat(b - a, front.apronLeg, up, Math.max(0, front.x0 - a), Math.max(0, b - front.x1), rise),
      keys: KEYS,
    };
  });
}

/** Along its lower edge, where their heads can be seen and resealed. */
function exposedFasteners(
  context: PlaneContext,
  { x0, x1, y0 }: Apron,
  pieces: readonly Piece[],
  nail: ItemOf<'nail'> | undefined,
) {
  const { facet } = context;
  return evenlyAlong(x1 - x0 - inches(2), APRON_SPACING).flatMap((along): Fastener[] => {
    const x = x0 + inches(1) + along;
    const on = pieces.find(({ covers }) => x <= covers[0]!.outline[1]![0])!;
    return fastenersAt(nail, { piece: on.mark, facet, keptDry: 'sealed head' }, [[x, y0 + APRON_INSET]]);
  });
}

function apronStep(
  context: PlaneContext,
  { front, stock, x0, x1, lap, ears, atTop, under, course }: Apron,
  pieces: readonly Piece[],
  strip: readonly Piece[],
  fasteners: number,
): Step {
  const sealant = sealantFor(context.catalog, 'joint');
  return laid([...pieces, ...strip], {
    course,
    stage: 'covering',
    action: [
      `${front.name}: lay apron ${pieces.map(({ mark }) => mark).join(', ')} on ${under > 0 ? `course ${under}` : 'the starter'}, `,
      cut(front.apronLeg),
      ' on the roof, ',
      cut(stock.second),
      ' up the wall',
      ...(pieces.length > 1 ? [`, ${pieces.length} lengths lapped `, cut(lap), ' away from the weather'] : []),
      ...earWords(ears),
      `; ${atTop || isClipped(context, front) ? heldBy(context, front) : 'held by the ears under the courses beside it'}.`,
    ],
    ...(isClipped(context, front)
      ? clipsAlong(
          context,
          x1 - x0,
          CLIPS_APART,
          `nailed to the ${atTop ? 'top batten' : 'batten under it'} before it goes on, turned up over its lower edge last`,
        )
      : {}),
    ...(fasteners > 0
      ? {
          fasteners: [
            `${fasteners} gasketed screws into the deck, `,
            cut(APRON_INSET),
            ' above the lower edge, heads sealed once the slope is covered',
          ],
          uses: [bead(sealant, 'polyurethane sealant', fasteners * HEAD_BEAD, sealant?.bead ?? inches(0.25))],
        }
      : {}),
    people: pieces.some(({ cutLength }) => (cutLength ?? 0) > inches(96)) ? 2 : 1,
    caution: 'Sharp metal: gloves, hem edges.',
  });
}

/** How far its ears go past the corners, told once where they are alike. */
function earWords([left, right]: Apron['ears']): Words {
  if (left === 0 && right === 0) return [];
  const reach: Words =
    Math.abs(left - right) < 1 || left === 0 || right === 0 ? [cut(Math.max(left, right))] : [cut(left), ' and ', cut(right)];
  return ['; ears ', ...reach, ' past the corners, cut on the corner line'];
}

/** Clips along the free edge of lead stand at most so far apart, millimetres (trade practice). */
const CLIPS_APART = 450;

/** What of the ears goes on beside the wall above the corners. */
const earsAbove = (front: Front, a: number, b: number, rise: number): Outline[] =>
  rise <= 0
    ? []
    : [
        ...(a < front.x0 ? [rectangle(a, front.y, front.x0, front.y + rise)] : []),
        ...(b > front.x1 ? [rectangle(front.x1, front.y, b, front.y + rise)] : []),
      ];

/** Roof leg and wall leg either side of the fold; at an outside corner the wall leg is cut off on the corner line and the ear lies on. */
function apronFlat(length: number, leg: number, up: number, left: number, right: number, rise: number) {
  return {
    outline: tidyOutline([
      [0, 0], [length, 0], [length, leg + (right > 0 ? rise : 0)], [length - right, leg + (right > 0 ? rise : 0)], [length - right, leg + up],
      [left, leg + up], [left, leg + (left > 0 ? rise : 0)], [0, leg + (left > 0 ? rise : 0)],
    ]), // prettier-ignore
    bends: [{ from: [left, leg] as const, to: [length - right, leg] as const, direction: 'up' as const, degrees: 90 }],
  };
}

/** A strip over the apron's lower edge: adhered, or (refused) nailed. */
function capStrip(
  context: PlaneContext,
  { front, x0, x1, y0 }: Apron,
  lay: LayKey,
  nail: ItemOf<'nail'> | undefined,
): Pick<Assembly, 'pieces' | 'fasteners'> {
  const { facet } = context;
  const tape = chooseTape(context.catalog, inches(4));
  if (!tape) return { pieces: [], fasteners: [] };
  const pieces = cutRun(x1 - x0, tape.rollLength, leastOf(context.rules, 'iceBarrier.endLap')).map(({ from, to }, i): Piece => ({
    mark: `${front.id}-CS${i + 1}`,
    detail: ownerOf(front),
    role: 'capStrip',
    product: tape.id,
    covers: [{ facet, outline: rectangle(x0 + from, y0 - tape.width / 2, x0 + to, y0 + tape.width / 2), holds: ['bonded'] }],
    lay: rightAfter(lay, i / 1000),
    liesOn: [i === 0 ? `${front.id}-A1` : `${front.id}-CS${i}`],
    cutLength: to - from,
    keys: ['apron.roofLeg'],
  }));
  if (front.apron !== 'strip nailed') return { pieces, fasteners: [] };
  const fasteners = evenlyAlong(x1 - x0, APRON_SPACING).flatMap((along): Fastener[] => {
    const x = x0 + along;
    const on = pieces.findLast(({ covers }) => covers[0]!.outline[0]![0] <= x)!;
    return fastenersAt(nail, { piece: on.mark, facet, keptDry: 'covered' }, [[x, y0 + inches(1)]]);
  });
  return { pieces, fasteners };
}
