import type { Bend, FlatPattern } from '#core';
import { useEditing } from '../editor/context.ts';
import { clear } from './flatNotes.ts';
import css from './FlatPatternDrawing.module.css';

const BOX = { width: 300, height: 190 };
/** Room round the pattern: for sizes at the left and below, for what is bent at the right. */
const ROOM = { left: 78, right: 72, top: 12, bottom: 52 };

/** About as wide as a size is, pixels. */
const SIZE = 46;

const isLevel = ({ from, to }: Bend): boolean => Math.abs(from[1] - to[1]) < 0.01;
const isUpright = ({ from, to }: Bend): boolean => Math.abs(from[0] - to[0]) < 0.01;

/** Places in order, each once. */
const apart = (places: readonly number[]): number[] =>
  places.toSorted((a, b) => a - b).filter((at, i, all) => i === 0 || at - all[i - 1]! > 1);

/** A piece as cut from flat sheet, to scale: outline, bend lines with direction and angle, from edge to bend to edge, and overall. */
export function FlatPatternDrawing({ flat: { outline, bends } }: { flat: FlatPattern }) {
  const { units } = useEditing();
  const xs = outline.map(([x]) => x);
  const ys = outline.map(([, y]) => y);
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const [width, height] = [BOX.width - ROOM.left - ROOM.right, BOX.height - ROOM.top - ROOM.bottom];
  const scale = Math.min(width / (x1 - x0), height / (y1 - y0));
  const [left, top] = [ROOM.left + (width - (x1 - x0) * scale) / 2, ROOM.top + (height - (y1 - y0) * scale) / 2];
  const px = (x: number): number => left + (x - x0) * scale;
  const py = (y: number): number => top + (y1 - y) * scale;
  const levels = apart([y0, ...bends.filter(isLevel).map(({ from }) => from[1]), y1]);
  const uprights = apart([x0, ...bends.filter(isUpright).map(({ from }) => from[0]), x1]);
  // beside the pattern where the line runs out of it to the right, or else along it
  const notes = clear(
    bends.map((bend) => {
      const [ax, ay, bx, by] = [px(bend.from[0]), py(bend.from[1]), px(bend.to[0]), py(bend.to[1])];
      return isLevel(bend)
        ? { bend, x: px(x1) + 6, y: ay + 4 }
        : { bend, x: (ax + bx) / 2 + 5, y: (ay + by) / 2 + (isUpright(bend) ? 0 : 14) };
    }),
  );
  return (
    <figure className={css.flat}>
      <svg
        viewBox={`0 0 ${BOX.width} ${BOX.height}`}
        role="img"
        aria-label={`Flat pattern ${units.cut(x1 - x0)} by ${units.cut(y1 - y0)}`}
      >
        <path d={`M${outline.map(([x, y]) => `${px(x)} ${py(y)}`).join('L')}Z`} className={css.sheet} />
        {bends.map(({ from, to }) => (
          <line
            key={`${from.join(' ')} ${to.join(' ')}`}
            x1={px(from[0])}
            y1={py(from[1])}
            x2={px(to[0])}
            y2={py(to[1])}
            className={css.bend}
          />
        ))}
        {notes.map(({ bend, x, y }) => (
          <text key={`${bend.from.join(' ')} ${bend.to.join(' ')}`} x={x} y={y} className={css.bendNote}>
            {bend.direction} {bend.degrees}°
          </text>
        ))}
        {spread(levels, (y) => -py(y)).map(({ from, to, at }) => (
          <Size
            key={from}
            d={`M${px(x0) - 4} ${py(from)}H${px(x0) - 12}V${py(to)}H${px(x0) - 4}`}
            x={px(x0) - 15}
            y={-at + 4}
            anchor="end"
          >
            {units.cut(to - from)}
          </Size>
        ))}
        {spread(uprights, px, SIZE, BOX.width - SIZE / 2).map(({ from, to, at }) => (
          <Size
            key={from}
            d={`M${px(from)} ${py(y0) + 4}V${py(y0) + 12}H${px(to)}V${py(y0) + 4}`}
            x={at}
            y={py(y0) + 24}
            anchor="middle"
          >
            {units.cut(to - from)}
          </Size>
        ))}
        {(levels.length > 2 || uprights.length > 2) && (
          <text x={px((x0 + x1) / 2)} y={py(y0) + 46} textAnchor="middle">
            {units.cut(x1 - x0)} × {units.cut(y1 - y0)} in all
          </text>
        )}
      </svg>
      <figcaption>Flat pattern, to scale</figcaption>
    </figure>
  );
}

/** What lies between places one after another, and where its size is written: no nearer to the one before than so many pixels, and not past the most. */
function spread(places: readonly number[], pixel: (at: number) => number, least = 13, most = Number.POSITIVE_INFINITY) {
  let last = Number.NEGATIVE_INFINITY;
  const all = places.slice(1).map((to, i) => {
    const from = places[i]!;
    last = Math.max((pixel(from) + pixel(to)) / 2, last + least);
    return { from, to, at: last };
  });
  return all.map((one) => ({ ...one, at: one.at - Math.max(0, last - most) }));
}

type SizeProps = { d: string; x: number; y: number; anchor: 'end' | 'middle'; children: string };

const Size = ({ d, x, y, anchor, children }: SizeProps) => (
  <g className={css.size}>
    <path d={d} />
    <text x={x} y={y} textAnchor={anchor}>
      {children}
    </text>
  </g>
);
