import { type Assembly, type Finding, type Step, cut, emptyAssembly, onDeck } from '../assembly/index.ts';
import { itemById } from '../catalog/index.ts';
import type { PlaneContext } from '../slope/index.ts';
import { extentFor, planBarrier } from './barrier.ts';
import { planEaveMetal } from './eaveMetal.ts';
import { planUnderlayment } from './field.ts';
import { planRakeMetal } from './rakeMetal.ts';

/**
 * Eave metal, ice barrier, underlayment and rake metal of one plane, in the order of the school chosen: metal first (the barrier laps
 * on to the metal) or barrier first (the barrier folds over the deck edge, metal on it, a narrow strip seals the metal's back edge).
 * Where a gutter hangs its apron goes in before the barrier in both.
 */
export function planUnderlayers(context: PlaneContext): Assembly {
  const extent = extentFor(context);
  const metal = planEaveMetal(context);
  const barrier = extent ? planBarrier(context, extent, metal.first) : emptyAssembly;
  const field = planUnderlayment(context, extent, barrier.pieces.length > 0 ? barrier.pieces : metal.first);
  const rake = planRakeMetal(context, field.pieces);
  const parts = [metal, barrier, field, rake];
  return {
    ...emptyAssembly,
    pieces: parts.flatMap(({ pieces }) => pieces),
    fasteners: parts.flatMap(({ fasteners }) => fasteners),
    zones: parts.flatMap(({ zones }) => zones),
    steps: [deckStep(context), ...parts.flatMap(({ steps }) => steps)],
    findings: [
      ...parts.flatMap(({ findings }) => findings),
      ...closedSheet(context),
      // without a barrier there is nothing that could go first
      ...(barrier.pieces.length > 0 ? schoolFindings(context) : []),
    ],
  };
}

function deckStep(context: PlaneContext): Step {
  const { covering, surface } = context;
  const bare = surface.bearing === 'rafters';
  return {
    lay: onDeck(context),
    detail: 'underlayers',
    stage: 'dry-in',
    action: bare
      ? ['Look the rafters over: sound and in line, old nails out. There is no deck: nobody treads between them.']
      : [
          'Look the deck over (',
          cut(covering.deckThickness),
          ' sheathing): renail loose sheets to the rafters, cut out what is soft, cover old nail holes; sweep it dry.',
        ],
    pieces: [],
    people: 1,
    caution: 'Tie off before anything else; frost, dew or dust: do not go up.',
    holdPoint: bare ? 'rafters sound and in line' : 'deck sound, clean and dry',
    keys: [],
  };
}

/** Between rafters what rises from the room below goes out through the sheet or over it: a closed one wants air at eaves and ridge (trade practice). */
function closedSheet({ job, catalog, covering, surface }: PlaneContext): Finding[] {
  const sheet = itemById(catalog, 'underlayment', covering.underlayers.underlayment);
  const isVented = job.ventilation !== null && job.ventilation.exhaust !== 'none';
  if (surface.bearing === 'deck' || sheet.vapourOpen || isVented) return [];
  return [
    {
      id: 'underlayment.closed',
      severity: 'worth a look',
      sentence: [
        `${sheet.name} lets no moisture through, and nothing vents the space under it: it will drip from the sheet in winter.`,
      ],
      fix: ['Take a vapour-open sheet under Covering, or vent eaves and ridge.'],
      piece: 'UL1-1',
      key: 'underlayment.layers',
    },
  ];
}

function schoolFindings({ covering, rules }: PlaneContext): Finding[] {
  const order = rules.get('eave.order');
  const findings: Finding[] = [];
  if (order.status !== 'conflict' && !order.allowed?.includes(covering.underlayers.eaveOrder)) {
    findings.push({
      id: 'eave.order',
      severity: 'breaks a rule',
      sentence: [
        `The eave is laid ${SCHOOL[covering.underlayers.eaveOrder]}, but ${order.allowed?.map((school) => SCHOOL[school as keyof typeof SCHOOL] ?? school).join(' or ')} is what governs.`,
      ],
      fix: ['Change the order at the eave, or the product whose maker asks for it.'],
      piece: 'IB1-1',
      key: 'eave.order',
    });
  }
  return findings;
}

const SCHOOL = { 'metal-first': 'metal first', 'barrier-first': 'barrier first' } as const;
