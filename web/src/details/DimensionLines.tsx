import type { Dimension } from '#core';
import css from './DimensionLines.module.css';
import { type Lettered, type Place, apart, drawn, within } from './dimensionWords.ts';

/** Pixels a dimension's line stands off from what it measures. */
const STANDS_OFF = 15;

type Props = {
  dimensions: readonly Dimension[];
  lengthOf: (one: Dimension) => string;
  place: Place;
  away?: number;
  lettered?: readonly Lettered[];
  width?: number;
};

/** Dimensions: a line beside what each measures, ticks at its ends, the figure and what it is. `away`: pixels the lines stand off; `lettered`: what is written there besides; `width`: of the drawing. */
export function DimensionLines({
  dimensions,
  lengthOf,
  place,
  away = STANDS_OFF,
  lettered = [],
  width = Number.POSITIVE_INFINITY,
}: Props) {
  const all = dimensions.map((one) => within(drawn(one, lengthOf(one), place, away), width));
  return apart(all, lettered).map(({ dimension, words, ends, line: [[x1, y1], [x2, y2]], x, y, anchor }) => {
    const long = Math.hypot(x2 - x1, y2 - y1);
    const [ux, uy] = long > 0 ? [(x2 - x1) / long, (y2 - y1) / long] : [1, 0];
    const tick = (tx: number, ty: number): string =>
      `M${tx - uy * 4 - ux * 3} ${ty + ux * 4 - uy * 3}L${tx + uy * 4 + ux * 3} ${ty - ux * 4 + uy * 3}`;
    return (
      <g key={`${dimension.piece} ${dimension.what}`} className={css.dimension} data-mark={dimension.piece}>
        <path d={`M${ends[0].join(' ')}L${x1} ${y1}M${ends[1].join(' ')}L${x2} ${y2}`} className={css.extension} />
        <path d={`M${x1} ${y1}L${x2} ${y2}${tick(x1, y1)}${tick(x2, y2)}`} />
        <text className="letters" x={x} y={y} textAnchor={anchor}>
          {words}
        </text>
      </g>
    );
  });
}
