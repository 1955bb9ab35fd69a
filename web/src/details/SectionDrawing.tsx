import { type Piece, type Plan, ROLES, type Section, type SectionLayer, type SectionSurface } from '#core';
import css from './SectionDrawing.module.css';

/** Pixels a layer is drawn thick, what it lies on, and between two numbers. */
const LAYER = 7;
const GROUND = 9;
const BETWEEN = 15;
const MARGIN = 26;

type Props = {
  section: Section;
  plan: Plan;
  /** The detail it is cut through: courses that do not touch it are not numbered. */
  detail: string;
  width: number;
  onChoose?: (mark: string) => void;
};

/** A section to scale along every surface, its layers much thicker than they are, numbered in the order of laying. */
export function SectionDrawing({ section, plan, detail, width, onChoose }: Props) {
  const pieces = new Map(plan.pieces.map((piece) => [piece.mark, piece]));
  const { scale, height, left, top } = fit(section, width);
  const place = ({ start, run, outward }: SectionSurface, along: number, off: number): [number, number] => {
    // outward of the way it runs, on a chart whose second axis goes up
    const [nx, ny] = [-run[1] * outward, run[0] * outward];
    return [(start[0] + run[0] * along - left) * scale + nx * off, (top - start[1] - run[1] * along) * scale - ny * off];
  };
  const strip = (surface: SectionSurface, from: number, to: number, low: number, high: number): string =>
    `M${[place(surface, from, low), place(surface, to, low), place(surface, to, high), place(surface, from, high)].map((at) => at.map(round).join(' ')).join('L')}Z`;
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`Section ${section.title}: ${section.marks.length} pieces in the order of laying`}
      className={css.section}
    >
      {section.surfaces.map((surface) => (
        <g key={surface.facet}>
          {surface.ground.map(([from, to]) => (
            <path
              key={from}
              d={strip(surface, from, to, -GROUND, 0)}
              className={surface.kind === 'slope' ? css.deck : css.wall}
            />
          ))}
          {surface.pipes.map(([from, to]) => (
            <path key={from} d={pipe(surface, from, to, place)} className={css.pipe} />
          ))}
        </g>
      ))}
      {section.surfaces.map((surface) => (
        <g key={surface.facet}>
          {byMark(surface.layers).map(([mark, layers]) => (
            <path
              key={mark}
              d={layers
                .map((layer, i) => {
                  const next = layers[i + 1];
                  const own = strip(surface, layer.from, layer.to, layer.level * LAYER + 1, (layer.level + 1) * LAYER);
                  return (
                    own +
                    (next && next.from - layer.to < 0.01 ? joint(surface, layer, next, place) : '') +
                    (layer.letIn ? notch(surface, layer, place) : '')
                  );
                })
                .join('')}
              className={`piece ${pieces.get(mark)!.role}`}
              data-mark={mark}
              onClick={onChoose && (() => onChoose(mark))}
            >
              <title>{`${mark} ${ROLES[pieces.get(mark)!.role].name}`}</title>
            </path>
          ))}
        </g>
      ))}
      {numbersOf(section, scale, touching(section, detail, pieces)).map(({ surface, number, mark, along, level, at, off }) => {
        const [x1, y1] = place(surface, along, (level + 0.5) * LAYER);
        const [x2, y2] = place(surface, at, off - 5);
        const [x, y] = place(surface, at, off + 3);
        return (
          <g key={`${surface.facet} ${number}`} className={css.number}>
            <path d={`M${round(x1)} ${round(y1)}L${round(x2)} ${round(y2)}`} />
            <text x={round(x)} y={round(y) + 4} textAnchor="middle" data-mark={mark}>
              {number}
            </text>
          </g>
        );
      })}
    </svg>
  );
}

/** What the numbers of a section stand for: alike one after another in one entry. */
export function legendOf(
  { marks }: Section,
  pieces: ReadonlyMap<string, Piece>,
): { numbers: string; words: string; marks: string }[] {
  const entries: { from: number; to: number; name: string; marks: string[] }[] = [];
  marks.forEach((mark, i) => {
    const { role } = pieces.get(mark)!;
    const last = entries.at(-1);
    if (last && last.name === ROLES[role].name && role === 'course') {
      last.to = i + 1;
      last.marks.push(mark);
    } else entries.push({ from: i + 1, to: i + 1, name: ROLES[role].name, marks: [mark] });
  });
  return entries.map(({ from, to, name, marks: all }) => ({
    numbers: from === to ? String(from) : `${from}–${to}`,
    words: all.length === 1 ? `${name} ${all[0]}` : `${name}s ${all[0]} to ${all.at(-1)}`,
    marks: all.join(' '),
  }));
}

const round = (value: number): number => Math.round(value * 10) / 10;

function fit({ surfaces }: Section, width: number): { scale: number; height: number; left: number; top: number } {
  const ends = surfaces.flatMap(({ start, run, shown }) =>
    shown.map((along) => [start[0] + run[0] * along, start[1] + run[1] * along] as const),
  );
  const xs = ends.map(([x]) => x);
  const ys = ends.map(([, y]) => y);
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const deepest = Math.max(0, ...surfaces.flatMap(({ layers }) => layers.map(({ level }) => level + 1))) * LAYER + 24;
  // the numbers stand square off a surface that leans: to its side of the drawing, more than straight up
  const leans = surfaces.filter(({ kind }) => kind === 'slope').map(({ run, outward }) => -run[1] * outward * deepest);
  const leftMargin = Math.max(MARGIN, ...leans.map((lean) => -lean));
  const rightMargin = Math.max(MARGIN, ...leans);
  const scale = (width - leftMargin - rightMargin) / (x1 - x0);
  const height = Math.ceil((y1 - y0) * scale + deepest + GROUND + 14);
  return { scale, height, left: x0 - leftMargin / scale, top: y1 + deepest / scale };
}

type Place = (surface: SectionSurface, along: number, off: number) => [number, number];

function byMark(layers: readonly SectionLayer[]): [string, SectionLayer[]][] {
  const found = new Map<string, SectionLayer[]>();
  for (const layer of layers) found.set(layer.mark, [...(found.get(layer.mark) ?? []), layer]);
  return [...found];
}

/** Where a layer goes up over the end of what lies under it, or down beyond it. */
function joint(surface: SectionSurface, a: SectionLayer, b: SectionLayer, place: Place): string {
  const [low, high] = a.level < b.level ? [a.level, b.level] : [b.level, a.level];
  const at = [place(surface, a.to, low * LAYER + 1), place(surface, a.to, (high + 1) * LAYER)] as const;
  return `M${at.map((one) => one.map(round).join(' ')).join('L')}`;
}

/** What is let in goes into the wall at its upper edge. */
function notch(surface: SectionSurface, { to, level }: SectionLayer, place: Place): string {
  return `M${[place(surface, to, (level + 1) * LAYER), place(surface, to, -GROUND)].map((one) => one.map(round).join(' ')).join('L')}`;
}

/** A pipe stands plumb in its hole. */
function pipe(surface: SectionSurface, from: number, to: number, place: Place): string {
  const [ax, ay] = place(surface, from, -GROUND);
  const [bx, by] = place(surface, to, -GROUND);
  const top = Math.min(ay, by) - 70;
  return `M${round(ax)} ${round(ay)}V${round(top)}M${round(bx)} ${round(by)}V${round(top)}`;
}

type Numbered = { surface: SectionSurface; number: number; mark: string; along: number; level: number; at: number; off: number };

/** All that is cut but the courses over and under which nothing of the detail lies. */
function touching({ surfaces, marks }: Section, detail: string, pieces: ReadonlyMap<string, Piece>): Set<string> {
  const isOwn = (mark: string): boolean => pieces.get(mark)!.detail === detail && pieces.get(mark)!.role !== 'wallMembrane';
  const near = surfaces.flatMap(({ layers }) => {
    const own = layers.filter(({ mark }) => isOwn(mark));
    return layers.filter(({ from, to }) => own.some((other) => other.from < to && other.to > from)).map(({ mark }) => mark);
  });
  return new Set(marks.filter((mark) => pieces.get(mark)!.role !== 'course' || near.includes(mark)));
}

/** A number for each piece, above the middle of where it shows most, side by side where there is room. */
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
          return { ...one, surface, at: last, off: top * LAYER + 10 };
        });
      // what ran past the end is moved back
      let most = end;
      return placed.toReversed().map((one) => {
        const at = Math.min(one.at, most);
        most = at - step;
        return { ...one, at };
      });
    });
  });
}

const distance = (at: number, [from, to]: readonly [number, number]): number => Math.max(from - at, at - to, 0);

/** The stretches of a surface over which numbers may stand: beside a wall as far off it as its own layers and numbers take. */
function clearOfWalls(surface: SectionSurface, surfaces: readonly SectionSurface[], scale: number): [number, number][] {
  if (surface.kind === 'wall') return [[surface.shown[0], surface.shown[1]]];
  const [starts, ends] = [[surface.shown[0]], [surface.shown[1]]];
  for (const { kind, start, run, outward, layers } of surfaces) {
    if (kind !== 'wall') continue;
    const at = (start[0] - surface.start[0]) * surface.run[0] + (start[1] - surface.start[1]) * surface.run[1];
    const clear = (Math.max(0, ...layers.map(({ level }) => level + 1)) * LAYER + 26) / scale;
    if (run[1] * outward > 0) ends.push(at - clear);
    else starts.push(at + clear);
  }
  // a single wall at an end of the roof bounds it on that side alone
  starts.sort((a, b) => a - b);
  ends.sort((a, b) => a - b);
  if (starts.length > ends.length) starts.shift();
  if (ends.length > starts.length) ends.pop();
  return starts.map((from, i) => [from, ends[i]!]);
}
