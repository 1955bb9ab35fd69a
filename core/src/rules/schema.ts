import { z } from 'zod';
import { isRuleKey, keyInfo } from './keys.ts';
import { type KeyKind, RULE_UNITS, UNITS_OF } from './values.ts';

/** Who may speak. Ranks and powers are in `resolve.ts`. */
export const SOURCE_KINDS = ['code', 'maker', 'job', 'standard', 'house', 'field'] as const;
export type SourceKind = (typeof SOURCE_KINDS)[number];

export const SENSES = ['atLeast', 'atMost', 'exactly', 'oneOf', 'yesNo'] as const;
export type Sense = (typeof SENSES)[number];

const SENSES_OF: Record<KeyKind, readonly Sense[]> = {
  length: ['atLeast', 'atMost', 'exactly'],
  pitch: ['atLeast', 'atMost'],
  angle: ['atLeast', 'atMost', 'exactly'],
  ratio: ['atLeast', 'atMost', 'exactly'],
  time: ['atLeast', 'atMost', 'exactly'],
  temperature: ['atLeast', 'atMost'],
  count: ['atLeast', 'atMost', 'exactly'],
  choice: ['oneOf'],
  yesNo: ['yesNo'],
};

const measure = z.strictObject({ value: z.number().positive(), unit: z.enum(['in', 'mm']) });

/** Keys the covering is laid out by: no exposure is known yet when they are asked. */
const BEFORE_EXPOSURE = ['covering.pitch', 'covering.exposure', 'covering.headlap'];

/** When a rule speaks. Every field given must hold; pitches are x in 12. */
const whenSchema = z
  .strictObject({
    /** How the covering is called: shingle, slate and so on. */
    coverings: z.array(z.string()).optional(),
    /** Catalog ids: at least one of them is used there. */
    products: z.array(z.string().min(1)).min(1).optional(),
    exposureAtLeast: measure.optional(),
    exposureBelow: measure.optional(),
    pitchAtLeast: z.number().optional(),
    pitchBelow: z.number().optional(),
    iceDams: z.boolean().optional(),
  })
  .meta({ description: 'Conditions; all that are given must hold' });

export const ruleSchema = z
  .strictObject({
    key: z.string().refine(isRuleKey, { error: 'is not a requirement this planner knows' }),
    sense: z.enum(SENSES),
    value: z.union([z.number(), z.boolean(), z.array(z.string().min(1)).min(1)]),
    unit: z.enum(RULE_UNITS).optional(),
    section: z.string().min(1),
    why: z.string().optional(),
    when: whenSchema.optional(),
  })
  .superRefine((rule, ctx) => {
    if (!isRuleKey(rule.key)) return;
    const { kind } = keyInfo(rule.key);
    if (BEFORE_EXPOSURE.includes(rule.key) && (rule.when?.exposureAtLeast || rule.when?.exposureBelow))
      ctx.addIssue({
        code: 'custom',
        path: ['when'],
        message: `${rule.key} decides the exposure, so it cannot depend on it`,
      });
    if (!SENSES_OF[kind].includes(rule.sense)) {
      ctx.addIssue({
        code: 'custom',
        path: ['sense'],
        message: `${rule.key} takes ${SENSES_OF[kind].join(' or ')}, not ${rule.sense}`,
      });
    }
    const shape =
      rule.sense === 'oneOf'
        ? Array.isArray(rule.value)
        : rule.sense === 'yesNo'
          ? typeof rule.value === 'boolean'
          : typeof rule.value === 'number';
    if (!shape) ctx.addIssue({ code: 'custom', path: ['value'], message: `does not suit the sense ${rule.sense}` });
    if (typeof rule.value === 'number' && rule.value < 0 && kind !== 'temperature')
      ctx.addIssue({ code: 'custom', path: ['value'], message: `${rule.key} is never below 0` });
    if (!UNITS_OF[kind].includes(rule.unit))
      ctx.addIssue({ code: 'custom', path: ['unit'], message: `must be ${UNITS_OF[kind].join(' or ')} for ${rule.key}` });
  });
export type Rule = z.infer<typeof ruleSchema>;

/** Kinds of finding that are not told, each with the reason. */
export const mutedSchema = z
  .record(z.string().min(1).max(80), z.string().trim().min(3, { error: 'must say why' }).max(300))
  .refine((muted) => Object.keys(muted).length <= 100, { error: 'must be at most 100' });

/** A pack of rules from one source, as a data file. A pack is never changed: a change is a new version. */
export const packSchema = z.strictObject({
  format: z.literal('ruvet-pack'),
  formatVersion: z.literal(1),
  id: z.string().regex(/^[a-z0-9-]+$/),
  version: z.int().positive(),
  source: z.enum(['code', 'maker', 'standard', 'house']),
  name: z.string().min(1),
  edition: z.string().min(1),
  notice: z.string().optional(),
  rules: z.array(ruleSchema).max(2000),
  /** Kinds of finding a house does not want told, each with its reason. */
  muted: mutedSchema.optional(),
});
export type Pack = z.infer<typeof packSchema>;

/** How a job or a product names a pack: always with its version. */
export const packRefSchema = z.strictObject({ id: z.string(), version: z.int().positive() });
export type PackRef = z.infer<typeof packRefSchema>;

export const findPack = (packs: readonly Pack[], ref: PackRef): Pack | undefined =>
  packs.find((pack) => pack.id === ref.id && pack.version === ref.version);
