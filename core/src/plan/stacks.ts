import type { Words } from '../assembly/index.ts';
import type { Span } from '../roof/index.ts';
import { type LockedColumns, columnSpan, columnsWithin } from '../surface/index.ts';

/** What of one course comes off; of tiles in columns which, by their numbers from the slope's left end, else none. */
export type Strip = { readonly course: number; readonly columns: readonly number[] };

/** More strips would not be read at a glance. */
const STRIPS_A_LINE = 4;

/**
 * Numbers of the tiles of a course that come off over some stretches of it: each comes off whole, however little of it is in the way. What is left at an end of the
 * course under half a tile is cut from one piece with the tile beside it.
 */
export function columnsTaken(columns: LockedColumns, course: number, whole: readonly Span[], taken: readonly Span[]): number[] {
  const ends = [Math.min(...whole.map(([from]) => from)), Math.max(...whole.map(([, to]) => to))] as const;
  const [first, last] = columnsWithin(columns, course, ends);
  const isPart = (number: number): boolean => {
    const [from, to] = columnSpan(columns, course, number);
    return Math.min(ends[1], to) - Math.max(ends[0], from) < columns.width / 2;
  };
  const own = (number: number): number =>
    Math.min(last - (isPart(last) ? 1 : 0), Math.max(first + (isPart(first) ? 1 : 0), number));
  const numbers = taken.flatMap((span) => {
    const [a, b] = columnsWithin(columns, course, span);
    return Array.from({ length: b - a + 1 }, (_, i) => own(a + i));
  });
  return [...new Set(numbers)].sort((a, b) => a - b);
}

/** Tiles go back where they lay: how each is numbered on its back, a stack for each strip, from the top down; strips alike are told together. */
export function stackLines(taken: readonly Strip[]): Words[] {
  const alike: [Strip, ...Strip[]][] = [];
  for (const strip of taken.filter(({ columns }) => columns.length > 0).toReversed()) {
    const group = alike.at(-1);
    if (group?.[0].columns.join() === strip.columns.join()) group.push(strip);
    else alike.push([strip]);
  }
  const told = alike.map(toldOf);
  return Array.from({ length: Math.ceil(told.length / STRIPS_A_LINE) }, (_, i) => {
    const begin =
      i === 0 ? 'Number each on its back, course and column from the left, and stack them by strip' : 'Stack beside them';
    return [`${begin}: ${told.slice(i * STRIPS_A_LINE, (i + 1) * STRIPS_A_LINE).join('; ')}.`];
  });
}

function toldOf(group: readonly [Strip, ...Strip[]]): string {
  const [{ course, columns }] = group;
  const [first, last] = [columns[0], columns.at(-1)];
  if (group.length === 1)
    return `${columns.length} of course ${course}, ${course}/${first}${last === first ? '' : ` to ${course}/${last}`}`;
  return `${columns.length} of each of courses ${course} to ${group.at(-1)!.course}, ${last === first ? `column ${first}` : `columns ${first} to ${last}`}`;
}
