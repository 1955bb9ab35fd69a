import { type Lines, type Plan, type PlanePlan, ROLES, type RunLine, buttLine, lastCourseAtOrBelow } from '#core';
import { FOOT, HEAD, type Viewport, fromY, toY } from './viewport.ts';

/** Height of a notch for a line that has no course: dry-in below the eave, finish above the ridge. */
const NOTCH = 14;
const GAP = 12;

export type Notch = { readonly line: RunLine; readonly y: number; readonly height: number };

/** A line that brings nothing takes half the room of one that does. */
const weightOf = ({ pieces }: RunLine): number => (pieces.length > 0 ? 1 : 0.5);

/** Notches one over the other from a height up, in the room there is. */
function stacked(lines: readonly RunLine[], from: number, room: number): Notch[] {
  const all = lines.reduce((sum, line) => sum + weightOf(line), 0);
  const unit = Math.min(NOTCH, room / Math.max(1, all));
  let top = from;
  return lines.map((line) => {
    const height = unit * weightOf(line);
    top -= height;
    return { line, y: top + height / 2, height };
  });
}

/** Screen heights of the dry-in and finish notches; `height` is the drawing's: what it leaves free below the eave and above the top is theirs. */
export function notches(view: Viewport, height: number, plane: PlanePlan, lines: readonly RunLine[]): Notch[] {
  const eave = toY(view, plane.lines.first) + GAP;
  const ridge = toY(view, plane.lines.end) - GAP;
  const dry = lines.filter(({ course, stage }) => course === undefined && stage === 'dry-in');
  const finish = lines.filter(({ course, stage }) => course === undefined && stage !== 'dry-in');
  const below = Math.max(FOOT - GAP - 8, height - eave - 8);
  const above = Math.max(HEAD - 14, ridge - 4);
  const foot = stacked(dry, 0, below);
  // they end right below the eave
  const tall = foot.reduce((sum, one) => sum + one.height, 0);
  return [...foot.map((one) => ({ ...one, y: one.y + eave + tall })), ...stacked(finish, ridge, above)];
}

/** Notches that bring the same kind of thing one after another, under one name: `underlayment, 3`. */
export type NotchGroup = { readonly rows: readonly string[]; readonly y: number; readonly laidAt: number };

/** So many letters have room beside the pole; what is longer stands in two rows. */
const LETTERS_IN_ROW = 19;
const inRows = (name: string): string[] => {
  const blank = name.indexOf(' ');
  return name.length > LETTERS_IN_ROW && blank > 0 ? [name.slice(0, blank), name.slice(blank + 1)] : [name];
};

/** The names beside the notches: what they bring and how many of it, lines alike taken together; those that would run into the one before are left out. */
export function notchGroups(marks: readonly Notch[], pieces: Plan['pieces']): NotchGroup[] {
  const roleOf = new Map(pieces.map(({ mark, role }) => [mark, ROLES[role].name]));
  const groups: { what: string; count: number; marks: Notch[] }[] = [];
  for (const mark of marks) {
    const { line } = mark;
    const what = roleOf.get(line.pieces[0] ?? '');
    // what brings nothing needs no name, and leaves the room to what does
    if (what === undefined) continue;
    const last = groups.at(-1);
    const follows = last?.what === what && last.marks[0]!.line.stage === line.stage;
    const group = follows ? last : { what, count: 0, marks: [] };
    if (!follows) groups.push(group);
    group.count += line.pieces.length;
    group.marks.push(mark);
  }
  // where names would touch, what brings more keeps its own
  const placed: (NotchGroup & { readonly i: number })[] = [];
  groups
    .map((group, i) => ({ ...group, i }))
    .sort((a, b) => b.count - a.count || a.i - b.i)
    .forEach(({ what, count, marks: own, i }) => {
      const y = (own[0]!.y + own.at(-1)!.y) / 2;
      const rows = inRows(count > 1 ? `${what}, ${count}` : what);
      if (placed.some((other) => Math.abs(other.y - y) < (LETTER * (other.rows.length + rows.length)) / 2)) return;
      placed.push({ i, rows, y, laidAt: own.at(-1)!.line.line });
    });
  return placed.sort((a, b) => a.i - b.i).map(({ rows, y, laidAt }) => ({ rows, y, laidAt }));
}

/** Names nearer to each other than this would touch, and so far one row is from the next. */
export const LETTER = 12;

/** Screen height of the marker when `marker` lines are laid. */
export function markerHeight(
  view: Viewport,
  height: number,
  plane: PlanePlan,
  lines: readonly RunLine[],
  marker: number,
): number {
  const { lines: layout } = plane;
  const line = lines[marker - 1];
  const marks = notches(view, height, plane, lines);
  if (!line) return (marks.find(({ line: { line: number } }) => number === 1)?.y ?? toY(view, 0)) + NOTCH / 2 + 4;
  if (line.course === undefined) {
    const notch = marks.find((candidate) => candidate.line.line === line.line);
    return (notch?.y ?? 0) - (notch?.height ?? 0) / 2;
  }
  if (line.course === 0) return toY(view, layout.first) + 3;
  // a course that is down reaches its next butt line; a step waits at its own
  const isDown = lines
    .slice(0, marker)
    .some(({ course, detail, pieces }) => course === line.course && detail === 'covering' && pieces.length > 0);
  const laid = isDown ? buttLine(layout, line.course + 1) : buttLine(layout, line.course);
  return toY(view, Math.min(laid, layout.end));
}

/** How many lines are laid when the marker is dragged to a screen height. */
export function markerAt(view: Viewport, height: number, plane: PlanePlan, lines: readonly RunLine[], py: number): number {
  const { lines: layout } = plane;
  const y = fromY(view, py);
  if (y < layout.first || y > layout.end) {
    const marks = notches(view, height, plane, lines);
    const below = y < 0;
    const beyond = marks.filter(
      (notch) => (below ? notch.line.stage === 'dry-in' : notch.line.stage !== 'dry-in') && notch.y + notch.height / 2 >= py,
    );
    if (below) return beyond.length > 0 ? Math.max(...beyond.map(({ line }) => line.line)) : 0;
    const finish = Math.max(...beyond.map(({ line }) => line.line), 0);
    return finish || lastLineOfCourse(lines, plane.lines.count);
  }
  return lastLineOfCourse(lines, courseNear(layout, y));
}

/** The course that is complete when the marker is dragged to a height: the one whose upper line is nearest. */
function courseNear(layout: Lines, y: number): number {
  const course = lastCourseAtOrBelow(layout, y);
  const isDone = y > (buttLine(layout, course) + buttLine(layout, course + 1)) / 2;
  return Math.max(1, Math.min(layout.count, isDone ? course : course - 1));
}

/** Lines laid when a course is complete. */
export function lastLineOfCourse(lines: readonly RunLine[], course: number): number {
  let last = 0;
  for (const line of lines) if (line.course !== undefined ? line.course <= course : line.stage === 'dry-in') last = line.line;
  return last;
}
