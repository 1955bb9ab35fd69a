import {
  type Assembly,
  type Fastener,
  type LayKey,
  type Piece,
  type Step,
  type Words,
  bead,
  cut,
  cutRun,
  emptyAssembly,
  inCourse,
  onlySaying,
  rightAfter,
} from '../../assembly/index.ts';
import { chooseLengthMetal, chooseNail, chooseTape, sealantFor } from '../../catalog/index.ts';
import { type Outline, rectangle, tidyOutline } from '../../roof/index.ts';
import { type RuleKey, leastOf } from '../../rules/index.ts';
import { type Front, type PlaneContext, earRise, frontFacet, lastUnderApron } from '../../slope/index.ts';
import { STARTER_MARK, courseMark } from '../../surface/index.ts';
import { inches, stepsToReach } from '../../units/index.ts';
import { planInsideCorners } from './insideCorner.ts';
import { ownerOf } from './membrane.ts';

const KEYS: RuleKey[] = ['apron.roofLeg', 'apron.wallLeg', 'apron.lap', 'apron.end', 'flashing.thickness'];

export const SCHOOL: Record<Front['apron'], string> = {
  exposed: 'fastened along its lower edge where the heads can be seen and resealed',
  'strip adhered': 'a cap strip adhered over its lower edge, no nails',
  'strip nailed': 'a cap strip nailed over its lower edge',
};

/** Fasteners of an exposed apron this far apart, this far above its lower edge. */
const APRON_SPACING = inches(12);
const APRON_INSET = inches(0.75);
/** Bead on a fastener's head. */
const HEAD_BEAD = inches(1);

export function planApron(context: PlaneContext, front: Front): Assembly {
  const { rules, catalog, covering, lines } = context;
  const atTop = front.y > lines.end - 1;
  const leg = front.apronLeg;
  const counter =
    front.cladding === 'masonry'
      ? leastOf(rules, 'counterflashing.cover') + leastOf(rules, 'counterflashing.clearance') + context.surface.thickness
      : 0;
  const up = Math.max(leastOf(rules, 'apron.wallLeg'), counter);
  const stock = chooseLengthMetal(catalog, 'apron', covering.metal, {
    first: leg,
    second: up,
    thickness: leastOf(rules, 'flashing.thickness'),
  });
  const detail = ownerOf(front);
  if (!stock)
    return onlySaying({
      id: `${front.id}.apron`,
      severity: 'leaks',
      sentence: [
        `${front.name}: the catalog has no ${covering.metal} apron stock with `,
        cut(leg),
        ' on the roof and ',
        cut(up),
        ' up the wall.',
      ],
      fix: ['Choose a shorter leg, another metal, or add the stock to the catalog.'],
      key: 'apron.roofLeg',
    });
  const end = leastOf(rules, 'apron.end');
  const ear = (side: 'left' | 'right'): number => (front[side] === 'corner' ? end : 0);
  const [x0, x1] = [front.x0 - ear('left'), front.x1 + ear('right')];
  const lap = leastOf(rules, 'apron.lap');
  const under = lastUnderApron(lines, front.y, leg);
  const y0 = front.y - leg;
  const course = atTop ? lines.count + 1 : under + 1;
  // where the corner piece starts high, the ears run up beside the wall until it laps them properly
  const rise = atTop ? 0 : earRise(lines, front.y, leg);
  // on the last course; beside a corner, under the course that laps over its ears
  const lay = (i: number): LayKey => inCourse(context, course, 'across', y0 + i);
  const pieces = cutRun(x1 - x0, stock.length, lap).map((stretch, i): Piece => {
    const [a, b] = [x0 + stretch.from, x0 + stretch.to];
    return {
      mark: `${front.id}-A${i + 1}`,
      detail,
      role: 'apron',
      product: stock.id,
      course,
      covers: [
        { facet: context.facet, outline: rectangle(a, y0, b, front.y), holds: ['open'] },
        ...earsAbove(front, a, b, rise).map((outline) => ({ facet: context.facet, outline, holds: ['open'] as const })),
        {
          facet: frontFacet(context, front),
          outline: rectangle(Math.max(a, front.x0), 0, Math.min(b, front.x1), Math.min(stock.second, front.height)),
          holds: ['open'],
        },
      ],
      lay: lay(i),
      liesOn: [i > 0 ? `${front.id}-A${i}` : under > 0 ? courseMark(under) : STARTER_MARK],
      cutLength: b - a,
      flat: apronFlat(
        b - a,
        leg,
        Math.min(stock.second, front.height),
        Math.max(0, front.x0 - a),
        Math.max(0, b - front.x1),
        rise,
      ),
      keys: KEYS,
    };
  });
  const school = front.apron;
  const sealant = sealantFor(catalog, 'joint');
  const nail = chooseNail(catalog, 'roofing', covering.deckThickness + context.surface.thickness * 2, covering.metal);
  const gaps = Math.max(1, stepsToReach(x1 - x0 - inches(2), APRON_SPACING));
  const fasteners: Fastener[] =
    school === 'exposed' && nail && atTop
      ? Array.from({ length: gaps + 1 }, (_, i) => {
          const x = x0 + inches(1) + ((x1 - x0 - inches(2)) * i) / gaps;
          const on = pieces.find(({ covers }) => x <= covers[0]!.outline[1]![0])!;
          return {
            piece: on.mark,
            facet: context.facet,
            at: [x, y0 + APRON_INSET] as const,
            product: nail.id,
            keptDry: 'sealed head' as const,
          };
        })
      : [];
  const strip = school === 'exposed' ? undefined : capStrip(context, front, x0, x1, y0, lay(pieces.length), nail?.id);
  const words: Words = [
    `${front.name}: apron ${pieces.map(({ mark }) => mark).join(', ')} on ${under > 0 ? `course ${under}` : 'the starter'}, `,
    cut(leg),
    ' on the roof, ',
    cut(stock.second),
    ' up the wall',
    ...(pieces.length > 1 ? [`, ${pieces.length} lengths lapped `, cut(lap), ' away from the weather'] : []),
    ...(front.left === 'corner' ? ['; ears ', cut(ear('left')), ' past the corners, cut on the corner line'] : []),
    `; ${atTop ? SCHOOL[school] : 'held by the ears under the courses beside it'}.`,
  ];
  const step: Step = {
    lay: lay(0),
    detail,
    course,
    stage: 'covering',
    action: words,
    pieces: [...pieces, ...(strip?.pieces ?? [])].map(({ mark }) => mark),
    ...(fasteners.length > 0
      ? {
          fasteners: [`${fasteners.length} fasteners along the lower edge, heads sealed once the slope is covered`],
          uses: [bead(sealant, 'polyurethane sealant', fasteners.length * HEAD_BEAD, sealant?.bead ?? inches(0.25))],
        }
      : {}),
    people: pieces.some(({ cutLength }) => (cutLength ?? 0) > inches(96)) ? 2 : 1,
    caution: 'Sharp metal: gloves, hem edges.',
    keys: KEYS,
  };
  const corners = planInsideCorners(context, front, frontFacet(context, front), {
    leg,
    up: Math.min(stock.second, front.height),
    lap,
    course,
  });
  return {
    ...emptyAssembly,
    pieces: [...corners.pieces, ...pieces, ...(strip?.pieces ?? [])],
    fasteners: [...fasteners, ...(strip?.fasteners ?? [])],
    zones: [
      {
        facet: context.facet,
        outline: rectangle(x0, y0 + inches(1), x1, front.y),
        rule: 'apron.roofLeg',
        against: ['apron', 'course', 'capStrip'],
        detail,
        piece: pieces[0]!.mark,
      },
    ],
    steps: [...corners.steps, step],
  };
}

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
  front: Front,
  x0: number,
  x1: number,
  y0: number,
  lay: Step['lay'],
  nail: string | undefined,
) {
  const tape = chooseTape(context.catalog, inches(4));
  if (!tape) return undefined;
  const pieces = cutRun(x1 - x0, tape.rollLength, leastOf(context.rules, 'iceBarrier.endLap')).map(({ from, to }, i): Piece => ({
    mark: `${front.id}-CS${i + 1}`,
    detail: ownerOf(front),
    role: 'capStrip',
    product: tape.id,
    covers: [
      {
        facet: context.facet,
        outline: rectangle(x0 + from, y0 - tape.width / 2, x0 + to, y0 + tape.width / 2),
        holds: ['bonded'],
      },
    ],
    lay: rightAfter(lay, i / 1000),
    liesOn: [i === 0 ? `${front.id}-A1` : `${front.id}-CS${i}`],
    cutLength: to - from,
    keys: ['apron.roofLeg'],
  }));
  const gaps = Math.max(1, stepsToReach(x1 - x0, APRON_SPACING));
  const fasteners: Fastener[] =
    front.apron === 'strip nailed' && nail
      ? Array.from({ length: gaps + 1 }, (_, i) => ({
          piece: pieces.findLast(({ covers }) => covers[0]!.outline[0]![0] <= x0 + ((x1 - x0) * i) / gaps)!.mark,
          facet: context.facet,
          at: [x0 + ((x1 - x0) * i) / gaps, y0 + inches(1)],
          product: nail,
          keptDry: 'covered',
        }))
      : [];
  return { pieces, fasteners };
}
