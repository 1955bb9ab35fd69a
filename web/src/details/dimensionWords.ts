import type { Dimension } from '#core';

type At = readonly [number, number];
export type Place = (at: At) => At;

/** Pixels from one line of words to the next, and about how wide a letter is. */
export const LINE = 14;
const LETTER = 6.4;
/** Pixels a line that is shorter than its words stands off: past the edge it runs along, and short of what is lettered beside that. */
const JUST_OFF = 4;

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
  const words = `${length} ${what}`;
  const [ax, ay] = place(from);
  const [bx, by] = place(to);
  const isUpright = Math.abs(by - ay) > Math.abs(bx - ax);
  // which way it stands off on the drawing: a mirrored face turns it round
  const [ox, oy] = place([from[0] + off[0], from[1] + off[1]]);
  const far = Math.hypot(ox - ax, oy - ay);
  // what stands off upwards has bare wall or roof over it
  const isShort = !isUpright && oy >= ay && Math.abs(bx - ax) <= words.length * LETTER;
  const stands = isShort ? Math.min(away, JUST_OFF) : away;
  const [dx, dy] = far > 0 ? [((ox - ax) / far) * stands, ((oy - ay) / far) * stands] : [0, 0];
  const [x1, y1, x2, y2] = [ax + dx, ay + dy, bx + dx, by + dy];
  const beside = (x: number, y: number, toRight: boolean): Pick<Drawn, 'x' | 'y' | 'anchor'> =>
    toRight ? { x: x + 7, y: y + 4, anchor: 'start' } : { x: x - 7, y: y + 4, anchor: 'end' };
  // beside an upright line the words stand on its far side, over or under a level one; under one shorter than they are they would hide what it
  // measures: they stand past its end, those of a gap before its beginning
  const where = isUpright
    ? beside(dx < 0 ? Math.min(x1, x2) : Math.max(x1, x2), (y1 + y2) / 2, dx >= 0)
    : !isShort
      ? { x: (x1 + x2) / 2, y: dy < 0 ? Math.min(y1, y2) - 5 : Math.max(y1, y2) + LINE, anchor: 'middle' as const }
      : far > 0
        ? beside(x2, y2, x2 >= x1)
        : beside(x1, y1, x2 < x1);
  return { dimension, words, ends: [[ax, ay], [bx, by]], line: [[x1, y1], [x2, y2]], ...where }; // prettier-ignore
}

export const spanOf = ({ x, anchor, words }: Pick<Drawn, 'x' | 'anchor' | 'words'>): [number, number] => {
  const width = words.length * LETTER;
  return anchor === 'start' ? [x, x + width] : anchor === 'end' ? [x - width, x] : [x - width / 2, x + width / 2];
};

/** Words that would run off the drawing are moved in as far as it takes. */
export function within(one: Drawn, width: number): Drawn {
  const [from, to] = spanOf(one);
  return { ...one, x: one.x + Math.max(0, EDGE - from) - Math.max(0, to - (width - EDGE)) };
}

/** Pixels words keep from the drawing's edge. */
const EDGE = 4;

/** What is lettered on a drawing besides, about its middle. */
export type Lettered = Pick<Drawn, 'words' | 'x' | 'y'>;

/** Words that would lie on others, or on what is lettered there, go to the next line above them. */
export function apart(all: readonly Drawn[], lettered: readonly Lettered[] = []): Drawn[] {
  const placed: Drawn[] = [];
  const stands = lettered.map((one) => ({ ...one, anchor: 'middle' as const }));
  for (const one of all.toSorted((p, q) => q.y - p.y)) {
    const [from, to] = spanOf(one);
    const over = [...stands, ...placed].filter((other) => {
      const [low, high] = spanOf(other);
      return low < to && high > from;
    });
    let { y } = one;
    while (over.some((other) => Math.abs(other.y - y) < LINE - 0.5)) y -= 1;
    placed.push({ ...one, y });
  }
  return placed;
}
