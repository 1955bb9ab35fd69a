import { z } from 'zod';
import { packRefSchema } from '../rules/index.ts';
import { type Parsed, parseArea, parseLength } from '../units/index.ts';

/** A measure in a catalog file, written with its unit; in the core's units once read. */
const measured = (what: string, ends: RegExp, parse: (written: string) => Parsed) =>
  z.string().transform((written, ctx) => {
    const parsed = ends.test(written) ? parse(written) : undefined;
    if (parsed?.ok && parsed.value > 0) return parsed.value;
    ctx.addIssue({ code: 'custom', message: `"${written}" is not ${what} with its unit` });
    return z.NEVER;
  });
/** `"13 1/4 in"`, `"1000 mm"`. */
const size = measured('a size', /[a-z"']\s*$/i, (written) => parseLength(written, 'metric'));
/** `"72 in²"`. */
const area = measured('an area', /[a-z²2]\s*$/i, (written) => parseArea(written, 'metric', 'opening'));

export const METALS = ['aluminium', 'galvanised steel', 'copper', 'lead'] as const;
export type Metal = (typeof METALS)[number];

const common = {
  id: z.string().regex(/^[a-z0-9-]+$/),
  name: z.string().min(1),
  maker: z.string().min(1),
  instructions: packRefSchema.optional(),
};
const sheetMetal = { metal: z.enum(METALS), thickness: size };
/** `loose`: sold one by one too. */
const packaged = { perPackage: z.int().positive(), package: z.string().min(1), loose: z.literal(true).optional() };

const shingle = z.strictObject({
  ...common,
  ...packaged,
  kind: z.literal('shingle'),
  height: size,
  width: size,
  thickness: size,
  maxExposure: size,
  /** Band, measured up from the butt, in which the maker wants the nails. */
  nailBand: z.strictObject({ from: size, to: size }),
  /** Side offset of each course against the one below. */
  bondOffset: size,
  /** How long its maker says it lasts, and how many nails he asks in each on a site open to the wind. */
  years: z.number().positive().optional(),
  exposedNails: z.int().positive().optional(),
  /** Slots cut up from the butt between its tabs: how many, evenly, and how far up. */
  keyways: z.strictObject({ count: z.int().min(1).max(5), depth: size }).optional(),
});
/** A unit of a double-lap covering: a slate or a plain tile, nailed at its middle or head; those half as wide again are items of their own. */
const slate = z.strictObject({
  ...common,
  ...packaged,
  kind: z.literal('slate'),
  /** How rules call it. */
  called: z.enum(['slate', 'plain tile']),
  height: size,
  width: size,
  thickness: size,
});
/**
 * A tile that laps once and locks into its neighbours: `cover` of its width is laid bare across the slope, which may be opened or closed by `play`; `nib`: from
 * its head down to what hooks on the batten. `channel`: the side its open side channel is on; it is laid from the other. `fixing`: `edge` tiles from every
 * edge, every so many courses between them, and all from a pitch on; `clipped`: so many from every edge have a clip as well. Those half as wide again are items
 * of their own.
 */
const tile = z.strictObject({
  ...common,
  ...packaged,
  kind: z.literal('tile'),
  height: size,
  width: size,
  cover: size,
  play: size,
  thickness: size,
  nib: size,
  leastGauge: size,
  bond: z.enum(['straight', 'broken']),
  channel: z.enum(['left', 'right']),
  /** Where a profiled one stands up: the first crown from its left edge, the next ones from it, and how high. A flat one has none. */
  crowns: z.strictObject({ first: size, apart: size, height: size }).optional(),
  fixing: z.strictObject({
    edge: z.int().min(0),
    every: z.int().min(1),
    allFromDegrees: z.number().min(0).max(90),
    clipped: z.int().min(0).default(0),
  }),
});
/** A split wood shake, by the width they come at on average. */
const shake = z.strictObject({
  ...common,
  ...packaged,
  kind: z.literal('shake'),
  height: size,
  width: size,
  thickness: size,
  maxExposure: size,
});
/** Felt laid between the courses of shakes. */
const interlay = z.strictObject({ ...common, kind: z.literal('interlay'), width: size, rollLength: size });
/** Laid under the cut edges of tiles along a wall at an angle; its free side is turned up by its depth. */
const channel = z.strictObject({ ...common, ...packaged, kind: z.literal('channel'), length: size, width: size, depth: size });
const batten = z.strictObject({ ...common, ...packaged, kind: z.literal('batten'), length: size, width: size, thickness: size });
const starter = z.strictObject({ ...common, ...packaged, kind: z.literal('starter'), height: size, width: size });
const ridgeCap = z.strictObject({
  ...common,
  ...packaged,
  kind: z.literal('ridgeCap'),
  for: z.enum(['shingle', 'slate', 'shake', 'tile']).default('shingle'),
  exposure: size,
  halfWidth: size,
});
/** A vent laid along a slot at the ridge, under the caps; `netFree` of it opens in each length. */
const ridgeVent = z.strictObject({
  ...common,
  ...packaged,
  kind: z.literal('ridgeVent'),
  length: size,
  height: size,
  netFree: area,
});
const stepFlashing = z.strictObject({
  ...common,
  ...packaged,
  ...sheetMetal,
  kind: z.literal('stepFlashing'),
  length: size,
  roofLeg: size,
  wallLeg: size,
});
const kickOut = z.strictObject({
  ...common,
  ...packaged,
  ...sheetMetal,
  kind: z.literal('kickOut'),
  length: size,
  roofLeg: size,
  height: size,
  angleDegrees: z.number().min(90).max(135),
});
/** Metal bought by the length: `first` is the leg on the deck (or in the reglet), `second` the leg that hangs or covers. */
const lengthMetal = <K extends 'dripEdge' | 'gutterApron' | 'apron' | 'reglet' | 'valleyMetal'>(kind: K) =>
  z.strictObject({ ...common, ...packaged, ...sheetMetal, kind: z.literal(kind), length: size, first: size, second: size });
/** Lining of a valley; `rib`: height of the rib folded up along its middle, absent on a plain one. */
const valleyMetal = lengthMetal('valleyMetal').extend({ rib: size.optional() });
const iceBarrier = z.strictObject({
  ...common,
  kind: z.literal('iceBarrier'),
  width: size,
  rollLength: size,
  grade: z.enum(['standard', 'high-temperature']),
  serviceCelsius: z.number(),
  daysUncovered: z.int().positive(),
  leastLayingCelsius: z.number(),
  primer: z.string(),
  sealsNails: z.boolean(),
  mustNotTouch: z.string(),
});
const underlayment = z.strictObject({
  ...common,
  kind: z.literal('underlayment'),
  width: size,
  rollLength: size,
  daysUncovered: z.int().positive(),
  material: z.enum(['synthetic', 'felt']),
  /** Lets moisture from below through it. */
  vapourOpen: z.boolean().default(false),
  capsAlongLap: size,
  capsInField: size,
});
/** `strip`: sticks sheet and metal down; `flexible flashing`: carries water, stuck to the face above it. */
const tape = z.strictObject({
  ...common,
  kind: z.literal('tape'),
  width: size,
  rollLength: size,
  use: z.enum(['strip', 'flexible flashing']).default('strip'),
});
/** Holds the edge of a tile to its batten, where a nail cannot. */
const tileClip = z.strictObject({ ...common, ...packaged, kind: z.literal('tileClip') });
const nail = z.strictObject({
  ...common,
  ...packaged,
  kind: z.literal('nail'),
  use: z.enum(['roofing', 'cap', 'masonry']),
  length: size,
  suits: z.array(z.enum(METALS)),
});
/** Sheet that pans, crickets and counterflashing are cut from. */
const flatSheet = z.strictObject({
  ...common,
  ...packaged,
  ...sheetMetal,
  kind: z.literal('flatSheet'),
  length: size,
  width: size,
});
const cleat = z.strictObject({ ...common, ...packaged, ...sheetMetal, kind: z.literal('cleat') });
/** A base with a collar for a round pipe; `centre` is the pipe's centre above the base's lower edge. */
const boot = z.strictObject({
  ...common,
  ...packaged,
  kind: z.literal('boot'),
  least: size,
  most: size,
  baseWidth: size,
  baseLength: size,
  centre: size,
  material: z.enum(['plastic', 'metal']),
  /** What a metal one is bent or welded from, where it is one of the flashing metals. */
  metal: z.enum(METALS).optional(),
  hot: z.boolean(),
  standoff: z.boolean().default(false),
  /** Soft, its rim formed to one tile round a small pipe, in the place of two bases. */
  formed: z.boolean().default(false),
  years: z.number().positive(),
});
/** A maker's flashing for one frame size and kind of covering: sill, steps or cover flashings, head and cladding. */
const skylightKit = z.strictObject({
  ...common,
  ...packaged,
  kind: z.literal('skylightKit'),
  width: size,
  height: size,
  mount: z.enum(['deck', 'curb']),
  for: z.enum(['shingles', 'tile']).default('shingles'),
  roughWidth: size,
  roughHeight: size,
  sideStep: size,
  /** Steps for each side in it. */
  steps: z.int().positive().optional(),
  years: z.number().positive(),
});
const wallFlashing = z.strictObject({ ...common, kind: z.literal('wallFlashing'), width: size, rollLength: size });
const weep = z.strictObject({ ...common, ...packaged, kind: z.literal('weep'), litresPerMinute: z.number().positive() });
const strip = z.strictObject({ ...common, ...packaged, kind: z.literal('strip'), length: size });
const screw = z.strictObject({
  ...common,
  ...packaged,
  kind: z.literal('screw'),
  length: size,
  /** With a gasket under its head, or with a clamp that holds ridge tiles at their laps. */
  use: z.enum(['gasketed', 'ridge clamp']).default('gasketed'),
});
/** Rolled metal that holds counterflashing in its reglet. */
const wedge = z.strictObject({ ...common, ...packaged, kind: z.literal('wedge') });
/** Framing timber, by its depth on edge. */
const timber = z.strictObject({ ...common, ...packaged, kind: z.literal('timber'), length: size, depth: size });
/** Sheets a deck is made of. */
const sheathing = z.strictObject({
  ...common,
  ...packaged,
  kind: z.literal('sheathing'),
  length: size,
  width: size,
  thickness: size,
});
const tarp = z.strictObject({ ...common, ...packaged, kind: z.literal('tarp'), length: size, width: size });
/** A skylight’s frame and glass, by its outside. */
const skylightUnit = z.strictObject({
  ...common,
  ...packaged,
  kind: z.literal('skylightUnit'),
  width: size,
  height: size,
  mount: z.enum(['deck', 'curb']),
});
/** `joint`: into joints and on heads; `cement`: beds covering and metal edges; `mastic`: on sheets through a wall; `mortar`: beds ridge tiles. */
export const SEALANT_USES = ['joint', 'cement', 'mastic', 'mortar'] as const;
const sealant = z.strictObject({
  ...common,
  kind: z.literal('sealant'),
  use: z.enum(SEALANT_USES).default('joint'),
  /** What one package holds. */
  tubeMillilitres: z.number().positive(),
  package: z.string().min(1).default('tube'),
  /** Diameter of the usual bead. */
  bead: size,
});
export const COATING_USES = ['air barrier', 'liquid membrane', 'primer'] as const;
const coating = z.strictObject({
  ...common,
  kind: z.literal('coating'),
  use: z.enum(COATING_USES),
  litresPerSquareMetre: z.number().positive(),
  litres: z.number().positive(),
  package: z.string().min(1),
});
/** Cloth bedded in a liquid membrane. */
const fabric = z.strictObject({ ...common, kind: z.literal('fabric'), width: size, rollLength: size });

export const itemSchema = z.discriminatedUnion('kind', [
  shingle,
  slate,
  tile,
  shake,
  interlay,
  batten,
  tileClip,
  channel,
  starter,
  ridgeCap,
  ridgeVent,
  stepFlashing,
  kickOut,
  lengthMetal('dripEdge'),
  lengthMetal('gutterApron'),
  lengthMetal('apron'),
  lengthMetal('reglet'),
  valleyMetal,
  flatSheet,
  cleat,
  boot,
  skylightKit,
  wallFlashing,
  weep,
  strip,
  screw,
  wedge,
  timber,
  sheathing,
  tarp,
  skylightUnit,
  iceBarrier,
  underlayment,
  tape,
  nail,
  sealant,
  coating,
  fabric,
]);
export type Item = z.infer<typeof itemSchema>;
export type ItemKind = Item['kind'];
export type ItemOf<K extends ItemKind> = Extract<Item, { kind: K }>;

export const catalogSchema = z.strictObject({
  format: z.literal('ruvet-catalog'),
  formatVersion: z.literal(1),
  /** What is in a version of the catalog never changes: a change is the next version. */
  version: z.int().min(1).max(1_000_000),
  items: z.array(itemSchema).max(20_000),
});
export type Catalog = z.infer<typeof catalogSchema>;

/** Metal bought by the length. */
export type LengthMetal = ItemOf<'dripEdge'> | ItemOf<'gutterApron'> | ItemOf<'apron'> | ItemOf<'reglet'> | ItemOf<'valleyMetal'>;
