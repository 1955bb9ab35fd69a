import { z } from 'zod';
import { METALS } from '../catalog/index.ts';
import { isRuleKey, packRefSchema } from '../rules/index.ts';
import { inches, printLength } from '../units/index.ts';

export const JOB_FORMAT_VERSION = 1;

const both = (mm: number): string => `${printLength(mm, 'imperial')} (${printLength(mm, 'metric')})`;

/** A length in millimetres within sane bounds; the message names them in both unit systems. */
const length = (least: number, most: number) => {
  const error = `must be between ${both(least)} and ${both(most)}`;
  return z.number({ error }).min(least, { error }).max(most, { error });
};

const name = z
  .string({ error: 'must be a text' })
  .trim()
  .min(1, { error: 'must not be empty' })
  .max(120, { error: 'must be at most 120 characters' });
const productId = z.string({ error: 'must name a catalog item' }).min(1).max(100);

export const CLADDINGS = ['boards', 'render', 'masonry'] as const;
export type Cladding = (typeof CLADDINGS)[number];

const wallSchema = z.strictObject({
  id: z.string().regex(/^[A-Z]{1,3}[0-9]{1,3}$/, { error: 'must be letters and a number, such as SW1' }),
  name,
  /** Where the wall stands, seen from outside facing the slope: left or right of the covering it meets. */
  stands: z.enum(['left', 'right']),
  /** Face of the wall from the slope's left end. */
  x: length(0, inches(12_000)),
  /** Where the wall meets the roof, up the slope from the deck's eave edge; `to` null means the top of the slope. */
  from: length(0, inches(6_000)),
  to: length(1, inches(6_000)).nullable(),
  /** Height of wall above the roof that rain can strike. */
  height: length(inches(4), inches(1_200)),
  cladding: z.enum(CLADDINGS),
  runsPastEave: z.boolean(),
  foot: z.enum(['kick-out', 'corner']),
  /** Roof leg of the apron at the foot, where the wall starts up the slope. */
  apronLeg: length(inches(2), inches(24)),
  nailSide: z.enum(['deck', 'wall']),
  fieldNails: z.enum(['clear-of-wall', 'in-headlap']),
  /** A chosen step flashing, or null for the smallest in the catalog that fits. */
  stepFlashing: productId.nullable(),
});
export type Wall = z.infer<typeof wallSchema>;

const planeSchema = z.strictObject({
  id: z.string().regex(/^[a-z0-9-]{1,30}$/, { error: 'must be small letters, digits and dashes' }),
  name,
  eaveLength: length(inches(6), inches(12_000)),
  /** Along the slope, or level from the deck's eave edge to under the top. */
  slope: z.strictObject({ kind: z.enum(['slope', 'level']), length: length(inches(6), inches(6_000)) }),
  /** Rise over run. */
  pitch: z
    .number({ error: 'must be a number, rise over run' })
    .min(0.02, { error: 'must be at least 0.24/12' })
    .max(4, { error: 'must be at most 48/12' }),
  /** Eave overhang, measured level. */
  overhang: length(0, inches(96)),
  /** Thickness of the exterior wall below the eave. */
  wallThickness: length(0, inches(48)),
  left: z.enum(['rake', 'continues']),
  right: z.enum(['rake', 'continues']),
  top: z.enum(['ridge', 'continues']),
  walls: z.array(wallSchema).max(60, { error: 'must be at most 60' }),
});
export type Plane = z.infer<typeof planeSchema>;

/** A choice made on the roof, with its reason; it stays a finding where it is below what governs. */
const deviationSchema = z.strictObject({
  key: z.string().refine(isRuleKey, { error: 'is not a requirement this planner knows' }),
  sense: z.enum(['atLeast', 'atMost', 'exactly']),
  value: z.number().nonnegative().max(100_000),
  unit: z.enum(['in', 'mm', 'x12', 'count']),
  reason: z.string().trim().min(3, { error: 'must say why' }).max(500),
});
export type Deviation = z.infer<typeof deviationSchema>;

export const jobSchema = z.strictObject({
  format: z.literal('ruvet-job'),
  version: z.literal(JOB_FORMAT_VERSION),
  name,
  note: z.string().max(2000, { error: 'must be at most 2000 characters' }),
  units: z.enum(['imperial', 'metric']),
  site: z.strictObject({
    /** Ice dams on record here. */
    iceDams: z.boolean(),
    /** Rainfall an hour. */
    rainPerHour: length(0, inches(40)),
    /** Part of the rain that driven on to a wall runs down it, 0 to 1. */
    drivenRainShare: z
      .number({ error: 'must be a number from 0 to 1' })
      .min(0, { error: 'must be from 0 to 1' })
      .max(1, { error: 'must be from 0 to 1' }),
  }),
  /** Thickness of the deck's sheathing. */
  deckThickness: length(inches(0.25), inches(3)),
  packs: z.array(packRefSchema).max(30, { error: 'must be at most 30' }),
  /** Metal of the flashings. */
  metal: z.enum(METALS),
  covering: z.strictObject({
    shingle: productId,
    starter: productId,
    ridgeCap: productId,
    /** Null: the greatest exposure allowed. */
    exposure: length(inches(2), inches(24)).nullable(),
    firstButt: length(0, inches(3)),
  }),
  underlayers: z.strictObject({
    eaveOrder: z.enum(['metal-first', 'barrier-first']),
    gutter: z.boolean(),
    iceBarrier: productId,
    /** Inside the wall line, level; null: the least that governs. */
    insideWall: length(0, inches(240)).nullable(),
    /** Longest strip the crew can handle; null: the roll's length. */
    longestStrip: length(inches(36), inches(2_400)).nullable(),
    underlayment: productId,
  }),
  planes: z
    .array(planeSchema)
    .min(1, { error: 'must hold one slope' })
    .max(1, { error: 'must hold one slope; this version plans one' }),
  /** Recorded ways out of conflicts, by requirement key. */
  decisions: z.record(
    z.string().refine((key): boolean => isRuleKey(key), { error: 'is not a requirement this planner knows' }),
    z.strictObject({ source: z.string().min(1).max(200), reason: z.string().trim().min(3, { error: 'must say why' }).max(500) }),
  ),
  deviations: z.array(deviationSchema).max(100),
});
export type Job = z.infer<typeof jobSchema>;
