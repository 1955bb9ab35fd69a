import { type Dimension, type FigurePanel, type Plan, ROLES, dimensionsOf, lengthOf } from '#core';
import { useMemo } from 'react';
import { useWorkbench } from '../editor/context.ts';
import { developPlane } from '../slope/develop.ts';
import { LaidPieces } from '../slope/LaidPieces.tsx';
import { useSize } from '../slope/viewport.ts';

/** The part of the slope round a detail, face-on and to scale, everything laid; what lies under the covering is dashed. */
export function DetailDrawing({ panel }: { panel: FigurePanel }) {
  const bench = useWorkbench();
  const { plan, choose, chosen, lineOf, units } = bench;
  const [frame, size] = useSize();
  const roof = plan.roof.find(({ id }) => id === panel.plane)!;
  const plane = plan.planes.find(({ id }) => id === panel.plane)!;
  const developed = useMemo(() => developPlane(plan, roof), [plan, roof]);
  const laid = useMemo(() => new Map(plan.pieces.map(({ mark }) => [mark, lineOf.get(mark) ?? 1])), [plan, lineOf]);
  const shown = { ...bench, plane, roof, lineOf: laid };
  const dimensions = useMemo(() => dimensionsOf(plan, panel), [plan, panel]);
  const across = useMemo(() => acrossValley(plan, panel), [plan, panel]);
  const { x0, x1, y0, y1 } = panel.window;
  const bar = units.system === 'imperial' ? 304.8 : 300;
  const scale = size ? Math.min(size.width / (x1 - x0), size.height / (y1 - y0)) : 0;
  const [left, top] = size ? [x0 - (size.width / scale - (x1 - x0)) / 2, y1 + (size.height / scale - (y1 - y0)) / 2] : [0, 0];
  const marks = plan.pieces.filter(
    ({ detail, role, covers }) => detail === panel.detail && ROLES[role].lettered === 'slope' && covers[0]?.facet === panel.plane,
  );
  return (
    <div className="detail-drawing" ref={frame}>
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
              <g transform={across.turn}>
                <LaidPieces
                  bench={{ ...shown, plane: across.plane, roof: across.roof }}
                  chart={across.chart}
                  marker={1e9}
                  chosen={chosen?.mark}
                  nails={1}
                  zones
                  ghost={false}
                />
              </g>
            )}
            <LaidPieces bench={shown} chart={developed} marker={1e9} chosen={chosen?.mark} nails={1} zones ghost={false} />
          </g>
          {marks.map((piece) => {
            const ys = piece.covers[0]!.outline.map(([, y]) => y);
            const xs = piece.covers[0]!.outline.map(([x]) => x);
            // a boot's letters stand on its flange, below the pipe
            const share = piece.role === 'boot' ? 0.12 : 0.5;
            const y = (top - (Math.min(...ys) + (Math.max(...ys) - Math.min(...ys)) * share)) * scale + 4;
            const x = ((Math.min(...xs) + Math.max(...xs)) / 2 - left) * scale;
            return (
              <text key={piece.mark} x={x} y={y} textAnchor="middle" className="detail-mark">
                {piece.mark}
              </text>
            );
          })}
          {dimensions.map((one) => (
            <DimensionLine
              key={`${one.piece} ${one.what}`}
              {...one}
              length={units.cut(lengthOf(one))}
              place={([x, y]) => [(x - left) * scale, (top - y) * scale]}
            />
          ))}
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

/** Pixels a dimension's line stands off from what it measures. */
const STANDS_OFF = 15;

type LineProps = Dimension & { length: string; place: (at: readonly [number, number]) => [number, number] };

/** A dimension: its line beside what it measures, ticks at the ends, the figure and what it is. */
function DimensionLine({ what, from, to, off, length, place }: LineProps) {
  const [ax, ay] = place(from);
  const [bx, by] = place(to);
  const [dx, dy] = [off[0] * STANDS_OFF, -off[1] * STANDS_OFF];
  const [x1, y1, x2, y2] = [ax + dx, ay + dy, bx + dx, by + dy];
  const long = Math.hypot(x2 - x1, y2 - y1);
  const [ux, uy] = long > 0 ? [(x2 - x1) / long, (y2 - y1) / long] : [1, 0];
  const tick = (x: number, y: number): string =>
    `M${x - uy * 4 - ux * 3} ${y + ux * 4 - uy * 3}L${x + uy * 4 + ux * 3} ${y - ux * 4 + uy * 3}`;
  const upright = Math.abs(uy) > Math.abs(ux);
  // beside an upright line the words stand on its far side, under a level one below it
  const [tx, ty, anchor] = upright
    ? [Math.max(x1, x2) + (off[0] < 0 ? -7 : 7), (y1 + y2) / 2 + 4, off[0] < 0 ? ('end' as const) : ('start' as const)]
    : [(x1 + x2) / 2, Math.max(y1, y2) + 14, 'middle' as const];
  return (
    <g className="dimension">
      <path d={`M${ax} ${ay}L${x1} ${y1}M${bx} ${by}L${x2} ${y2}`} className="extension" />
      <path d={`M${x1} ${y1}L${x2} ${y2}${tick(x1, y1)}${tick(x2, y2)}`} />
      <text x={tx} y={ty} textAnchor={anchor}>
        {length} {what}
      </text>
    </g>
  );
}

/** The slope on the other side of a valley, turned about its line into the same chart. */
function acrossValley(plan: Plan, { detail, family, plane }: FigurePanel) {
  const valley = family === 'valley' && plan.valleys.find(({ id }) => id === detail);
  const joint = valley && plan.joints.find(({ kind, a, b }) => kind === 'valley' && a === valley.a && b === valley.b);
  if (!valley || !joint) return undefined;
  const [own, theirs] = valley.a === plane ? [joint.onA, joint.onB] : [joint.onB, joint.onA];
  const other = valley.a === plane ? valley.b : valley.a;
  const roof = plan.roof.find(({ id }) => id === other)!;
  const angle = ([[ax, ay], [bx, by]]: typeof own): number => Math.atan2(by - ay, bx - ax);
  const turn = angle(own) - angle(theirs);
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  const [x, y] = theirs[0];
  const matrix = [cos, sin, -sin, cos, own[0][0] - x * cos + y * sin, own[0][1] - x * sin - y * cos];
  return {
    turn: `matrix(${matrix.join(' ')})`,
    chart: developPlane(plan, roof),
    plane: plan.planes.find(({ id }) => id === other)!,
    roof,
  };
}
