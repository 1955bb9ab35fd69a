import type { FigurePanel, Plan } from '#core';
import { useMemo } from 'react';
import { pathOf } from '../slope/develop.ts';
import css from './BuildUp.module.css';
import { TURNED_DOWN, folded, foldsOf } from './fold.ts';
import { type Frame, framesOf } from './frames.ts';

type Props = {
  panel: FigurePanel;
  plan: Plan;
  /** Width of one picture, pixels. */
  width: number;
  onLine?: (frame: Frame) => void;
};

/** A strip of small pictures in the order of laying: what is new drawn strong, what lies there already pale. */
export function BuildUp({ panel, plan, width, onLine }: Props) {
  const folds = useMemo(() => foldsOf(plan, panel), [plan, panel]);
  const window = useMemo(() => windowOf(plan, panel), [plan, panel]);
  const { x0, x1, y0, y1 } = window;
  const frames = useMemo(() => framesOf(plan, { ...panel, window }, folds), [plan, panel, window, folds]);
  const drawn = useMemo(
    () =>
      plan.pieces.flatMap((piece) => {
        const outlines = folded(folds, piece.covers).filter((outline) => {
          const xs = outline.map(([x]) => x);
          const ys = outline.map(([, y]) => y);
          return Math.max(...xs) > x0 && Math.min(...xs) < x1 && Math.max(...ys) > y0 && Math.min(...ys) < y1;
        });
        return outlines.length > 0 ? [{ piece, path: pathOf(outlines) }] : [];
      }),
    [plan, folds, x0, x1, y0, y1],
  );
  const order = useMemo(
    () =>
      new Map(
        plan.runSheet.flatMap(({ lines }) => lines.flatMap(({ pieces, whole }) => pieces.map((mark) => [mark, whole] as const))),
      ),
    [plan],
  );
  const height = Math.round(width * Math.max(LOWEST, (y1 - y0) / (x1 - x0)));
  const roof = plan.roof.find(({ id }) => id === panel.plane)!;
  return (
    <ol className={css.strip} aria-label="Built up in this order">
      {frames.map((frame, i) => {
        const fresh = new Set(frame.fresh.map(({ mark }) => mark));
        const done = frame.lines.at(-1)!.whole;
        const shown = drawn.filter(({ piece }) => (order.get(piece.mark) ?? 0) <= done);
        const title = `${i + 1}. ${frame.words}`;
        return (
          <li key={frame.lines[0]!.whole}>
            <button
              type="button"
              onClick={onLine && (() => onLine(frame))}
              disabled={!onLine}
              aria-label={`${title}, ${lineWords(frame)}`}
            >
              <svg
                width={width}
                height={height}
                viewBox={`${x0} ${-y1} ${x1 - x0} ${y1 - y0}`}
                aria-hidden
                preserveAspectRatio="xMidYMid slice"
              >
                <rect x={x0} y={-y1} width={x1 - x0} height={y1 - y0} className={css.ground} />
                <g transform="scale(1 -1)">
                  <path d={pathOf([roof.outline])} className={css.deck} />
                  {[false, true].map((isNew) => (
                    <g key={String(isNew)} className={isNew ? css.fresh : css.before}>
                      {shown
                        .filter(({ piece }) => fresh.has(piece.mark) === isNew)
                        .map(({ piece, path }) => (
                          <path key={piece.mark} d={path} className={`piece ${piece.role}`} data-mark={piece.mark} />
                        ))}
                    </g>
                  ))}
                </g>
              </svg>
              <span className={css.words}>
                <b className="fig">{i + 1}</b> {frame.words}
              </span>
              <span className={css.line}>{lineWords(frame)}</span>
            </button>
          </li>
        );
      })}
    </ol>
  );
}

/** Of a long wall the pictures show the middle: they are no lower than this share of their width. */
const LOWEST = 0.6;

/** What is drawn, with what is turned down from a wall along the top. */
function windowOf(plan: Plan, { window, plane, detail }: FigurePanel): FigurePanel['window'] {
  const heights = plan.joints.flatMap(({ kind, a, b, onA }) =>
    kind === 'front' && a === plane && plan.facets.find(({ id }) => id === b)?.detail === detail ? [onA[0][1] + TURNED_DOWN] : [],
  );
  return { ...window, y1: Math.max(window.y1, ...heights) };
}

const lineWords = ({ lines }: Frame): string =>
  lines.length === 1 ? `line ${lines[0]!.whole}` : `lines ${lines[0]!.whole} to ${lines.at(-1)!.whole}, one after another`;
