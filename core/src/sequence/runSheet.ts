import type { Assembly, Step } from '../assembly/index.ts';
import { type CourseLayout, buttLine } from '../covering/index.ts';

/** A numbered line of the run sheet. */
export type RunLine = Step & { readonly line: number };

/** Lines that belong together: a dry-in stage, one course, or the finish. `y` is the butt line of a course. */
export type RunGroup = {
  readonly id: string;
  readonly title: string;
  readonly course?: number;
  readonly y?: number;
  readonly lines: readonly RunLine[];
};

/**
 * The run sheet: the steps in their order of laying, numbered, gathered under the stage or the course they belong to.
 * The starter and what goes on it are course 0.
 */
export function writeRunSheet(assembly: Assembly, layout: CourseLayout): RunGroup[] {
  const groups: { id: string; title: string; course?: number; y?: number; lines: RunLine[] }[] = [];
  assembly.steps.forEach((step, i) => {
    const id = step.course === undefined ? step.stage : `course-${step.course}`;
    let group = groups.at(-1);
    if (group?.id !== id) {
      const course = step.course === undefined ? {} : { course: step.course, y: buttLine(layout, Math.max(1, step.course)) };
      group = { id, title: titleOf(step), ...course, lines: [] };
      groups.push(group);
    }
    group.lines.push({ ...step, line: i + 1 });
  });
  return groups;
}

function titleOf(step: Step): string {
  if (step.course !== undefined) return step.course === 0 ? 'Starter' : `Course ${step.course}`;
  return step.stage === 'dry-in' ? 'Dry-in' : 'Finish';
}

/** Marks of everything the dry-in lays. */
export const dryInMarks = ({ runSheet }: { readonly runSheet: readonly RunGroup[] }): ReadonlySet<string> =>
  new Set(runSheet.flatMap(({ lines }) => lines.filter(({ stage }) => stage === 'dry-in').flatMap(({ pieces }) => pieces)));
