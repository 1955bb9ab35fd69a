import { type PlanePlan, buttLine } from '#core';

/** A mark on a rod: the number of its course, and how far up the slope it is, millimetres. */
export type RodMark = { readonly n: number; readonly at: number };

/** One sheet of a rod printed full size: the stretch up the slope it shows, and the marks on it. */
export type RodSection = { readonly from: number; readonly to: number; readonly marks: readonly RodMark[] };

/** What is set out with the rod: battens by their upper edges where there are any, else courses by their lower edges. */
export const rodOf = ({
  battens,
  lines,
}: Pick<PlanePlan, 'battens' | 'lines'>): { readonly what: 'Batten' | 'Course'; readonly marks: readonly RodMark[] } => ({
  what: battens ? 'Batten' : 'Course',
  marks: battens
    ? battens.map((at, i) => ({ n: i + 1, at }))
    : Array.from({ length: lines.count }, (_, i) => ({ n: i + 1, at: buttLine(lines, i + 1) })),
});

/** Sheets are joined on a stretch that two of them show. */
const JOIN = 20;

/**
 * A rod in sections no longer than `longest`, each showing the last 20 mm of the one before: from the deck's eave edge, or the lowest mark where that hangs over it,
 * up to the highest mark and a joint past it.
 */
export function rodSections(marks: readonly RodMark[], longest: number): RodSection[] {
  const ats = marks.map(({ at }) => at);
  const end = Math.max(...ats) + JOIN;
  const sections: RodSection[] = [];
  for (let from = Math.min(0, ...ats) - JOIN; sections.length === 0 || sections.at(-1)!.to < end; from += longest - JOIN) {
    const to = from + longest;
    sections.push({ from, to, marks: marks.filter(({ at }) => at >= from && at <= to) });
  }
  return sections;
}
