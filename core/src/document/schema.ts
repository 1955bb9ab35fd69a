import { z } from 'zod';
import { RULE_UNITS, isRuleKey, mutedSchema, packRefSchema } from '../rules/index.ts';
import { SAME_PITCH, inches, pitchOf } from '../units/index.ts';
import { coveringSchema } from './choices/index.ts';
import { workSchema } from './work.ts';
import { area, id, length, name, productId } from './fields.ts';

/**
 * Versions 1 (a list of single slopes), 2 (pitch as a bare number), 3 (without a catalog version), 4 (one covering), 5 (walls square to the eave) and 6 (battens on
 * rafters alone) are still read (see `upgrade.ts`).
 */
export const JOB_FORMAT_VERSION = 7;

export const CLADDINGS = ['boards', 'render', 'masonry'] as const;
export type Cladding = (typeof CLADDINGS)[number];

export const COUNTERS = ['reglet', 'stepped', 'repair'] as const;
export type Counter = (typeof COUNTERS)[number];
/** A wall may have its trays through the masonry instead, a step of the roof each. */
export const WALL_COUNTERS = [...COUNTERS, 'trays'] as const;
/** What drains the cut edges of tiles along a wall at an angle. */
export const SLANT_DRAINS = ['moulded channel', 'lead channel', 'cover alone'] as const;
export const SLANT_RAFTERS = ['set back', 'at the wall', 'no access'] as const;
/** What is flashed beside a wall on tile: over the tiles, or in a pan under them. */
export const BESIDE_TILES = ['cover flashing', 'pan flashing'] as const;
export const APRONS = ['exposed', 'strip adhered', 'strip nailed', 'left out'] as const;
/** A pipe through tiles: a base woven into the sheet and one among the tiles, or one base formed to a tile alone. */
export const PIPE_BASES = ['two levels', 'formed base'] as const;
const jointSpacing = length(inches(1), inches(16));
export const POINTINGS = ['sound', 'open joints'] as const;
const cavityWall = {
  veneer: length(inches(1), inches(12)),
  cavity: length(0, inches(8)),
  /** Up the backup wall. */
  rise: length(inches(4), inches(24)),
  /** How its joints are pointed: that decides how much of the rain on its face gets through into the cavity. */
  pointing: z.enum(POINTINGS).default('sound'),
};

const mark = (example: string) =>
  z.string().regex(/^[A-Z]{1,3}[0-9]{1,3}$/, { error: `must be letters and a number, such as ${example}` });

const wallSchema = z.strictObject({
  id: mark('SW1'),
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
  /** What covers the steps on masonry: a straight reglet, pieces stepped into the joints, the old counterflashing made good, or trays. */
  counter: z.enum(WALL_COUNTERS).default('reglet'),
  /** From joint to joint of the masonry. */
  jointSpacing: jointSpacing.default(inches(8 / 3)),
  /** On tile: metal over the tiles, or a hemmed pan under them. */
  besideTiles: z.enum(BESIDE_TILES).default('cover flashing'),
  /** Where it stands at an angle to the slope, from the eave to the top; null: square to the eave. */
  slant: z
    .strictObject({
      /** Its face at the top of the slope, from the slope's left end. */
      topX: length(0, inches(12_000)),
      /** What drains the cut edges of the tiles along it: a moulded channel, one of folded lead, or nothing but the cover flashing. */
      drain: z.enum(SLANT_DRAINS),
      /** The last rafter, on which the battens' cut ends are to bear. */
      rafter: z.enum(SLANT_RAFTERS),
      /** How far up the slope the channel ends on the tiles below; 0: it runs on into the gutter. */
      channelFrom: length(0, inches(60)),
      /** Mortar bedded along the channel, under the cut tiles. */
      mortar: z.boolean(),
    })
    .nullable()
    .default(null),
  /** What trays through it have to cross. */
  cavityWall: z
    .strictObject(cavityWall)
    .default({ veneer: inches(3.625), cavity: inches(1), rise: inches(8), pointing: 'sound' }),
});
export type Wall = z.infer<typeof wallSchema>;
/** A wall this little off square over the whole slope is square: no more than a course is trimmed by (trade practice). */
const SQUARE = 25;

/** Does it stand at an angle to the slope? */
export const isSlanted = <W extends Pick<Wall, 'x' | 'slant'>>(
  wall: W,
): wall is W & { readonly slant: NonNullable<Wall['slant']> } =>
  wall.slant !== null && Math.abs(wall.slant.topX - wall.x) > SQUARE;

/** How a wall is flashed where nobody has said otherwise. */
export const USUAL_WALL = {
  apronLeg: inches(5),
  nailSide: 'deck',
  fieldNails: 'clear-of-wall',
  stepFlashing: null,
  counter: 'reglet',
  jointSpacing: inches(8 / 3),
  besideTiles: 'cover flashing',
  slant: null,
} as const satisfies Partial<Wall>;

/** How a wall at an angle is drained where nobody has said otherwise. */
export const USUAL_SLANT = {
  drain: 'moulded channel',
  rafter: 'set back',
  channelFrom: 300,
  mortar: false,
} as const satisfies Partial<NonNullable<Wall['slant']>>;

/** Along the slope, or level. */
const measure = z.strictObject({ kind: z.enum(['slope', 'level']), length: length(0, inches(6_000)) });
const longMeasure = z.strictObject({ kind: z.enum(['slope', 'level']), length: length(inches(6), inches(6_000)) });

/** What is told of one slope besides its part's measures. */
const planeSchema = z.strictObject({
  id,
  name,
  left: z.enum(['rake', 'continues']),
  right: z.enum(['rake', 'continues']),
  top: z.enum(['ridge', 'continues', 'wall']),
  /** The covering it has, by its id. */
  covering: id,
  walls: z.array(wallSchema).max(60, { error: 'must be at most 60' }),
  /** Exposure on this slope alone, where its courses are fitted; null: the covering's. */
  exposure: length(inches(2), inches(24)).nullable().default(null),
  /** Butts measured on the roof, up the slope from the deck's eave edge: where those courses really are. What lies above is fitted from there. */
  measuredButts: z
    .array(
      z.strictObject({
        course: z
          .int({ error: 'must be the number of a course' })
          .min(1, { error: 'must be the number of a course' })
          .max(999, { error: 'must be at most 999' }),
        at: length(-inches(6), inches(6_000)),
      }),
    )
    .max(40, { error: 'must be at most 40' })
    .optional(),
  /** Rafters under the deck: from one to the next, and the first from the left end. Null: not measured. */
  rafters: z
    .strictObject({ spacing: length(inches(6), inches(96)), first: length(0, inches(96)) })
    .nullable()
    .default(null),
});
export type PlaneRecord = z.infer<typeof planeSchema>;

const PITCH = 'must be a rise and a run, or degrees above level, from 0.24/12 to 48/12';
const figure = z.number({ error: PITCH }).nonnegative({ error: PITCH });
/** As it was said: a rise on a run, or an angle. */
const pitchSchema = z
  .union([z.strictObject({ rise: figure, run: figure }), z.strictObject({ degrees: figure })], { error: PITCH })
  .refine((pitch) => pitchOf(pitch) >= 0.02 - SAME_PITCH && pitchOf(pitch) <= 4 + SAME_PITCH, { error: PITCH });

const common = {
  id,
  name,
  pitch: pitchSchema,
  /** Eave overhang, measured level. */
  overhang: length(0, inches(96)),
  /** Thickness of the exterior wall below the eave. */
  wallThickness: length(0, inches(48)),
};
const planes = <N extends number>(count: N) =>
  z.array(planeSchema).length(count, { error: `must hold ${count} ${count === 1 ? 'slope' : 'slopes'}` });

/** Where a part stands in plan: its first slope's left eave end, the way that slope faces, and the height of its eave. */
const placeSchema = z.strictObject({
  east: length(-inches(12_000), inches(12_000)),
  north: length(-inches(12_000), inches(12_000)),
  facing: z
    .number({ error: 'must be a number of degrees' })
    .min(0, { error: 'must be from 0 to 360°' })
    .max(360, { error: 'must be from 0 to 360°' }),
  height: length(-inches(1_200), inches(2_400)),
});
const placed = { place: placeSchema, eaveLength: length(inches(6), inches(12_000)) };
/** Where a part stands on another part's slope: its middle along that slope's eave, from the slope's left end. */
const hosted = { host: id, centre: length(0, inches(12_000)) };

/** One building mass of the roof, by the measures a crew takes. Its slopes follow from them. */
export const partSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('slope'), ...common, ...placed, slope: longMeasure, planes: planes(1) }),
  /** Two slopes alike, back to back. The first is the one `place` names. */
  z.strictObject({ kind: z.literal('gable'), ...common, ...placed, slope: longMeasure, planes: planes(2) }),
  /** Four slopes on a rectangle: eave length along the first, `width` square to it. */
  z.strictObject({ kind: z.literal('hip'), ...common, ...placed, width: length(inches(12), inches(12_000)), planes: planes(4) }),
  /** A gable running into a slope: half its width from eave edge to under its ridge, how far it stands out past the host's eave. */
  z.strictObject({
    kind: z.literal('crossGable'),
    ...common,
    ...hosted,
    halfWidth: length(inches(6), inches(2_400)),
    projection: length(0, inches(6_000)),
    /** Its eave above the host's eave. */
    rise: length(0, inches(600)),
    /** Of its side walls, where its eaves stand above the host's. */
    cladding: z.enum(CLADDINGS).default('boards'),
    planes: planes(2),
  }),
  /** A gabled dormer on a slope: two sidewalls, a front wall, two slopes of its own. */
  z.strictObject({
    kind: z.literal('dormer'),
    ...common,
    ...hosted,
    /** Between the outer faces of its sidewalls. */
    width: length(inches(24), inches(600)),
    /** Front face up the host's slope. */
    from: measure,
    /** Front wall from the host's surface to the dormer's eave. */
    height: length(inches(12), inches(240)),
    cladding: z.enum(CLADDINGS),
    planes: planes(2),
  }),
]);
export type Part = z.infer<typeof partSchema>;
export type PartOf<K extends Part['kind']> = Extract<Part, { kind: K }>;

/** Across the slope from its left or right end, as the tape was held. */
const across = z.strictObject({ from: z.enum(['left', 'right']), distance: length(0, inches(12_000)) });
const onSlope = { plane: id, name, across, up: measure };

const throughWall = z.strictObject({
  ...cavityWall,
  pieceLength: length(inches(24), inches(240)),
});
export type ThroughWall = z.infer<typeof throughWall>;

/** A side channel that is blocked, or broken by what crosses it; a tile cracked. */
export const TILE_FAULTS = ['side channel blocked', 'side channel broken', 'tile cracked'] as const;
export const CHANNEL_CROSSINGS = ['copper', 'steel', 'plastic'] as const;

/** What stands on a slope. `across` and `up` lead to the feature's near side and front, for pipes to the centre. */
export const featureSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('chimney'),
    id: mark('CH1'),
    ...onSlope,
    /** Across the slope. */
    width: length(inches(8), inches(300)),
    /** Level, up the slope. */
    depth: length(inches(8), inches(300)),
    /** Above the roof at its front. */
    height: length(inches(12), inches(600)),
    masonry: z.boolean(),
    jointSpacing: jointSpacing.default(inches(8 / 3)),
    apronLeg: length(inches(2), inches(24)),
    back: z.enum(['by the rules', 'pan', 'cricket']),
    /** A cricket higher than the table's; null: the table's. */
    cricketHeight: length(inches(1), inches(120)).nullable(),
    counter: z.enum(COUNTERS).default('stepped'),
    stepFlashing: productId.nullable(),
  }),
  z.strictObject({
    kind: z.literal('skylight'),
    id: mark('SK1'),
    ...onSlope,
    /** Frame outside, across the slope. */
    width: length(inches(8), inches(240)),
    /** Frame outside, up the slope. */
    height: length(inches(8), inches(240)),
    mount: z.enum(['deck', 'curb']),
    /** Frame or curb above the deck. */
    upstand: length(inches(2), inches(24)),
    /** The maker's kit, or metal bent on site. */
    flashing: z.enum(['kit', 'site-bent']),
    bedding: z.enum(['dry', 'bedded']),
    /** The course over its head: one whole unit, or two layers where the frame is too wide for one. */
    headCourse: z.enum(['one layer', 'two layers']).default('one layer'),
    work: z.enum(['new opening', 'replacement']),
    /** Replacement: strip for new shingles, or take them up to lay again. */
    strip: z.enum(['renewing', 're-using']),
    /** Years the unit has been in, and the covering is to last: the comparison for a replacement. */
    age: z.number({ error: 'must be a number of years' }).min(0).max(100).default(0),
  }),
  z.strictObject({
    kind: z.literal('pipe'),
    id: mark('P1'),
    ...onSlope,
    /** Outside diameter. */
    diameter: length(inches(0.5), inches(36)),
    material: z.enum(['plastic', 'metal']),
    /** A flue that gets hot. */
    hot: z.boolean(),
    /** From a hot flue to all that burns, by its listing; null: not yet asked. */
    clearance: length(0, inches(36)).nullable().default(null),
    /** A chosen boot, or null for the smallest that fits. */
    boot: productId.nullable(),
    /** On tile. */
    bases: z.enum(PIPE_BASES).default('two levels'),
  }),
  z.strictObject({
    kind: z.literal('standoffs'),
    id: mark('ST1'),
    ...onSlope,
    rows: z.int().min(1).max(40),
    columns: z.int().min(1).max(40),
    spacingAcross: length(inches(6), inches(240)),
    spacingUp: length(inches(6), inches(240)),
    diameter: length(inches(0.5), inches(6)),
  }),
  /** What is wrong with one tile, or with the side channel between two. */
  z.strictObject({
    kind: z.literal('tileFault'),
    id: mark('TF1'),
    ...onSlope,
    fault: z.enum(TILE_FAULTS),
    /** What lies in the channel and stays there; null: nothing does. */
    crossedBy: z.enum(CHANNEL_CROSSINGS).nullable(),
  }),
  /** The wall along a slope's top. */
  z.strictObject({
    kind: z.literal('headwall'),
    id: mark('HW1'),
    plane: id,
    name,
    height: length(inches(4), inches(1_200)),
    cladding: z.enum(CLADDINGS),
    jointSpacing: jointSpacing.default(inches(8 / 3)),
    apronLeg: length(inches(2), inches(24)),
    apron: z.enum(APRONS),
    counter: z.enum(['reglet', 'repair', 'through-wall']),
    throughWall,
  }),
]);
export type Feature = z.infer<typeof featureSchema>;
export type FeatureOf<K extends Feature['kind']> = Extract<Feature, { kind: K }>;

export const VALLEY_STYLES = ['open', 'closed cut', 'woven', 'long-edge cut'] as const;
export type ValleyStyle = (typeof VALLEY_STYLES)[number];

/** Decided for one valley. */
const valleySchema = z.strictObject({
  style: z.enum(VALLEY_STYLES),
  /** The slope whose shingles run through, and why, where it is not the one the water asks for. */
  through: z.strictObject({ plane: id, reason: z.string().trim().min(3, { error: 'must say why' }).max(300) }).nullable(),
  /** Shingles trimmed back from the centre, or on it. */
  trim: z.enum(['back from the centre', 'on the centre']),
  /** Metal of an open valley: plain, or with a rib along its middle. */
  lining: z.enum(['plain', 'ribbed']).default('plain'),
});
export type ValleyChoice = z.infer<typeof valleySchema>;

/** A choice made on the roof, with its reason; it stays a finding where it is below what governs. */
const deviationSchema = z.strictObject({
  key: z.string().refine(isRuleKey, { error: 'is not a requirement this planner knows' }),
  sense: z.enum(['atLeast', 'atMost', 'exactly']),
  value: z.number().min(-100).max(100_000),
  unit: z.enum(RULE_UNITS),
  reason: z.string().trim().min(3, { error: 'must say why' }).max(500),
});
export type Deviation = z.infer<typeof deviationSchema>;

/** Net free areas are what the makers of grilles and vents state. */
const ventedFloor = {
  /** Of the attic that is vented. */
  floor: area(inches(12_000) ** 2),
  /** Net free area of what lets air in at the eaves. */
  intake: area(inches(1_200) ** 2),
};
const ventilationSchema = z.discriminatedUnion('exhaust', [
  /** A vent along the ridges; `others`: what let air out before is left open. */
  z.strictObject({ exhaust: z.literal('ridge vent'), ...ventedFloor, others: z.boolean() }),
  /** What there is stays: so much net free area lets air out. */
  z.strictObject({ exhaust: z.literal('as it is'), ...ventedFloor, outlet: area(inches(1_200) ** 2) }),
  /** Not vented, by its design. */
  z.strictObject({ exhaust: z.literal('none'), reason: z.string().trim().min(3, { error: 'must say why' }).max(300) }),
]);
export type Ventilation = z.infer<typeof ventilationSchema>;

const share = z
  .number({ error: 'must be a number from 0 to 0.5' })
  .min(0, { error: 'must be from 0 to 0.5' })
  .max(0.5, { error: 'must be from 0 to 0.5' });
/** What a house buys beside where it says nothing else (trade practice). */
export const USUAL_SPARE = { covering: 0.02, fasteners: 0.05 };

export const jobSchema = z.strictObject({
  format: z.literal('ruvet-job'),
  version: z.literal(JOB_FORMAT_VERSION),
  name,
  /** What is done to the roof. */
  work: workSchema.default({ kind: 'new' }),
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
    /** Where the weather comes from, degrees clockwise from north, and whether nothing stands in its way. Null: not asked yet. */
    wind: z
      .strictObject({
        from: z
          .number({ error: 'must be a number of degrees' })
          .min(0, { error: 'must be from 0 to 360°' })
          .max(360, { error: 'must be from 0 to 360°' }),
        exposed: z.boolean(),
      })
      .nullable()
      .default(null),
  }),
  /** How the space under the roof is vented. Null: not decided yet. */
  ventilation: ventilationSchema.nullable().default(null),
  /** The version of the catalog its products are taken from. */
  catalog: z.int({ error: 'must be the version of a catalog' }).min(1).max(1_000_000),
  packs: z.array(packRefSchema).max(30, { error: 'must be at most 30' }),
  /** What its slopes are covered with, each with what lies under it and the metal it is flashed in. */
  coverings: z.array(coveringSchema).min(1, { error: 'must hold a covering' }).max(12, { error: 'must be at most 12' }),
  parts: z.array(partSchema).min(1, { error: 'must hold a part of the roof' }).max(24, { error: 'must be at most 24' }),
  features: z.array(featureSchema).max(300, { error: 'must be at most 300' }).default([]),
  /** By valley: the ids of its two slopes in order, joined by `+`. */
  valleys: z
    .record(
      z
        .string()
        .max(200)
        .regex(/^[a-z0-9-]+\+[a-z0-9-]+$/),
      valleySchema,
    )
    .refine((valleys) => Object.keys(valleys).length <= 200, { error: 'must be at most 200' })
    .default({}),
  /** Lines of the run sheet that are done. */
  done: z.array(z.string().max(120)).max(20_000).default([]),
  /** Hold points bar what follows: nothing after one is ticked off before it is. Absent: they are only told. */
  holdsBar: z.literal(true).optional(),
  /** Bought beside what the plan needs, as shares of it: of the covering for breakage, of fasteners for those dropped and bent. */
  spare: z.strictObject({ covering: share, fasteners: share }).default(USUAL_SPARE),
  /** Kinds of finding that are not told on this job, each with the reason. */
  muted: mutedSchema.default({}),
  /** Recorded ways out of conflicts, by requirement key. */
  decisions: z.record(
    z.string().refine((key): boolean => isRuleKey(key), { error: 'is not a requirement this planner knows' }),
    z.strictObject({ source: z.string().min(1).max(200), reason: z.string().trim().min(3, { error: 'must say why' }).max(500) }),
  ),
  deviations: z.array(deviationSchema).max(100),
});
export type Job = z.infer<typeof jobSchema>;
