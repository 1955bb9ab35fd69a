import {
  type Assembly,
  type Cover,
  cut,
  emptyAssembly,
  fastenersAt,
  inCourse,
  notInCatalog,
  onlySaying,
} from '../../assembly/index.ts';
import { type ItemOf, chooseLengthMetal, chooseNail, itemsOf, smallest, seamOf } from '../../catalog/index.ts';
import { rectangle } from '../../roof/index.ts';
import { type RuleKey, leastOf, mostOf } from '../../rules/index.ts';
import {
  type PlacedWall,
  type PlaneContext,
  type SidePiece,
  channelDepth,
  cornerPiece,
  detailOf,
  flowAlong,
  hasPan,
  stepMark,
  wallFacetId,
  wallOutline,
  isOnTiles,
} from '../../slope/index.ts';
import { STARTER_MARK, buttLine, courseMark } from '../../surface/index.ts';
import { inches, isAtLeast } from '../../units/index.ts';
import { besideWall } from './side.ts';

export function planFoot(context: PlaneContext, wall: PlacedWall, item: SidePiece): Assembly {
  // an apron along the front turns its corners itself
  if (wall.face || context.found.front(`${wall.partOf}F`)) return emptyAssembly;
  if (wall.from > 0) return planApronEnd(context, wall, item);
  return wall.foot === 'kick-out' ? planKickOut(context, wall, item) : emptyAssembly;
}

/** Least height of the kick-out: the ruled one, or twice the depth of the water that runs there, if more. */
export function kickOutNeed(context: PlaneContext, wall: PlacedWall, roofLeg: number): number {
  const atFoot = flowAlong(context, wall, roofLeg)[0]?.collected ?? 0;
  return Math.max(leastOf(context.rules, 'kickOut.height'), 2 * channelDepth(atFoot, roofLeg, context.angle));
}

/** The smallest kick-out that is high enough. */
export function kickOutFor(context: PlaneContext, wall: PlacedWall, step: SidePiece): ItemOf<'kickOut'> | undefined {
  const need = kickOutNeed(context, wall, step.roofLeg);
  const high = itemsOf(context.catalog, 'kickOut').filter(
    (item) =>
      item.metal === context.covering.metal &&
      isAtLeast(item.height, need) &&
      item.angleDegrees >= leastOf(context.rules, 'kickOut.angle') &&
      item.angleDegrees <= mostOf(context.rules, 'kickOut.angle'),
  );
  // as wide on the roof as the steps that empty into it, or what runs down their outer edge passes it by
  const wide = high.filter((item) => isAtLeast(item.roofLeg, step.roofLeg));
  return smallest(
    wide.length > 0 ? wide : high,
    (item) => item.height,
    (item) => item.length,
  );
}

/** How far its diverter may be turned, by the rules. */
const turnedWords = ({ rules }: PlaneContext): string => {
  const most = mostOf(rules, 'kickOut.angle');
  return `${leastOf(rules, 'kickOut.angle')}°${most === Number.POSITIVE_INFINITY ? ' or more' : ` to ${most}°`}`;
};

/** Its two nails stand so far in from its outer edge. */
const KICK_OUT_NAILS = [inches(0.5), inches(1.5)];

function planKickOut(context: PlaneContext, wall: PlacedWall, step: SidePiece): Assembly {
  const need = kickOutNeed(context, wall, step.roofLeg);
  const product = kickOutFor(context, wall, step);
  if (!product) {
    return onlySaying(
      notInCatalog(
        wall.name,
        [
          `${context.covering.metal} kick-out `,
          cut(need),
          ` high, its diverter turned ${turnedWords(context)}, so the foot of the wall has none and water runs behind the cladding there`,
        ],
        {
          id: `${wall.id}.kick-out`,
          severity: 'leaks',
          fix: ['Add a kick-out to the catalog, or choose another metal.'],
          piece: stepMark(wall, 1),
          key: 'kickOut.height',
        },
      ),
    );
  }
  const mark = `${wall.id}-K`;
  const y0 = buttLine(context.lines, 1);
  // under cover flashing it lies on the tiles, and nothing goes through those; under a pan it lies below them
  const onTiles = isOnTiles(context) && !hasPan(context, wall);
  const underPan = isOnTiles(context) && !onTiles;
  const course = onTiles ? 1 : 0;
  const nail = chooseNail(context.catalog, 'roofing', context.covering.deckThickness + inches(1 / 8), context.covering.metal);
  const fasteners = fastenersAt(
    onTiles || underPan ? undefined : nail,
    { piece: mark, facet: context.facet, keptDry: 'covered' },
    KICK_OUT_NAILS.map(
      (inwards) => [wall.x + wall.side * (product.roofLeg - inwards), y0 + product.length - inches(0.5)] as const,
    ),
  );
  const keys: RuleKey[] = ['kickOut.required', 'kickOut.height', 'kickOut.angle', 'flashing.thickness'];
  return {
    ...emptyAssembly,
    fasteners,
    pieces: [
      {
        mark,
        detail: detailOf(wall),
        role: 'kickOut',
        product: product.id,
        course,
        covers: [
          { facet: context.facet, outline: besideWall(wall, product.roofLeg, y0, y0 + product.length), holds: ['open'] },
          {
            facet: wallFacetId(context, wall),
            outline: wallOutline(context, 0, y0 + product.length, 0, product.height),
            holds: ['open'],
          },
        ],
        lay: inCourse(context, course, 'kickOut', wall.x),
        liesOn: [...(underPan ? [] : [onTiles ? courseMark(1) : STARTER_MARK]), `${wall.id}-M1`],
        keys,
      },
    ],
    steps: [
      {
        lay: inCourse(context, course, 'kickOut', wall.x),
        detail: detailOf(wall),
        course,
        stage: 'covering',
        action: [
          `${wall.name}: set kick-out ${mark} on the ${onTiles ? 'first course' : underPan ? 'sheet, under the pan' : 'starter'}, tight to the wall, diverter (${product.angleDegrees}°, `,
          cut(product.height),
          ' high) emptying into the gutter. Seam moulded, or ' + seamOf(context.covering.metal) + '.',
        ],
        pieces: [mark],
        ...(onTiles ? { fasteners: ['1 clip at its top, hooked under a tile; none through it'] } : {}),
        ...(underPan ? { fasteners: ['1 clip over its top, nailed to the tilting fillet; none through it'] } : {}),
        ...(fasteners.length > 0 ? { fasteners: ['2 nails at its top, on the roof; none in the wall'] } : {}),
        people: 1,
        holdPoint: 'kick-out emptying into the gutter',
        keys,
      },
    ],
  };
}

function planApronEnd(context: PlaneContext, wall: PlacedWall, item: SidePiece): Assembly {
  const { rules, catalog, covering } = context;
  const end = leastOf(rules, 'apron.end');
  // the ear may not be wider than the corner piece's roof leg that lies over it
  const ear = Math.min(end, item.roofLeg);
  const stock = chooseLengthMetal(catalog, 'apron', covering.metal, {
    first: wall.apronLeg,
    thickness: leastOf(rules, 'flashing.thickness'),
  });
  if (!stock) {
    return onlySaying(
      notInCatalog(
        wall.name,
        [`${covering.metal} apron stock with a roof leg of `, cut(wall.apronLeg), ' for the corner at the foot'],
        {
          id: `${wall.id}.apron`,
          severity: 'breaks a rule',
          fix: ['Choose a shorter apron leg, another metal, or add the stock to the catalog.'],
          piece: stepMark(wall, 1),
          key: 'apron.end',
        },
      ),
    );
  }
  const mark = `${wall.id}-A`;
  const corner = cornerPiece(context, wall);
  const y0 = Math.max(0, wall.from - wall.apronLeg);
  const keys: RuleKey[] = ['apron.end', 'flashing.thickness'];
  const covers: Cover[] = [
    { facet: context.facet, outline: rectangle(wall.x - ear, y0, wall.x + ear, wall.from), holds: ['open'] },
  ];
  return {
    ...emptyAssembly,
    pieces: [
      {
        mark,
        detail: detailOf(wall),
        role: 'apronEnd',
        product: stock.id,
        course: corner.coveredBy,
        covers,
        lay: inCourse(context, corner.coveredBy, 'flashing', Math.min(y0, corner.lower) - 1),
        liesOn: [corner.underApron > 0 ? courseMark(corner.underApron) : STARTER_MARK],
        cutLength: end + ear,
        keys,
      },
    ],
    steps: [
      {
        lay: inCourse(context, corner.coveredBy, 'flashing', Math.min(y0, corner.lower) - 1),
        detail: detailOf(wall),
        course: corner.coveredBy,
        stage: 'covering',
        action: [
          `${wall.name}: lay apron end ${mark} on course ${corner.underApron}, `,
          cut(ear),
          ' past the corner, cut on the corner line and the ear turned up the side.',
        ],
        pieces: [mark],
        people: 1,
        keys,
      },
    ],
  };
}
