import {
  type Assembly,
  type Finding,
  SEVERITIES,
  assemble,
  byLay,
  emptyAssembly,
  isBesideWall,
  withKnownMarks,
  withUses,
} from '../assembly/index.ts';
import { familyOf } from '../coverings/index.ts';
import { DETAILS, type ValleySummary, findValleys, planValleys, summariseValley } from '../details/index.ts';
import { type Job, type Library, type Plane, asRepaired, planesOf } from '../document/index.ts';
import { type Requirement, type RuleKey, leastOf, unheard } from '../rules/index.ts';
import { type RunGroup, runSheetOf, writeRunSheet } from '../sequence/index.ts';
import {
  type BesideWall,
  type FlowAtLine,
  type PlacedWall,
  type PlaneContext,
  besideWallOf,
  flowAlong,
  pickStep,
  ventSlots,
} from '../slope/index.ts';
import { type Lines, type Surface, widestGauge } from '../surface/index.ts';
import { type OrderLine, listOrder } from '../takeoff/index.ts';
import { type BarrierExtent, extentFor, planUnderlayers } from '../underlayers/index.ts';
import { Kept } from '../units/index.ts';
import { clashFindings } from './clashes.ts';
import { frameSteps } from './frame.ts';
import { lackingFindings, numbered, ruleFindings, tooWideFindings, uniqueFindings } from './findings.ts';
import { goesInto } from './kept.ts';
import { markedFor, planeMarks } from './marks.ts';
import { meetingFindings } from './meeting.ts';
import { oldDeckSteps, stripSteps } from './reroof.ts';
import { surveySteps } from './survey.ts';
import { type RepairPlan, repairFindings, repairSteps } from './repair.ts';
import { withMuted } from './muted.ts';
import { orderOfPlanes } from './order.ts';
import { layOutSlopes } from './rulesOf.ts';
import { primerSteps } from './primer.ts';
import { asideFindings, setAside } from './setAside.ts';
import { contextOf } from './slopeContext.ts';
import { type VentilationPlan, ridgeLines, ventilationFindings, ventilationOf } from './ventilation.ts';

export type WallSummary = {
  readonly id: string;
  readonly name: string;
  readonly pieces: number;
  /** What its pieces are, one a course. */
  readonly sides: BesideWall;
  readonly step?: { readonly product?: string; readonly name: string; readonly length: number; readonly headlap: number };
  /** From the eave up. The first is what one long piece would have to carry at the foot. */
  readonly flow: readonly FlowAtLine[];
};

export type PlanePlan = {
  readonly id: string;
  readonly name: string;
  /** Before the marks of its courses and underlayers where the roof has several slopes. */
  readonly mark: string;
  readonly lines: Lines;
  readonly pitch: number;
  readonly slopeFactor: number;
  readonly barrier?: BarrierExtent;
  /** Upper edges of the battens its courses hang on, up the slope, where they are what is set out. */
  readonly battens?: readonly number[];
  /** What stands beside its walls and the faces of its chimneys. */
  readonly sides: Surface['sides'];
  readonly walls: readonly WallSummary[];
  readonly requirements: readonly Requirement[];
  /** Its own part of the whole roof's run sheet. */
  readonly runSheet: readonly RunGroup[];
};

type PlannedSlope = {
  readonly assembly: Assembly;
  readonly plan: Omit<PlanePlan, 'runSheet' | 'requirements'>;
  /** What its families asked of the rules. */
  readonly asked: readonly RuleKey[];
};

/** Longer than anything on a roof lasts, years. */
const FOR_EVER = 10_000;

/** Slopes planned before, kept for the next plan of the same job. */
export type KeptPlans = Kept<PlannedSlope>;
/** An empty store of planned slopes, to be handed to `planJob` again and again. */
export const keptPlans = (): KeptPlans => new Kept<PlannedSlope>(24);

/** Everything Ruvet says about a job. Lengths in millimetres. */
export type Plan = Assembly & {
  readonly planes: readonly PlanePlan[];
  /** The whole roof: dry-in, then slope by slope and course by course, then the finish. */
  readonly runSheet: readonly RunGroup[];
  readonly order: readonly OrderLine[];
  /** The slopes as the roof is put together, in the order of `planes`. */
  readonly roof: readonly Plane[];
  readonly valleys: readonly ValleySummary[];
  readonly ventilation?: VentilationPlan;
  /** Of a job that mends one thing: its lines alone are told, the rest of the roof is there. */
  readonly repair?: RepairPlan;
};

/**
 * Plans a job: a pure function of the document, the packs and the catalog; same input, same output, byte for byte.
 * What cannot be planned is set aside and told, the rest is planned. `kept`: slopes planned before with this library, for whoever plans one job after every change to it; it makes
 * no difference to the plan.
 */
export function planJob(given: Job, library: Library, kept?: KeptPlans): Plan {
  const { sound, aside } = setAside(asRepaired(given), library);
  const job = sound ?? { ...given, parts: [], features: [], valleys: {} };
  const { planes } = planesOf(job);
  const laidOut = layOutSlopes(job, planes, library);
  const rulesOf = new Map([...laidOut].map(([id, { rules }]) => [id, rules]));
  const surfaces = new Map([...laidOut].map(([id, { surface }]) => [id, surface]));
  const valleys = findValleys(job, planes, rulesOf, surfaces);
  const order = orderOfPlanes(planes, valleys);
  const marks = planeMarks(planes);
  const vented = new Set(ventSlots(job, library.catalog, planes).flatMap(({ plane, slot }) => (slot > 0 ? [plane.id] : [])));
  const byId = new Map<string, PlaneContext>();
  const contexts = planes.map((plane) => ({
    ...contextOf(job, plane, library, laidOut.get(plane.id)!, valleys, order.get(plane.id)!, (id) => byId.get(id)!),
    vented: vented.has(plane.id),
  }));
  // what a slope asks across a valley is not told as if the other slope had asked it
  for (const context of contexts) byId.set(context.plane.id, { ...context, rules: unheard(context.rules) });
  const planned = contexts.map((context) => {
    const mark = marks.get(context.plane.id)!;
    const make = (): PlannedSlope => planPlane(context, mark);
    return kept ? kept.of(goesInto(context, mark, order), make) : make();
  });
  const laid = assemble([
    ...planned.map(({ assembly }) => assembly),
    planValleys({ job, catalog: library.catalog, valleys, contexts, rulesOf, marks }),
  ]);
  const roof = { job, library, contexts };
  const frame = [
    ...frameSteps({ ...roof, valleys, assembly: laid }),
    ...ridgeLines(roof),
    ...primerSteps(laid, contexts, library),
    ...surveySteps(job, detailsIn(laid)),
    ...stripSteps(
      job,
      contexts,
      [...contexts].sort((a, b) => a.order - b.order),
    ),
    ...oldDeckSteps(job, contexts, library),
  ];
  const whole = assemble([laid, { ...emptyAssembly, steps: frame }]);
  const repair = repairSteps({ ...roof, valleys, marks, assembly: whole });
  const known = withKnownMarks(repair ? { ...whole, steps: [...repair.steps].sort(byLay) } : whole);
  const names = new Map(library.catalog.items.map(({ id, name }) => [id, name]));
  const used = withUses(known, (product) => names.get(product) ?? product);
  const ventilation = ventilationOf(roof);
  const told = planned.map(({ asked }, i): readonly Requirement[] => {
    const { rules } = contexts[i]!;
    for (const key of asked) rules.get(key);
    return rules.asked();
  });
  const assembly = {
    ...used,
    findings: [
      ...used.findings,
      ...asideFindings(aside),
      ...told.flatMap(ruleFindings),
      ...meetingFindings(contexts, valleys),
      ...contexts.flatMap((context) => clashFindings(context, used)),
      ...ventilationFindings(roof),
      ...repairFindings(job, repair !== undefined),
      ...lackingFindings(used.steps),
      ...tooWideFindings(used.pieces, library.catalog),
    ],
  };
  const runSheet = writeRunSheet(assembly, new Map(contexts.map(({ plane, lines }) => [plane.id, { name: plane.name, lines }])));
  return {
    ...assembly,
    findings: withMuted(ranked(repair ? about(repair.plan.of, assembly) : assembly.findings), job, library),
    planes: planned.map(({ plan }, i) => ({
      ...plan,
      requirements: told[i]!,
      runSheet: runSheetOf(runSheet, plan.id),
    })),
    runSheet,
    order: listOrder(repair ? onlyLaid(assembly) : assembly, library.catalog, job.spare),
    roof: planes,
    valleys: valleys.map((valley) => summariseValley(valley)),
    ...(ventilation ? { ventilation } : {}),
    ...(repair ? { repair: repair.plan } : {}),
  };
}

/** Each once and with an id of its own, worst first; among those alike in gravity what fails soonest. */
const ranked = (findings: readonly Finding[]): Finding[] =>
  numbered(uniqueFindings(findings)).sort(
    (a, b) => SEVERITIES.indexOf(a.severity) - SEVERITIES.indexOf(b.severity) || (a.lasts ?? FOR_EVER) - (b.lasts ?? FOR_EVER),
  );

/** Findings of a repair: of its detail, and of what its order lacks. */
const about = (of: string, { findings, pieces }: Assembly): Finding[] => {
  const own = new Set(pieces.filter(({ detail }) => detail === of).map(({ mark }) => mark));
  return findings.filter(({ id, piece }) => own.has(piece ?? '') || /^(job|order)\./.test(id) || id.split('.')[0] === of);
};

/** Pieces that a line lays: the others are on the roof already. */
const onlyLaid = (assembly: Assembly): Assembly => {
  const laid = new Set(assembly.steps.flatMap(({ pieces }) => pieces));
  return { ...assembly, pieces: assembly.pieces.filter(({ mark }) => laid.has(mark)) };
};

/** Details that have something to tell, by their marks. */
const detailsIn = ({ panels }: Assembly): string[] => [...new Set(panels.map(({ detail }) => detail))];

function planPlane(context: PlaneContext, mark: string): PlannedSlope {
  const { plane, rules } = context;
  const made = assemble([
    planUnderlayers(context),
    familyOf(context.covering).plan(context),
    ...DETAILS.map(({ plan }) => plan(context)),
  ]);
  const assembly = markedFor(
    { ...made, findings: [...made.findings, ...familyOf(context.covering).findings(context)] },
    plane.id,
    mark,
  );
  const barrier = extentFor(context);
  const stepCounts = new Map<string, number>();
  for (const { detail, role } of assembly.pieces)
    if (isBesideWall(role)) stepCounts.set(detail, (stepCounts.get(detail) ?? 0) + 1);
  const plan: PlannedSlope['plan'] = {
    id: plane.id,
    name: plane.name,
    mark,
    lines: context.lines,
    pitch: plane.pitch,
    slopeFactor: context.slopeFactor,
    ...(barrier ? { barrier } : {}),
    ...(context.surface.battens ? { battens: context.surface.battens.slice(0, context.lines.count) } : {}),
    sides: context.surface.sides,
    // the faces of a chimney or frame are told on its own sheet
    walls: context.walls.filter(({ face }) => !face).map((wall) => summariseWall(context, wall, stepCounts.get(wall.id) ?? 0)),
  };
  for (const { keys } of [...assembly.pieces, ...assembly.steps]) for (const key of keys) rules.get(key);
  return { assembly, plan, asked: rules.asked().map(({ key }) => key) };
}

function summariseWall(context: PlaneContext, wall: PlacedWall, pieces: number): WallSummary {
  const { item } = pickStep(context, wall);
  return {
    id: wall.id,
    name: wall.name,
    pieces,
    sides: besideWallOf(context, wall),
    ...(item
      ? {
          step: {
            ...(item.product ? { product: item.product } : {}),
            name: item.name,
            length: item.length,
            headlap: item.length - widestGauge(context.lines),
          },
        }
      : {}),
    flow: flowAlong(context, wall, item?.roofLeg ?? leastOf(context.rules, 'stepFlashing.roofLeg')),
  };
}
