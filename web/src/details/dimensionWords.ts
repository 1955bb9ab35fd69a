import type { Dimension } from '#core';

type At = readonly [number, number];
export type Place = (at: At) => At;

/** Pixels from one line of words to the next, and about how wide a letter is. */
export const LINE = 14;
const LETTER = 6.4;

/** A dimension on a drawing: what it is measured from, its line, and where its words stand. */
type Drawn = {
  readonly dimension: Dimension;
  readonly words: string;
  readonly ends: readonly [At, At];
  readonly line: readonly [At, At];
  readonly x: number;
  readonly y: number;
  readonly anchor: 'start' | 'middle' | 'end';
};

export function drawn(dimension: Dimension, length: string, place: Place, away: number): Drawn {
  const { what, from, to, off } = dimension;
  const [ax, ay] = place(from);
  const [bx, by] = place(to);
  // which way it stands off on the drawing: a mirrored face turns it round
  const [ox, oy] = place([from[0] + off[0], from[1] + off[1]]);
  const far = Math.hypot(ox - ax, oy - ay);
  const [dx, dy] = far > 0 ? [((ox - ax) / far) * away, ((oy - ay) / far) * away] : [0, 0];
  const [x1, y1, x2, y2] = [ax + dx, ay + dy, bx + dx, by + dy];
  const isUpright = Math.abs(y2 - y1) > Math.abs(x2 - x1);
  // beside an upright line the words stand on its far side, over or under a level one
  const [x, y, anchor] = isUpright
    ? [dx < 0 ? Math.min(x1, x2) - 7 : Math.max(x1, x2) + 7, (y1 + y2) / 2 + 4, dx < 0 ? ('end' as const) : ('start' as const)]
    : [(x1 + x2) / 2, dy < 0 ? Math.min(y1, y2) - 5 : Math.max(y1, y2) + LINE, 'middle' as const];
  return { dimension, words: `${length} ${what}`, ends: [[ax, ay], [bx, by]], line: [[x1, y1], [x2, y2]], x, y, anchor }; // prettier-ignore
}

export const spanOf = ({ x, anchor, words }: Drawn): [number, number] => {
  const width = words.length * LETTER;
  return anchor === 'start' ? [x, x + width] : anchor === 'end' ? [x - width, x] : [x - width / 2, x + width / 2];
};

/** Words that would lie on others go to the next line above them. */
export function apart(all: readonly Drawn[]): Drawn[] {
  const placed: Drawn[] = [];
  for (const one of all.toSorted((p, q) => q.y - p.y)) {
    const [from, to] = spanOf(one);
    const over = placed.filter((other) => {
      const [low, high] = spanOf(other);
      return low < to && high > from;
    });
    let { y } = one;
    while (over.some((other) => Math.abs(other.y - y) < LINE - 0.5)) y -= 1;
    placed.push({ ...one, y });
  }
  return placed;
}
