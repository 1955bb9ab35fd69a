import { NOISE, type Piece, type Section, type SectionLayer, type SectionSurface } from '#core';

/** Pixels a layer is drawn thick, what it lies on, between two numbers, and beside the drawing. */
export const LAYER = 7;
export const GROUND = 9;
const BETWEEN = 15;
/** Rows of numbers stand so far over each other. */
const ROW = 12;
const MARGIN = 26;

/** How large a section is drawn so wide: pixels to a millimetre, its height, and what comes to its left and upper edges. */
function fit({ surfaces }: Section, width: number, rows: number): { scale: number; height: number; left: number; top: number } {
  const ends = surfaces.flatMap(({ start, run, shown }) =>
    shown.map((along) => [start[0] + run[0] * along, start[1] + run[1] * along] as const),
  );
  const xs = ends.map(([x]) => x);
  const ys = ends.map(([, y]) => y);
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const deepest =
    Math.max(0, ...surfaces.flatMap(({ layers }) => layers.map(({ level }) => level + 1))) * LAYER + 24 + (rows - 1) * ROW;
  // the numbers stand square off a surface that leans: to its side of the drawing, more than straight up
  const leans = surfaces.filter(({ kind }) => kind === 'slope').map(({ run, outward }) => -run[1] * outward * deepest);
  const leftMargin = Math.max(MARGIN, ...leans.map((lean) => -lean));
  const rightMargin = Math.max(MARGIN, ...leans);
  const scale = (width - leftMargin - rightMargin) / (x1 - x0);
  const height = Math.ceil((y1 - y0) * scale + deepest + GROUND + 14);
  return { scale, height, left: x0 - leftMargin / scale, top: y1 + deepest / scale };
}

/** The layers of each piece. */
export function byMark(layers: readonly SectionLayer[]): [string, SectionLayer[]][] {
  const found = new Map<string, SectionLayer[]>();
  for (const layer of layers) found.set(layer.mark, [...(found.get(layer.mark) ?? []), layer]);
  return [...found];
}

/** A number and the place on its layer it is of, and where along the surface, in which row and how far off it (pixels) it stands. */
export type Numbered = {
  surface: SectionSurface;
  number: number;
  mark: string;
  along: number;
  level: number;
  at: number;
  row: number;
  off: number;
};

/** All that is cut but the courses over and under which nothing of the detail lies. */
export function touching({ surfaces, marks }: Section, detail: string, pieces: ReadonlyMap<string, Piece>): Set<string> {
  const isOwn = (mark: string): boolean => pieces.get(mark)!.detail === detail && pieces.get(mark)!.role !== 'wallMembrane';
  const near = surfaces.flatMap(({ layers }) => {
    const own = layers.filter(({ mark }) => isOwn(mark));
    return layers.filter(({ from, to }) => own.some((other) => other.from < to && other.to > from)).map(({ mark }) => mark);
  });
  return new Set(marks.filter((mark) => pieces.get(mark)!.role !== 'course' || near.includes(mark)));
}

/** A number for each piece, above the middle of where it shows most, side by side where there is room, else in rows by turns. */
function numbersOf({ surfaces }: Section, scale: number, worthIt: ReadonlySet<string>): Numbered[] {
  const told = new Set<string>();
  return surfaces.flatMap((surface) => {
    const top = Math.max(0, ...surface.layers.map(({ level }) => level + 1));
    const wanted = byMark(surface.layers).flatMap(([mark, layers]) => {
      if (told.has(mark) || !worthIt.has(mark)) return [];
      told.add(mark);
      const open = layers.filter(
        ({ from, to, level }) => !surface.layers.some((other) => other.level > level && other.from < to && other.to > from),
      );
      const shown = open.length > 0 ? open : layers;
      const { from, to, level, number } = shown.reduce((most, one) => (one.to - one.from > most.to - most.from ? one : most));
      return [{ number, mark, along: (from + to) / 2, level }];
    });
    const apart = BETWEEN / scale;
    return clearOfWalls(surface, surfaces, scale).flatMap(([start, end], i, all) => {
      // what lies nearest to this stretch
      const own = wanted.filter(({ along }) =>
        all.every((other, j) => j === i || distance(along, [start, end]) < distance(along, other)),
      );
      const step = own.length > 1 ? Math.min(apart, (end - start) / (own.length - 1)) : apart;
      let last = start - step;
      const placed = own
        .sort((a, b) => a.along - b.along)
        .map((one) => {
          last = Math.max(one.along, last + step);
          return { ...one, at: last };
        });
      // what ran past the end is moved back
      let most = end;
      const back = placed.toReversed().map((one) => {
        const at = Math.min(one.at, most);
        most = at - step;
        return { ...one, at };
      });
      const rows = Math.ceil(apart / step - NOISE);
      return back.map((one, nth) => ({ ...one, surface, row: nth % rows, off: top * LAYER + 10 + (nth % rows) * ROW }));
    });
  });
}

/** A section laid out so wide: its scale, its height, what comes to its left and upper edges, and its numbers, with room for as many rows as they take. */
export function layOut(
  section: Section,
  width: number,
  worthIt: ReadonlySet<string>,
): ReturnType<typeof fit> & { numbers: Numbered[] } {
  let rows = 1;
  for (;;) {
    const fitted = fit(section, width, rows);
    const numbers = numbersOf(section, fitted.scale, worthIt);
    const needed = Math.max(1, ...numbers.map(({ row }) => row + 1));
    if (needed <= rows) return { ...fitted, numbers };
    rows = needed;
  }
}

const distance = (at: number, [from, to]: readonly [number, number]): number => Math.max(from - at, at - to, 0);

/** The stretches of a surface over which numbers may stand: beside a wall as far off it as its own layers and numbers take. */
function clearOfWalls(surface: SectionSurface, surfaces: readonly SectionSurface[], scale: number): [number, number][] {
  if (surface.kind === 'wall') return [[surface.shown[0], surface.shown[1]]];
  const [starts, ends] = [[surface.shown[0]], [surface.shown[1]]];
  let highest = surface.shown[0];
  for (const { kind, start, run, outward, layers } of surfaces) {
    if (kind !== 'wall') continue;
    const at = (start[0] - surface.start[0]) * surface.run[0] + (start[1] - surface.start[1]) * surface.run[1];
    const clear = (Math.max(0, ...layers.map(({ level }) => level + 1)) * LAYER + 26) / scale;
    if (run[1] * outward > 0) ends.push(at - clear);
    else starts.push(at + clear);
    highest = Math.max(highest, at);
  }
  // beyond a dormer the roof goes on where it comes to its end
  const beyond = surface.layers.map(({ from }) => from).filter((from) => from > highest);
  if (ends.length > starts.length && beyond.length > 0) starts.push(Math.min(...beyond));
  // a single wall at an end of the roof bounds it on that side alone
  starts.sort((a, b) => a - b);
  ends.sort((a, b) => a - b);
  if (starts.length > ends.length) starts.shift();
  if (ends.length > starts.length) ends.pop();
  return starts.map((from, i) => [from, ends[i]!]);
}
