import type { RuleKey } from '../rules/index.ts';
import type { Outline, Point } from '../roof/index.ts';

/** One flat surface with its own chart (millimetres) and fall line. */
export type Facet = {
  readonly id: string;
  readonly kind: 'roof' | 'wall';
  readonly name: string;
  readonly outline: Outline;
  /** Direction in which water runs on this chart, unit vector. */
  readonly fall: Point;
  /** Angle of the surface above level, radians; a wall has π/2. */
  readonly angle: number;
  /** Where something stands on the surface and there is none. */
  readonly taken?: readonly Outline[];
};

/** Two facets meet along a line, given on each one's chart. */
export type Joint = {
  /** Facet `a` lies to the right (1) or to the left (−1) of the line. */
  readonly side: 1 | -1;
  /** The upright facet runs on below the end of the other one. */
  readonly runsOn: boolean;
  readonly a: string;
  readonly b: string;
  readonly onA: readonly [Point, Point];
  readonly onB: readonly [Point, Point];
};

/** How an edge of a piece is held. Edge `i` runs from corner `i` to the next. */
export type EdgeHold = 'open' | 'letIn' | 'bonded' | 'sealed';

/** What a piece covers on one facet. `holds` has one entry for all edges or one an edge. */
export type Cover = { readonly facet: string; readonly outline: Outline; readonly holds: readonly EdgeHold[] };

export const ROLES = {
  gutterApron: 'gutter apron',
  dripEdge: 'drip edge',
  iceBarrier: 'ice barrier',
  wallMembrane: 'wall membrane',
  edgeSeal: 'edge-sealing strip',
  underlayment: 'underlayment',
  rakeMetal: 'rake metal',
  starter: 'starter',
  course: 'course',
  kickOut: 'kick-out',
  apronEnd: 'apron end',
  step: 'step flashing',
  ridgeCap: 'ridge cap',
  topSeal: 'strip over the steps',
  counter: 'counterflashing',
  cladding: 'cladding',
} as const;
export type Role = keyof typeof ROLES;

/** A bend on a flat pattern: `up` folds towards the reader. Angle in degrees between the legs' planes as they were flat. */
export type Bend = { readonly from: Point; readonly to: Point; readonly direction: 'up' | 'down'; readonly degrees: number };
export type FlatPattern = { readonly outline: Outline; readonly bends: readonly Bend[] };

/**
 * Where a piece stands in the order of laying, compared entry by entry: stage, course, rank within the course, then along the slope.
 * Everything that a piece lies on must come out earlier.
 */
export type LayKey = readonly [stage: number, course: number, rank: number, along: number];

export const STAGE = {
  eaveMetal: 0,
  iceBarrier: 1,
  overBarrier: 2,
  wallMembrane: 3,
  underlayment: 4,
  rakeMetal: 5,
  covering: 6,
  ridge: 7,
  topSeal: 8,
  wallFinish: 9,
} as const;

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
  /** Whole shingles (starters, caps) in the piece and the part shingles cut for it. */
  readonly units?: { readonly whole: number; readonly parts: readonly number[] };
  /** A sheet that closes round the nails that go through it. */
  readonly sealsNails?: boolean;
  /** Butt joints along the eave, left open: what makes a course single shingles. */
  readonly joints?: readonly number[];
  /** The requirements behind its sizes. */
  readonly keys: readonly RuleKey[];
};

export type Fastener = {
  /** The piece it belongs to. */
  readonly piece: string;
  readonly facet: string;
  readonly at: Point;
  readonly product: string;
  /** How water is kept from it. `covered`: a later piece lies over it. */
  readonly keptDry: 'covered' | 'sheet seals' | 'cap';
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

/** One line of the run sheet, before numbering. */
export type Step = {
  readonly lay: LayKey;
  readonly detail: string;
  readonly course?: number;
  readonly stage: 'dry-in' | 'covering' | 'finish';
  /** What to do, with `{…}` figures already filled in by the words function, which is given the user's printer. */
  readonly action: Words;
  readonly pieces: readonly string[];
  readonly fasteners?: Words;
  readonly people: 1 | 2;
  readonly caution?: string;
  readonly holdPoint?: string;
  readonly keys: readonly RuleKey[];
};

/** A sentence whose lengths (millimetres) print in the reader's units: text and figures alternate. */
export type Words = readonly (string | { readonly mm: number; readonly inchesOnly?: true })[];

export const SEVERITIES = ['leaks', 'breaks a rule', 'relies on sealant', 'worth a look'] as const;
export type Severity = (typeof SEVERITIES)[number];

export type Finding = {
  readonly id: string;
  readonly severity: Severity;
  readonly sentence: Words;
  readonly fix: Words;
  /** Mark of the piece to jump to. */
  readonly piece?: string;
  readonly key?: RuleKey;
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
};
