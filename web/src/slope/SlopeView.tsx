import { ActionIcon } from '@mantine/core';
import { useHotkeys } from '@mantine/hooks';
import {
  type Icon,
  IconArrowsMaximize,
  IconArrowsVertical,
  IconMinus,
  IconPlus,
  IconPoint,
  IconTexture,
} from '@tabler/icons-react';
import { type Feature, type Plane, buttLine, footprint, isSidePiece, lastCourseAtOrBelow } from '#core';
import { type PointerEvent, useEffect, useMemo, useRef, useState } from 'react';
import { type SlopeShown, type Units, useEditing, usePlanned, useSlope, useView } from '../editor/context.ts';
import { UNFOLDED, developCover, developPlane } from './develop.ts';
import { LaidPieces } from './LaidPieces.tsx';
import { StoryPole } from './StoryPole.tsx';
import { markerAt, markerHeight } from './pole.ts';
import {
  POLE,
  STICK,
  type Size,
  type Viewport,
  fitAll,
  fitHeight,
  fromX,
  fromY,
  pan,
  toX,
  toY,
  useSize,
  zoomAt,
} from './viewport.ts';

/** A finger or mouse that moved less than this tapped. */
const TAP = 5;

type Drag = {
  readonly feature: Exclude<Feature, { kind: 'headwall' }>;
  readonly width: number;
  readonly height: number;
  readonly x: number;
  readonly y: number;
  readonly dx: number;
  readonly dy: number;
  readonly moved: boolean;
  readonly on?: string;
};

/** A place near a butt line or a rafter goes on to it; otherwise to the quarter inch, or 5 mm. */
function snapped(
  { plane, roof }: Pick<SlopeShown, 'plane' | 'roof'>,
  units: Units,
  drag: Drag,
  x: number,
  y: number,
  reach: number,
): Pick<Drag, 'x' | 'y'> & { on?: string } {
  const { lines: layout } = plane;
  const step = units.system === 'imperial' ? 25.4 / 4 : 5;
  const under = lastCourseAtOrBelow(layout, y);
  const course = buttLine(layout, under + 1) - y < y - buttLine(layout, under) ? under + 1 : under;
  const butt = buttLine(layout, course);
  const onButt = Math.abs(butt - y) < reach;
  const { rafters } = roof;
  const middle = x + drag.width / 2;
  const rafter = rafters ? rafters.first + Math.round((middle - rafters.first) / rafters.spacing) * rafters.spacing : undefined;
  const onRafter = rafter !== undefined && Math.abs(rafter - middle) < reach;
  const names = [...(onButt ? [`butt of course ${course}`] : []), ...(onRafter ? ['middle on a rafter'] : [])];
  return {
    x: onRafter ? rafter - drag.width / 2 : Math.round(x / step) * step,
    y: onButt ? butt : Math.round(y / step) * step,
    ...(names.length > 0 ? { on: names.join(', ') } : { on: '' }),
  };
}

/** Nails come in as courses come far enough apart to tell one nail from the next: from so many pixels on, full at so many. */
const NAILS_FROM = 8;
const NAILS_FULL = 14;
const nailStrength = (course: number): number =>
  Math.round(Math.max(0, Math.min(1, (course - NAILS_FROM) / (NAILS_FULL - NAILS_FROM))) * 10) / 10;

/** The view moved so that a place is in sight; as it is where it is already. */
function inSight(view: Viewport, size: Size, left: number, [x, y]: readonly [number, number]): Viewport {
  const [px, py] = [toX(view, x), toY(view, y)];
  if (px > POLE && px < size.width - 40 && py > 40 && py < size.height - 60) return view;
  return { ...view, left: Math.max(left, x - (size.width - POLE) / 3 / view.scale), top: y + size.height / 2 / view.scale };
}

/** Room beside an unfolded wall for its name. */
const NAMED = 280;

/** The slope face-on, to scale, with the story pole beside it. Below the marker is laid, above is not yet there. */
export function SlopeView() {
  const { job, units } = useEditing();
  const { plan } = usePlanned();
  const { plane, lines, roof, lineOf, place } = useSlope();
  const { marker, setMarker, chosen, choose, reveal } = useView();
  const [frame, size, element] = useSize();
  const [view, setView] = useState<Viewport>();
  const [fitting, setFitting] = useState<'all' | 'height' | 'by hand'>('all');
  const [shown, setShown] = useState({ nails: true, zones: true });
  const pointers = useRef(new Map<number, { x: number; y: number }>());
  const press = useRef<{ x: number; y: number; onPole: boolean; moved: boolean; mark: string | undefined }>(undefined);
  const [drag, setDrag] = useState<Drag>();
  const [refused, setRefused] = useState<string>();
  const chart = useMemo(() => developPlane(plan, roof), [plan, roof]);
  const { end: slopeLength } = plane.lines;
  const left = roof.walls.some(({ stands, x }) => stands === 'left' && x < UNFOLDED) ? -UNFOLDED - NAMED : -150;
  const right =
    roof.eaveLength +
    (roof.walls.some(({ stands, x }) => stands === 'right' && roof.eaveLength - x < UNFOLDED) ? UNFOLDED + NAMED : 150);

  // another slope, or another size of it, is shown whole; in a window of another size it is fitted again as it was, unless it was moved by hand
  const roofSize = `${plane.id} ${slopeLength} ${left} ${right}`;
  const frameSize = `${size?.width} ${chosen ? 'piece' : size?.height}`;
  const [fitted, setFitted] = useState({ roofSize: '', frameSize: '' });
  const fit = (how: 'all' | 'height'): void => {
    setFitting(how);
    if (size) setView(how === 'all' ? fitAll(size, slopeLength, left, right) : fitHeight(size, slopeLength, left));
  };
  if (size && (fitted.roofSize !== roofSize || fitted.frameSize !== frameSize)) {
    setFitted({ roofSize, frameSize });
    if (fitted.roofSize !== roofSize) fit('all');
    else if (fitting !== 'by hand' && !chosen) fit(fitting);
  }

  // the chosen piece comes into view: at once when a finding or a mark asked for it, otherwise only if it is out of sight
  const shownOf = { reveal, chosen, size, chart, left };
  const [revealed, setRevealed] = useState(shownOf);
  if (
    view &&
    (reveal !== revealed.reveal ||
      chosen !== revealed.chosen ||
      size !== revealed.size ||
      chart !== revealed.chart ||
      left !== revealed.left)
  ) {
    setRevealed(shownOf);
    if (chosen && size) setView(inSight(view, size, left, developCover(chart, chosen.covers[0]!)[0]!));
  }

  useEffect(() => {
    if (!element) return;
    const wheel = (event: WheelEvent): void => {
      event.preventDefault();
      const box = element.getBoundingClientRect();
      setFitting('by hand');
      setView((now) => now && zoomAt(now, Math.exp(-event.deltaY * 0.0015), event.clientX - box.left, event.clientY - box.top));
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  }, [element]);

  // about the chosen piece, so that it stays where it is; otherwise about the middle
  const zoom = (factor: number): void => {
    if (!size) return;
    const at = chosen && developCover(chart, chosen.covers[0]!)[0]!;
    setFitting('by hand');
    setView(
      (now) => now && zoomAt(now, factor, at ? toX(now, at[0]) : (POLE + size.width) / 2, at ? toY(now, at[1]) : size.height / 2),
    );
  };
  useHotkeys([
    ['shift++', () => zoom(1.4)],
    ['=', () => zoom(1.4)],
    ['-', () => zoom(1 / 1.4)],
    ['0', () => fit('all')],
  ]);

  const down = (event: PointerEvent<SVGSVGElement>): void => {
    const box = event.currentTarget.getBoundingClientRect();
    const at = { x: event.clientX - box.left, y: event.clientY - box.top };
    event.currentTarget.setPointerCapture(event.pointerId);
    pointers.current.set(event.pointerId, at);
    const held = (event.target as Element).closest('[data-feature]')?.getAttribute('data-feature');
    const feature = job.features.find(({ id }) => id === held);
    setRefused(undefined);
    if (feature && feature.kind !== 'headwall' && view && pointers.current.size === 1) {
      const foot = footprint(feature, roof);
      setDrag({ feature, width: foot.x1 - foot.x0, height: foot.to - foot.from, x: foot.x0, y: foot.from, dx: foot.x0 - fromX(view, at.x), dy: foot.from - fromY(view, at.y), moved: false }); // prettier-ignore
      press.current = undefined;
      return;
    }
    const mark = (event.target as Element).closest('[data-mark]')?.getAttribute('data-mark') ?? undefined;
    if (pointers.current.size === 1) press.current = { ...at, onPole: at.x < POLE, moved: false, mark };
    if (at.x < POLE && view) setMarker(markerAt(view, box.height, plane, lines, at.y));
  };
  const move = (event: PointerEvent<SVGSVGElement>): void => {
    if (drag && view) {
      const box = event.currentTarget.getBoundingClientRect();
      const [px, py] = [event.clientX - box.left, event.clientY - box.top];
      setDrag({
        ...drag,
        ...snapped({ plane, roof }, units, drag, fromX(view, px) + drag.dx, fromY(view, py) + drag.dy, 9 / view.scale),
        moved: true,
      });
      return;
    }
    const before = pointers.current.get(event.pointerId);
    if (!before || !press.current || !view) return;
    const box = event.currentTarget.getBoundingClientRect();
    const at = { x: event.clientX - box.left, y: event.clientY - box.top };
    const others = [...pointers.current].filter(([id]) => id !== event.pointerId).map(([, point]) => point);
    pointers.current.set(event.pointerId, at);
    if (Math.hypot(at.x - press.current.x, at.y - press.current.y) > TAP) press.current.moved = true;
    if (press.current.moved && !press.current.onPole) setFitting('by hand');
    if (press.current.onPole) setMarker(markerAt(view, box.height, plane, lines, at.y));
    else if (others.length === 1) {
      const [other] = others;
      const was = Math.hypot(before.x - other!.x, before.y - other!.y);
      const is = Math.hypot(at.x - other!.x, at.y - other!.y);
      if (was > 0) setView(zoomAt(view, is / was, (at.x + other!.x) / 2, (at.y + other!.y) / 2));
    } else if (press.current.moved) setView(pan(view, at.x - before.x, at.y - before.y));
  };
  const up = (event: PointerEvent<SVGSVGElement>): void => {
    pointers.current.delete(event.pointerId);
    if (drag) {
      setDrag(undefined);
      // a pipe is measured to its centre, everything else to its near corner
      const centre = drag.feature.kind === 'pipe';
      if (drag.moved)
        setRefused(place(drag.feature.id, drag.x + (centre ? drag.width / 2 : 0), drag.y + (centre ? drag.height / 2 : 0)));
      return;
    }
    if (press.current && !press.current.moved && !press.current.onPole)
      choose(press.current.mark === chosen?.mark ? undefined : press.current.mark);
    if (pointers.current.size === 0) press.current = undefined;
  };

  const markerY = view && size && markerHeight(view, size.height, plane, lines, marker);
  return (
    <div className="slope-view">
      <div className="slope-frame" ref={frame}>
        {size && view && markerY !== undefined && (
          <svg
            className="slope-drawing"
            width={size.width}
            height={size.height}
            onPointerDown={down}
            onPointerMove={move}
            onPointerUp={up}
            onPointerCancel={up}
            role="img"
            aria-label={`${plane.name}, ${plane.lines.count} courses, drawn to scale`}
          >
            <defs>
              <pattern
                id="no-nail"
                width="7"
                height="7"
                patternUnits="userSpaceOnUse"
                patternTransform={`scale(${1 / view.scale}) rotate(45)`}
              >
                <line x1="0" y1="0" x2="0" y2="7" className="hatch" />
              </pattern>
              <clipPath id="beside-pole">
                <rect x={POLE} y={0} width={Math.max(0, size.width - POLE)} height={size.height} />
              </clipPath>
            </defs>
            <g clipPath="url(#beside-pole)">
              <rect x={POLE} y={0} width={size.width} height={size.height} className="film" />
              <g transform={`matrix(${view.scale} 0 0 ${-view.scale} ${POLE - view.left * view.scale} ${view.top * view.scale})`}>
                <LaidPieces
                  plan={plan}
                  plane={plane}
                  lineOf={lineOf}
                  features={job.features}
                  chart={chart}
                  marker={marker}
                  chosen={chosen?.mark}
                  nails={shown.nails ? nailStrength(plane.lines.gauge * view.scale) : 0}
                  zones={shown.zones}
                />
              </g>
              <Labels view={view} width={size.width} />
              {drag?.moved && (
                <g>
                  <rect
                    x={toX(view, drag.x)}
                    y={toY(view, drag.y + drag.height)}
                    width={drag.width * view.scale}
                    height={drag.height * view.scale}
                    className="drag-ghost"
                  />
                  <text
                    x={toX(view, drag.x + drag.width / 2)}
                    y={toY(view, drag.y + drag.height) - 8}
                    textAnchor="middle"
                    className="drag-words"
                  >
                    {units.length(Math.max(0, drag.x))} from the left · {units.length(Math.max(0, drag.y))} up
                    {drag.on ? ` · ${drag.on}` : ''}
                  </text>
                </g>
              )}
              <ScaleBar view={view} x={size.width - 12} y={size.height - 14} />
            </g>
            <StoryPole view={view} height={size.height} />
            <g className="marker" transform={`translate(0 ${markerY})`}>
              <line x1={STICK - 1} x2={size.width} y1="0" y2="0" />
              <path d={`M${STICK - 1} 0l-12 -8v16z`} />
            </g>
          </svg>
        )}
        {refused && (
          <p className="field-error drag-refused" role="alert">
            {refused}
          </p>
        )}
      </div>
      <div className="view-bar">
        <MarkerSlider />
        <div className="view-tools">
          <Tool label="Nearer" icon={IconPlus} onClick={() => zoom(1.4)} />
          <Tool label="Farther" icon={IconMinus} onClick={() => zoom(1 / 1.4)} />
          <Tool label="Fit the height" icon={IconArrowsVertical} onClick={() => fit('height')} />
          <Tool label="Whole slope" icon={IconArrowsMaximize} onClick={() => fit('all')} />
          <Tool label="Nails" icon={IconPoint} on={shown.nails} onClick={() => setShown({ ...shown, nails: !shown.nails })} />
          <Tool
            label="No-nail zones"
            icon={IconTexture}
            on={shown.zones}
            onClick={() => setShown({ ...shown, zones: !shown.zones })}
          />
        </div>
      </div>
    </div>
  );
}

type ToolProps = { label: string; icon: Icon; on?: boolean; onClick: () => void };

/** A tool under the drawing; `on`: what it shows is shown. */
const Tool = ({ label, icon: Drawn, on, onClick }: ToolProps) => (
  <ActionIcon variant={on ? 'filled' : 'default'} size={34} aria-label={label} aria-pressed={on} title={label} onClick={onClick}>
    <Drawn size={18} />
  </ActionIcon>
);

/** The marker for keyboards and screen readers: the same line number the pole and the run sheet show. */
export function MarkerSlider() {
  const { lines, plane } = useSlope();
  const { marker, setMarker } = useView();
  const line = lines[marker - 1];
  const where = !line
    ? 'nothing laid yet'
    : line.course === undefined
      ? line.stage
      : line.course === 0
        ? 'starter'
        : `course ${line.course} of ${plane.lines.count}`;
  return (
    <div className="marker-bar">
      <button type="button" onClick={() => setMarker(Math.max(0, marker - 1))} aria-label="Marker down one line">
        ▼
      </button>
      <input
        type="range"
        aria-label="Marker along the story pole"
        aria-valuetext={`Line ${marker} of ${lines.length}, ${where}`}
        min={0}
        max={lines.length}
        value={marker}
        onChange={(event) => setMarker(Number(event.currentTarget.value))}
        onKeyDown={(event) => {
          // the arrows already move the marker for the whole page
          if (event.key.startsWith('Arrow') || event.key.startsWith('Page') || event.key === 'Home' || event.key === 'End')
            event.preventDefault();
        }}
      />
      <button type="button" onClick={() => setMarker(Math.min(lines.length, marker + 1))} aria-label="Marker up one line">
        ▲
      </button>
      <span className="fig marker-where">
        {marker}/{lines.length} · {where}
      </span>
    </div>
  );
}

/** A round length at the drawing's scale. */
function ScaleBar({ view, x, y }: { view: Viewport; x: number; y: number }) {
  const { units } = useEditing();
  const steps =
    units.system === 'imperial'
      ? [1, 3, 6, 12, 24, 60, 120, 240, 600, 1200].map((inch) => inch * 25.4)
      : [10, 50, 100, 250, 500, 1000, 2500, 5000, 10_000, 50_000];
  const length = steps.find((step) => step * view.scale >= 60) ?? steps.at(-1)!;
  const width = length * view.scale;
  return (
    <g className="scale-bar" transform={`translate(${x - width} ${y})`}>
      <path d={`M0 -5V0H${width}V-5`} />
      <text x={width / 2} y={-4} textAnchor="middle">
        {units.length(length)}
      </text>
    </g>
  );
}

const eaveOf = ({ edges }: Plane): number =>
  edges.filter(({ kind }) => kind === 'eave').reduce((sum, { from, to }) => sum + Math.abs(to[0] - from[0]), 0);

/** Names and sizes at the roof's edges, and step marks where there is room for them. */
function Labels({ view, width }: { view: Viewport; width: number }) {
  const { units } = useEditing();
  const { plan } = usePlanned();
  const { plane, roof, lineOf } = useSlope();
  const { marker } = useView();
  const { end: slopeLength, gauge } = plane.lines;
  const middle = (Math.max(POLE, toX(view, 0)) + Math.min(width, toX(view, roof.eaveLength))) / 2;
  const room = gauge * view.scale > 22;
  return (
    <g className="labels">
      <text x={middle} y={toY(view, 0) + 30} textAnchor="middle">
        {roof.edges.some(({ kind }) => kind === 'eave') ? `eave ${units.length(eaveOf(roof))}` : 'no eave'}
      </text>
      <text x={middle} y={toY(view, slopeLength) - 9} textAnchor="middle">
        {roof.top === 'ridge' ? 'ridge' : roof.top === 'wall' ? 'wall' : 'top'} · {units.length(slopeLength)} up the slope
      </text>
      {roof.walls.map((wall) => {
        const side = wall.stands === 'left' ? 1 : -1;
        const middleOfWall = (wall.from + Math.min(wall.to ?? slopeLength, slopeLength)) / 2;
        return (
          <text
            key={wall.id}
            transform={`translate(${toX(view, wall.x - side * (UNFOLDED + 10))} ${toY(view, middleOfWall)}) rotate(-90)`}
            textAnchor="middle"
          >
            {wall.name}
          </text>
        );
      })}
      {roof.right === 'rake' && (
        <text
          transform={`translate(${toX(view, roof.eaveLength) + 16} ${toY(view, slopeLength / 2)}) rotate(-90)`}
          textAnchor="middle"
        >
          rake
        </text>
      )}
      {room &&
        plan.pieces
          .filter(({ role, mark }) => isSidePiece(role) && (lineOf.get(mark) ?? 0) <= marker)
          .map((piece) => {
            const wall = roof.walls.find(({ id }) => id === piece.detail);
            if (!wall) return null;
            const side = wall.stands === 'left' ? 1 : -1;
            const low = piece.covers[0]!.outline[0]![1];
            return (
              <text
                key={piece.mark}
                className="step-mark"
                x={toX(view, wall.x) - side * 4}
                y={toY(view, low) - 3}
                textAnchor={side === 1 ? 'end' : 'start'}
              >
                {piece.mark.split('-')[1]}
              </text>
            );
          })}
    </g>
  );
}
