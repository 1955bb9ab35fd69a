import {
  type Assembly,
  type Finding,
  type Piece,
  ROLES,
  SEVERITIES,
  type Step,
  assemble,
  withKnownMarks,
  withUses,
} from '../assembly/index.ts';
import { type Catalog, type ItemOf, itemById, itemsOf } from '../catalog/index.ts';
import { type CourseLayout, buttLine, chalkLine, courseCount, twoLayerHeadlap } from '../covering/index.ts';
import {
  DETAIL_FAMILIES,
  type PlacedWall,
  type PlaneContext,
  type ValleySide,
  apronLegFor,
  besideValley,
  blocksFor,
  lastUnderApron,
  onLine,
  openingsFor,
  standOn,
  standingBlocks,
} from '../details/index.ts';
import { cricketBehind } from '../details/chimney/index.ts';
import { courseMark } from '../details/covering/index.ts';
import { clashFindings } from '../details/clashes.ts';
import { meetingFindings } from '../details/meeting.ts';
import { type FlowAtLine, flowAlong, pickStep } from '../details/sidewall/index.ts';
import { type BarrierExtent, extentFor } from '../details/underlayers/index.ts';
import { type Valley, type ValleySummary, findValleys, planValleys, summariseValley } from '../details/valley/index.ts';
import { pitchAngle, slopeFactor } from '../roof/index.ts';
import { type Requirement, type Requirements, leastOf, mostOf, resolveRules } from '../rules/index.ts';
import { type RunGroup, runSheetOf, writeRunSheet } from '../sequence/index.ts';
import { type OrderLine, STRIP_LAP, listOrder, stripsAcross } from '../takeoff/index.ts';
import { LINE_TOLERANCE, inches } from '../units/index.ts';
import { type Library, sourcesOf } from './library.ts';
import { type Plane, planesOf } from './planes.ts';
import type { Job } from './schema.ts';

export type WallSummary = {
  readonly id: string;
  readonly name: string;
  readonly pieces: number;
  readonly step?: { readonly product: string; readonly name: string; readonly length: number; readonly headlap: number };
  /** From the eave up. The first is what one long piece would have to carry at the foot. */
  readonly flow: readonly FlowAtLine[];
};

export type PlanePlan = {
  readonly id: string;
  readonly name: string;
  /** Before the marks of its courses and underlayers where the roof has several slopes. */
  readonly mark: string;
  readonly layout: CourseLayout;
  readonly courses: number;
  readonly pitch: number;
  readonly slopeFactor: number;
  readonly barrier?: BarrierExtent;
  readonly walls: readonly WallSummary[];
  readonly requirements: readonly Requirement[];
  /** Its own part of the whole roof's run sheet. */
  readonly runSheet: readonly RunGroup[];
};

/** Everything Ruvet says about a job. Lengths in millimetres. */
export type Plan = Assembly & {
  readonly planes: readonly PlanePlan[];
  /** The whole roof: dry-in, then slope by slope and course by course, then the finish. */
  readonly runSheet: readonly RunGroup[];
  readonly order: readonly OrderLine[];
  /** The slopes as the roof is put together, in the order of `planes`. */
  readonly roof: readonly Plane[];
  readonly valleys: readonly ValleySummary[];
};

/**
 * Plans a job: a pure function of the document, the packs and the catalog; same input, same output, byte for byte.
 * The job must have passed `checkJob`.
 */
export function planJob(job: Job, library: Library): Plan {
  const { planes } = planesOf(job);
  const rulesOf = new Map(planes.map((plane) => [plane.id, rulesFor(job, plane.pitch, library)]));
  const shingle = itemById(library.catalog, 'shingle', job.covering.shingle);
  const layouts = new Map(planes.map((plane) => [plane.id, layoutOf(job, plane, shingle, rulesOf.get(plane.id)!)]));
  const valleys = findValleys(job, planes, rulesOf, layouts);
  const order = orderOfPlanes(planes, valleys);
  const marks = planeMarks(planes);
  const byId = new Map<string, PlaneContext>();
  const other = (id: string): PlaneContext => byId.get(id)!;
  const contexts = planes.map((plane) =>
    contextOf(job, plane, library, rulesOf.get(plane.id)!, valleys, order.get(plane.id)!, other),
  );
  for (const context of contexts) byId.set(context.plane.id, context);
  const planned = contexts.map((context) => planPlane(context, marks.get(context.plane.id)!));
  const whole = withKnownMarks(
    assemble([
      ...planned.map(({ assembly }) => assembly),
      planValleys({ job, catalog: library.catalog, valleys, contexts, rulesOf, marks }),
    ]),
  );
  const names = new Map(library.catalog.items.map(({ id, name }) => [id, name]));
  const used = withUses(whole, (product) => names.get(product) ?? product);
  const assembly = {
    ...used,
    findings: [
      ...used.findings,
      ...meetingFindings(contexts, valleys),
      ...contexts.flatMap((context) => clashFindings(context, used)),
      ...lackingFindings(used.steps),
      ...tooWideFindings(used.pieces, library.catalog),
    ],
  };
  const runSheet = writeRunSheet(
    assembly,
    new Map(contexts.map(({ plane, layout }) => [plane.id, { name: plane.name, layout }])),
  );
  return {
    ...assembly,
    findings: numbered(uniqueFindings(assembly.findings)).sort(
      (a, b) => SEVERITIES.indexOf(a.severity) - SEVERITIES.indexOf(b.severity),
    ),
    planes: planned.map(({ plan }) => ({ ...plan, runSheet: runSheetOf(runSheet, plan.id) })),
    runSheet,
    order: listOrder(assembly, library.catalog),
    roof: planes,
    valleys: valleys.map((valley) => summariseValley(valley)),
  };
}

/** What lines use and the catalog has not: it stands in the line and not on the order. */
function lackingFindings(steps: readonly Step[]): Finding[] {
  const lines = new Map<string, number>();
  for (const { uses = [] } of steps)
    for (const { product, name } of uses) if (product === undefined) lines.set(name, (lines.get(name) ?? 0) + 1);
  return [...lines].map(([name, count]): Finding => ({
    id: `order.${name.replaceAll(' ', '-')}`,
    severity: 'worth a look',
    sentence: [
      `The catalog has no ${name} that will do, so it is not on the order; ${count} ${count === 1 ? 'line uses' : 'lines use'} it.`,
    ],
    fix: ['Add it to the catalog, or buy it apart from this order.'],
  }));
}

/** Strips wider than the roll they are cut from: laid side by side in several, which the order counts. */
function tooWideFindings(pieces: readonly Piece[], catalog: Catalog): Finding[] {
  const widths = new Map(itemsOf(catalog, 'iceBarrier').map(({ id, width, name }) => [id, { width, name }]));
  return pieces.flatMap(({ mark, role, product, sheetWidth }): Finding[] => {
    const roll = widths.get(product ?? '');
    if (!roll || sheetWidth === undefined || sheetWidth <= roll.width + LINE_TOLERANCE) return [];
    return [
      {
        id: `${mark}.width`,
        severity: 'worth a look',
        sentence: [
          `${ROLES[role].name} ${mark} is `,
          { mm: sheetWidth, inchesOnly: true },
          ` wide, and ${roll.name} comes `,
          { mm: roll.width, inchesOnly: true },
          ' wide.',
        ],
        fix: [
          `Lay it in ${stripsAcross(sheetWidth, roll.width)} strips, upper over lower, side laps `,
          { mm: STRIP_LAP, inchesOnly: true },
          '; the order has them all.',
        ],
        piece: mark,
        key: 'iceBarrier.sideLap',
      },
    ];
  });
}

/** Wraps reach this far on to the deck beside what they wrap, and an inch. */
const WRAP = inches(7);
/** And a valley's sheet at its foot, as wide as half of it. */
const BESIDE_FOOT = inches(19);

const rulesFor = (job: Job, pitch: number, library: Library): Requirements =>
  resolveRules(sourcesOf(job, library), { covering: 'shingle', pitch, iceDams: job.site.iceDams });

/** The same thing said of several slopes is said once. */
function uniqueFindings(findings: readonly Finding[]): Finding[] {
  const seen = new Set<string>();
  return findings.filter(({ id, sentence, piece }) => {
    const key = id.startsWith('rule.') ? id : `${id} ${JSON.stringify(sentence)} ${piece ?? ''}`;
    if (seen.has(key)) return false;
    seen.add(key);
    return true;
  });
}

/** Every finding has an id of its own, so that a list of them can be kept apart: the second of a kind is numbered. */
function numbered(findings: readonly Finding[]): Finding[] {
  const counts = new Map<string, number>();
  return findings.map((finding) => {
    const count = (counts.get(finding.id) ?? 0) + 1;
    counts.set(finding.id, count);
    return count === 1 ? finding : { ...finding, id: `${finding.id}#${count}` };
  });
}

/** A slope's place in the order of laying: of its sheets and metal, and of its courses from a course on. */
type Order = {
  readonly sheets: number;
  readonly courses: readonly { readonly above: number; readonly place: number; readonly woven: boolean }[];
};

/**
 * The order in which slopes are laid. Sheets: the lower slope first where a valley begins up on it (under a dormer's eave). Covering: where
 * one slope runs its shingles through a valley it goes before the one that is cut over it; slopes woven together share a place, so that
 * their courses take turns as they come by height; a slope with a dormer goes as far as the course the dormer's valleys empty on to, then the dormer, then the
 * rest. Otherwise the order of the document.
 */
function orderOfPlanes(planes: readonly Plane[], valleys: readonly Valley[]): Map<string, Order> {
  const sides = valleys.flatMap((valley) => valley.sides.map(({ plane, side }) => ({ valley, plane, side })));
  const breaks = new Map(
    planes.map(({ id }) => {
      const feet = sides.filter(({ plane, side }) => plane === id && side.footOn > 0).map(({ side }) => side.footOn);
      return [id, [...new Set([0, ...feet])].sort((p, q) => p - q)] as const;
    }),
  );
  // a stretch of courses of one slope, by the course it begins above
  const stretch = (plane: string, above: number): string => `${plane}>${above}`;
  const first = (plane: string): string => stretch(plane, 0);
  const last = (plane: string): string => stretch(plane, breaks.get(plane)!.at(-1)!);
  const before: (readonly [string, string])[] = [...breaks].flatMap(([plane, all]) =>
    all.slice(1).map((above, i) => [stretch(plane, all[i]!), stretch(plane, above)] as const),
  );
  const together: (readonly [string, string])[] = [];
  for (const { a, b, through, style, sides: both } of valleys) {
    const host = both.find(({ side }) => side.footOn > 0);
    if (host) {
      const stands = host.plane === a ? b : a;
      const upper = stretch(host.plane, host.side.footOn);
      const lower = stretch(
        host.plane,
        breaks.get(host.plane)!.findLast((above) => above < host.side.footOn)!,
      );
      before.push([lower, first(stands)]);
      if (style === 'woven') together.push([upper, first(stands)]);
      else before.push(through === host.plane ? [last(host.plane), first(stands)] : [last(stands), upper]);
    } else if (style === 'woven') together.push([last(a), last(b)]);
    else if (style !== 'open') before.push([last(through ?? a), first(through === b ? a : b)]);
  }
  const places = placesOf(
    [...breaks].flatMap(([plane, all]) => all.map((above) => stretch(plane, above))),
    before,
    together,
  );
  const sheets = placesOf(
    planes.map(({ id }) => id),
    sides.filter(({ side }) => side.footOn > 0).map(({ plane, side }) => [plane, side.other] as const),
    [],
  );
  return new Map(
    [...breaks].map(([plane, all]) => [
      plane,
      {
        sheets: sheets.get(plane)!,
        courses: all.map((above) => {
          const name = stretch(plane, above);
          return { above, place: places.get(name)!, woven: together.some((pair) => pair.includes(name)) };
        }),
      },
    ]),
  );
}

/** Numbers names in their order, later where another has to come before; names that go together share a number. */
function placesOf(
  names: readonly string[],
  before: readonly (readonly [string, string])[],
  together: readonly (readonly [string, string])[],
): Map<string, number> {
  const groups = names.map((name) => new Set([name]));
  const groupOf = (name: string): Set<string> => groups.find((group) => group.has(name))!;
  for (const [p, q] of together) {
    const [into, from] = [groupOf(p), groupOf(q)];
    if (into === from) continue;
    for (const name of from) into.add(name);
    groups.splice(groups.indexOf(from), 1);
  }
  const places = new Map<string, number>();
  for (let place = 0; groups.length > 0; place++) {
    const waits = (group: Set<string>): boolean => before.some(([p, q]) => group.has(q) && !group.has(p) && !places.has(p));
    // a ring of demands (three valleys round one slope can ask for it) is cut at the first in the document
    const next = groups.find((group) => !waits(group)) ?? groups[0]!;
    for (const name of next) places.set(name, place);
    groups.splice(groups.indexOf(next), 1);
  }
  return places;
}

/** Short marks of slopes, put before the marks of what is laid on them where a roof has several: `N-C14`. */
function planeMarks(planes: readonly Plane[]): Map<string, string> {
  if (planes.length === 1) return new Map([[planes[0]!.id, '']]);
  const used = new Set<string>();
  return new Map(
    planes.map(({ id }) => {
      const initials = id
        .split('-')
        .map((part) => part[0]!.toUpperCase())
        .join('');
      let mark = initials;
      for (let i = 2; used.has(mark); i++) mark = `${initials}${i}`;
      used.add(mark);
      return [id, `${mark}-`];
    }),
  );
}

/** Marks of courses and underlayers are alike on every slope until they get their slope's mark. */
function markedFor(assembly: Assembly, plane: string, mark: string): Assembly {
  const own = new Set(
    assembly.pieces.filter(({ detail }) => detail === 'covering' || detail === 'underlayers').map(({ mark: name }) => name),
  );
  const named = (name: string): string => (own.has(name) ? `${mark}${name}` : name);
  const zone = (one: Assembly['zones'][number]) => (one.piece === undefined ? one : { ...one, piece: named(one.piece) });
  return {
    ...assembly,
    pieces: assembly.pieces.map((piece) => ({ ...piece, mark: named(piece.mark), liesOn: piece.liesOn.map(named) })),
    fasteners: assembly.fasteners.map((one) => ({ ...one, piece: named(one.piece) })),
    zones: assembly.zones.map(zone),
    steps: assembly.steps.map((step) => ({ ...step, plane, pieces: step.pieces.map(named) })),
    findings: assembly.findings.map((one) => (one.piece === undefined ? one : { ...one, piece: named(one.piece) })),
  };
}

function planPlane(context: PlaneContext, mark: string): { assembly: Assembly; plan: Omit<PlanePlan, 'runSheet'> } {
  const { plane, rules } = context;
  const made = assemble(DETAIL_FAMILIES.map((family) => family(context)));
  const assembly = markedFor({ ...made, findings: [...made.findings, ...coveringFindings(context)] }, plane.id, mark);
  const barrier = extentFor(context);
  const stepCounts = new Map<string, number>();
  for (const { detail, role } of assembly.pieces) if (role === 'step') stepCounts.set(detail, (stepCounts.get(detail) ?? 0) + 1);
  const plan: Omit<PlanePlan, 'runSheet'> = {
    id: plane.id,
    name: plane.name,
    mark,
    layout: context.layout,
    courses: context.courses,
    pitch: plane.pitch,
    slopeFactor: context.slopeFactor,
    ...(barrier ? { barrier } : {}),
    // the faces of a chimney or frame are told on its own sheet
    walls: context.walls.filter(({ face }) => !face).map((wall) => summariseWall(context, wall, stepCounts.get(wall.id) ?? 0)),
    requirements: [...rules.values()],
  };
  return {
    assembly: { ...assembly, findings: [...assembly.findings, ...ruleFindings(rules)] },
    plan,
  };
}

/** The layout of a slope's courses. */
export function layoutOf(job: Job, plane: Plane, shingle: ItemOf<'shingle'>, rules: Requirements): CourseLayout {
  return {
    exposure: plane.exposure ?? job.covering.exposure ?? Math.min(shingle.maxExposure, mostOf(rules, 'covering.exposure')),
    height: shingle.height,
    firstButt: job.covering.firstButt,
    slopeLength: plane.slope.length,
  };
}

function contextOf(
  job: Job,
  plane: Plane,
  library: Library,
  rules: Requirements,
  valleys: readonly Valley[],
  order: Order,
  other: PlaneContext['other'],
): PlaneContext {
  const shingle = itemById(library.catalog, 'shingle', job.covering.shingle);
  const layout = layoutOf(job, plane, shingle, rules);
  const { walls, fronts, frames } = withApronLegs(standOn(job, plane), rules);
  const top = fronts.find(({ y }) => y > layout.slopeLength - 1);
  const sides = valleys.flatMap((valley) => valley.sides.filter(({ plane: id }) => id === plane.id).map(({ side }) => side));
  const steps = new Map<string, ItemOf<'stepFlashing'> | undefined>();
  const stepAt = (wall: PlacedWall): ItemOf<'stepFlashing'> | undefined => {
    if (!steps.has(wall.id)) steps.set(wall.id, pickStep(base, wall).item);
    return steps.get(wall.id);
  };
  const base = {
    job,
    plane,
    catalog: library.catalog,
    rules,
    layout,
    courses: top ? lastUnderApron(layout, top.y, top.apronLeg) : courseCount(layout),
    slopeFactor: slopeFactor(plane.pitch),
    angle: pitchAngle(plane.pitch),
    walls,
    frames,
    blocks: standingBlocks(walls, frames, plane),
    fronts,
    valleys: sides,
    features: job.features.filter((feature) => feature.plane === plane.id),
    order: order.sheets,
    orderAt: (course: number): number => {
      const { place, woven } = order.courses.findLast(({ above }) => course > above || above === 0)!;
      return woven ? place + heightOf(plane, buttLine(layout, course)) / FAR_ABOVE : place;
    },
    shingle,
    facet: plane.id,
    stepLeg: (wall: PlacedWall): number => stepAt(wall)?.roofLeg ?? 0,
    stepLength: (wall: PlacedWall): number => stepAt(wall)?.length ?? 0,
    capHalfWidth: itemById(library.catalog, 'ridgeCap', job.covering.ridgeCap).halfWidth,
    other,
  };
  const details = openingsFor(base);
  const crickets = new Set(
    base.features.flatMap((feature) => (feature.kind === 'chimney' && cricketBehind(base, feature) ? [feature.id] : [])),
  );
  return {
    ...base,
    blocksFor: (n) => [...blocksFor(n, walls, frames, plane, layout, crickets), ...details.blocksFor(n)],
    openingsAt: (n) => [
      // in a closed valley the starter and the first course of both sides meet on the centre, woven
      // below a dormer's eave the courses run on to the centre, under what the dormer's valley brings
      ...sides
        .filter(({ role, footOn }) => n > footOn && (role === 'open' || (role === 'cut' && n > 1)))
        .map((side) => besideValley(side, side.clearLow, side.clearHigh)),
      ...details.openings,
    ],
    pierced: details.pierced,
    slits: [
      ...frames.map(({ x0, x1, from }) => ({ x0: x0 - WRAP, x1: x1 + WRAP, from })),
      ...valleySlits(sides),
      ...details.slits,
    ].sort((a, b) => a.from - b.from),
    metal: details.metal,
    nailFree: details.nailFree,
    jointFree: details.jointFree,
    jointOff: (n) => [
      ...details.jointOff(n),
      ...sides.filter(({ footOn }) => n > footOn).flatMap((side) => nearValley(side, layout, n)),
      // beside a frame a step's nail stands at its outer edge, in the course under it
      ...walls.flatMap((wall) => {
        if (
          wall.partOf === undefined ||
          buttLine(layout, n) >= wall.to - 1 ||
          chalkLine(layout, n) <= wall.from - layout.exposure
        )
          return [];
        const far = wall.x + wall.side * (base.stepLeg(wall) + inches(2.25));
        return [{ x0: Math.min(wall.x, far), x1: Math.max(wall.x, far) }];
      }),
    ],
  };
}

/** No apron's leg on the roof is shorter than what governs, whatever was asked for. */
function withApronLegs({ walls, fronts, frames }: ReturnType<typeof standOn>, rules: Requirements): ReturnType<typeof standOn> {
  const long = <T extends { readonly apronLeg: number }>(one: T): T => ({
    ...one,
    apronLeg: apronLegFor({ rules }, one.apronLeg),
  });
  return { walls: walls.map(long), fronts: fronts.map(long), frames: frames.map(long) };
}

/** Higher than any roof: heights divided by it order courses within one place. */
const FAR_ABOVE = 1e7;
const heightOf = ({ joined, pitch }: Plane, y: number): number => joined.face.place.height + (y / slopeFactor(pitch)) * pitch;

/** Where a course is cut along a valley no joint stands in or beside what is cut. */
function nearValley({ low, high, role }: ValleySide, layout: CourseLayout, n: number): { x0: number; x1: number }[] {
  const [from, to] = [Math.max(buttLine(layout, n), low[1]), Math.min(chalkLine(layout, n), high[1])];
  if (from >= to || role === 'through' || role === 'woven') return [];
  const [p, q] = [onLine(low, high, from), onLine(low, high, to)];
  return [{ x0: Math.min(p, q) - JOINT_BESIDE_VALLEY, x1: Math.max(p, q) + JOINT_BESIDE_VALLEY }];
}

/** Water that creeps 2 in from a joint (the reserve a plan is to have) stays on the course below. */
const JOINT_BESIDE_VALLEY = inches(2.5);

/** Where a valley begins up the slope its sheet lies on the underlayment below its foot and under that above. */
const valleySlits = (sides: readonly ValleySide[]): PlaneContext['slits'] =>
  sides
    .filter(({ footOn }) => footOn > 0)
    .map(({ low, high, side }) => ({
      x0: Math.min(low[0] + side * BESIDE_FOOT, high[0]),
      x1: Math.max(low[0] + side * BESIDE_FOOT, high[0]),
      from: low[1],
    }));

function summariseWall(context: PlaneContext, wall: PlacedWall, pieces: number): WallSummary {
  const { item } = pickStep(context, wall);
  return {
    id: wall.id,
    name: wall.name,
    pieces,
    ...(item
      ? { step: { product: item.id, name: item.name, length: item.length, headlap: item.length - context.layout.exposure } }
      : {}),
    flow: flowAlong(context, wall, item?.roofLeg ?? leastOf(context.rules, 'stepFlashing.roofLeg')),
  };
}

/** Conflicts, deviations and silences become findings; they never pass unnoticed. */
function ruleFindings(rules: Requirements): Finding[] {
  return [...rules.values()].flatMap((requirement): Finding[] => {
    const { key, meaning, status } = requirement;
    const common = { id: `rule.${key}`, key };
    const said = requirement.statements.filter(({ standing }) => standing === 'conflicts').map(({ name }) => name);
    switch (status) {
      case 'conflict':
        return [
          {
            ...common,
            severity: 'breaks a rule',
            sentence: [`${[...new Set(said)].join(' and ')} contradict each other on: ${meaning}.`],
            fix: ['Open “Who says?” on it, ask the inspector, and record which to follow.'],
          },
        ];
      case 'deviated':
        return [
          {
            ...common,
            severity: 'breaks a rule',
            sentence: [`Decided on the roof to go below what governs: ${meaning}.`],
            fix: [requirement.why],
          },
        ];
      case 'assumed':
        return key === 'iceBarrier.alongSlope' || key === 'iceBarrier.required'
          ? []
          : [
              {
                ...common,
                severity: 'worth a look',
                sentence: [`No source in this job speaks on: ${meaning}. A usual value is assumed.`],
                fix: ['Add a rule pack that speaks on it.'],
              },
            ];
      default:
        return [];
    }
  });
}

/** A last course below the ridge shorter than this cannot be nailed by itself. */
const RIDGE_SLIVER = inches(1);

function coveringFindings(context: PlaneContext): Finding[] {
  const { rules, layout, shingle } = context;
  const findings: Finding[] = [];
  if (
    layout.firstButt < leastOf(rules, 'covering.firstButt') - 1e-6 ||
    layout.firstButt > mostOf(rules, 'covering.firstButt') + 1e-6
  ) {
    findings.push({
      id: 'covering.firstButt',
      severity: 'breaks a rule',
      sentence: [
        'The first butt hangs ',
        { mm: layout.firstButt },
        ' past the deck edge; from ',
        { mm: leastOf(rules, 'covering.firstButt') },
        ' to ',
        { mm: Math.min(mostOf(rules, 'covering.firstButt'), 1e6) },
        ' is right.',
      ],
      fix: ['Change the first butt under Covering.'],
      piece: 'C01',
      key: 'covering.firstButt',
    });
  }
  if (twoLayerHeadlap(layout.height, layout.exposure) < 0) {
    findings.push({
      id: 'covering.headlap',
      severity: 'leaks',
      sentence: [
        `${shingle.name} at `,
        { mm: layout.exposure },
        ' exposure does not cover twice: every joint lies open to the underlayment.',
      ],
      fix: ['Lower the exposure.'],
      piece: 'C01',
      key: 'covering.exposure',
    });
  }
  const last = layout.slopeLength - buttLine(layout, context.courses);
  if (context.plane.top === 'ridge' && last < RIDGE_SLIVER)
    findings.push({
      id: 'covering.ridge',
      severity: 'worth a look',
      sentence: [`${context.plane.name}: the last course shows only `, { mm: last, inchesOnly: true }, ' below the ridge.'],
      fix: ['Take the courses a little closer on the way up, so that it comes out under the caps or tall enough to be nailed.'],
      piece: courseMark(context.courses),
      key: 'covering.exposure',
    });
  const apart = Math.min(shingle.bondOffset % shingle.width, shingle.width - (shingle.bondOffset % shingle.width));
  if (apart < leastOf(rules, 'covering.jointOffset') - 1e-6) {
    findings.push({
      id: 'covering.jointOffset',
      severity: 'breaks a rule',
      sentence: ['Joints of neighbouring courses stand only ', { mm: apart }, ' apart.'],
      fix: ['Choose a covering with a wider side offset.'],
      piece: 'C02',
      key: 'covering.jointOffset',
    });
  }
  return findings;
}
