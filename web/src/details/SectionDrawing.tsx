import { type Piece, type Plan, ROLES, type Section, type SectionLayer, type SectionSurface } from '#core';
import { GROUND, LAYER, byMark, layOut, touching } from './sectionLayout.ts';
import css from './SectionDrawing.module.css';

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
  const { scale, height, left, top, numbers } = layOut(section, width, touching(section, detail, pieces));
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
      {numbers.map(({ surface, number, mark, along, level, at, off }) => {
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

type Place = (surface: SectionSurface, along: number, off: number) => [number, number];

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
