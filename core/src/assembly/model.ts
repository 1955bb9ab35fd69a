import type { Outline, Point } from '../roof/index.ts';
import type { RuleKey } from '../rules/index.ts';
import type { AreaSize } from '../units/index.ts';
import type { LayKey } from './lay.ts';
import type { Role } from './roles.ts';

/** One flat surface with its own chart (millimetres) and fall line. */
export type Facet = {
  readonly id: string;
  readonly kind: 'roof' | 'wall';
  /** The backup wall in a cavity: water runs down it by design where nothing shelters it, and comes out only over what is taken. */
  readonly cavity?: true;
  /** A wall: the slope it stands on, and the detail it belongs to. */
  readonly on?: string;
  readonly detail?: string;
  readonly name: string;
  readonly outline: Outline;
  /** Direction in which water runs on this chart, unit vector. */
  readonly fall: Point;
  /** Angle of the surface above level, radians; a wall has π/2. */
  readonly angle: number;
  /** Where something stands on the surface and there is none. */
  readonly taken?: readonly Outline[];
  /** Holes that something round comes through, with an upstand round each: what is not turned up it lets water down the hole. */
  readonly pierced?: readonly Outline[];
  /** What comes through those holes: a hot flue is narrower than its hole. */
  readonly pipes?: readonly Outline[];
  /** Edges where two coverings only meet, and a cap goes over the joint: ridges and hips. */
  readonly capped?: readonly (readonly [Point, Point])[];
  /** Edges that metal goes over, since water leaves there: rakes. */
  readonly rakes?: readonly (readonly [Point, Point])[];
  /** Where another roof hangs over it: no rain falls there. */
  readonly sheltered?: readonly Outline[];
  /** The sheet under its covering is the roof, by the school of its region: water on it does no harm. */
  readonly sheetSheds?: true;
  /** How far up it battens lie on the sheet that water there does not pass. */
  readonly dams?: readonly number[];
};

/** Two facets meet along a line, given on each one's chart. */
export type Joint = {
  /**
   * `side`: a wall that runs up the slope. `front` and `back`: a face across it, looking down or up the slope. `valley`: two slopes. `cavity`: a face, and
   * the cavity behind it that drains on to it along the line.
   */
  readonly kind: 'side' | 'front' | 'back' | 'valley' | 'cavity';
  /** Facet `a` lies to the right (1) or to the left (−1) of the line. */
  readonly side: 1 | -1;
  /** The upright facet runs on below the end of the other one. */
  readonly runsOn: boolean;
  readonly a: string;
  readonly b: string;
  readonly onA: readonly [Point, Point];
  readonly onB: readonly [Point, Point];
  /** In a valley: how wide its water runs on each slope, square to the line, at shares of the way up from its lower end. */
  readonly water?: readonly { readonly share: number; readonly onA: number; readonly onB: number }[];
};

/**
 * Part of a slope that sheds sideways before it falls (a side of a cricket), the valley at its outer edge from the lower end up, and how wide of that its
 * water runs along the course at its lower end.
 */
export type Drift = {
  readonly facet: string;
  readonly outline: Outline;
  readonly towards: 1 | -1;
  readonly valley: readonly [Point, Point];
  readonly spread: number;
};

/** How an edge of a piece is held. Edge `i` runs from corner `i` to the next. */
export type EdgeHold = 'open' | 'letIn' | 'bonded' | 'sealed';

/**
 * What a piece covers on one facet. `holds` has one entry for all edges or one an edge. `lay`: its place in the stack where that is not
 * the piece's own, because the piece is slit and part of it slid under something (underlayment below a chimney).
 */
export type Cover = {
  readonly facet: string;
  readonly outline: Outline;
  readonly holds: readonly EdgeHold[];
  readonly lay?: LayKey;
};

/** A bend on a flat pattern: `up` folds towards the reader. Angle in degrees between the legs' planes as they were flat. */
export type Bend = { readonly from: Point; readonly to: Point; readonly direction: 'up' | 'down'; readonly degrees: number };
export type FlatPattern = { readonly outline: Outline; readonly bends: readonly Bend[] };

/** One thing that is laid. */
export type Piece = {
  /** For example `SW1-07`: the detail, then the number within it. */
  readonly mark: string;
  readonly detail: string;
  readonly role: Role;
  /** Catalog id, or undefined where the piece is not ours to order (existing cladding). */
  readonly product?: string;
  readonly covers: readonly Cover[];
  /** The course it belongs to, where it has one. */
  readonly course?: number;
  readonly lay: LayKey;
  /** Marks of the pieces right under it. */
  readonly liesOn: readonly string[];
  /** Stock length it is cut from, along its long side, millimetres. */
  readonly cutLength?: number;
  /** Width of sheet it is cut from the roll at, millimetres, where that is not the whole roll. */
  readonly sheetWidth?: number;
  readonly flat?: FlatPattern;
  /** The pattern is cut twice, once turned over, and joined. */
  readonly halves?: 2;
  /** Whole shingles (starters, caps) in the piece and the part shingles cut for it. */
  readonly units?: { readonly whole: number; readonly parts: readonly number[] };
  /** A sheet that closes round the nails that go through it. */
  readonly sealsNails?: boolean;
  /** Butt joints along the eave, left open: what makes a course single shingles. */
  readonly joints?: readonly number[];
  /** Where its units lock into each other along the eave: no way in for water, and drawn all the same. */
  readonly locks?: readonly number[];
  /** Where its units stand up out of the pans between them, along the eave. */
  readonly crowns?: readonly number[];
  /** Where a side channel of its is blocked or broken: what runs in it drips through there. */
  readonly drips?: readonly Point[];
  /** Slots between the tabs of its shingles, open so far up from the butt: their middles along the eave. */
  readonly keyways?: { readonly at: readonly number[]; readonly depth: number };
  /** The requirements behind its sizes. */
  readonly keys: readonly RuleKey[];
};

export type Fastener = {
  /** The piece it belongs to. */
  readonly piece: string;
  readonly facet: string;
  readonly at: Point;
  readonly product: string;
  /** How water is kept from it. `covered`: a later piece lies over it; `sealed head`: it lies open and relies on sealant to be renewed. */
  readonly keptDry: 'covered' | 'sheet seals' | 'cap' | 'sealed head';
  /** It ends in a batten, and does not come to the sheet under it. */
  readonly into?: 'batten';
  /** A cap keeps the water out as long as its sheet may lie uncovered, days. */
  readonly daysSealed?: number;
  /** It stands in a band nails keep clear of, since the piece would have too few elsewhere: up in the headlap, through no metal. */
  readonly inHeadlap?: true;
};

/** Where no fastener (of the pieces named) may go, and the rule that made it. */
export type Zone = {
  readonly facet: string;
  readonly outline: Outline;
  readonly rule: RuleKey;
  readonly against: readonly Role[];
  readonly detail: string;
  /** The piece to be kept whole: what was driven before it was laid does not go through it. Absent: the zone holds for all. */
  readonly piece?: string;
};

/** Who does a step of the work. */
export const CREWS = ['roofers', 'carpenters', 'masons', 'cladders'] as const;
export type Crew = (typeof CREWS)[number];

/** One line of the run sheet, before numbering. */
export type Step = {
  readonly lay: LayKey;
  readonly detail: string;
  /** The slope it is on. */
  readonly plane?: string;
  readonly course?: number;
  readonly stage: 'dry-in' | 'covering' | 'finish';
  /** What to do, with `{…}` figures already filled in by the words function, which is given the user's printer. */
  readonly action: Words;
  readonly pieces: readonly string[];
  readonly fasteners?: Words;
  /** What it takes besides its pieces; the fasteners of its pieces are added when the plan is put together. */
  readonly uses?: readonly Use[];
  /** What has to be waited for before the next line. */
  readonly wait?: string;
  readonly people: 1 | 2;
  /** Absent: the roofers. */
  readonly crew?: Crew;
  readonly caution?: string;
  readonly holdPoint?: string;
  readonly keys: readonly RuleKey[];
};

/**
 * Something a step takes: pieces, a length (millimetres) cut to pieces, a run of sealant with its section (square millimetres), or an area coated.
 * Without `product` the catalog has none of it.
 */
export type Use = {
  readonly product?: string;
  readonly name: string;
  readonly amount: number;
  readonly unit: 'pieces' | 'length' | 'bead' | 'area';
  readonly cuts?: readonly number[];
  readonly section?: number;
  readonly size?: Words;
};

/** A sentence whose lengths (millimetres), areas (square millimetres), weights (kilograms) and flows (litres a minute) print in the reader's units: text and figures alternate. */
export type Words = readonly (
  | string
  | { readonly mm: number; readonly inchesOnly?: true }
  | { readonly litres: number }
  | { readonly kg: number }
  | { readonly area: number; readonly size?: AreaSize }
)[];

export const SEVERITIES = ['leaks', 'breaks a rule', 'relies on sealant', 'worth a look'] as const;
export type Severity = (typeof SEVERITIES)[number];

/**
 * A change of the job that does what a finding's fix says: another exposure on a slope; a feature moved to the right (or left, when negative), with what that
 * spares; more nails in every shingle; another base on a pipe; the course over a skylight's head in two layers. Lengths in millimetres.
 */
export type Remedy =
  | { readonly does: 'set exposure'; readonly plane: string; readonly exposure: number }
  | { readonly does: 'move'; readonly feature: string; readonly by: number; readonly so: string }
  | { readonly does: 'set nails'; readonly nails: number; readonly reason: string }
  | { readonly does: 'two layers'; readonly feature: string }
  | { readonly does: 'set base'; readonly feature: string; readonly product: string; readonly name: string };

export type Finding = {
  readonly id: string;
  readonly severity: Severity;
  readonly sentence: Words;
  readonly fix: Words;
  /** Why it is not told: its kind was muted. */
  readonly muted?: string;
  /** Years until what it is about fails: among findings alike in gravity the weakest is told first. */
  readonly lasts?: number;
  /** Where the job can be changed so by itself. */
  readonly remedy?: Remedy;
  /** Mark of the piece to jump to. */
  readonly piece?: string;
  readonly key?: RuleKey;
};

/** What a detail tells about itself besides its pieces: figures, tables and a curve, for any screen or print. */
export type FigurePanel = {
  /** The detail: its pieces carry the same, or one that begins with it. */
  readonly detail: string;
  readonly title: string;
  readonly family: string;
  /** The slope it is looked at on. */
  readonly plane: string;
  /** Part of that slope's chart worth drawing. */
  readonly window: { readonly x0: number; readonly x1: number; readonly y0: number; readonly y1: number };
  readonly figures: readonly Figure[];
  readonly tables?: readonly Table[];
  readonly curve?: Curve;
  /** An exposure that would fit the courses of its slope better. */
  readonly fit?: number;
};
export type Figure = { readonly label: string; readonly value: Words; readonly key?: RuleKey };
export type Table = { readonly title: string; readonly columns: readonly string[]; readonly rows: readonly (readonly Words[])[] };
/** Lines over one length, millimetres both ways. */
export type Curve = {
  readonly title: string;
  readonly along: string;
  readonly lines: readonly { readonly name: string; readonly points: readonly (readonly [along: number, value: number])[] }[];
};

/** What a detail family turns its input into. */
export type Assembly = {
  readonly facets: readonly Facet[];
  readonly joints: readonly Joint[];
  readonly pieces: readonly Piece[];
  readonly fasteners: readonly Fastener[];
  readonly zones: readonly Zone[];
  readonly steps: readonly Step[];
  readonly findings: readonly Finding[];
  readonly panels: readonly FigurePanel[];
  /** Where a slope's surface sheds sideways, to the right (1) or left (−1), before it falls on down: the sides of a cricket. */
  readonly drifts: readonly Drift[];
};
