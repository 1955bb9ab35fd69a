import { z } from 'zod';
import { type Issue, checkJob } from '../job/check.ts';
import type { Library } from '../job/library.ts';
import { JOB_FORMAT_VERSION, type Job, jobSchema } from '../job/schema.ts';

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
  packs: 'Rule packs',
  metal: 'Flashing metal',
  'covering.exposure': 'Exposure',
  'covering.firstButt': 'First butt past the deck edge',
  'underlayers.insideWall': 'Ice barrier inside the wall line',
  'underlayers.longestStrip': 'Longest strip handled',
  'underlayers.eaveOrder': 'Order at the eave',
  planes: 'Slopes',
  'plane.name': 'Name of the slope',
  'plane.eaveLength': 'Eave length',
  'plane.slope.length': 'Slope length',
  'plane.pitch': 'Pitch',
  'plane.overhang': 'Eave overhang',
  'plane.wallThickness': 'Exterior wall thickness',
  'wall.name': 'Name of the wall',
  'wall.id': 'Mark of the wall',
  'wall.x': 'Wall’s distance from the left end',
  'wall.from': 'Wall’s lower end',
  'wall.to': 'Wall’s upper end',
  'wall.height': 'Wall height',
  'wall.apronLeg': 'Apron’s roof leg',
  'wall.stepFlashing': 'Step flashing',
};

/** The field's name as the screen has it, for a path in the document; unknown paths name themselves. */
export function fieldLabel(path: string): string {
  const short = path.replace(/^planes\.\d+\.walls\.\d+\./, 'wall.').replace(/^planes\.\d+\./, 'plane.');
  return LABELS[short] ?? (path === '' ? 'Job file' : path);
}

/** A schema issue as one sentence that names the field. */
function issueOf(issue: z.core.$ZodIssue): Issue {
  const path = issue.path.join('.');
  const label = fieldLabel(path);
  if (issue.code === 'unrecognized_keys')
    return { path, message: `${label} has an entry Ruvet does not know: ${issue.keys.map((key) => `"${key}"`).join(', ')}.` };
  const text = /^(must|is|has)\b/.test(issue.message) ? issue.message : `is not valid (${issue.message.toLowerCase()})`;
  return { path, message: `${label} ${text}.` };
}

/** Reads a job from parsed JSON: format, version, every field, then whether it can be planned with this library. */
export function readJob(data: unknown, library: Library): ReadJob {
  const envelope = z.looseObject({ format: z.unknown(), version: z.unknown() }).safeParse(data);
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
          message: `Job file: it is version ${JSON.stringify(envelope.data.version) ?? 'unknown'} of the format; this Ruvet reads version ${JOB_FORMAT_VERSION}.`,
        },
      ],
    };
  }
  const parsed = jobSchema.safeParse(data);
  if (!parsed.success) return { ok: false, issues: parsed.error.issues.map(issueOf) };
  const issues = checkJob(parsed.data, library);
  return issues.length > 0 ? { ok: false, issues } : { ok: true, job: parsed.data };
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
export function readJobText(text: string, library: Library): ReadJob {
  const tooLarge = refuseSize(text.length);
  if (tooLarge) return { ok: false, issues: [tooLarge] };
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    return { ok: false, issues: [{ path: '', message: 'Job file: its text is cut off or is not JSON; export it again.' }] };
  }
  return readJob(data, library);
}

/** The text of a job file: two-space JSON with a final newline. */
export const writeJobText = (job: Job): string => `${JSON.stringify(job, null, 2)}\n`;

/** JSON Schema of the job format, generated from the schema that reads it. */
export const jobJsonSchema = (): unknown => z.toJSONSchema(jobSchema, { io: 'input', unrepresentable: 'any' });
