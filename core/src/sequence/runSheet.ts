import { type Assembly, type Crew, type Step, headingOf } from '../assembly/index.ts';
import { type Lines, buttLine } from '../surface/index.ts';

/** A numbered line of the run sheet. `id` stays the same when the plan changes elsewhere, so that what is done stays done. */
export type RunLine = Step & {
  readonly line: number;
  readonly id: string;
  /** Its number on the whole roof's sheet, where `line` counts one slope's lines. */
  readonly whole: number;
};

/** Lines that belong together: a stage of the job, or one course. `y` is the butt line of a course. */
export type RunGroup = {
  readonly id: string;
  readonly title: string;
  /** The slope it is on; of a stage that goes over the whole roof, the first. */
  readonly plane: string;
  readonly course?: number;
  readonly y?: number;
  readonly lines: readonly RunLine[];
};

/**
 * The run sheet of the whole roof: the steps in their order of laying, numbered, gathered under the stage or the course they belong to:
 * make safe and the dry-in of every slope, then slope by slope and course by course, then the finish. The starter and what goes on it are course 0.
 */
export function writeRunSheet(
  assembly: Assembly,
  planes: ReadonlyMap<string, { readonly name: string; readonly lines: Lines }>,
): RunGroup[] {
  const groups: { id: string; title: string; plane: string; course?: number; y?: number; lines: RunLine[] }[] = [];
  const used = new Map<string, number>();
  assembly.steps.forEach((step, i) => {
    const plane = step.plane ?? [...planes.keys()][0]!;
    // what belongs to no course goes over the whole roof; each line says which slope it is on
    const heading = headingOf(step.lay);
    const id = step.course === undefined ? heading : `${plane}.course-${step.course}`;
    let group = groups.at(-1);
    if (group?.id !== id) {
      const known = planes.get(plane);
      const course =
        step.course === undefined || !known ? {} : { course: step.course, y: buttLine(known.lines, Math.max(1, step.course)) };
      const name = planes.size > 1 && known ? `${known.name}: ` : '';
      const title = step.course === undefined ? heading : name + courseTitle(step.course, name !== '');
      group = { id, title, plane, ...course, lines: [] };
      groups.push(group);
    }
    // a line of the whole roof lays nothing, and is known by its stage
    const what = step.pieces[0] ?? (step.plane === undefined ? heading : '');
    const base = `${step.plane ?? 'roof'}.${step.course ?? step.stage}.${step.detail}.${what}`;
    const count = used.get(base) ?? 0;
    used.set(base, count + 1);
    group.lines.push({ ...step, line: i + 1, whole: i + 1, id: count === 0 ? base : `${base}.${count}` });
  });
  return groups;
}

function courseTitle(course: number, afterName: boolean): string {
  const words = course === 0 ? 'Starter' : `Course ${course}`;
  return afterName ? words.toLowerCase() : words;
}

/** The lines of one slope, in their groups, numbered by themselves. */
export function runSheetOf(groups: readonly RunGroup[], plane: string): RunGroup[] {
  let count = 0;
  return groups
    .map((group) => ({
      ...group,
      plane,
      lines: group.lines.filter((line) => (line.plane ?? plane) === plane).map((line) => ({ ...line, line: ++count })),
    }))
    .filter(({ lines }) => lines.length > 0);
}

/** What a reader of the run sheet asks for: one detail's lines, one crew's, or both. */
export type RunFilter = { readonly detail?: string; readonly crew?: Crew };

/** The lines asked for, in their groups, with the numbers they have on the sheet. */
export const filterRunSheet = (groups: readonly RunGroup[], { detail, crew }: RunFilter): RunGroup[] =>
  groups
    .map((group) => ({
      ...group,
      lines: group.lines.filter(
        (line) => (detail === undefined || line.detail === detail) && (crew === undefined || crewOf(line) === crew),
      ),
    }))
    .filter(({ lines }) => lines.length > 0);

/** A hold point as the order it is. */
export const holdWords = (holdPoint: string): string => `Stop. Do not cover until seen: ${holdPoint}.`;

/**
 * Lines that may not be begun yet where hold points bar what follows, by their ids, each with the number of the stop that bars it: the first one before it, on its
 * slope or of the whole roof, that is not ticked off. A stop itself is barred only by those before it.
 */
export function barredLines(groups: readonly RunGroup[], done: ReadonlySet<string>): Map<string, number> {
  const barred = new Map<string, number>();
  const open: RunLine[] = [];
  for (const line of groups.flatMap(({ lines }) => lines)) {
    const stop = open.find(({ plane }) => plane === undefined || line.plane === undefined || plane === line.plane)?.whole;
    if (stop) barred.set(line.id, stop);
    if (line.holdPoint !== undefined && !done.has(line.id)) open.push(line);
  }
  return barred;
}

export const crewOf = ({ crew }: Step): Crew => crew ?? 'roofers';

/** Marks of everything the dry-in lays. */
export const dryInMarks = (groups: { readonly runSheet: readonly RunGroup[] }): ReadonlySet<string> =>
  new Set(
    groups.runSheet.flatMap(({ lines }) => lines.filter(({ stage }) => stage === 'dry-in').flatMap(({ pieces }) => pieces)),
  );
