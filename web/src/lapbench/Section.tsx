import { type Piece, ROLES } from '#core';
import { useEditing } from '../editor/context.ts';
import css from './Section.module.css';

type Props = {
  pieces: readonly Piece[];
  facet: string;
  x: number;
  centre: number;
  span: number;
  marked: string | undefined;
  onChoose: (mark: string) => void;
};

const SIZE = { width: 330, height: 470 };
const THICK = 17;
const DECK = 68;
const LINE = 13;

/** The stack along a line up the slope, the roof standing upright: layers from the deck outwards, much thicker than they are. */
export function Section({ pieces, facet, x, centre, span, marked, onChoose }: Props) {
  const { units } = useEditing();
  const [low, high] = [centre - span / 2, centre + span / 2];
  const cut = pieces.flatMap((piece, order) =>
    piece.covers
      .filter((cover) => cover.facet === facet)
      .flatMap(({ outline }) => {
        const xs = outline.map(([px]) => px);
        const ys = outline.map(([, py]) => py);
        const [y0, y1] = [Math.min(...ys), Math.max(...ys)];
        return Math.min(...xs) <= x && x <= Math.max(...xs) && y1 > low && y0 < high ? [{ piece, order, y0, y1 }] : [];
      }),
  );
  const lines = [...new Set(cut.flatMap(({ y0, y1 }) => [y0, y1]))].sort((a, b) => a - b);
  const up = (y: number): number => SIZE.height - ((y - low) / span) * SIZE.height;
  const levels = cut.map(({ piece, order, y0, y1 }) => {
    const stretches = lines.slice(0, -1).flatMap((from, i) => {
      const to = lines[i + 1]!;
      if (from < y0 - 0.01 || to > y1 + 0.01) return [];
      const below = cut.filter((other) => other.order < order && other.y0 <= from + 0.01 && other.y1 >= to - 0.01).length;
      return [{ from, to, left: DECK + below * THICK }];
    });
    return { piece, stretches, y0, y1 };
  });
  const far = DECK + 8 * THICK + 14;
  const named = levels
    .flatMap(({ piece, stretches, y0, y1 }) => {
      const outer = stretches.at(-1);
      return outer ? [{ piece, left: outer.left, middle: up((Math.max(y0, low) + Math.min(y1, high)) / 2) }] : [];
    })
    .sort((a, b) => a.middle - b.middle)
    // a piece of which parts lie elsewhere in the stack is named once
    .filter(({ piece }, i, all) => all.findIndex((other) => other.piece.mark === piece.mark) === i);
  // from the top down, each label at least a line below the one before it
  const labels = named
    .reduce<{ piece: Piece; left: number; at: { middle: number; label: number } }[]>((all, { piece, left, middle }) => {
      const label = Math.max((all.at(-1)?.at.label ?? -LINE) + LINE, LINE, middle + 4);
      return [...all, { piece, left, at: { middle, label } }];
    }, [])
    .filter(({ at }) => at.label <= SIZE.height);
  return (
    <figure className={css.figure}>
      <svg
        viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
        role="img"
        aria-label={`Section through the stack, ${units.length(low)} to ${units.length(high)} up the slope`}
      >
        <rect x={DECK - 16} y={up(high)} width={16} height={up(Math.max(low, 0)) - up(high)} className="deck" />
        {levels.map(({ piece, stretches, y0 }) => (
          <g
            key={`${piece.mark} ${y0}`}
            className={`${css.sectionPiece} ${piece.role} ${piece.mark === marked ? 'on' : ''}`}
            onClick={() => onChoose(piece.mark)}
          >
            {stretches.map(({ from, to, left }) => (
              <rect
                key={from}
                x={left + 1}
                y={up(to)}
                width={THICK - 3}
                height={Math.max(1, up(from) - up(to))}
                className={`piece ${piece.role}`}
              />
            ))}
          </g>
        ))}
        {labels.map(({ piece, left, at }) => (
          <g key={piece.mark} className={`${css.sectionLabel} ${piece.mark === marked ? 'on' : ''}`}>
            <line x1={left + THICK - 4} y1={at.middle} x2={far - 3} y2={at.label - 4} />
            <text x={far} y={at.label}>
              {piece.mark} {piece.role === 'course' ? '' : ROLES[piece.role].name}
            </text>
          </g>
        ))}
        <text x={2} y={12} className={css.sectionScale}>
          {units.length(high)}
        </text>
        <text x={2} y={SIZE.height - 4} className={css.sectionScale}>
          {units.length(Math.max(low, 0))}
        </text>
      </svg>
      <figcaption className="quiet small">
        Section along the dashed line: deck on the left, layers outwards, thickness exaggerated.
      </figcaption>
    </figure>
  );
}
