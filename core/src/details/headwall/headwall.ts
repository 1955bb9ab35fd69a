import {
  type Assembly,
  type DetailSheet,
  type Fastener,
  type Finding,
  type LayKey,
  type Piece,
  type Step,
  type Words,
  assemble,
  bead,
  cut,
  cutRun,
  doneBy,
  emptyAssembly,
  inCourse,
  mm,
  onlySaying,
  rightAfter,
  wallFinish,
  wrap,
  wrapAtTop,
} from '../../assembly/index.ts';
import { chooseLengthMetal, chooseNail, chooseTape, sealantFor } from '../../catalog/index.ts';
import { type Outline, rectangle, tidyOutline } from '../../roof/index.ts';
import { type RuleKey, leastOf } from '../../rules/index.ts';
import {
  type Front,
  type PlaneContext,
  earRise,
  foldedRound,
  frontFacet,
  lastUnderApron,
  shortLastCourse,
  wrapSheet,
} from '../../slope/index.ts';
import { STARTER_MARK, buttLine, courseCount, courseMark } from '../../surface/index.ts';
import { LINE_TOLERANCE, inches, isUnder, stepsToReach } from '../../units/index.ts';
import { dormerSheet } from './dormer.ts';
import { type Fit, fitCourses } from './fit.ts';
import { planInsideCorners } from './insideCorner.ts';

const KEYS: RuleKey[] = ['apron.roofLeg', 'apron.wallLeg', 'apron.lap', 'apron.end', 'flashing.thickness'];

/** Every face that looks down the slope: membrane, apron on the last course, and the cladding over it where it is not masonry. */
export const planHeadwalls = (context: PlaneContext): Assembly =>
  assemble([
    ...context.fronts.map((front) => planFront(context, front)),
    { ...emptyAssembly, findings: [...context.fronts.flatMap((front) => apronFindings(context, front)), ...shortLegs(context)] },
  ]);

/** Aprons asked for shorter than what governs: the least is planned, and said. */
function shortLegs(context: PlaneContext): Finding[] {
  const least = leastOf(context.rules, 'apron.roofLeg');
  const asked = [
    ...context.plane.walls.flatMap(({ id, name, from, apronLeg }) => (from > 0 ? [{ id, name, apronLeg }] : [])),
    ...context.features.flatMap((feature) => ('apronLeg' in feature ? [feature] : [])),
  ];
  return asked
    .filter(({ apronLeg }) => apronLeg < least - LINE_TOLERANCE)
    .map(({ id, name, apronLeg }) => ({
      id: `${id}.apronLeg`,
      severity: 'breaks a rule',
      sentence: [
        `${name}: an apron with `,
        cut(apronLeg),
        ' on the roof is under the least, ',
        cut(least),
        '; the least is planned.',
      ],
      fix: ['Measure again what room there is, or accept the longer leg.'],
      piece: `${id}F-A1`,
      key: 'apron.roofLeg',
    }));
}

/** What a front belongs to: a chimney's or dormer's front carries its mark and an F. */
const ownerOf = (front: Front): string => front.id.replace(/F$/, '');

function planFront(context: PlaneContext, front: Front): Assembly {
  const atTop = front.y > context.lines.end - 1;
  // only a dormer's roof goes back into the slope; chimneys and frames have a back of their own, and a wall is told on its own sheet
  const walls = new Set(context.walls.map(({ id }) => id));
  const dormer = context.frames.find(({ id, hasBack }) => !hasBack && id === ownerOf(front) && !walls.has(id));
  return assemble([
    facetAndJoint(context, front),
    planMembrane(context, front),
    planApron(context, front),
    front.cladding === 'masonry' ? emptyAssembly : doneBy('cladders', planCladding(context, front)),
    { ...emptyAssembly, sheets: atTop ? [sheetOf(context, front)] : dormer ? [dormerSheet(context, front, dormer)] : [] },
  ]);
}

function facetAndJoint(context: PlaneContext, front: Front): Assembly {
  const b = frontFacet(context, front);
  return {
    ...emptyAssembly,
    facets: [
      {
        id: b,
        kind: 'wall',
        on: context.facet,
        detail: ownerOf(front),
        name: front.name,
        outline: rectangle(front.x0, 0, front.x1, front.height),
        fall: [0, -1],
        angle: Math.PI / 2,
      },
    ],
    joints: [
      {
        kind: 'front',
        side: 1,
        runsOn: false,
        a: context.facet,
        b,
        onA: [[front.x0, front.y], [front.x1, front.y]], // prettier-ignore
        onB: [[front.x0, 0], [front.x1, 0]], // prettier-ignore
      },
    ],
  };
}

/** The outside corners that piece `i` of `count` along a front reaches. */
const cornersOf = ({ left, right }: Front, i: number, count: number): (1 | -1)[] => [
  ...(left === 'corner' && i === 0 ? ([-1] as const) : []),
  ...(right === 'corner' && i === count - 1 ? ([1] as const) : []),
];

function planMembrane(context: PlaneContext, front: Front): Assembly {
  const { rules, covering } = context;
  const sheet = wrapSheet(context);
  const { product } = sheet;
  const deck = leastOf(rules, 'wallMembrane.deck');
  const up = Math.min(leastOf(rules, 'wallMembrane.up'), front.height);
  const past = (end: Front['left']): number => (end === 'corner' ? deck : 0);
  const [x0, x1] = [front.x0 - past(front.left), front.x1 + past(front.right)];
  const endLap = leastOf(rules, 'iceBarrier.endLap');
  const stock = Math.min(covering.underlayers.longestStrip ?? product.rollLength, product.rollLength);
  // under the wall at a slope's top it goes over all the underlayment
  const isAtTop = front.y > context.lines.end - 1;
  const layOf = (i: number): LayKey =>
    isAtTop ? wrapAtTop(context, front.x0 + i) : wrap(context, front.y, 'bottom', front.x0 + i);
  const pieces = cutRun(x1 - x0, stock, endLap).map((stretch, i, all): Piece => ({
    mark: `${front.id}-M${i + 1}`,
    detail: ownerOf(front),
    role: 'wallMembrane',
    product: product.id,
    covers: [
      {
        facet: context.facet,
        outline: rectangle(x0 + stretch.from, front.y - deck, x0 + stretch.to, front.y),
        holds: [sheet.onDeck],
      },
      {
        facet: frontFacet(context, front),
        outline: rectangle(Math.max(front.x0, x0 + stretch.from), 0, Math.min(front.x1, x0 + stretch.to), up),
        holds: sheet.onWall,
      },
      ...foldedRound(context, {
        owner: ownerOf(front),
        end: 'front',
        sides: cornersOf(front, i, all.length),
        reach: deck,
        low: 0,
        high: up,
        holds: sheet.onWall,
      }),
    ],
    lay: layOf(i / 1000),
    liesOn: i === 0 ? [] : [`${front.id}-M${i}`],
    cutLength: stretch.to - stretch.from,
    sheetWidth: deck + up,
    ...sheet.seals,
    keys: ['wallMembrane.up', 'wallMembrane.deck'],
  }));
  return {
    ...emptyAssembly,
    pieces,
    steps: [
      {
        lay: layOf(0),
        detail: ownerOf(front),
        stage: 'dry-in',
        action: [
          `${front.name}: ${sheet.onDeck === 'bonded' ? 'membrane ' : `${sheet.name}, `}`,
          ...(front.left === 'corner' ? ['bottom strip first, '] : []),
          cut(deck),
          sheet.onDeck === 'bonded' ? ' on to the deck and ' : ' on to the slope and ',
          cut(up),
          ' up the wall, ',
          mm(x1 - x0),
          ' long',
          ...(front.left === 'corner' ? [', corners folded, no cut into the corner itself.'] : ['.']),
        ],
        pieces: pieces.map(({ mark }) => mark),
        people: 1,
        // what is wrapped all round is seen whole, when its top is on
        ...(front.left === 'corner'
          ? {}
          : {
              holdPoint: `${sheet.onDeck === 'bonded' ? 'Membrane turned up the wall and stuck' : 'Sheet turned up the wall'}, seen before the apron`,
            }),
        keys: ['wallMembrane.up', 'wallMembrane.deck'],
      },
    ],
  };
}

const SCHOOL: Record<Front['apron'], string> = {
  exposed: 'fastened along its lower edge where the heads can be seen and resealed',
  'strip adhered': 'a cap strip adhered over its lower edge, no nails',
  'strip nailed': 'a cap strip nailed over its lower edge',
};

/** Fasteners of an exposed apron this far apart, this far above its lower edge. */
const APRON_SPACING = inches(12);
const APRON_INSET = inches(0.75);
/** Bead on a fastener's head. */
const HEAD_BEAD = inches(1);

function planApron(context: PlaneContext, front: Front): Assembly {
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

function apronFindings(context: PlaneContext, front: Front): Finding[] {
  const { lines } = context;
  const findings: Finding[] = [];
  if (front.apron === 'strip nailed')
    findings.push({
      id: `${front.id}.strip`,
      severity: 'leaks',
      sentence: [
        `${front.name}: a strip nailed over the apron leads water between strip and metal to every nail; a slow leak over framing.`,
      ],
      fix: ['Fasten the apron along its lower edge and seal the heads, or adhere the strip.'],
      piece: `${front.id}-CS1`,
      key: 'apron.roofLeg',
    });
  if (front.y > lines.end - 1) {
    findings.push(
      ...shortLastCourse(context, front.y, front.apronLeg, {
        id: front.id,
        what: `${front.name}: the last course under the apron`,
        piece: `${front.id}-A1`,
        fix: fixWords(fitFor(context, front)),
      }),
    );
  }
  return findings;
}

const fixWords = (fit: Fit | undefined): Words =>
  fit
    ? [
        'Set the exposure of this slope to ',
        cut(fit.exposure),
        `: ${fit.courses} courses, the last `,
        cut(fit.lastTall),
        ' tall.',
      ]
    : ['No exposure within 1/8 in gives a taller one: accept it, or cut a filler course.'];

/** The courses of a slope fitted to the wall along its top. */
export const fitFor = (context: PlaneContext, front: Front): Fit | undefined =>
  fitCourses(context.lines, front.y, front.apronLeg, leastOf(context.rules, 'headwall.lastCourse'));

function planCladding(context: PlaneContext, front: Front): Assembly {
  const clear = leastOf(context.rules, 'cladding.clearance') + context.surface.thickness;
  const what = front.cladding === 'boards' ? 'lapped boards over the drainage layer' : 'render over the drainage layer';
  const mark = `${front.id}-CL`;
  return {
    ...emptyAssembly,
    pieces: [
      {
        mark,
        detail: ownerOf(front),
        role: 'cladding',
        covers: [
          {
            facet: frontFacet(context, front),
            outline: rectangle(front.x0, clear, front.x1, Math.max(front.height, clear + 1)),
            holds: ['open'],
          },
        ],
        lay: wallFinish(context, 'face', front.x0, front.y),
        liesOn: [`${front.id}-A1`],
        keys: ['cladding.clearance'],
      },
    ],
    steps: [
      {
        lay: wallFinish(context, 'face', front.x0, front.y),
        detail: ownerOf(front),
        stage: 'finish',
        action: [
          `${front.name}: close with ${what}, over the apron’s wall leg; lower edge `,
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

function sheetOf(context: PlaneContext, front: Front): DetailSheet {
  const { lines, rules } = context;
  const under = lastUnderApron(lines, front.y, front.apronLeg);
  const tall = front.y - buttLine(lines, under);
  const all = courseCount(lines);
  const sliver = front.y - buttLine(lines, all);
  const fit = isUnder(tall, leastOf(rules, 'headwall.lastCourse')) ? fitFor(context, front) : undefined;
  return {
    detail: front.id,
    title: `${front.id} · ${front.name}`,
    family: 'headwall',
    ...(fit ? { fit: fit.exposure } : {}),
    plane: context.facet,
    window: { x0: front.x0 - inches(12), x1: front.x1 + inches(12), y0: front.y - inches(40), y1: front.y + inches(4) },
    figures: [
      { label: 'Along the wall', value: [mm(front.x1 - front.x0)] },
      { label: 'Apron on the roof', value: [cut(front.apronLeg)], key: 'apron.roofLeg' },
      { label: 'Courses to the wall as laid', value: [`${all}, the last `, cut(sliver), ' tall'] },
      { label: 'Last course under the apron', value: [`${under}, `, cut(tall), ' tall'], key: 'headwall.lastCourse' },
      ...(fit
        ? [
            {
              label: 'Fitted',
              value: ['exposure ', cut(fit.exposure), `: ${fit.courses} courses, the last `, cut(fit.lastTall), ' tall'] as Words,
            },
          ]
        : []),
      { label: 'Apron school', value: [SCHOOL[front.apron]] },
    ],
  };
}
