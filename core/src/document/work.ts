import { z } from 'zod';
import { inches, pounds } from '../units/index.ts';
import { area } from './fields.ts';

/** What lies on a roof before it is stripped, with what a layer of it weighs, kilograms on a square metre (trade practice: 2.5 lb/ft² of strip shingles, 8.5 of slate, 9.5 of flat concrete tile, 2.5 of two-ply bitumen). */
export const OLD_COVERINGS = {
  shingles: { name: 'strip shingles', weighs: pounds(2.5) / 0.3048 ** 2 },
  slate: { name: 'slate', weighs: pounds(8.5) / 0.3048 ** 2 },
  tile: { name: 'flat concrete tile', weighs: pounds(9.5) / 0.3048 ** 2 },
  bitumen: { name: 'two-ply bitumen', weighs: pounds(2.5) / 0.3048 ** 2 },
} as const;
export type OldCovering = keyof typeof OLD_COVERINGS;

/** Repairs that are jobs of their own: what they are done to, and what they are called. */
export const REPAIRS = {
  boot: { on: 'pipe', name: 'new boot or base' },
  'skylight re-flash': { on: 'skylight', name: 're-flashed, the unit stays' },
  'skylight renewal': { on: 'skylight', name: 'renewed with its flashing' },
  'step run': { on: 'wall', name: 'new flashing along it, the whole run' },
  'kick-out': { on: 'wall', name: 'kick-out added' },
  apron: { on: 'headwall', name: 'new apron' },
  'through-wall': { on: 'headwall', name: 'flashing through the wall' },
  'chimney set': { on: 'chimney', name: 'new flashing all round' },
  'loose counterflashing': { on: 'masonry', name: 'counterflashing refixed' },
  valley: { on: 'valley', name: 'valley anew' },
  'side channel': { on: 'side channel', name: 'its water led on past the fault' },
  'one tile': { on: 'cracked tile', name: 'changed' },
} as const;
export type Repair = keyof typeof REPAIRS;

const kinds = <T extends object>(of: T): [keyof T & string, ...(keyof T & string)[]] =>
  Object.keys(of) as [keyof T & string, ...(keyof T & string)[]];

/** What a job does to its roof. */
export const workSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('new') }),
  /** The old covering off, then laid anew. */
  z.strictObject({
    kind: z.literal('re-roof'),
    old: z.enum(kinds(OLD_COVERINGS)),
    layers: z
      .int({ error: 'must be a whole number from 1 to 5' })
      .min(1, { error: 'must be from 1 to 5' })
      .max(5, { error: 'must be from 1 to 5' }),
    /** What the crew strips and closes again in a day: a figure of the house. */
    perDay: area(inches(12_000) ** 2),
    /** What a skip or the truck takes at once, kilograms. */
    load: z
      .number({ error: 'must be a weight' })
      .min(100, { error: 'must be at least 100 kg (220 lb)' })
      .max(40_000, { error: 'must be at most 40000 kg (88185 lb)' }),
  }),
  /** One thing mended on a roof that stays. */
  z.strictObject({
    kind: z.literal('repair'),
    what: z.enum(kinds(REPAIRS)),
    /** The detail it is done to. */
    of: z.string().regex(/^[A-Z]{1,3}[0-9]{1,3}$/, { error: 'must name a detail, such as P1' }),
    /** What comes off is laid again, what breaks is new; otherwise all of it is new. */
    reuse: z.boolean(),
  }),
]);
export type Work = z.infer<typeof workSchema>;
export type WorkOf<K extends Work['kind']> = Extract<Work, { kind: K }>;
