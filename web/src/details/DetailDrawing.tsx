import { type FigurePanel, ROLES, bounds, dimensionsOf, isSidePiece, lengthOf } from '#core';
import { useMemo } from 'react';
import { useEditing, usePlanned, useSlope, useView } from '../editor/context.ts';
import { developPlane, pathOf } from '../slope/develop.ts';
import { LaidPieces } from '../slope/LaidPieces.tsx';
import { useSize } from '../slope/viewport.ts';
import { DimensionLines } from './DimensionLines.tsx';
import css from './DetailDrawing.module.css';
import { folded, foldsOf, turnAcross } from './fold.ts';

/** Room beside a long detail for the words of its dimensions, pixels. */
const BESIDE = 84;

/** Pixels a step must be wide, and the courses high, for its number to stand on it. */
const NUMBERED = { width: 16, height: 12 };

/** The part of the slope round a detail, face-on and to scale, everything laid; what lies under the covering is dashed. */
export function DetailDrawing({ panel }: { panel: FigurePanel }) {
  const { job, units } = useEditing();
  const { plan } = usePlanned();
  const { lineOf } = useSlope();
  const { choose, chosen } = useView();
  const [frame, size] = useSize();
  const roof = plan.roof.find(({ id }) => id === panel.plane)!;
  const plane = plan.planes.find(({ id }) => id === panel.plane)!;
  const developed = useMemo(() => developPlane(plan, roof), [plan, roof]);
  const laid = useMemo(() => new Map(plan.pieces.map(({ mark }) => [mark, lineOf.get(mark) ?? 1])), [plan, lineOf]);
  const dimensions = useMemo(() => dimensionsOf(plan, panel).filter(({ facet }) => facet === panel.plane), [plan, panel]);
  const across = useMemo(() => {
    const turned = turnAcross(plan, panel);
    return (
      turned && {
        ...turned,
        chart: developPlane(plan, turned.other),
        plane: plan.planes.find(({ id }) => id === turned.other.id)!,
      }
    );
  }, [plan, panel]);
  // of a valley the sheet under the shingles is shown, and its centre
  const valley =
    across &&
    plan.joints.find(({ kind, a, b }) => kind === 'valley' && [a, b].includes(panel.plane) && [a, b].includes(across.other.id));
  const centre = valley && (valley.a === panel.plane ? valley.onA : valley.onB);
  const hidden = across
    ? plan.pieces
        .filter(({ detail, role }) => detail === panel.detail && role === 'valleySheet')
        .flatMap(({ covers }) => folded(foldsOf(plan, panel), covers))
    : [];
  const { x0, x1, y0, y1 } = panel.window;
  const bar = units.system === 'imperial' ? 304.8 : 300;
  const scale = size ? Math.min((size.width - 2 * (dimensions.length > 0 ? BESIDE : 0)) / (x1 - x0), size.height / (y1 - y0)) : 0;
  const [left, top] = size ? [x0 - (size.width / scale - (x1 - x0)) / 2, y1 + (size.height / scale - (y1 - y0)) / 2] : [0, 0];
  const marks = plan.pieces
    .filter(
      ({ detail, role, covers }) =>
        detail === panel.detail && ROLES[role].lettered === 'slope' && covers[0]?.facet === panel.plane,
    )
    .map(({ mark, role, covers }) => {
      const box = bounds(covers[0]!.outline);
      // a boot's letters stand on its flange, below the pipe
      const share = role === 'boot' ? 0.12 : 0.5;
      return {
        words: mark,
        x: ((box.x0 + box.x1) / 2 - left) * scale,
        y: (top - (box.y0 + (box.y1 - box.y0) * share)) * scale + 4,
      };
    });
  // everything laid, on either slope
  const drawn = {
    plan,
    lineOf: laid,
    features: job.features,
    marker: 1e9,
    chosen: chosen?.mark,
    nails: 1,
    zones: true,
    ghost: false,
  };
  // steps and soakers by their number, on what shows of each: above the one before it
  const sides = plan.pieces.flatMap(({ mark, detail, role, covers }) => {
    const outline = covers[0]!.outline;
    if (detail !== panel.detail || !isSidePiece(role) || covers[0]!.facet !== panel.plane || scale === 0) return [];
    const box = bounds(outline);
    const gauge = plane.lines.gauge * scale;
    const room = (box.x1 - box.x0) * scale > NUMBERED.width && gauge > NUMBERED.height;
    return room ? [{ mark, x: ((box.x0 + box.x1) / 2 - left) * scale, y: (top - box.y0) * scale - gauge / 2 + 4 }] : [];
  });
  return (
    <div className={css.detailDrawing} ref={frame}>
      {size && scale > 0 && (
        <svg
          className="slope-drawing"
          width={size.width}
          height={size.height}
          role="img"
          aria-label={`${panel.title}, drawn to scale`}
          onClick={(event) => choose((event.target as Element).closest('[data-mark]')?.getAttribute('data-mark') ?? undefined)}
        >
          <rect width={size.width} height={size.height} className="film" />
          <g transform={`matrix(${scale} 0 0 ${-scale} ${-left * scale} ${top * scale})`}>
            {across && (
              <g transform={`matrix(${across.matrix.join(' ')})`}>
                <LaidPieces {...drawn} plane={across.plane} chart={across.chart} />
              </g>
            )}
            <LaidPieces {...drawn} plane={plane} chart={developed} />
          </g>
          {hidden.map((outline, i) => (
            <path key={i} d={pathOf([outline.map(([x, y]) => [(x - left) * scale, (top - y) * scale])])} className={css.hidden} />
          ))}
          {centre && (
            <path
              d={`M${centre.map(([x, y]) => `${(x - left) * scale} ${(top - y) * scale}`).join('L')}`}
              className={css.centre}
            />
          )}
          {sides.map(({ mark, x, y }) => (
            <text key={mark} x={x} y={y} textAnchor="middle" className={css.side} data-mark={mark}>
              {mark.split('-').at(-1)}
            </text>
          ))}
          {marks.map(({ words, x, y }) => (
            <text key={words} x={x} y={y} textAnchor="middle" className="letters" data-mark={words}>
              {words}
            </text>
          ))}
          <DimensionLines
            dimensions={dimensions}
            lengthOf={(one) => units.cut(lengthOf(one))}
            place={([x, y]) => [(x - left) * scale, (top - y) * scale]}
            lettered={marks}
            width={size.width}
          />
          <g className="scale-bar" transform={`translate(16 ${size.height - 14})`}>
            <path d={`M0 -5V0H${bar * scale}V-5`} />
            <text x={(bar * scale) / 2} y={-4} textAnchor="middle">
              {units.length(bar)}
            </text>
          </g>
        </svg>
      )}
    </div>
  );
}
