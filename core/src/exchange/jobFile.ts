import { z } from 'zod';
import { type Job, JOB_FORMAT_VERSION, type Shelf, jobSchema, libraryFor, upgradeJob } from '../document/index.ts';
import type { Issue } from '../document/index.ts';
import { setAside } from '../plan/index.ts';

/** A job file may be at most this large; a real one is a few kilobytes. */
export const MAX_JOB_BYTES = 2 * 1024 * 1024;

export type ReadJob = { readonly ok: true; readonly job: Job } | { readonly ok: false; readonly issues: readonly Issue[] };

const LABELS: Record<string, string> = {
  name: 'Name',
  note: 'Note',
  units: 'Units',
  'site.rainPerHour': 'Rainfall',
  'site.drivenRainShare': 'Driven-rain share',
  'site.iceDams': 'Ice dams on record',
  deckThickness: 'Deck thickness',
  catalog: 'Catalog',
  packs: 'Rule packs',
  metal: 'Flashing metal',
  'covering.exposure': 'Exposure',
  'covering.firstButt': 'First butt past the deck edge',
  'underlayers.insideWall': 'Ice barrier inside the wall line',
  'underlayers.longestStrip': 'Longest strip handled',
  'underlayers.eaveOrder': 'Order at the eave',
  parts: 'Parts of the roof',
  features: 'Features',
  'plane.name': 'Name of the slope',
  'plane.exposure': 'Exposure on this slope',
  'plane.measuredButts': 'Measured butts',
  'plane.rafters.spacing': 'Rafter spacing',
  'plane.rafters.first': 'First rafter from the left end',
  'part.name': 'Name of the part',
  'part.eaveLength': 'Eave length',
  'part.slope.length': 'Slope length',
  'part.pitch': 'Pitch',
  'part.overhang': 'Eave overhang',
  'part.wallThickness': 'Exterior wall thickness',
  'part.width': 'Width',
  'part.halfWidth': 'Half its width, eave edge to under the ridge',
  'part.centre': 'Its middle along the host’s eave',
  'part.projection': 'Stands out past the host’s eave',
  'part.rise': 'Its eave above the host’s',
  'part.from.length': 'Front face up the slope',
  'part.height': 'Height of the front wall',
  'part.place.facing': 'Faces',
  'part.place.height': 'Eave above the datum',
  'part.place.east': 'East of the datum',
  'part.place.north': 'North of the datum',
  'feature.name': 'Name',
  'feature.across.distance': 'Across the slope',
  'feature.up.length': 'Up the slope',
  'feature.width': 'Width',
  'feature.depth': 'Depth',
  'feature.height': 'Height',
  'feature.upstand': 'Frame above the deck',
  'feature.diameter': 'Outside diameter',
  'feature.apronLeg': 'Apron’s roof leg',
  'feature.jointSpacing': 'Joint spacing',
  'feature.cricketHeight': 'Cricket height',
  'feature.rows': 'Rows',
  'feature.columns': 'Legs a row',
  'feature.age': 'Age of the old unit',
  'feature.throughWall.veneer': 'Veneer’s bearing',
  'feature.throughWall.cavity': 'Cavity',
  'feature.throughWall.rise': 'Up the backup wall',
  'feature.throughWall.pieceLength': 'Length of the pieces',
  'wall.name': 'Name of the wall',
  'wall.id': 'Mark of the wall',
  'wall.x': 'Wall’s distance from the left end',
  'wall.from': 'Wall’s lower end',
  'wall.to': 'Wall’s upper end',
  'wall.height': 'Wall height',
  'wall.apronLeg': 'Apron’s roof leg',
  'wall.slant.topX': 'Wall’s distance from the left end at the top',
  'wall.slant.channelFrom': 'Channel’s end up the slope',
  'wall.stepFlashing': 'Step flashing',
};

/** The field's name as the screen has it, for a path in the document; unknown paths name themselves. */
export function fieldLabel(path: string): string {
  const short = path
    .replace(/^parts\.\d+\.planes\.\d+\.walls\.\d+\./, 'wall.')
    .replace(/^parts\.\d+\.planes\.\d+\./, 'plane.')
    .replace(/^parts\.\d+\./, 'part.')
    .replace(/^features\.\d+\./, 'feature.');
  return LABELS[short] ?? (path === '' ? 'Job file' : path);
}

/** A schema issue as one sentence that names the field. */
function issueOf(issue: z.core.$ZodIssue): Issue {
  const path = issue.path.map((key) => shortened(String(key))).join('.');
  const label = fieldLabel(path);
  if (issue.code === 'unrecognized_keys')
    return {
      path,
      message: `${label} has an entry Ruvet does not know: ${issue.keys
        .slice(0, 5)
        .map((key) => `"${shortened(key)}"`)
        .join(', ')}.`,
    };
  const text = /^(must|is|has)\b/.test(issue.message) ? issue.message : `is not valid (${issue.message.toLowerCase()})`;
  return { path, message: `${label} ${text}.` };
}

const envelopeSchema = z.object({ format: z.unknown(), version: z.unknown() });

/** Reads a job from parsed JSON: format, version, every field, then whether anything of it can be planned with what is at hand. */
export function readJob(data: unknown, shelf: Shelf): ReadJob {
  const unkept = refuseText(data);
  if (unkept) return { ok: false, issues: [unkept] };
  const upgraded = upgradeJob(data, shelf);
  const envelope = envelopeSchema.safeParse(upgraded);
  if (!envelope.success || envelope.data.format !== 'ruvet-job') {
    return {
      ok: false,
      issues: [{ path: 'format', message: 'Job file: this is not a Ruvet job (its "format" is not "ruvet-job").' }],
    };
  }
  if (envelope.data.version !== JOB_FORMAT_VERSION) {
    return {
      ok: false,
      issues: [
        {
          path: 'version',
          message: `Job file: it is version ${shortened(JSON.stringify(envelope.data.version) ?? 'unknown')} of the format; this Ruvet reads versions 1 to ${JOB_FORMAT_VERSION}.`,
        },
      ],
    };
  }
  const parsed = jobSchema.safeParse(upgraded);
  if (!parsed.success) return { ok: false, issues: fewOf(parsed.error.issues.map(issueOf)) };
  const library = libraryFor(shelf, parsed.data.catalog);
  if (!library) {
    const versions = shelf.catalogs.map(({ version }) => version);
    const here =
      versions.length > 1
        ? `there are ${versions.slice(0, -1).join(', ')} and ${versions.at(-1)}`
        : `there is ${versions[0] ?? 'none'}`;
    return {
      ok: false,
      issues: [{ path: 'catalog', message: `Catalog: version ${parsed.data.catalog} is not here; ${here}.` }],
    };
  }
  // what cannot be planned is kept and told in the plan; a job of which nothing at all can be is refused
  const { sound, aside } = setAside(parsed.data, library);
  return sound ? { ok: true, job: parsed.data } : { ok: false, issues: fewOf(aside) };
}

/** So many issues are told of one job; a file that is wrong all over would answer with more text than it has. */
const TOLD = 20;

const fewOf = (issues: readonly Issue[]): readonly Issue[] =>
  issues.length <= TOLD
    ? issues
    : [...issues.slice(0, TOLD), { path: '', message: `Job file: ${issues.length - TOLD} more entries are not right.` }];

/** A text of the file's own as far as it can be repeated in a sentence. */
const shortened = (text: string): string => (text.length > 60 ? `${text.slice(0, 60)}…` : text);

/** No job is nested deeper than this. */
const DEEPEST = 32;

/** Text that cannot be kept: a NUL, or half of a character. */
const UNKEPT = /\0|\p{Surrogate}/u;

/** What no store keeps, before anything walks the document: text with a NUL or half a character in it, or nesting beyond all measure. */
function refuseText(data: unknown): Issue | undefined {
  const left: [value: unknown, path: readonly string[]][] = [[data, []]];
  for (let next = left.pop(); next; next = left.pop()) {
    const [value, path] = next;
    const label = (): string => fieldLabel(shortened(path.join('.')));
    if (typeof value === 'string' && UNKEPT.test(value))
      return {
        path: path.join('.'),
        message: `${label()} has a character in it that cannot be kept (a NUL or half a character); write it anew.`,
      };
    if (typeof value !== 'object' || value === null) continue;
    if (path.length >= DEEPEST)
      return {
        path: path.slice(0, 4).join('.'),
        message: `Job file: ${shortened(path.join('.'))} is nested too deep to be a job.`,
      };
    for (const [key, inner] of Object.entries(value)) {
      if (UNKEPT.test(key)) return { path: path.join('.'), message: `${label()} has an entry whose name cannot be kept.` };
      left.push([inner, [...path, key]]);
    }
  }
  return undefined;
}

/** Refuses a job file by its size in bytes, before it is read; undefined when it is small enough. */
export function refuseSize(bytes: number): Issue | undefined {
  const megabytes = (size: number): string => String(Number((size / 1024 / 1024).toFixed(1)));
  if (bytes <= MAX_JOB_BYTES) return undefined;
  return {
    path: '',
    message: `Job file: it is ${megabytes(bytes)} MB; a job file may be at most ${megabytes(MAX_JOB_BYTES)} MB.`,
  };
}

/** Reads the text of a job file. Too large, not whole, or not a job: one sentence each. */
export function readJobText(text: string, shelf: Shelf): ReadJob {
  const tooLarge = refuseSize(text.length);
  if (tooLarge) return { ok: false, issues: [tooLarge] };
  let data: unknown;
  try {
    data = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch {
    return { ok: false, issues: [{ path: '', message: 'Job file: its text is cut off or is not JSON; export it again.' }] };
  }
  return readJob(data, shelf);
}

/** The text of a job file: two-space JSON with a final newline. */
export const writeJobText = (job: Job): string => `${JSON.stringify(job, null, 2)}\n`;

/** JSON Schema of the job format, generated from the schema that reads it. */
export const jobJsonSchema = (): unknown => z.toJSONSchema(jobSchema, { io: 'input', unrepresentable: 'any' });
