import {
  type Finding,
  type Step,
  type Words,
  bead,
  cut,
  lengths,
  listed,
  mm,
  netFree,
  piecesOf,
  ridge,
  valleyHead,
} from '../assembly/index.ts';
import { chooseNail, itemById, sealantFor } from '../catalog/index.ts';
import type { Job, Library } from '../document/index.ts';
import { type Point, fromPlan, slopeFactor, toPlan } from '../roof/index.ts';
import { mostOf } from '../rules/index.ts';
import { type PlaneContext, type RidgeLine, ridgeVentOf, ridgesOf, ventSlots } from '../slope/index.ts';
import { lastCourseAtOrBelow } from '../surface/index.ts';
import { inches, isOver, isUnder, stepsToReach } from '../units/index.ts';

/** The slot's width each side of the ridge (trade practice). */
const SLOT = inches(1);
/** A length of vent is held by so many nails until the caps go through it (trade practice). */
const NAILS_A_LENGTH = 4;
/** A piece of sheet over the end of a ridge that dies into a slope, and how far its last cap goes under the course above (trade practice). */
const HEAD_SHEET = inches(36);
const CAP_UNDER = inches(4);
/** Part of all the net free area that lets air out where eaves and ridge are balanced, least and most (R806.2). */
const BALANCED = [0.4, 0.5] as const;

type Roof = { readonly job: Job; readonly library: Library; readonly contexts: readonly PlaneContext[] };
type Slotted = { readonly context: PlaneContext; readonly line: RidgeLine; readonly slot: number };

/** How a roof's ventilation comes out, all areas in square millimetres, lengths in millimetres. */
export type VentilationPlan = {
  /** Net free area its floor asks, and the part of the floor that is. */
  readonly needed: number;
  readonly onePartIn: number;
  readonly balanced: boolean;
  readonly intake: number;
  readonly exhaust: number;
  /** Length of slot, of the ridge there is. */
  readonly slot: number;
  readonly ridge: number;
};

const slotsOf = ({ job, library, contexts }: Roof): Slotted[] =>
  ventSlots(
    job,
    library.catalog,
    contexts.map(({ plane }) => plane),
  ).map(({ plane, ...slot }) => ({ ...slot, context: contexts.find((one) => one.plane === plane)! }));

/** What the ventilation decided on comes to; undefined where nothing is decided, or nothing vented. */
export function ventilationOf(roof: Roof): VentilationPlan | undefined {
  const { job, library, contexts } = roof;
  const { ventilation } = job;
  const rules = contexts[0]?.rules;
  if (!ventilation || ventilation.exhaust === 'none' || !rules) return undefined;
  const vent = ridgeVentOf(job, library.catalog);
  const slots = slotsOf(roof);
  const slot = slots.reduce((sum, one) => sum + one.slot, 0);
  const exhaust = ventilation.exhaust === 'as it is' ? ventilation.outlet : vent ? (slot * vent.netFree) / vent.length : 0;
  const { floor, intake } = ventilation;
  const share = exhaust + intake > 0 ? exhaust / (exhaust + intake) : 0;
  const balanced = !isUnder(share, BALANCED[0]) && !isOver(share, BALANCED[1]);
  // asked of every slope a line of it stands on, so that each can say who says so
  for (const { context } of slots)
    for (const key of ['ventilation.balanced', 'ventilation.other'] as const) context.rules.get(key);
  const onePartIn = mostOf(rules, balanced ? 'ventilation.balanced' : 'ventilation.other');
  return {
    needed: floor / onePartIn,
    onePartIn,
    balanced,
    intake,
    exhaust,
    slot,
    ridge: slots.reduce((sum, { line }) => sum + line.length, 0),
  };
}

/** The lines that vent a ridge: slot, vent and its ends; the caps come after. And, vent or not, how a ridge ends that dies into another slope. */
export function ridgeLines(roof: Roof): Step[] {
  return [...slotLines(roof), ...roof.contexts.flatMap((context) => endLines(roof, context))];
}

function slotLines(roof: Roof): Step[] {
  const { catalog } = roof.library;
  const vent = ridgeVentOf(roof.job, catalog);
  if (!vent) return [];
  return slotsOf(roof).flatMap(({ context, line, slot }): Step[] => {
    if (slot === 0) return [];
    const { plane, covering } = context;
    const count = stepsToReach(line.length, vent.length);
    const nail = chooseNail(catalog, 'roofing', vent.height + covering.deckThickness, 'galvanised steel');
    const common = { detail: 'covering', plane: plane.id, stage: 'finish', pieces: [], keys: [] } as const;
    return [
      {
        ...common,
        lay: ridge(context, 'slot'),
        action: [
          'Snap the slot along the middle of the ridge, ', mm(slot), ' long, ', cut(SLOT), ' each side. Saw through covering and sheet with the blade set to the deck’s ', cut(covering.deckThickness), '; cut no rafter. Lift the strips out.',
        ], // prettier-ignore
        people: 2,
        caution: 'Tie off on the ridge. Eyes and ears covered.',
        holdPoint: 'the slot open and clear its whole length, seen from inside or by hand',
        keys: ['ventilation.balanced', 'ventilation.other'],
      },
      {
        ...common,
        lay: ridge(context, 'vent'),
        action: [
          'Lay the vent the whole ridge, its middle over it, butted: ', mm(line.length), ', the last length cut. ',
          ...closures(line),
        ], // prettier-ignore
        fasteners: [
          `${NAILS_A_LENGTH * count} nails, ${NAILS_A_LENGTH} to a length at its corners, until the caps go through it`,
        ],
        uses: [piecesOf(vent, 'ridge vent', count), piecesOf(nail, 'roofing nail', NAILS_A_LENGTH * count)],
        people: 2,
      },
    ];
  });
}

/** How the ends of a vent are closed. */
function closures({ ends }: RidgeLine): Words {
  const gables = ends.filter(({ meets }) => meets === 'rake').length;
  const plugs = gables === 0 ? '' : gables === 1 ? 'Push its end plug in at the gable.' : 'Push its end plugs in at both gables.';
  const rest = ends.length - gables;
  const sealed = rest === 0 ? '' : `${plugs ? ' ' : ''}Close the ${rest === 1 ? 'other end' : 'ends'} where the ridge runs into ${listed([...new Set(ends.flatMap(({ meets }) => (meets === 'rake' ? [] : [RUNS_INTO[meets] ?? 'what stands there'])))])}: plug, and a bead on its face.`; // prettier-ignore
  return [plugs + sealed];
}
const RUNS_INTO: Partial<Record<RidgeLine['ends'][number]['meets'], string>> = {
  wall: 'a wall',
  hip: 'the hips',
  valley: 'the other slope',
};

/** Where a slope's ridge dies into another slope: a piece of sheet over the heads of its valleys, and the last cap under the course above. */
function endLines({ contexts, library: { catalog } }: Roof, context: PlaneContext): Step[] {
  const { plane } = context;
  return ridgesOf(plane).flatMap(({ ends }) =>
    ends.flatMap(({ at, meets }): Step[] => {
      const valley = plane.edges.find(({ kind, from, to }) => kind === 'valley' && [from, to].some((end) => isNear(end, at)));
      const host = contexts.find((one) => one.plane.id === valley?.other);
      if (meets !== 'valley' || !host) return [];
      const [, v] = fromPlan(host.plane.joined.face, toPlan(plane.joined.face, [at[0], at[1] / slopeFactor(plane.pitch)]));
      const height = v * slopeFactor(host.plane.pitch);
      const course = lastCourseAtOrBelow(host.lines, height) + 1;
      if (course > host.lines.count) return [];
      const sheet = itemById(catalog, 'iceBarrier', host.covering.underlayers.iceBarrier);
      const part = context.job.parts.find(({ id }) => id === plane.part)!;
      const strip = host.covering.kind === 'strip';
      const common = { detail: 'covering', plane: host.plane.id, pieces: [], people: 1, keys: [] } as const;
      return [
        {
          ...common,
          lay: valleyHead({
            order: Math.max(...contexts.filter((one) => one === host || one.plane.part === plane.part).map(({ order }) => order)),
          }),
          stage: 'dry-in',
          action: [
            `Cover the end of ${part.name}’s ridge with a piece of sheet `, cut(HEAD_SHEET), ' × ', cut(HEAD_SHEET), ', its middle on the point: over the heads of both valley sheets, under the rows above. Roll it down.',
          ], // prettier-ignore
          uses: [lengths(sheet, 'sheet', [HEAD_SHEET])],
        },
        {
          ...common,
          lay: ridge(context, 'end'),
          stage: 'finish',
          action: [
            `Lift course ${course} of ${host.plane.name} and slide the last cap of ${part.name}’s ridge `, cut(CAP_UNDER), ` under it${strip ? '; bed cap and course in cement' : ''}.`,
          ], // prettier-ignore
          ...(strip ? { uses: [bead(sealantFor(catalog, 'cement', 400), 'asphalt cement', inches(12), inches(3 / 8))] } : {}),
        },
      ];
    }),
  );
}

const isNear = (a: Point, b: Point): boolean => Math.hypot(a[0] - b[0], a[1] - b[1]) < inches(1);

/** What is to be said of how a roof is vented. */
export function ventilationFindings(roof: Roof): Finding[] {
  const { job, library, contexts } = roof;
  const { ventilation } = job;
  if (contexts.length === 0) return [];
  if (ventilation === null)
    return [
      {
        id: 'ventilation.open',
        severity: 'worth a look',
        sentence: ['How the space under the roof is vented is not decided.'],
        fix: [
          'Decide it under “Ventilation” among the measures, with what the eaves let in; or say that it is not vented, and why.',
        ],
      },
    ];
  const made = ventilationOf(roof);
  if (ventilation.exhaust === 'none' || !made) return [];
  const findings: Finding[] = [];
  const say = (id: string, finding: Omit<Finding, 'id'>): void => void findings.push({ id: `ventilation.${id}`, ...finding });
  const { needed, onePartIn, balanced, intake, exhaust } = made;
  if (ventilation.exhaust === 'ridge vent' && !ridgeVentOf(job, library.catalog))
    say('product', {
      severity: 'breaks a rule',
      sentence: ['The catalog has no ridge vent, so none is planned.'],
      fix: ['Add one to the catalog, or decide on another way out for the air.'],
    });
  if (ventilation.exhaust === 'ridge vent' && ventilation.others)
    say('mixed', {
      severity: 'breaks a rule',
      sentence: ['A ridge vent with other vents left open up the roof draws through them, not from the eaves.'],
      fix: ['Close the others, then say so under “Ventilation”.'],
    });
  if (isOver(exhaust, intake))
    say('intake', {
      severity: 'breaks a rule',
      sentence: ['The eaves let in ', netFree(intake), ', less than the ', netFree(exhaust), ' let out: the rest is drawn from the rooms below.'],
      fix: ['Open ', netFree(exhaust - intake), ' more at the eaves.'],
      key: 'ventilation.balanced',
    }); // prettier-ignore
  if (isUnder(exhaust + intake, needed))
    say('short', {
      severity: 'breaks a rule',
      sentence: [
        'Vents come to ', netFree(exhaust + intake), ' net free, ', netFree(intake), ' of it at the eaves; the attic’s floor asks ', netFree(needed), `, 1 part in ${onePartIn}.`,
      ],
      fix: balanced
        ? ['Open ', netFree(needed - exhaust - intake), ' more, half of it at the eaves.']
        : ['Balance them: with half at the eaves and half at the ridge 1 part in ', `${mostOf(contexts[0]!.rules, 'ventilation.balanced')} is enough.`],
      key: balanced ? 'ventilation.balanced' : 'ventilation.other',
    }); // prettier-ignore
  return findings;
}
