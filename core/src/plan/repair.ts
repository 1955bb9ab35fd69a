import {
  type Finding,
  type Step,
  type Words,
  afterCourses,
  bead,
  cementBand,
  cut,
  isIn,
  isThere,
  mm,
  onDeck,
  piecesOf,
  rightAfter,
  stripOff,
  wallFinish,
} from '../assembly/index.ts';
import { findItem, itemsOf, sealantFor } from '../catalog/index.ts';
import { type Job, type Repair, REPAIRS, type WorkOf } from '../document/index.ts';
import { type Span, bounds, clipSpans, spansAcross } from '../roof/index.ts';
import { leastOf } from '../rules/index.ts';
import {
  BESIDE_NAMES,
  type BesideWall,
  type PlaneContext,
  type TileFault,
  besideWallOf,
  channelAt,
  cutAlong,
  faceAt,
  footprint,
  tileFaultsOn,
} from '../slope/index.ts';
import { buttLine, chalkLine, courseMark, lastCourseAtOrBelow, lastCourseBelow } from '../surface/index.ts';
import { inches, isOver, stepsToReach } from '../units/index.ts';
import { type Roof, roofLine } from './roofLine.ts';
import { type Strip, columnsTaken, stackLines } from './stacks.ts';
import { SUSPECT, surveyLine } from './survey.ts';

/** A skylight is stripped so far each side, other things to the next whole shingle (trade practice). */
const BESIDE_SKYLIGHT = inches(24);
/** And so far above and below (trade practice). */
const ABOVE_AND_BELOW = inches(18);
/** Beyond the first whole course above, so many more come off at a head (trade practice). */
const MORE_AT_HEAD = 2;
/** Breakage when old shingles come off, as a share (trade practice). */
const BREAKAGE = 0.1;
/** A shingle is stuck down again with so many dabs, each so long and wide, from a tube of at most so many millilitres (trade practice). */
const DABS = 2;
const DAB = inches(1);
const DAB_WIDE = inches(3 / 8);
const TUBE = 1000;
/** The cladding is opened so far up over a kick-out (trade practice). */
const OPENED_UP = inches(16);

/** Courses of one slope that come off, and how far along each. */
type Patch = { readonly context: PlaneContext; readonly from: number; readonly to: number; spanAt(course: number): Span };

/** The roof, and the mark before the courses of each slope. */
type Marked = Roof & { readonly marks: ReadonlyMap<string, string> };

/** A patch with what of each course comes off. */
type Counted = Patch & { readonly counts: readonly CourseCount[] };

/** What a repair is worth, said before it is begun. */
type Worth = { readonly is: 'cure' | 'stop-gap'; readonly lasts: string; readonly cannot: string; readonly stop: string };

type How = {
  readonly patches: readonly Patch[];
  /** Lines of the detail that are done; the others of it stay as they are. */
  readonly keeps: (step: Step) => boolean;
  /** What comes off besides the covering. */
  readonly off: readonly (Pick<Step, 'action'> & Partial<Step>)[];
  readonly worth: Worth;
  /** What is put back at last besides. */
  readonly back?: readonly (Pick<Step, 'action' | 'lay'> & Partial<Step>)[];
};

/** A repair as it is planned: its lines alone, and what stands in them. */
export type RepairPlan = { readonly what: Repair; readonly of: string; readonly planes: readonly string[] };

/** The steps of a repair in the place of a whole roof's; undefined for a job that is none, or whose detail is not on the roof. */
export function repairSteps(roof: Marked): { readonly steps: Step[]; readonly plan: RepairPlan } | undefined {
  const { job, assembly } = roof;
  if (job.work.kind !== 'repair') return undefined;
  const how = howOf(roof, job.work);
  if (!how) return undefined;
  const { work } = job;
  const patches = how.patches.map((patch): Counted => ({ ...patch, counts: coursesOf(roof, patch) }));
  const own = assembly.steps.filter((step) => step.detail === work.of && !isThere(step.lay) && how.keeps(step));
  const planes = [...new Set([...patches.map(({ context }) => context.plane.id), ...own.flatMap(({ plane }) => plane ?? [])])];
  const ofRoof = (stage: 'makeSafe' | 'waterTest' | 'handOver'): Step[] =>
    assembly.steps.filter(({ detail, lay }) => detail === 'roof' && isIn(lay, stage));
  const [hose, ...after] = ofRoof('waterTest');
  return {
    plan: { what: work.what, of: work.of, planes },
    steps: [
      ...worthLines(how.worth),
      ...lookLines(work),
      ...ofRoof('makeSafe').slice(0, 1),
      ...offLines(roof, how, patches, work),
      ...patches.map(deckSeen),
      ...own,
      ...patches.flatMap((patch) => layBack(roof, patch, work)),
      ...(how.back ?? []).map((one) => line({ detail: work.of, stage: 'finish', ...one })),
      ...(hose ? [hosed(hose, work)] : []),
      ...after,
      ...ofRoof('handOver'),
    ],
  };
}

/** What is to be said where a repair cannot be planned. */
export function repairFindings({ work }: Job, planned: boolean): Finding[] {
  if (work.kind !== 'repair' || planned) return [];
  return [
    {
      id: 'work.repair',
      severity: 'breaks a rule',
      sentence: [`Repair: there is no ${REPAIRS[work.what].on} ${work.of} on this roof to have its ${REPAIRS[work.what].name}; the whole roof is planned.`],
      fix: ['Choose another repair under “Work”.'],
    },
  ]; // prettier-ignore
}

const line = (step: Pick<Step, 'action' | 'lay'> & Partial<Step>): Step => roofLine({ stage: 'dry-in', ...step });

const worthLines = ({ is, lasts, cannot, stop }: Worth): Step[] => [
  surveyLine(10, { action: [`Tell the owner first: this is a ${is}. It lasts ${lasts}. It does not ${cannot}.`] }),
  surveyLine(11, { action: [`Stop and say so where ${stop}.`] }),
];

/** What is looked at before a repair is begun, and what of it is photographed (trade practice). */
const LOOK: Record<Repair, string> = {
  boot: 'Look at the pipe from inside: stains, wet boards. Measure its outside; photograph the old base and the covering round it',
  'skylight re-flash':
    'Look up the shaft: stains at its corners, fogged glass, rot in the frame. Photograph sill, sides and head',
  'skylight renewal':
    'Look up the shaft: stains at its corners, lips of the lining. Measure the frame’s outside; photograph sill, sides and head',
  'step run':
    'Walk the wall from foot to head: cladding, what is stuck over, where the metal shows. Photograph foot, middle and head',
  'kick-out': 'Look at the foot of the wall: prod cladding and sheathing for rot. Photograph it, and where the gutter ends',
  apron: 'Look inside along the wall: stains at the ceiling. Photograph the apron’s laps and ends, and what closes it above',
  'through-wall':
    'Look inside along the wall: stains at its foot. Find old trays and weeps outside; photograph the bed joint end to end',
  'chimney set': 'Look from the attic round the stack: light, stains. Try joints and crown by hand; photograph all four faces',
  'loose counterflashing':
    'Walk its whole length, try it by hand and chalk where it is loose. Look at the base flashing below; photograph both',
  valley:
    'Look from inside along the valley: stains, soft boards. Note which slope runs through; photograph head, middle and foot',
  'side channel':
    'Look from inside where it drips: follow the stain up, water runs along what crosses it. Measure to the place; photograph the tiles round it',
  'one tile': 'Look from inside for a stain below it. Match tile and colour; photograph it with the tiles round it',
};
const lookLines = ({ what }: WorkOf<'repair'>): Step[] => [
  surveyLine(12, { action: [`${LOOK[what]}.`] }),
  surveyLine(13, { action: SUSPECT, holdPoint: 'kinds known, nothing suspect among them' }),
];

/** What comes off: what stands in the way first, then the courses, unzipped from the top. */
function offLines(roof: Roof, { off }: How, patches: readonly Counted[], work: WorkOf<'repair'>): Step[] {
  let at = 0;
  const step = (own: Pick<Step, 'action'> & Partial<Step>): Step => line({ lay: stripOff(at++), detail: work.of, ...own });
  return [
    ...off.map(step),
    ...patches.flatMap((patch) => {
      const { context, from, to, counts } = patch;
      const { plane, covering, surface } = context;
      const shingles = counts.reduce((sum, one) => sum + one.units, 0);
      const closed = closedBy(roof, patch);
      const below = LOOSEN[covering.kind](closed ? undefined : `course ${to + 1}`);
      const loosened = [...(closed ? [closed.off] : []), ...(below ? [[below]] : [])];
      const [x0, x1] = patch.spanAt(Math.round((from + to) / 2));
      const courses = from === to ? `course ${from}` : `courses ${to} down to ${from}`;
      return [
        ...loosened.map((action) => step({ plane: plane.id, action, caution: COLD[covering.kind] })),
        step({
          plane: plane.id,
          action: [
            `Take off ${courses}, `, mm(x0), ' to ', mm(x1), ` from the left end where they pass it: about ${shingles} ${shingles === 1 ? 'piece' : 'pieces'}. ${PULL[covering.kind]}${work.reuse && !surface.columns ? ' Stack them by course, a pile a side.' : ''}`,
          ], // prettier-ignore
          people: 2,
        }),
        ...(work.reuse ? stackLines(counts).map((action) => step({ plane: plane.id, action })) : []),
      ];
    }),
  ];
}

/** What closes a slope over its last course, where a patch goes up to it: how it is opened, and how it is closed again. */
function closedBy(roof: Roof, { context, to, spanAt }: Patch): { readonly off: Words; readonly back: Step } | undefined {
  const { lines, plane, facet } = context;
  if (to < lines.count) return undefined;
  const [x0, x1] = spanAt(to);
  if (context.fronts.some((front) => front.y >= lines.end - 1 && front.x0 < x1 && front.x1 > x0))
    return {
      off: [`Lift the apron’s lower edge over course ${to}, no further than it gives.`],
      back: line({
        lay: afterCourses(context, to),
        plane: plane.id,
        stage: 'covering',
        course: to,
        action: [`Press the apron down on course ${to} again and fix it as it was.`],
        holdPoint: 'apron down on the covering, no fold in it',
      }),
    };
  const caps = roof.assembly.pieces.filter(({ role }) => role === 'ridgeCap');
  // caps on a ridge two slopes share are counted on one of them
  const counted =
    caps.find(({ product, covers }) => product !== undefined && covers.some((cover) => cover.facet === facet)) ??
    caps.find(({ product }) => product !== undefined);
  const cap = itemsOf(roof.library.catalog, 'ridgeCap').find(({ id }) => id === counted?.product);
  const laid = roof.assembly.steps.find(({ pieces }) => counted !== undefined && pieces.includes(counted.mark));
  if (!cap || !laid) return undefined;
  const count = stepsToReach(x1 - x0, cap.exposure) + 1;
  const each = leastOf(context.rules, 'ridgeCap.nails');
  return {
    off: [`Take ${count} caps off the ridge over it, the nails of each first.`],
    back: line({
      lay: laid.lay,
      plane: plane.id,
      stage: 'finish',
      action: [`Cap the ridge again where it was opened: ${count} new caps, the last under the one that stayed.`],
      fasteners: [`${each * count} nails, ${each} to a cap, one each side, an inch above the part that shows`],
      uses: [
        piecesOf(cap, 'ridge cap', count),
        ...(laid.uses ?? []).slice(0, 1).map((use) => ({ ...use, amount: each * count })),
      ],
    }),
  };
}

/** How the first course above, which stays, is loosened; or, where nothing of the covering is above, what holds the last. */
const LOOSEN: Record<PlaneContext['covering']['kind'], (above: string | undefined) => string | undefined> = {
  strip: (above) =>
    above && `Break the seal under ${above}, the first whole one above, with a flat bar; lift it, no further than it bends.`,
  doubleLap: (above) => `Cut the nails of the slates${above ? ` under ${above}` : ''} with the ripper, from the top down.`,
  shake: (above) => `Cut the nails of the shakes${above ? ` under ${above}` : ''} with the ripper, from the top down.`,
  singleLap: (above) =>
    above && `Push the tiles of ${above}, the first whole ones above, up out of the way, or prop their tails on wedges.`,
};
const COLD: Record<PlaneContext['covering']['kind'], string> = {
  strip: 'In the cool of the morning: warm ones tear, frozen ones snap.',
  doubleLap: 'Roof ladder and crawl boards: nobody stands on slates.',
  shake: 'Wet shakes are slick: roof ladder.',
  singleLap: 'Whole foot on a tile’s lower edge, over the batten, never mid-tile.',
};
const PULL: Record<PlaneContext['covering']['kind'], string> = {
  strip: 'Two courses’ nails hold each: pull both.',
  doubleLap: 'Slide each out downhill.',
  shake: 'Slide each out downhill with its felt.',
  singleLap: 'Lift each off its batten, from the side they were laid to.',
};

const deckSeen = ({ context }: Patch): Step =>
  line({
    lay: rightAfter(onDeck(context), 1),
    plane: context.plane.id,
    ...(context.surface.bearing === 'deck'
      ? {
          action: [
            'Look the bare deck over: cut out what is soft to the rafter centres and mend it, cover old nail holes, sweep it dry.',
          ],
          holdPoint: 'deck sound, clean and dry, old nail holes covered',
        }
      : {
          action: [
            'Look battens and sheet over: nail what is loose, patch what is torn, over the sheet above and under the one below.',
          ],
          holdPoint: 'battens firm, sheet whole',
        }),
    people: 1,
  });

type CourseCount = Strip & {
  readonly units: number;
  readonly nails: readonly (readonly [product: string, count: number])[];
};

/** What of each course of a patch comes off: whole units and parts, and the nails that hold what goes back. */
function coursesOf({ assembly, marks }: Marked, { context, from, to, spanAt }: Patch): CourseCount[] {
  const { facet, lines, surface, plane } = context;
  return Array.from({ length: to - from + 1 }, (_, i): CourseCount => {
    const course = from + i;
    const [x0, x1] = spanAt(course);
    const mark = (marks.get(plane.id) ?? '') + courseMark(course);
    const piece = assembly.pieces.find((one) => one.mark === mark);
    const y = buttLine(lines, course) + lines.gauge / 2;
    const whole = (piece?.covers ?? [])
      .filter((cover) => cover.facet === facet)
      .flatMap(({ outline }) => spansAcross(outline, y));
    const spans = clipSpans(whole, x0, x1);
    const columns = surface.columns && columnsTaken(surface.columns, course, whole, spans);
    const nails = new Map<string, number>();
    for (const one of assembly.fasteners)
      if (one.piece === mark && one.facet === facet && one.at[0] > x0 && one.at[0] < x1)
        nails.set(one.product, (nails.get(one.product) ?? 0) + 1);
    return {
      course,
      units: columns?.length ?? spans.reduce((sum, [a, b]) => sum + stepsToReach(b - a, surface.unit.width), 0),
      columns: columns ?? [],
      nails: [...nails],
    };
  });
}

/** The courses of a patch laid again, each where it belongs between what is flashed, and the seal of the one above pressed down. */
function layBack(roof: Marked, patch: Counted, work: WorkOf<'repair'>): Step[] {
  const { context, to, counts } = patch;
  const { plane, surface, covering, lines } = context;
  const { items } = roof.library.catalog;
  const item = items.find(({ id }) => id === surface.product);
  const all = counts.reduce((sum, { units }) => sum + units, 0);
  const broken = Math.ceil(all * BREAKAGE);
  const atValley = context.valleys.find(({ id }) => id === work.of);
  const unit = UNIT[covering.kind];
  const closed = closedBy(roof, patch);
  const [above] = to < lines.count ? coursesOf(roof, { ...patch, from: to + 1, to: to + 1 }) : [];
  const lifted = above?.units ?? 0;
  return [
    ...(work.reuse
      ? [
          line({
            lay: rightAfter(onDeck(context), 2),
            plane: plane.id,
            detail: work.of,
            action: [
              `Sort what came off: lay again what is ${SOUND[covering.kind]}. ${broken} new for what broke; their colour and size may differ.`,
            ],
            uses: [piecesOf(item, unit, broken)],
          }),
        ]
      : []),
    ...counts
      .filter(({ units }) => units > 0)
      .map(({ course, units, nails }): Step => {
        const told = roof.assembly.steps.find(
          (step) => step.detail === 'covering' && step.plane === plane.id && step.course === course && step.pieces.length > 0,
        );
        const count = nails.reduce((sum, [, n]) => sum + n, 0);
        return line({
          lay: told?.lay ?? afterCourses(context, course),
          plane: plane.id,
          detail: work.of,
          stage: 'covering',
          course,
          action: [
            `Lay course ${course} ${work.reuse ? 'back' : 'anew'}, ${units} ${units === 1 ? 'piece' : 'pieces'}, butt at `, mm(buttLine(lines, course)), '.',
            ...(atValley ? valleyWords(context, atValley) : []),
          ],
          ...(count > 0 ? { fasteners: [`${count} ${count === 1 ? 'nail' : 'nails'}, in the line of the course beside it, none in an old hole`] } : {}),
          uses: [
            ...nails.map(([product, n]) => ({ product, name: findItem(roof.library.catalog, 'nail', product)?.name ?? product, amount: n, unit: 'pieces' as const })),
            ...(work.reuse ? [] : [piecesOf(item, unit, units)]),
            ...(atValley && isCut(atValley) ? [cementBand(roof.library.catalog, cutAlong(lines, atValley))] : []),
          ],
          keys: ['covering.nails'],
        }); // prettier-ignore
      }),
    ...(closed ? [{ ...closed.back, detail: work.of }] : []),
    ...(covering.kind === 'strip' && to < lines.count
      ? [
          line({
            lay: afterCourses(context, to),
            plane: plane.id,
            detail: work.of,
            stage: 'covering',
            course: to,
            action: [`Press course ${to + 1} down again, ${DABS} dabs of cement under each shingle whose seal was broken.`],
            uses: [bead(sealantFor(roof.library.catalog, 'cement', TUBE), 'asphalt cement', DABS * DAB * lifted, DAB_WIDE)],
            holdPoint: 'every shingle lies flat and stuck',
          }),
        ]
      : []),
  ];
}
/** How the lowest piece beside a wall is taken out from under those above it. */
const LOWEST_OUT: Record<BesideWall, string> = {
  steps: 'Draw the nails of the lowest step and lift it out.',
  soakers: 'Free the turned head of the lowest soaker and slide it out downhill.',
  covers: 'Turn back the clips of the lowest cover flashing and lift it off the tiles.',
  pans: 'Turn back the clips of the lowest pan flashing and slide it out downhill.',
};

const UNIT: Record<PlaneContext['covering']['kind'], string> = {
  strip: 'shingle',
  doubleLap: 'slate',
  shake: 'shake',
  singleLap: 'tile',
};

/** How one that can be laid again is told from one that cannot (trade practice). */
const SOUND: Record<PlaneContext['covering']['kind'], string> = {
  strip: 'whole and bends',
  doubleLap: 'whole and rings when knocked',
  singleLap: 'whole and rings when knocked',
  shake: 'whole and hard',
};

/** Is its side cut along the valley and bedded, rather than laid across? */
const isCut = ({ role }: PlaneContext['valleys'][number]): boolean => role === 'cut' || role === 'open';

/** How a course is treated at the valley that is made anew. */
function valleyWords({ rules }: PlaneContext, { role }: PlaneContext['valleys'][number]): Words {
  switch (role) {
    case 'through':
    case 'woven':
      return [' Cross the centre ', cut(leastOf(rules, 'valley.cross')), ', two nails in its far end.'];
    case 'cut':
    case 'open':
      return [' Cut it on the chalk line, crop the corner, bed it.'];
  }
}

const hosed = (step: Step, { of }: WorkOf<'repair'>): Step => ({
  ...step,
  action: [`Hose ${of} from the bottom up, one place at a time, somebody watching inside.`],
});

/**
 * Courses that come off so that the deck is bare from one height to another: every one that lies over it, from the first whose upper edge is above the lower height to
 * the last whose butt is below the upper one.
 */
const baring = (context: PlaneContext, x: Span, y: Span, more = 0): Patch => {
  const { lines, plane } = context;
  const over = Array.from({ length: lines.count }, (_, i) => i + 1).find((n) => isOver(chalkLine(lines, n), y[0]));
  return {
    context,
    from: over ?? lines.count,
    to: Math.min(lines.count, Math.max(over ?? 1, lastCourseBelow(lines, y[1])) + more),
    spanAt: () => [Math.max(0, x[0]), Math.min(plane.eaveLength, x[1])],
  };
};

/** As far as the pieces of a detail reach on a slope. */
function reachOf({ assembly }: Roof, { facet }: PlaneContext, detail: string): { x: Span; y: Span } {
  const boxes = assembly.pieces
    .filter((piece) => piece.detail === detail)
    .flatMap(({ covers }) => covers.filter((cover) => cover.facet === facet).map(({ outline }) => bounds(outline)));
  return {
    x: [Math.min(...boxes.map(({ x0 }) => x0)), Math.max(...boxes.map(({ x1 }) => x1))],
    y: [Math.min(...boxes.map(({ y0 }) => y0)), Math.max(...boxes.map(({ y1 }) => y1))],
  };
}

/** How a repair is done on this roof; undefined where its detail is not there or is another sort of thing. */
function howOf(roof: Roof, { what, of }: WorkOf<'repair'>): How | undefined {
  const { contexts, job, assembly } = roof;
  const feature = job.features.find(({ id }) => id === of);
  const context = contexts.find(({ plane, walls }) => plane.id === feature?.plane || walls.some(({ id }) => id === of));
  const wall = context?.walls.find((one) => one.id === of && !one.face);
  const all = (): boolean => true;
  const side = context ? context.surface.unit.width : 0;
  switch (what) {
    case 'boot': {
      const base = assembly.pieces.find(({ mark }) => mark === `${of}-B`);
      if (feature?.kind !== 'pipe' || !context || !base) return undefined;
      const years = itemsOf(roof.library.catalog, 'boot').find(({ id }) => id === base.product)?.years;
      const { x, y } = reachOf(roof, context, of);
      return {
        patches: [baring(context, [x[0] - side, x[1] + side], y)],
        keeps: all,
        off: [],
        worth: {
          is: 'cure',
          lasts: years ? `about ${years} years, as long as its collar` : 'as long as the pipe',
          cannot: 'make the covering round it younger',
          stop: `the ${UNIT[context.covering.kind]}s break as they are lifted: then the roof is past mending`,
        },
      };
    }
    case 'skylight re-flash':
    case 'skylight renewal': {
      if (feature?.kind !== 'skylight' || !context) return undefined;
      const foot = footprint(feature, context.plane);
      const renewed = what === 'skylight renewal';
      const years = itemsOf(roof.library.catalog, 'skylightKit')[0]?.years;
      const patch = baring(
        context,
        [foot.x0 - BESIDE_SKYLIGHT, foot.x1 + BESIDE_SKYLIGHT],
        [reachOf(roof, context, of).y[0], foot.to + ABOVE_AND_BELOW],
        MORE_AT_HEAD,
      );
      const below = Math.max(1, lastCourseAtOrBelow(context.lines, foot.from - ABOVE_AND_BELOW));
      return {
        patches: [{ ...patch, from: Math.min(patch.from, below) }],
        keeps: all,
        off: renewed
          ? []
          : [
              {
                action: [
                  `${feature.name}: take the old ${BESIDE_NAMES[context.surface.sides]}, sill, head flashing and membrane off to the frame; the unit stays.`,
                ],
                people: 2,
              },
            ],
        worth: renewed
          ? {
              is: 'cure',
              lasts: years ? `about ${years} years, as long as unit and kit` : 'as long as unit and kit',
              cannot: 'dry what is wet inside the shaft',
              stop: 'the deck round the opening is soft beyond the patch',
            }
          : {
              is: 'stop-gap',
              lasts: 'as long as the old unit, and no longer',
              cannot: 'renew its seals and gaskets, which age first',
              stop: 'the frame is rotten, the glass is blind, or the unit is older than the covering will last',
            },
      };
    }
    case 'step run':
      if (!wall || !context) return undefined;
      return {
        patches: [
          {
            context,
            from: 1,
            to: context.lines.count,
            spanAt: (n) => unitBeside(context, wall, n),
          },
        ],
        keeps: all,
        off: [openWall(wall.name, wall.cladding)],
        worth: cureOf(
          'dry the wall behind: open it where it is soft',
          'sheathing or studs behind the cladding are rotten: a carpenter first',
        ),
      };
    case 'kick-out': {
      if (!wall || !context || wall.from > 0) return undefined;
      return {
        patches: [
          { context, from: 1, to: Math.min(2, context.lines.count), spanAt: (n) => unitBeside(context, wall, n) },
        ],
        keeps: ({ pieces }) => [`${of}-K`, `${of}-01`].some((mark) => pieces.includes(mark)) || pieces.includes(`${of}-CL`),
        off: [
          {
            action: [`${wall.name}: open the cladding at its foot, `, cut(OPENED_UP), ` up: number the boards. ${LOWEST_OUT[besideWallOf(context, wall)]}`],
            people: 1,
            holdPoint: 'sheathing and stud at the foot sound and dry',
          },
        ],
        worth: cureOf('mend what the water has rotted already', 'the sheathing at the foot is soft: open further, a carpenter first'),
      }; // prettier-ignore
    }
    case 'apron':
      if (feature?.kind !== 'headwall' || !context) return undefined;
      return {
        patches: [],
        // what goes through the wall stays: only its ledge is bent up and down again
        keeps: ({ stage, crew }) => stage !== 'dry-in' && !(feature.counter === 'through-wall' && crew === 'masons'),
        off: [
          feature.counter === 'through-wall'
            ? {
                action: [`${feature.name}: bend the ledge metal’s leg up, no further than the apron needs to come out.`],
              }
            : openWall(feature.name, feature.cladding),
          { action: [`${feature.name}: take the old apron off; leave the membrane behind it whole.`] },
        ],
        ...(feature.counter === 'through-wall'
          ? { back: [{ plane: context.plane.id, lay: wallFinish(context, 'throughWall', 0, 0), action: [`Dress the ledge metal’s leg of ${feature.name} down over the new apron again.`] }] }
          : {}),
        worth: cureOf('stop water that comes in above it through the wall', 'the membrane behind is torn: then the last courses come off too'),
      }; // prettier-ignore
    case 'through-wall':
      if (feature?.kind !== 'headwall' || !context) return undefined;
      return {
        patches: [],
        // the membrane and the apron below stay: they are under what is opened
        keeps: ({ crew }) => crew === 'masons',
        off: [],
        worth: cureOf('mend a roof below that leaks by itself', 'the backup wall is soft, or the veneer above hangs on nothing'),
      };
    case 'chimney set': {
      if (feature?.kind !== 'chimney' || !context) return undefined;
      const foot = footprint(feature, context.plane);
      const { y } = reachOf(roof, context, of);
      return {
        patches: [baring(context, [foot.x0 - side, foot.x1 + side], y, MORE_AT_HEAD)],
        keeps: all,
        off: [
          {
            action: [`${feature.name}: cut the old counterflashing out of its joints, take apron, ${BESIDE_NAMES[context.surface.sides]} and back piece off with their membrane.`],
            people: 2,
            caution: 'Silica dust: wet cutting or extraction, mask; eyes and ears. Flues and appliances: licensed trade.',
          },
        ],
        worth: cureOf('mend mortar, crown or flue, which leak too', 'the masonry is loose or the crown is cracked: a mason first'),
      }; // prettier-ignore
    }
    case 'loose counterflashing': {
      const named = feature ?? wall;
      if (!named || !context) return undefined;
      return {
        patches: [],
        keeps: ({ stage, pieces }) => stage === 'finish' && !pieces.some((mark) => mark.endsWith('-T1')),
        off: [],
        worth: {
          is: 'stop-gap',
          lasts: 'until the sealant lets go, some 5 to 10 years in the sun',
          cannot: 'cure a wet wall above, nor base flashing that is too low',
          stop: 'the joint crumbles, or the base flashing below it is holed: then both come anew',
        },
      };
    }
    case 'side channel': {
      const fault = context && tileFaultsOn(context).find((one) => one.feature.id === of);
      if (!context || !fault) return undefined;
      return {
        patches: [besideChannel(context, fault)],
        keeps: all,
        off: [],
        worth: cureOf('move what lies in the channel', 'the sheet below is torn: then it is patched first'),
      };
    }
    case 'one tile':
      if (feature?.kind !== 'tileFault' || !context) return undefined;
      // its own line tells all: nothing else comes off
      return {
        patches: [],
        keeps: all,
        off: [],
        worth: cureOf(
          'mend what let it crack: a batten that gives, a foot',
          'the tiles round it break as they are propped: then it is a patch',
        ),
      };
    case 'valley': {
      const valley = roof.valleys.find(({ id }) => id === of);
      if (!valley) return undefined;
      return {
        patches: valley.sides.flatMap(({ plane }): Patch[] => {
          const on = contexts.find((one) => one.plane.id === plane);
          const own = on?.valleys.find(({ id }) => id === of);
          if (!on || !own) return [];
          const half = leastOf(on.rules, 'valley.sheet') / 2 + on.surface.unit.width / 2;
          const xAt = (y: number): number => own.low[0] + ((own.high[0] - own.low[0]) * (y - own.low[1])) / (own.high[1] - own.low[1]);
          return [
            {
              context: on,
              from: Math.max(1, lastCourseAtOrBelow(on.lines, own.low[1])),
              to: Math.max(1, lastCourseBelow(on.lines, own.high[1])),
              spanAt: (n) => {
                const x = xAt(Math.max(own.low[1], Math.min(own.high[1], buttLine(on.lines, n))));
                return own.side === 1 ? [x, x + half] : [x - half, x];
              },
            },
          ];
        }),
        keeps: all,
        off: [],
        worth: cureOf('change where the roofs send their water', 'the deck under it is soft beyond the patch'),
      }; // prettier-ignore
    }
  }
}

/** As wide as a unit beside a wall, in one course of it: where the wall stands at an angle it is elsewhere in each. */
function unitBeside({ lines, surface }: PlaneContext, wall: PlaneContext['walls'][number], course: number): Span {
  const faces = [buttLine(lines, course), chalkLine(lines, course)].map((y) => faceAt(wall, y));
  return wall.side === 1
    ? [Math.min(...faces), Math.max(...faces) + surface.unit.width]
    : [Math.min(...faces) - surface.unit.width, Math.max(...faces)];
}

/** The tiles of one course on both sides of a side channel. */
function besideChannel(context: PlaneContext, fault: TileFault): Patch {
  const width = context.surface.columns?.width ?? context.surface.unit.width;
  const lock = channelAt(context, fault);
  return { context, from: fault.course, to: fault.course, spanAt: () => [lock - width, lock + width] };
}

const cureOf = (cannot: string, stop: string): Worth => ({ is: 'cure', lasts: 'as long as the covering round it', cannot, stop });

/** What closes a wall over its flashing comes off first. */
const openWall = (name: string, cladding: string): Pick<Step, 'action'> & Partial<Step> => ({
  action: [
    cladding === 'boards'
      ? `${name}: take the boards off over the flashing: number them, store them flat.`
      : cladding === 'masonry'
        ? `${name}: cut the old counterflashing out of its joint; leave the masonry whole.`
        : `${name}: saw the render back clear of the flashing.`,
  ],
  people: 2,
  holdPoint: 'wall behind sound and dry',
});
