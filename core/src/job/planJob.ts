import { type Assembly, type Finding, SEVERITIES, assemble, withKnownSupports } from '../assembly/index.ts';
import { itemById } from '../catalog/index.ts';
import { type CourseLayout, courseCount, twoLayerHeadlap } from '../covering/index.ts';
import { DETAIL_FAMILIES, type PlacedWall, type PlaneContext, blocksBehind, placeWalls } from '../details/index.ts';
import { type FlowAtLine, flowAlong, pickStep } from '../details/sidewall/index.ts';
import { type BarrierExtent, extentFor } from '../details/underlayers/index.ts';
import { pitchAngle, slopeFactor, slopeLength } from '../roof/index.ts';
import { type Requirement, type Requirements, leastOf, mostOf, resolveRules } from '../rules/index.ts';
import { type RunGroup, writeRunSheet } from '../sequence/index.ts';
import { type OrderLine, listOrder } from '../takeoff/index.ts';
import { type Library, sourcesOf } from './library.ts';
import type { Job, Plane } from './schema.ts';

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
  readonly layout: CourseLayout;
  readonly courses: number;
  readonly pitch: number;
  readonly slopeFactor: number;
  readonly barrier?: BarrierExtent;
  readonly walls: readonly WallSummary[];
  readonly requirements: readonly Requirement[];
  readonly runSheet: readonly RunGroup[];
};

/** Everything Ruvet says about a job. Lengths in millimetres. */
export type Plan = Assembly & { readonly planes: readonly PlanePlan[]; readonly order: readonly OrderLine[] };

/**
 * Plans a job: a pure function of the document, the packs and the catalog; same input, same output, byte for byte.
 * The job must have passed `checkJob`.
 */
export function planJob(job: Job, library: Library): Plan {
  const planned = job.planes.map((plane) => planPlane(job, plane, library));
  const assembly = assemble(planned.map(({ assembly }) => assembly));
  return {
    ...assembly,
    findings: [...assembly.findings].sort((a, b) => SEVERITIES.indexOf(a.severity) - SEVERITIES.indexOf(b.severity)),
    planes: planned.map(({ plan }) => plan),
    order: listOrder(assembly, library.catalog),
  };
}

function planPlane(job: Job, plane: Plane, library: Library): { assembly: Assembly; plan: PlanePlan } {
  const rules = resolveRules(sourcesOf(job, library), { covering: 'shingle', pitch: plane.pitch, iceDams: job.site.iceDams });
  const context = contextOf(job, plane, library, rules);
  const assembly = withKnownSupports(assemble(DETAIL_FAMILIES.map((family) => family(context))));
  const barrier = extentFor(context);
  const stepCounts = new Map<string, number>();
  for (const { detail, role } of assembly.pieces) if (role === 'step') stepCounts.set(detail, (stepCounts.get(detail) ?? 0) + 1);
  const plan: PlanePlan = {
    id: plane.id,
    name: plane.name,
    layout: context.layout,
    courses: context.courses,
    pitch: plane.pitch,
    slopeFactor: context.slopeFactor,
    ...(barrier ? { barrier } : {}),
    walls: context.walls.map((wall) => summariseWall(context, wall, stepCounts.get(wall.id) ?? 0)),
    requirements: [...rules.values()],
    runSheet: writeRunSheet(assembly, context.layout),
  };
  return {
    assembly: { ...assembly, findings: [...assembly.findings, ...ruleFindings(rules), ...coveringFindings(context)] },
    plan,
  };
}

function contextOf(job: Job, plane: Plane, library: Library, rules: Requirements): PlaneContext {
  const shingle = itemById(library.catalog, 'shingle', job.covering.shingle);
  const slope = slopeLength(plane.slope, plane.pitch);
  const layout: CourseLayout = {
    exposure: job.covering.exposure ?? Math.min(shingle.maxExposure, mostOf(rules, 'covering.exposure')),
    height: shingle.height,
    firstButt: job.covering.firstButt,
    slopeLength: slope,
  };
  const walls = placeWalls(plane, slope);
  return {
    job,
    plane,
    catalog: library.catalog,
    rules,
    layout,
    courses: courseCount(layout),
    slopeFactor: slopeFactor(plane.pitch),
    angle: pitchAngle(plane.pitch),
    walls,
    blocks: blocksBehind(walls, plane.eaveLength),
    shingle,
    facet: plane.id,
  };
}

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
