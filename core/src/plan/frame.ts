import {
  type Assembly,
  type Step,
  type Words,
  afterCourses,
  beforeCourse,
  cut,
  evening,
  listed,
  mm,
  piecesForRun,
  piecesOf,
  wholeRoof,
} from '../assembly/index.ts';
import { itemsOf, smallest } from '../catalog/index.ts';
import { bounds } from '../roof/index.ts';
import { leastOf } from '../rules/index.ts';
import type { PlaneContext } from '../slope/index.ts';
import { inches } from '../units/index.ts';
import { type Roof, areaOf, namedDetails, roofLine } from './roofLine.ts';

/** A tarp goes so far over what is closed already, and down either side of a ridge (trade practice). */
const TARP_LAP = inches(12);
/** A ladder stands so far past the eave (trade practice). */
const LADDER_PAST = inches(36);
/** More details than this are not named one by one in a line. */
const NAMED = 12;

/**
 * The frame every job has round what its details lay (trade practice): make safe, how the roof is left each evening, dried in, what a
 * slope waits for, water test and hand-over.
 */
export function frameSteps(roof: Roof): Step[] {
  return [...makeSafe(roof), ...evenings(roof), driedIn(roof), ...gates(roof), ...handOver(roof)];
}

const skylightsOf = ({ job }: Roof): string[] => job.features.flatMap(({ kind, id }) => (kind === 'skylight' ? [id] : []));

function makeSafe(roof: Roof): Step[] {
  const openings = skylightsOf(roof);
  return [
    roofLine({
      lay: wholeRoof('makeSafe'),
      stage: 'dry-in',
      action: ['Set anchors and lifelines and tie off. Tie the ladder, its head ', mm(LADDER_PAST), ' past the eave.'],
      people: 2,
      caution: 'Wet, frosted or dusty roof: do not go up. Keep clear of overhead lines.',
    }),
    ...tarpsReady(roof),
    ...(openings.length > 0
      ? [
          roofLine({
            lay: wholeRoof('makeSafe', 2),
            stage: 'dry-in',
            action: [`Have a cover ready for ${listed(openings)} that can be fixed and is marked.`],
            caution: 'A skylight is a hole.',
          }),
        ]
      : []),
  ];
}

/** Tarps for the largest area that lies open at once: a slope. */
function tarpsReady({ contexts, library }: Roof): Step[] {
  const largest = contexts.reduce<PlaneContext | undefined>(
    (most, one) => (most && areaOf(most) >= areaOf(one) ? most : one),
    undefined,
  );
  if (!largest) return [];
  const tarp = smallest(itemsOf(library.catalog, 'tarp'), ({ length, width }) => -length * width);
  const count = tarp ? tarpsOver(largest, tarp) : 1;
  return [
    roofLine({
      lay: wholeRoof('makeSafe', 1),
      stage: 'dry-in',
      action: [
        `Have ${count} ${count === 1 ? 'tarp' : 'tarps'}${contexts.length > 1 ? ` for ${largest.plane.name}, the largest slope, ` : ' for the slope, '}`,
        { area: areaOf(largest) },
        ', with battens and screws to hold them, and one who comes when it rains.',
      ],
      uses: [piecesOf(tarp, 'tarp', count)],
    }),
  ];
}

/** In rows up the slope, side by side along the eave, lapped. */
function tarpsOver({ plane }: PlaneContext, { length, width }: { readonly length: number; readonly width: number }): number {
  const { x0, x1, y0, y1 } = bounds(plane.outline);
  const laid = (along: number, up: number): number =>
    piecesForRun(x1 - x0, along, TARP_LAP) * piecesForRun(y1 - y0 + TARP_LAP, up, TARP_LAP);
  return Math.min(laid(length, width), laid(width, length));
}

/** Every evening the roof is closed: what is open, and how. */
function evenings(roof: Roof): Step[] {
  const { contexts, assembly } = roof;
  const tonight = (step: Pick<Step, 'lay' | 'stage' | 'action'> & Partial<Step>): Step => roofLine({ people: 2, ...step });
  const openings = skylightsOf(roof);
  const hasBarrier = assembly.pieces.some(({ role }) => role === 'iceBarrier');
  const tarp: Words = ['tarp the bare deck from the ridge down, ', cut(TARP_LAP), ' over the barrier, edges battened.'];
  const through = new Set(assembly.pieces.flatMap(({ role, detail }) => (role === 'throughWall' ? [detail] : [])));
  const opened = contexts.flatMap(({ fronts, walls, plane }) =>
    [...fronts, ...walls].filter(({ id }) => through.has(id)).map(({ id }) => `${id} on ${plane.name}`),
  );
  return [
    ...(hasBarrier && openings.length === 0
      ? [tonight({ lay: evening('overBarrier'), stage: 'dry-in', action: ['Close up for the night: ', ...tarp] })]
      : []),
    ...(openings.length > 0
      ? [
          tonight({
            lay: evening('opening'),
            stage: 'dry-in',
            action: [
              `Close up for the night: ${listed(openings)} glazed and taped, none open`,
              ...(hasBarrier ? ['; ', ...tarp] : ['; tarp the bare deck from the ridge down, edges battened.']),
            ],
          }),
        ]
      : []),
    ...(opened.length > 0
      ? [
          tonight({
            lay: evening('masonry'),
            stage: 'dry-in',
            action: [
              `Close up for the night: sheet the open wall at ${listed(opened)} down over the roof’s sheet, `,
              cut(TARP_LAP),
              ' lap; leave the boards on the roof below.',
            ],
          }),
        ]
      : []),
    ...contexts.flatMap((context) => {
      const { plane, lines, facet } = context;
      const capped = assembly.pieces.some(({ role, covers }) => role === 'ridgeCap' && covers.some((one) => one.facet === facet));
      if (plane.top !== 'ridge' || !capped) return [];
      return [
        tonight({
          lay: afterCourses(context, lines.count),
          stage: 'covering',
          plane: plane.id,
          course: lines.count,
          action: ['Close up for the night: tarp over the ridge, ', cut(TARP_LAP), ' down both sides, until the caps are on.'],
        }),
      ];
    }),
  ];
}

/** How long what lies open may do so: the sheet that bears it least decides. */
function daysOpen({ library, assembly }: Roof): number | undefined {
  const used = new Set(assembly.pieces.map(({ product }) => product));
  const days = library.catalog.items.flatMap((item) =>
    (item.kind === 'underlayment' || item.kind === 'iceBarrier') && used.has(item.id) ? [item.daysUncovered] : [],
  );
  return days.length > 0 ? Math.min(...days) : undefined;
}

function driedIn(roof: Roof): Step {
  const days = daysOpen(roof);
  return roofLine({
    lay: wholeRoof('driedIn'),
    stage: 'dry-in',
    action: [
      'Walk the whole roof: every lap downhill, every wrap up its wall, no deck bare, no edge loose.',
      ...(days === undefined ? [] : [` The sheets may lie open ${days} days at most.`]),
    ],
    holdPoint: 'the whole roof dried in; nothing else goes on before',
  });
}

/** What a slope whose shingles are cut over another's waits for. */
function gates({ contexts, valleys, assembly }: Roof): Step[] {
  return contexts.flatMap((context) => {
    const { plane, rules } = context;
    const waits = valleys.flatMap(({ id, style, through, sides }) => {
      const own = sides.find((side) => side.plane === plane.id);
      const other = sides.find((side) => side.plane !== plane.id);
      if (!own || !other || style === 'open' || style === 'woven' || through === plane.id) return [];
      return [{ id, on: other.plane, above: own.side.footOn }];
    });
    return [...new Set(waits.map(({ above }) => above))].map((above): Step => {
      const here = waits.filter((one) => one.above === above);
      const names = contexts.filter((other) => here.some(({ on }) => on === other.plane.id)).map((other) => other.plane.name);
      const course = above > 0 ? above + 1 : firstCourse(plane.id, assembly);
      return roofLine({
        lay: beforeCourse(context, course),
        stage: 'covering',
        plane: plane.id,
        course,
        action: [
          `${above > 0 ? `Go on above course ${above}` : 'Start this slope'} only with ${listed(names)} on and the cut at ${listed(here.map(({ id }) => id))} snapped `,
          cut(leastOf(rules, 'valley.trim')),
          ' back from the centre.',
        ],
        keys: ['valley.trim'],
      });
    });
  });
}

/** 0 where a slope begins with its starter, else 1. */
const firstCourse = (plane: string, { steps }: Assembly): number =>
  steps.some(({ plane: on, course }) => on === plane && course === 0) ? 0 : 1;

function handOver({ assembly }: Roof): Step[] {
  const details = [...new Set(assembly.panels.map(({ detail }) => detail))];
  const named = namedDetails(details, NAMED);
  return [
    roofLine({
      lay: wholeRoof('waterTest'),
      stage: 'finish',
      action: [`Hose from the bottom up, one place at a time, somebody watching inside: ${named}.`],
      people: 2,
    }),
    roofLine({
      lay: wholeRoof('waterTest', 1),
      stage: 'finish',
      action: ['Write down when the water went on and off, and what came through where.'],
    }),
    roofLine({
      lay: wholeRoof('handOver'),
      stage: 'finish',
      action: ['Clear scrap off the roof and out of the gutters; sweep beds and paths with the magnet.'],
    }),
    roofLine({
      lay: wholeRoof('handOver', 1),
      stage: 'finish',
      action: ['Hand over: photos of every hold point, product lots, what each part lasts, what to look at each year.'],
    }),
  ];
}
