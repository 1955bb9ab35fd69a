import {
  type Assembly,
  type Cover,
  type Curve,
  type DetailSheet,
  type Fastener,
  type Finding,
  type FlatPattern,
  type Joint,
  type LayKey,
  type Piece,
  type Table,
  type Words,
  assemble,
  cementBand,
  cut,
  cutRun,
  emptyAssembly,
  flow,
  inCourse,
  mm,
  onlySaying,
  piecesOf,
  valleyMetal,
  valleySheet,
  wrap,
} from '../../assembly/index.ts';
import { type Catalog, chooseLengthMetal, itemById, itemsOf } from '../../catalog/index.ts';
import type { Covering, Job } from '../../document/index.ts';
import {
  type Outline,
  type Point,
  type ValleyWater,
  bounds,
  drainedInto,
  intersectOutlines,
  isWithin,
  rectangle,
  ribbedWater,
  runoff,
  valleyWater,
} from '../../roof/index.ts';
import { type Requirements, type RuleKey, isRequired, leastOf, mostOf, strictestOf } from '../../rules/index.ts';
import { type PlaneContext, type ValleySide, besideValley, onPlane } from '../../slope/index.ts';
import { buttLine, chalkLine, courseMark } from '../../surface/index.ts';
import { inches, isFlatter, isUnder, stepsToReach } from '../../units/index.ts';
import type { Valley } from './find.ts';

export type ValleyInput = {
  readonly job: Job;
  readonly catalog: Catalog;
  readonly valleys: readonly Valley[];
  readonly contexts: readonly PlaneContext[];
  readonly rulesOf: ReadonlyMap<string, Requirements>;
  /** Marks before the marks of each slope's courses. */
  readonly marks: ReadonlyMap<string, string>;
};

const FOOT = inches(12);

/** Sheet and lining run on past the head of the valley, under the covering above it. */
const PAST_HEAD = inches(8);
const PAST_CENTRE = inches(6);
/** How far the sheet goes down beside the wall where the valley begins up the slope, and the metal at most. */
const SHEET_TAIL = inches(8);
const METAL_TAIL = inches(4);
/** The lower end hangs at most an inch over the deck's edge. */
const LOW_OVER_EAVE = inches(1);
const OVER_EAVE: Outline = rectangle(-1e6, -LOW_OVER_EAVE, 1e6, 1e6);

/** Every valley of the roof: sheet, lining, edge shingles, chalk lines, and what the water in it looks like. */
export const planValleys = (input: ValleyInput): Assembly => assemble(input.valleys.map((valley) => planValley(input, valley)));

type One = ValleyInput & {
  readonly valley: Valley;
  readonly rules: Requirements;
  readonly a: PlaneContext;
  readonly b: PlaneContext;
  /** Between two coverings it is lined and sheeted as the first slope's is flashed. */
  readonly covering: Covering;
};

function planValley(input: ValleyInput, valley: Valley): Assembly {
  const contextOf = (id: string): PlaneContext => input.contexts.find(({ plane }) => plane.id === id)!;
  const rules = strictestOf(input.rulesOf.get(valley.a)!, input.rulesOf.get(valley.b)!);
  const [a, b] = [contextOf(valley.a), contextOf(valley.b)];
  const one: One = { ...input, valley, rules, a, b, covering: a.covering };
  const sheet = planSheet(one);
  const metal = valley.style === 'open' ? planLining(one) : valley.style === 'long-edge cut' ? planEdge(one) : emptyAssembly;
  return {
    ...assemble([sheet, metal]),
    joints: [jointOf(one)],
    findings: [...metal.findings, ...styleFindings(one), ...widthFindings(one)],
    sheets: [sheetOf(one)],
  };
}

const sideOf = (valley: Valley, plane: string): ValleySide => valley.sides.find((side) => side.plane === plane)!.side;

/** The slope a valley begins up on, if it does not begin at an eave. */
function hostOf({ valley, a, b }: One): { context: PlaneContext; side: ValleySide } | undefined {
  const host = valley.sides.find(({ side }) => side.footOn > 0);
  return host && { context: host.plane === a.plane.id ? a : b, side: host.side };
}

function jointOf(one: One): Joint {
  const { valley } = one;
  const [a, b] = [sideOf(valley, valley.a), sideOf(valley, valley.b)];
  // at its head there is none yet
  const water = [...stationsOf(valley), valley.line.trueLength].map((at) => {
    const { spreadA, spreadB } = waterAt(one, at);
    return { share: at / valley.line.trueLength, onA: spreadA, onB: spreadB };
  });
  return {
    kind: 'valley',
    side: a.side,
    runsOn: false,
    a: valley.a,
    b: valley.b,
    onA: [a.low, a.high],
    onB: [b.low, b.high],
    water,
  };
}

/** Every foot up a valley from its lower end. */
const stationsOf = ({ line }: Valley): number[] =>
  Array.from({ length: Math.floor(line.trueLength / FOOT) + 1 }, (_, i) => i * FOOT);

/** What a strip `half` wide each side of the centre covers on both slopes, between two distances from the lower end. */
function stripCovers(
  one: One,
  half: number,
  from: number,
  to: number,
  holds: Cover['holds'],
  tailLength: (context: PlaneContext, side: ValleySide) => number,
): Cover[] {
  return [one.a, one.b].flatMap((context) => {
    const side = sideOf(one.valley, context.plane.id);
    const length = Math.hypot(side.high[0] - side.low[0], side.high[1] - side.low[1]);
    const at = (along: number): Point => [
      side.low[0] + ((side.high[0] - side.low[0]) * along) / length,
      side.low[1] + ((side.high[1] - side.low[1]) * along) / length,
    ];
    const run: Point = [(side.high[0] - side.low[0]) / length, (side.high[1] - side.low[1]) / length];
    const inward: Point = [side.side * run[1], -side.side * run[0]];
    const off = ([x, y]: Point, by: number): Point => [x + inward[0] * by, y + inward[1] * by];
    const foot = from <= 0 && side.footOn > 0;
    // the lowest piece is carried on past the eave's corner and cut to it, the highest past the valley's head, under the covering there
    const [low, high] = [at(from <= 0 && !foot ? -half : from), at(to >= one.valley.line.trueLength - 1 ? to + PAST_HEAD : to)];
    // where the valley begins up the slope it goes on down beside the wall there, on to the course it empties on to
    const tail: Outline = foot
      ? [[side.low[0] + side.side * half, side.low[1] - tailLength(context, side)], [side.low[0], side.low[1] - tailLength(context, side)]] // prettier-ignore
      : [];
    // beyond the centre there is nothing of this slope but at the head, where it goes on under the covering
    const strip: Outline = [off(low, -PAST_CENTRE), off(high, -PAST_CENTRE), off(high, half), off(low, half), ...tail];
    return onPlane(context.plane, strip)
      .flatMap((outline) => intersectOutlines(outline, OVER_EAVE)) // prettier-ignore
      .map((outline): Cover => ({ facet: context.plane.id, outline, holds }));
  });
}

/**
 * Pieces along a valley from its lower end up, none longer than its stock: what each covers along the line, and its length as cut, which includes
 * what hangs over the eave (or goes on down beside the wall a valley begins at) and what runs on past the head.
 */
function cutAlong(
  one: One,
  stock: number,
  lap: number,
  tail: number,
): { readonly stretch: { readonly from: number; readonly to: number }; readonly cutLength: number }[] {
  const { valley } = one;
  const length = valley.line.trueLength;
  const foot = hostOf(one) ? tail : LOW_OVER_EAVE;
  return cutRun(foot + length + PAST_HEAD, stock, lap).map(({ from, to }) => ({
    stretch: { from: Math.max(0, from - foot), to: Math.min(length, to - foot) },
    cutLength: to - from,
  }));
}

function planSheet(one: One): Assembly {
  const { valley, rules, covering, catalog, contexts } = one;
  const product = itemById(catalog, 'iceBarrier', covering.underlayers.iceBarrier);
  const endLap = leastOf(rules, 'iceBarrier.endLap');
  const keys: RuleKey[] = ['valley.sheet', 'iceBarrier.endLap'];
  const stock = Math.min(covering.underlayers.longestStrip ?? product.rollLength, product.rollLength);
  const host = hostOf(one);
  const layOf = (rank: number, along: number): LayKey =>
    host
      ? wrap(host.context, host.side.low[1], 'valleySheet', along)
      : valleySheet({ order: Math.max(one.a.order, one.b.order) }, rank, along);
  const pieces = cutAlong(one, stock, endLap, SHEET_TAIL).map(({ stretch, cutLength }, i): Piece => ({
    mark: `${valley.id}-S${i + 1}`,
    detail: valley.id,
    role: 'valleySheet',
    product: product.id,
    covers: stripCovers(one, product.width / 2, stretch.from, stretch.to, ['bonded'], () => SHEET_TAIL),
    lay: layOf(contexts.length, stretch.from),
    liesOn: i === 0 ? [] : [`${valley.id}-S${i}`],
    cutLength,
    sealsNails: product.sealsNails,
    keys,
  }));
  const narrow: Finding[] = isUnder(product.width, leastOf(rules, 'valley.sheet'))
    ? [
        {
          id: `${valley.id}.sheet`,
          severity: 'breaks a rule',
          sentence: [
            `${valley.name}: ${product.name} is `,
            cut(product.width),
            ' wide where the valley wants ',
            cut(leastOf(rules, 'valley.sheet')),
            '.',
          ],
          fix: ['Choose a wider sheet.'],
          piece: pieces[0]!.mark,
          key: 'valley.sheet',
        },
      ]
    : [];
  return {
    ...emptyAssembly,
    pieces,
    findings: narrow,
    steps: [
      {
        lay: layOf(0, 0),
        detail: valley.id,
        plane: valley.a,
        stage: 'dry-in',
        action: [
          `${valley.id}, ${valley.name.toLowerCase()}: self-adhered sheet `,
          cut(product.width),
          ' wide, centred, ',
          mm(valley.line.trueLength),
          ` long, ${pieces.length} ${pieces.length === 1 ? 'strip' : 'strips, upper over lower, end laps '}`,
          ...(pieces.length === 1 ? [] : [cut(endLap)]),
          '; pressed into the trough, no bridging, before the underlayment laps on to it.',
          ...(host ? [' Its lower end lies on the underlayment below, ', cut(SHEET_TAIL), ' down beside the wall.'] : []),
        ],
        pieces: pieces.map(({ mark }) => mark),
        people: 2,
        caution: 'Release paper is slick: off the roof at once.',
        holdPoint: 'Valley sheet tight in the trough, seen before it is covered',
        keys,
      },
    ],
  };
}

function planLining(one: One): Assembly {
  const { valley, rules, covering, catalog } = one;
  const width = leastOf(rules, 'valley.lining');
  const lap = leastOf(rules, 'valley.liningLap');
  const linings = itemsOf(catalog, 'valleyMetal').filter(({ rib }) => (rib !== undefined) === valley.ribbed);
  const stock = chooseLengthMetal({ ...catalog, items: linings }, 'valleyMetal', covering.metal, { first: width / 2, second: width / 2, thickness: leastOf(rules, 'flashing.thickness') }); // prettier-ignore
  const host = hostOf(one);
  const stands = host?.context === one.a ? one.b : one.a;
  // on the course it empties on to, and before the covering of what stands there
  const layOf = (along: number): LayKey =>
    host ? inCourse(stands, 0, 'backPiece', along) : valleyMetal({ order: Math.max(one.a.order, one.b.order) }, along);
  const foot = (context: PlaneContext, side: ValleySide): number =>
    Math.min(METAL_TAIL, side.low[1] - buttLine(context.lines, side.footOn));
  if (!stock)
    return onlySaying({
      id: `${valley.id}.lining`,
      severity: 'leaks',
      sentence: [
        `${valley.name}: the catalog has no ${valley.ribbed ? 'ribbed ' : ''}${covering.metal} valley lining `,
        cut(width),
        ' wide, so the open valley has none.',
      ],
      fix: ['Add it to the catalog, choose another metal, or a closed valley.'],
      piece: `${valley.id}-S1`,
      key: 'valley.lining',
    });
  const half = stock.first;
  const rib = linings.find(({ id }) => id === stock.id)?.rib ?? 0;
  const keys: RuleKey[] = [
    'valley.lining',
    'valley.liningLap',
    'valley.openTop',
    'valley.widening',
    'valley.cleats',
    'flashing.thickness',
  ];
  const stretches = cutAlong(one, stock.length, lap, METAL_TAIL);
  const pieces = stretches.map(({ stretch, cutLength }, i): Piece => ({
    mark: `${valley.id}-L${i + 1}`,
    detail: valley.id,
    role: 'valleyLining',
    product: stock.id,
    covers: stripCovers(one, half, stretch.from, stretch.to, ['open'], foot),
    lay: layOf(stretch.from),
    liesOn: [i === 0 ? `${valley.id}-S1` : `${valley.id}-L${i}`],
    cutLength,
    flat: liningFlat(half, cutLength, bendDegrees(valley), rib),
    keys,
  }));
  const spacing = mostOf(rules, 'valley.cleats');
  const cleat = itemsOf(catalog, 'cleat').find(({ metal }) => metal === covering.metal);
  const count = Math.max(1, stepsToReach(valley.line.trueLength, spacing)) + 1;
  const edges = [one.a, one.b].map((context) => {
    const side = sideOf(valley, context.plane.id);
    // the edge of the lining meets the eave a little way up the valley: from there to the head, evenly
    const onSlope = (along: number): boolean => isWithin(context.plane.outline, besidePoint(side, along, half));
    let first = inches(0.5);
    while (first < valley.line.trueLength && !onSlope(first)) first += inches(0.5);
    let last = valley.line.trueLength - inches(0.5);
    while (last > first && !onSlope(last)) last -= inches(0.5);
    return { context, side, first, last };
  });
  const [held, past] = [edges.filter(({ first, last }) => first < last), edges.filter(({ first, last }) => first >= last)];
  const fasteners = held.flatMap(({ context, side, first, last }) =>
    (cleat ? Array.from({ length: count }) : []).map((_, i): Fastener => {
      const along = first + ((last - first) * i) / (count - 1);
      const on = pieces.findLast((_piece, p) => stretches[p]!.stretch.from <= along)!;
      const at = besidePoint(side, along, half);
      return { piece: on.mark, facet: context.plane.id, at, product: cleat!.id, keptDry: 'sheet seals' };
    }),
  );
  const open = (at: number): Words => [cut(2 * at)];
  return {
    ...emptyAssembly,
    pieces,
    fasteners,
    findings: past.map(({ context }) => ({
      id: `${valley.id}.${context.plane.id}.cleats`,
      severity: 'worth a look' as const,
      sentence: [
        `${valley.name}: so near the end of ${context.plane.name} that the lining’s edge runs past it, so no cleat holds it on that side.`,
      ],
      fix: ['Turn that edge over on to the next slope under its caps, or move the valley away.'],
      piece: pieces[0]!.mark,
      key: 'valley.cleats' as const,
    })),
    steps: [
      {
        lay: layOf(0),
        detail: valley.id,
        plane: host ? stands.plane.id : valley.a,
        ...(host ? { stage: 'covering', course: 0 } : { stage: 'dry-in' }),
        action: [
          `${valley.id}: metal lining `,
          cut(2 * half),
          ` wide${valley.ribbed ? ', its rib along the centre' : ''}, ${pieces.length} ${pieces.length === 1 ? 'piece' : 'pieces from the eave up, laps '}`,
          ...(pieces.length === 1 ? [] : [cut(lap)]),
          host
            ? `; lower end on course ${host.side.footOn} of ${host.context.plane.name}, beside the wall. Chalk lines `
            : '; lower end turned into the gutter. Chalk lines ',
          ...open(valley.openHigh),
          ' apart at the top, ',
          ...open(valley.openLow),
          ' at the lower end.',
        ],
        pieces: pieces.map(({ mark }) => mark),
        fasteners:
          held.length === 0
            ? ['No cleats: both its edges run past their slopes']
            : [
                `${held.length * count} cleats, ${count} along ${past.length === 0 ? 'each edge' : `its edge on ${held[0]!.context.plane.name}`}, at most `,
                cut(spacing),
                ' apart; no nail through the metal, it must move',
              ],
        // a band under each of its edges
        uses: [
          cementBand(catalog, 2 * valley.line.trueLength),
          ...(cleat ? [] : [piecesOf(undefined, `${covering.metal} valley cleat`, held.length * count)]),
        ],
        people: 2,
        caution: 'Sharp metal: gloves. Long lengths and wind.',
        holdPoint: 'Lining free to move, nothing driven through it',
        keys,
      },
    ],
  };
}

/** The lining as it is cut: bent along its middle, or with a rib folded up there. */
function liningFlat(half: number, length: number, degrees: number, rib: number): FlatPattern {
  const bend = (x: number, direction: 'up' | 'down', by: number) => ({ from: [x, 0], to: [x, length], direction, degrees: by }) as const; // prettier-ignore
  return {
    outline: rectangle(0, 0, 2 * (half + rib), length),
    bends:
      rib > 0
        ? [bend(half, 'up', 90 + degrees / 2), bend(half + rib, 'down', 180), bend(half + 2 * rib, 'up', 90 + degrees / 2)]
        : [bend(half, 'up', degrees)],
  };
}

/** A place beside a valley, `along` up from its lower end and `off` square to it on the slope. */
function besidePoint({ low, high, side }: ValleySide, along: number, off: number): Point {
  const length = Math.hypot(high[0] - low[0], high[1] - low[1]);
  const run: Point = [(high[0] - low[0]) / length, (high[1] - low[1]) / length];
  return [low[0] + run[0] * along + side * run[1] * off, low[1] + run[1] * along - side * run[0] * off];
}

/** Between the two slopes' planes as the lining was flat, degrees. */
const bendDegrees = ({ section }: Valley): number => {
  const degrees = ((Math.atan(1 / section.zA) + Math.atan(1 / section.zB)) * 180) / Math.PI;
  return Math.round(degrees * 10) / 10;
};

/** A row of shingles laid lengthwise on the chalk line, over the courses that run through; the other side is cut to its edge. */
function planEdge(one: One): Assembly {
  const { valley, marks } = one;
  const cutPlane = valley.through === valley.a ? one.b : one.a;
  const through = valley.through === valley.a ? one.a : one.b;
  const { surface } = cutPlane;
  const side = sideOf(valley, cutPlane.plane.id);
  const trim = side.clearLow - inches(2);
  const band = (width: number): Outline => besideValley(side, width, width);
  const outlines = onPlane(cutPlane.plane, band(trim + surface.unit.height)).flatMap((outline) =>
    onPlane({ ...cutPlane.plane, holes: [] }, outline, [band(trim)]),
  );
  const count = stepsToReach(valley.line.trueLength, surface.unit.width - inches(2));
  const lastThrough = lastCourseAt(through, sideOf(valley, through.plane.id));
  const mark = `${valley.id}-E`;
  return {
    ...emptyAssembly,
    pieces: [
      {
        mark,
        detail: valley.id,
        role: 'valleyEdge',
        product: surface.product,
        covers: outlines.map((outline) => ({ facet: cutPlane.plane.id, outline, holds: ['open'] })),
        lay: inCourse(cutPlane, 0, 'backPiece'),
        liesOn: lastThrough > 0 ? [`${marks.get(through.plane.id)!}${courseMark(lastThrough)}`] : [],
        units: { whole: count, parts: [] },
        keys: ['valley.longEdge', 'valley.trim'],
      },
    ],
    steps: [
      {
        lay: inCourse(cutPlane, 0, 'backPiece'),
        detail: valley.id,
        plane: cutPlane.plane.id,
        course: 0,
        stage: 'covering',
        action: [
          `${valley.id}: ${count} shingles lengthwise along the chalk line, `,
          cut(trim),
          ' from the centre, from the eave up, each over the one below; the courses stop at their edge, ',
          cut(inches(2)),
          ' off the line.',
        ],
        pieces: [mark],
        people: 1,
        keys: ['valley.longEdge', 'valley.trim'],
      },
    ],
  };
}

const lastCourseAt = (context: PlaneContext, { high }: ValleySide): number => {
  let n = context.lines.count;
  while (n > 0 && buttLine(context.lines, n) >= high[1]) n--;
  return n;
};

/** A joint keeps this far from the centre, so that water that creeps 2 in from it stays on the course below. */
const JOINT_BESIDE = inches(2.5);

/** How far along the eave a course is from where it meets a valley at its butt to where it meets it at its top. */
const spanOf = ({ surface }: PlaneContext, { low, high }: ValleySide): number =>
  (surface.unit.height * Math.abs(high[0] - low[0])) / (high[1] - low[1]);

/** Courses that meet a valley on one slope. */
const coursesAt = (context: PlaneContext, { low, high }: ValleySide): number =>
  Array.from({ length: context.lines.count }, (_, i) => i + 1).filter(
    (n) => buttLine(context.lines, n) < high[1] && chalkLine(context.lines, n) > low[1],
  ).length;

function styleFindings(one: One): Finding[] {
  const { valley, rules, a, b, job } = one;
  const findings: Finding[] = [];
  const say = (id: string, severity: Finding['severity'], sentence: Words, fix: Words, key?: RuleKey): void =>
    void findings.push({ id: `${valley.id}.${id}`, severity, sentence, fix, piece: `${valley.id}-S1`, ...(key ? { key } : {}) });
  // what a covering permits it must permit on both slopes
  const permits = (key: RuleKey): boolean => [a, b].every((context) => isRequired(context.rules, key));
  const chosen = job.valleys[valley.key]?.style;
  if (chosen !== undefined && chosen !== valley.style)
    say('style', 'worth a look', [`${valley.name} is planned open, not ${chosen}: ${a.surface.valleys === 'open' ? a.surface.name : b.surface.name} takes no other valley.`], ['Choose open.']); // prettier-ignore
  if (valley.style === 'woven' && !permits('valley.woven'))
    say('woven', 'breaks a rule', [`${valley.name} is woven, but a thick laminated shingle bridges the trough and cracks.`], ['Choose a closed cut or an open valley.'], 'valley.woven'); // prettier-ignore
  if (valley.style === 'long-edge cut') {
    if (!permits('valley.longEdge'))
      say('long-edge', 'breaks a rule', [`${valley.name}: ${a.surface.maker} does not name the long-edge cut, so the warranty may not cover it.`], ['Choose a closed cut, or get it from the maker in writing.'], 'valley.longEdge'); // prettier-ignore
    if (!isFlatter(4 / 12, Math.min(a.plane.pitch, b.plane.pitch)))
      say('long-edge-pitch', 'breaks a rule', [`${valley.name}: a long-edge cut is for slopes steeper than 4/12.`], ['Choose a closed cut or an open valley.'], 'valley.longEdge'); // prettier-ignore
  }
  if (valley.through !== undefined || valley.style === 'woven')
    for (const context of valley.style === 'woven' ? [a, b] : [valley.through === a.plane.id ? a : b])
      if (spanOf(context, sideOf(valley, context.plane.id)) + leastOf(rules, 'valley.cross') + JOINT_BESIDE > context.surface.unit.width)
        say('joint', 'worth a look', [`${valley.name}: the courses of ${context.plane.name} meet it so flat that one shingle, `, cut(context.surface.unit.width), ' wide, cannot span it: joints come to lie in the valley.'], ['Make it an open valley, or run the other slope through.'], 'valley.cross'); // prettier-ignore
  if (valley.through !== undefined && valley.through !== valley.asked.plane) {
    const reason = job.valleys[valley.key]?.through?.reason ?? '';
    const asked = valley.asked.plane === valley.a ? a.plane.name : b.plane.name;
    say('through', 'worth a look', [`${valley.name}: ${asked} would run through (${valley.asked.because}); decided otherwise (${reason}).`], ['Turn it round, or keep the reason.']); // prettier-ignore
  }
  return findings;
}

/** Unequal flows drive across the centre and under the far edge. */
function widthFindings(one: One): Finding[] {
  const { valley, a, b } = one;
  if (valley.style !== 'open') return [];
  const ratio = Math.max(valley.flowA, valley.flowB) / Math.max(1e-9, Math.min(valley.flowA, valley.flowB));
  const findings: Finding[] = [];
  if (!valley.ribbed && (ratio > 2 || !isFlatter(Math.abs(a.plane.pitch - b.plane.pitch), 3 / 12)))
    findings.push({
      id: `${valley.id}.rib`,
      severity: 'worth a look',
      sentence: [
        `${valley.name}: the water from the two sides differs (${ratio.toFixed(1)} to 1); it can cross the centre and drive under the far edge.`,
      ],
      fix: ['Choose the ribbed lining for this valley.'],
      piece: `${valley.id}-L1`,
      key: 'valley.lining',
    });
  const water = waterAt(one, 0);
  const spread = Math.max(water.spreadA, water.spreadB);
  if (spread > valley.openLow)
    findings.push({
      id: `${valley.id}.width`,
      severity: 'worth a look',
      sentence: [
        `${valley.name}: at the eave the water spreads `,
        cut(spread),
        ' a side, more than half the open width, ',
        cut(valley.openLow),
        '.',
      ],
      fix: ['Chalk it wider towards the eave.'],
      piece: `${valley.id}-L1`,
      key: 'valley.openTop',
    });
  return findings;
}

/** How wide and deep the water runs at a distance from the valley's lower end: what each slope brings in above it. */
function waterAt(one: One, along: number): ValleyWater {
  const { valley, job } = one;
  const [a, b] = [one.a, one.b].map(({ plane }) => {
    const side = sideOf(valley, plane.id);
    const share = along / valley.line.trueLength;
    const from: Point = [side.low[0] + (side.high[0] - side.low[0]) * share, side.low[1] + (side.high[1] - side.low[1]) * share];
    return runoff(job.site.rainPerHour, drainedInto(plane.joined, from, side.high));
  }) as [number, number];
  return valley.ribbed ? ribbedWater(a, b, valley.section) : valleyWater(a + b, valley.section);
}

/** Half the distance between the chalk lines at a distance from the lower end. */
const openAt = ({ openLow, openHigh, line }: Valley, along: number): number =>
  openLow + ((openHigh - openLow) * along) / line.trueLength;

function sheetOf(one: One): DetailSheet {
  const { valley, a, b, rules } = one;
  const side = sideOf(valley, a.plane.id);
  const box = bounds([side.low, side.high]);
  const angle = (context: PlaneContext): number => {
    const { low, high } = sideOf(valley, context.plane.id);
    return Math.atan2(Math.abs(high[1] - low[1]), Math.abs(high[0] - low[0]));
  };
  const degrees = (radians: number): string => `${((radians * 180) / Math.PI).toFixed(1)}°`;
  const squareFeet = (area: number): string => `${(area / FOOT ** 2).toFixed(1)} ft² (${(area / 1e6).toFixed(2)} m²)`;
  const water = waterAt(one, 0);
  const through = valley.through === undefined ? undefined : valley.through === a.plane.id ? a : b;
  const stations = stationsOf(valley);
  const curve: Curve = {
    title: valley.style === 'open' ? 'Water against half the open width' : 'Water a side of the centre',
    along: 'up the valley from its lower end',
    lines: [
      {
        name: 'water, wider side',
        points: stations.map((at) => {
          const { spreadA, spreadB } = waterAt(one, at);
          return [at, Math.max(spreadA, spreadB)] as const;
        }),
      },
      ...(valley.style === 'open'
        ? [{ name: 'half the open width', points: stations.map((at) => [at, openAt(valley, at)] as const) }]
        : [{ name: 'no nail within', points: stations.map((at) => [at, leastOf(rules, 'valley.noNail')] as const) }]),
    ],
  };
  const chalk: Table[] =
    valley.style === 'open'
      ? [
          {
            title: 'Chalk lines, a foot at a time',
            columns: ['Up the valley', 'From the centre', 'Between the lines'],
            rows: stations.map((at) => [[mm(at)], [cut(openAt(valley, at))], [cut(2 * openAt(valley, at))]]),
          },
        ]
      : [];
  const courses = (context: PlaneContext): Words => [
    `${coursesAt(context, sideOf(valley, context.plane.id))} courses, cut at ${degrees(angle(context))}, `,
    cut(context.lines.gauge / Math.sin(angle(context))),
    ' of valley a course',
  ];
  return {
    detail: valley.id,
    title: `${valley.id} · ${valley.name}`,
    family: 'valley',
    plane: valley.a,
    window: {
      x0: box.x0 - inches(36),
      x1: box.x1 + inches(36),
      y0: box.y0 - inches(box.y0 > 1 ? 24 : 4),
      y1: box.y1 + inches(24),
    },
    figures: [
      { label: 'Style', value: [valley.style] },
      { label: 'True length', value: [mm(valley.line.trueLength)] },
      { label: 'Fall of the valley', value: [`${(valley.line.slope * 12).toFixed(2)}/12`] },
      { label: `From ${a.plane.name}`, value: [`${squareFeet(valley.areaA)}, `, flow(valley.flowA)] },
      { label: `From ${b.plane.name}`, value: [`${squareFeet(valley.areaB)}, `, flow(valley.flowB)] },
      ...(through
        ? [
            {
              label: 'Runs through',
              value: [
                `${through.plane.name}: ${valley.through === valley.asked.plane ? valley.asked.because : 'decided on site'}`,
              ],
            },
          ]
        : []),
      ...(through
        ? [
            {
              label: 'Crossing shingles past the centre',
              value: [cut(leastOf(rules, 'valley.cross'))],
              key: 'valley.cross' as const,
            },
            { label: 'Crossing shingles', value: [`${coursesAt(through, sideOf(valley, through.plane.id))}`] },
            {
              label: 'Cut side back from the centre',
              value: [cut((valley.through === a.plane.id ? sideOf(valley, b.plane.id) : sideOf(valley, a.plane.id)).clearLow)],
              key: 'valley.trim' as const,
            },
          ]
        : [
            { label: 'Lining', value: [valley.ribbed ? 'with a rib along its middle' : 'plain'], key: 'valley.lining' as const },
            { label: 'Open width at the top', value: [cut(2 * valley.openHigh)], key: 'valley.openTop' as const },
            { label: 'Open width at the lower end', value: [cut(2 * valley.openLow)], key: 'valley.widening' as const },
          ]),
      { label: a.plane.name, value: courses(a) },
      { label: b.plane.name, value: courses(b) },
      { label: 'No nail within', value: [cut(leastOf(rules, 'valley.noNail')), ' of the centre'], key: 'valley.noNail' },
      {
        label: 'Water at the lower end',
        value: [
          `${water.depth.toFixed(1)} mm deep, `,
          cut(Math.max(water.spreadA, water.spreadB)),
          ' a side (steady flow, an estimate)',
        ],
      },
    ],
    tables: chalk,
    curve,
  };
}

export type ValleySummary = Pick<
  Valley,
  | 'id'
  | 'key'
  | 'name'
  | 'a'
  | 'b'
  | 'style'
  | 'through'
  | 'asked'
  | 'flowA'
  | 'flowB'
  | 'areaA'
  | 'areaB'
  | 'line'
  | 'openLow'
  | 'openHigh'
>;

export const summariseValley = (valley: Valley): ValleySummary => {
  const { id, key, name, a, b, style, through, asked, flowA, flowB, areaA, areaB, line, openLow, openHigh } = valley;
  return { id, key, name, a, b, style, through, asked, flowA, flowB, areaA, areaB, line, openLow, openHigh };
};
