import { LINE_TOLERANCE, countWhile } from '../units/index.ts';

/**
 * Where a piece stands in the order of laying, compared entry by entry: stage of the job; the slope's place in the order; what orders the stage on one slope (a
 * course in the covering, a row of barrier, a level among the underlayment, a kind of work on a wall); rank within that; then along.
 * Everything that a piece lies on must come out earlier. Only the functions of this file make one.
 */
export type LayKey = readonly [stage: number, slope: number, within: number, rank: number, along: number];

/** The frame of every job, in its order (trade practice), each stage with its heading on the run sheet. */
const FRAME = [
  ['existing', 'What is there'],
  ['makeSafe', 'Make safe'],
  ['strip', 'Strip'],
  ['deck', 'Deck'],
  ['eaveMetal', 'Eave'],
  ['iceBarrier', 'Ice barrier'],
  ['overBarrier', 'Ice barrier'],
  ['opening', 'Openings, one at a time'],
  ['valleySheet', 'Valleys'],
  // ice barrier where it goes over a valley's sheet, and what goes over that
  ['barrierOverSheet', 'Valleys'],
  ['overBarrierOverSheet', 'Valleys'],
  ['wallMembrane', 'Wraps and underlayment'],
  ['underlayment', 'Wraps and underlayment'],
  ['rakeMetal', 'Rakes'],
  ['driedIn', 'Dried in'],
  ['masonry', 'Masonry above'],
  ['valleyMetal', 'Valley linings'],
  ['covering', 'Covering'],
  ['ridge', 'Ridge'],
  ['topSeal', 'Counterflashing and cladding'],
  ['wallFinish', 'Counterflashing and cladding'],
  ['waterTest', 'Water test'],
  ['handOver', 'Hand-over'],
] as const;
type Stage = (typeof FRAME)[number][0];
const STAGE = Object.fromEntries(FRAME.map(([stage], i) => [stage, i])) as Record<Stage, number>;

/** The heading of the run sheet under which something laid at a place in the order stands, where it belongs to no course. */
export const headingOf = ([stage]: LayKey): string => FRAME[stage]![1];

/** After everything else of its stage. */
const LAST = Number.MAX_SAFE_INTEGER;

/** A slope's places: of its sheets and metal, and of each of its courses (0: the starter); and the heights at which its underlayment is slit, lowest first. */
type Slope = { readonly order: number; readonly slits: readonly { readonly from: number }[]; orderAt(course: number): number };
type Ordered = Pick<Slope, 'order'>;
type Sheeted = Pick<Slope, 'order' | 'slits'>;

/** Levels of a slope's underlayment from below: 1 for the lowest thing it is slit round; things at one height share a level. */
const levelAt = ({ slits }: Sheeted, height: number): number => countWhile(slits, ({ from }) => from < height + LINE_TOLERANCE);
/** Over all of them: whole rows, and what goes over those. */
const wholeRows = ({ slits }: Sheeted): number => slits.length + 1;
const topmost = ({ slits }: Sheeted): number => slits.length + 2;

/** What is there before anything is laid: masonry above, an old sheet. */
export const beforeAll = (along = -1, rank = 0): LayKey => [STAGE.existing, -1, rank, 0, along];
/** Does a place in the order belong to a stage of the job? */
export const isIn = ([at]: LayKey, stage: Stage): boolean => at === STAGE[stage];
/** Was it there before anything was laid? */
export const isThere = (lay: LayKey): boolean => isIn(lay, 'existing');
/** The deck looked over, before anything lies on it. */
export const onDeck = ({ order }: Ordered): LayKey => [STAGE.deck, order, 0, 0, 0];

/** What comes off before anything goes on; `line` in its order over the whole roof. */
export const stripOff = (line: number): LayKey => [STAGE.strip, 0, line, 0, 0];
/** When the decks of all slopes are seen. */
export const afterDecks = (): LayKey => [STAGE.deck, LAST, 0, 0, 0];
/** What is done to the roof as a whole, in its stage; `line` tells several apart. */
export const wholeRoof = (stage: 'makeSafe' | 'driedIn' | 'waterTest' | 'handOver', line = 0): LayKey => [
  STAGE[stage],
  0,
  0,
  0,
  line,
];
/** How the roof is left for the night, after all of a stage. */
export const evening = (stage: 'overBarrier' | 'opening' | 'masonry'): LayKey => [STAGE[stage], LAST, 0, 0, 0];
/** What is done about an opening, one opening at a time; `x` is where it is. */
export const opening = ({ order }: Ordered, x: number, line: number): LayKey => [STAGE.opening, order, x, line, 0];
/** Masonry above a slope opened, before the covering below it is laid; `x` is where it stands. */
export const masonryAbove = ({ order }: Ordered, x: number, line = 0): LayKey => [STAGE.masonry, order, x, line, 0];

/** Which of the eave's layers a strip along it is: on the deck, over the barrier, or over barrier that itself goes over a valley's sheet. */
export type EaveLayer = 'on deck' | 'over barrier' | 'over barrier over sheet';
const EAVE_LAYER = {
  'on deck': STAGE.eaveMetal,
  'over barrier': STAGE.overBarrier,
  'over barrier over sheet': STAGE.overBarrierOverSheet,
};
/** A strip along the eave, by its layer; `rank` tells several eaves of one slope apart. */
export const alongEave = ({ order }: Ordered, layer: EaveLayer, rank = 0, along = 0): LayKey => [
  EAVE_LAYER[layer],
  order,
  0,
  rank,
  along,
];
/** Rake metal; `rank` 0 at the left, 1 at the right. */
export const alongRake = ({ order }: Ordered, rank = 0, along = 0): LayKey => [STAGE.rakeMetal, order, 0, rank, along];

/** A strip of ice barrier under the valleys’ sheets. */
export const barrierRow = ({ order }: Ordered, row: number, along: number): LayKey => [STAGE.iceBarrier, order, row, 0, along];
/** The same where it laps over them. */
export const barrierRowOverSheet = ({ order }: Ordered, row: number, along: number): LayKey => [
  STAGE.barrierOverSheet,
  order,
  row,
  0,
  along,
];
/** Is it laid after the valleys' sheets? */
export const isAfterValleySheets = ([stage]: LayKey): boolean => stage > STAGE.valleySheet;

/** A valley's sheet and metal go down with the later one of its two slopes. */
export const valleySheet = ({ order }: Ordered, rank: number, along: number): LayKey => [
  STAGE.valleySheet,
  order,
  rank,
  0,
  along,
];
/** Over the heads of the valleys that meet at the end of a ridge, their sheets all down. */
export const valleyHead = ({ order }: Ordered): LayKey => [STAGE.valleySheet, order, LAST, 0, 0];
/** A valley’s lining. */
export const valleyMetal = ({ order }: Ordered, along: number): LayKey => [STAGE.valleyMetal, order, 0, 0, along];

/** Membrane up a wall that stands by itself; `x` is where, `y` how far up the slope. */
export const upWall = ({ order }: Ordered, x: number, y: number): LayKey => [STAGE.wallMembrane, order, 0, x, y];

/** What wraps a thing that stands on the slope, in the order it is wrapped. */
const WRAP = { first: 0, bottom: 0, second: 1, sides: 1, top: 2, valleySheet: 3, barrierOverValleySheet: 3.5 } as const;

/** A strip round what stands at the height `from`: over the underlayment below it, under the underlayment above. */
export const wrap = (slope: Sheeted, from: number, strip: keyof typeof WRAP, along: number): LayKey => [
  STAGE.underlayment,
  slope.order,
  levelAt(slope, from),
  WRAP[strip],
  along,
];
/** A strip under the wall along a slope's top: over all the underlayment. */
export const wrapAtTop = (slope: Sheeted, along: number): LayKey => [
  STAGE.underlayment,
  slope.order,
  topmost(slope),
  WRAP.bottom,
  along,
];

/** A strip of underlayment where nothing stands in its way. */
export const underlaymentRow = (slope: Sheeted, row: number, along: number): LayKey => [
  STAGE.underlayment,
  slope.order,
  wholeRows(slope),
  row,
  along,
];
/** Part of a row, slit beside what stands on the slope: over what is wrapped at the height `above`, under all that is wrapped higher up; without a height, under all of it. */
export const slitRow = (slope: Sheeted, above: number | undefined, row: number, along: number): LayKey => [
  STAGE.underlayment,
  slope.order,
  above === undefined ? -1 : levelAt(slope, above) + 0.5,
  row,
  along,
];
/** Barrier laid in place among the sheets up the slope, before all of them or after the sheet of a valley that begins at the height `from`. */
export const barrierAmongSheets = (slope: Sheeted, from: number | undefined, row: number, along: number): LayKey => [
  STAGE.underlayment,
  slope.order,
  from === undefined ? 0 : levelAt(slope, from),
  from === undefined ? -1 : WRAP.barrierOverValleySheet,
  rowThenAlong(row, along),
];
/** A flap of barrier lifted over what wraps a thing at the height `from`. */
export const barrierFlap = (slope: Sheeted, from: number, row: number, along: number): LayKey => [
  STAGE.underlayment,
  slope.order,
  levelAt(slope, from),
  WRAP.top,
  rowThenAlong(row, along),
];

/** Rows first, along them second, in one number: no roof is a kilometre long. */
const rowThenAlong = (row: number, along: number): number => row + along / 1e6;

/** What belongs to a course, in the order it is laid. */
const IN_COURSE = {
  /** Behind a chimney, above a frame, at a valley's foot, along a valley's edge: on the course below, before anything of this one. */
  backPiece: -1,
  /** Rake metal, over a valley's lining that is slid under it. */
  rakeOverLining: -0.9,
  /** Turned up in an inside corner, under the apron. */
  insideCorner: -0.6,
  /** An apron or a sill: on the course below, under this course's corner pieces. */
  across: -0.5,
  /** Steps, boots, corner pieces: on the course below, under this one. */
  flashing: 0,
  /** A second layer over a skylight's head flashing, under this course. */
  dummy: 0.5,
  shingles: 1,
  /** On the starter, tight to the wall, under the first step. */
  kickOut: 2,
  /** Last of all, as one who runs metal past every course would lay it. */
  pastAll: 3,
} as const;
/** Something of a course (0: the starter), by what it is. */
export const inCourse = (slope: Pick<Slope, 'orderAt'>, course: number, part: keyof typeof IN_COURSE, along = 0): LayKey => [
  STAGE.covering,
  slope.orderAt(course),
  course,
  IN_COURSE[part],
  along,
];
/** What has to be waited for before a course (0: the starter) is begun. */
export const beforeCourse = (slope: Pick<Slope, 'orderAt'>, course: number): LayKey => [
  STAGE.covering,
  slope.orderAt(course),
  course,
  BEFORE_COURSE,
  0,
];
/** How a slope is left for the night when its courses are on. */
export const afterCourses = (slope: Pick<Slope, 'orderAt'>, count: number): LayKey => [
  STAGE.covering,
  slope.orderAt(count),
  LAST,
  0,
  0,
];
/** Before anything of a course. */
const BEFORE_COURSE = -2;
/** Starters along the eave (0), then up the rakes. */
export const inStarter = (slope: Slope, rank = 0): LayKey => [STAGE.covering, slope.orderAt(0), 0, rank, 0];
/** What is done at a ridge, in its order. */
const AT_RIDGE = { slot: -2, vent: -1, caps: 0, end: 1 } as const;
/** At the ridges and hips of a slope, once every slope is covered. */
export const ridge = ({ order }: Ordered, part: keyof typeof AT_RIDGE): LayKey => [STAGE.ridge, order, 0, AT_RIDGE[part], 0];

/** Over the steps' top edges, and a frame's own cladding; `x` is where it stands. */
export const topSeal = ({ order }: Ordered, x: number, along: number): LayKey => [STAGE.topSeal, order, 0, x, along];

/** What is let into, or goes over, a wall, in the order it is done. */
const ON_WALL = { face: 0, stepped: 1, back: 2, throughWall: 3 } as const;
/** Something on or in a wall, by what it is; `x` is where the wall stands. */
export const wallFinish = ({ order }: Ordered, part: keyof typeof ON_WALL, x: number, along: number): LayKey => [
  STAGE.wallFinish,
  order,
  ON_WALL[part],
  x,
  along,
];

/** Laid right after something else, `by` in its own order along. */
export const rightAfter = ([stage, slope, within, rank, along]: LayKey, by: number): LayKey => [
  stage,
  slope,
  within,
  rank,
  along + by,
];
/** And right before it. */
export const rightBefore = (key: LayKey): LayKey => rightAfter(key, -A_LITTLE);
/** Along, far less than between any two things laid. */
const A_LITTLE = 1e-4;
/** The other way up the slope: rows from the top down, each over the one above it. */
export const upsideDown = ([stage, slope, within, rank, along]: LayKey): LayKey => [stage, slope, -within, rank, along];

/** Over a valley's lining that is slid under it, rake metal; `along` from its lower end. Linings up a slope go in with the covering, those at an eave before. */
export const rakeOverLining = (slope: Ordered & Pick<Slope, 'orderAt'>, upSlope: boolean, along: number): LayKey =>
  upSlope ? inCourse(slope, 0, 'rakeOverLining', along) : [STAGE.valleyMetal, LAST, slope.order, 0, along];
