import { ActionIcon, Slider } from '@mantine/core';
import { useHotkeys } from '@mantine/hooks';
import {
  type Icon,
  IconArrowsMaximize,
  IconArrowsVertical,
  IconCaretDownFilled,
  IconCaretUpFilled,
  IconMinus,
  IconPlus,
  IconPoint,
  IconTexture,
} from '@tabler/icons-react';
import {
  type Feature,
  type Plane,
  buttLine,
  footprint,
  headingOf,
  isSidePiece,
  lastCourseAtOrBelow,
  faceAt,
  isSlanted,
  placeWalls,
} from '#core';
import { type KeyboardEvent, type Ref, memo, useCallback, useImperativeHandle, useMemo, useRef, useState } from 'react';
import { type SlopeShown, type Units, useEditing, usePlanned, useSlope, useView } from '../editor/context.ts';
import { UNFOLDED, developCover, developPlane } from './develop.ts';
import { type At, type Held, useDrawingGestures } from './gestures.ts';
import { LaidPieces } from './LaidPieces.tsx';
import { useSlide } from './slide.ts';
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
import css from './SlopeView.module.css';

type Drag = {
  readonly feature: Exclude<Feature, { kind: 'headwall' }>;
  readonly width: number;
  readonly height: number;
  readonly x: number;
  readonly y: number;
  readonly on?: string;
};

/** A place near a butt line or a rafter goes on to it; otherwise to the quarter inch, or 5 mm. */
function snapped(
  { plane, roof }: Pick<SlopeShown, 'plane' | 'roof'>,
  units: Units,
  { x, y, width }: Omit<Drag, 'on'>,
  reach: number,
): Pick<Drag, 'x' | 'y'> & { on?: string } {
  const { lines: layout } = plane;
  const step = units.system === 'imperial' ? 25.4 / 4 : 5;
  const under = lastCourseAtOrBelow(layout, y);
  const course = buttLine(layout, under + 1) - y < y - buttLine(layout, under) ? under + 1 : under;
  const butt = buttLine(layout, course);
  const onButt = Math.abs(butt - y) < reach;
  const { rafters } = roof;
  const middle = x + width / 2;
  const rafter = rafters ? rafters.first + Math.round((middle - rafters.first) / rafters.spacing) * rafters.spacing : undefined;
  const onRafter = rafter !== undefined && Math.abs(rafter - middle) < reach;
  const names = [...(onButt ? [`butt of course ${course}`] : []), ...(onRafter ? ['middle on a rafter'] : [])];
  return {
    x: onRafter ? rafter - width / 2 : Math.round(x / step) * step,
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
  const [view, setLooked] = useState<Viewport>();
  const slide = useSlide(element, view);
  const setView = useCallback(
    (change: (now: Viewport | undefined) => Viewport | undefined): void => {
      const { x, y } = slide.taken();
      setLooked((now) => change(now && pan(now, x, y)));
    },
    [slide],
  );
  const [fitting, setFitting] = useState<'all' | 'height' | 'by hand'>('all');
  const [shown, setShown] = useState({ nails: true, zones: true });
  const ghost = useRef<Carried>(null);
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
  const fit = useCallback(
    (how: 'all' | 'height'): void => {
      setFitting(how);
      if (size) setView(() => (how === 'all' ? fitAll(size, slopeLength, left, right) : fitHeight(size, slopeLength, left)));
    },
    [size, slopeLength, left, right, setView],
  );
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
    if (chosen && size) setView((now) => now && inSight(now, size, left, developCover(chart, chosen.covers[0]!)[0]!));
  }

  // about the chosen piece, so that it stays where it is; otherwise about the middle
  const zoom = useCallback(
    (factor: number): void => {
      if (!size) return;
      const at = chosen && developCover(chart, chosen.covers[0]!)[0]!;
      setFitting('by hand');
      setView(
        (now) =>
          now && zoomAt(now, factor, at ? toX(now, at[0]) : (POLE + size.width) / 2, at ? toY(now, at[1]) : size.height / 2),
      );
    },
    [size, chosen, chart, setView],
  );
  useHotkeys([
    ['shift++', () => zoom(1.4)],
    ['=', () => zoom(1.4)],
    ['-', () => zoom(1 / 1.4)],
    ['0', () => fit('all')],
  ]);

  const markHere = ({ y }: At): void => {
    if (view && size) setMarker(markerAt(view, size.height, plane, lines, y));
  };
  const takeFeature = (id: string, at: At): Held | undefined => {
    const feature = job.features.find((one) => one.id === id);
    if (!feature || feature.kind === 'headwall' || !view) return undefined;
    const foot = footprint(feature, roof);
    const [width, height] = [foot.x1 - foot.x0, foot.to - foot.from];
    const [dx, dy] = [foot.x0 - fromX(view, at.x), foot.from - fromY(view, at.y)];
    const placed = ({ x, y }: At): Drag => {
      const place = { feature, width, height, x: fromX(view, x) + dx, y: fromY(view, y) + dy };
      return { ...place, ...snapped({ plane, roof }, units, place, 9 / view.scale) };
    };
    return {
      move: (to) => ghost.current?.show(placed(to)),
      drop: (to) => {
        ghost.current?.show(undefined);
        const { x, y } = placed(to);
        // a pipe is measured to its centre, everything else to its near corner
        const centre = feature.kind === 'pipe';
        setRefused(place(id, x + (centre ? width / 2 : 0), y + (centre ? height / 2 : 0)));
      },
    };
  };
  useDrawingGestures(element, {
    hold: (at, target) => {
      setRefused(undefined);
      if (at.x < POLE) return { move: markHere };
      const id = target.closest('[data-feature]')?.getAttribute('data-feature');
      return id ? takeFeature(id, at) : undefined;
    },
    tap: (at, target) => {
      setRefused(undefined);
      if (at.x < POLE) return markHere(at);
      const mark = target.closest('[data-mark]')?.getAttribute('data-mark') ?? undefined;
      choose(mark === chosen?.mark ? undefined : mark);
    },
    pan: (dx, dy) => {
      setFitting('by hand');
      slide.by(dx, dy);
    },
    settle: () => setView((now) => now),
    zoom: (factor, { x, y }) => {
      setFitting('by hand');
      setView((now) => now && zoomAt(now, factor, x, y));
    },
  });

  // not drawn anew for every move of the pointer
  const tools = useMemo(
    () => (
      <div className={css.viewBar}>
        <MarkerSlider />
        <div className={css.viewTools}>
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
    ),
    [zoom, fit, shown],
  );

  const markerY = view && size && markerHeight(view, size.height, plane, lines, marker);
  return (
    <div className={css.slopeView}>
      <div className={css.slopeFrame} ref={frame}>
        {size && view && markerY !== undefined && (
          <>
            <svg
              className={css.layer}
              data-slides="along and up"
              aria-hidden
              width={1}
              height={1}
              style={{ transform: `translate(${POLE - view.left * view.scale}px, ${view.top * view.scale}px)` }}
            >
              <defs>
                <pattern
                  id="no-nail"
                  width="7"
                  height="7"
                  patternUnits="userSpaceOnUse"
                  patternTransform={`scale(${1 / view.scale}) rotate(45)`}
                >
                  <line x1="0" y1="0" x2="0" y2="7" className={css.hatch} />
                </pattern>
              </defs>
              <g transform={`scale(${view.scale} ${-view.scale})`}>
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
            </svg>
            <svg className={`${css.layer} ${css.over}`} data-slides="along and up" width={1} height={1}>
              <Labels view={view} width={size.width} />
            </svg>
            <svg className={`${css.layer} ${css.over}`} data-slides="up" width={1} height={1}>
              <StoryPole view={view} height={size.height} />
            </svg>
            <svg
              className={`slope-drawing ${css.over}`}
              width={size.width}
              height={size.height}
              role="img"
              aria-label={`${plane.name}, ${plane.lines.count} courses, drawn to scale`}
            >
              <ScaleBar view={view} x={size.width - 12} y={size.height - 14} />
            </svg>
            <Ghost carried={ghost} view={view} />
            <svg
              className={`${css.layer} ${css.over} ${css.marker}`}
              data-slides="up"
              width={1}
              height={1}
              style={{ transform: `translate(0px, ${markerY}px)` }}
            >
              <line x1={STICK - 1} x2={size.width} y1="0" y2="0" />
              <path d={`M${STICK - 1} 0l-12 -8v16z`} />
            </svg>
          </>
        )}
        {refused && (
          <p className={`field-error ${css.dragRefused}`} role="alert">
            {refused}
          </p>
        )}
      </div>
      {tools}
    </div>
  );
}

type Carried = { show(drag: Drag | undefined): void };

/** What is dragged, where it would go, on a layer of its own: told where by hand, as it is all that is drawn anew while it moves. */
function Ghost({ carried, view }: { carried: Ref<Carried>; view: Viewport }) {
  const { units } = useEditing();
  const [drag, show] = useState<Drag>();
  useImperativeHandle(carried, () => ({ show }), []);
  if (!drag) return null;
  return (
    <svg
      className={`${css.layer} ${css.over}`}
      width={1}
      height={1}
      style={{ transform: `translate(${toX(view, drag.x)}px, ${toY(view, drag.y + drag.height)}px)` }}
    >
      <rect width={drag.width * view.scale} height={drag.height * view.scale} className={css.dragGhost} />
      <text x={(drag.width * view.scale) / 2} y={-8} textAnchor="middle" className={`letters ${css.dragWords}`}>
        {units.length(Math.max(0, drag.x))} from the left · {units.length(Math.max(0, drag.y))} up
        {drag.on ? ` · ${drag.on}` : ''}
      </text>
    </svg>
  );
}

type ToolProps = { label: string; icon: Icon; on?: boolean; onClick: () => void };

/** A tool under the drawing; `on`: what it shows is shown. */
const Tool = ({ label, icon: Drawn, on, onClick }: ToolProps) => (
  <ActionIcon variant={on ? 'filled' : 'default'} size={34} aria-label={label} aria-pressed={on} title={label} onClick={onClick}>
    <Drawn size={18} />
  </ActionIcon>
);

/** The slider takes the arrows itself; elsewhere they move the marker for the whole page. */
const keepFromPage = (event: KeyboardEvent): void => {
  if (/^(Arrow|Home|End)/.test(event.key)) event.stopPropagation();
};

/** The marker for keyboards and screen readers: the same line number the pole and the run sheet show. */
export function MarkerSlider() {
  const { lines, plane } = useSlope();
  const { marker, setMarker } = useView();
  const line = lines[marker - 1];
  const where = !line
    ? 'nothing laid yet'
    : line.course === undefined
      ? headingOf(line.lay).toLowerCase()
      : line.course === 0
        ? 'starter'
        : `course ${line.course} of ${plane.lines.count}`;
  return (
    <div className={css.markerBar}>
      <Tool label="Marker down one line" icon={IconCaretDownFilled} onClick={() => setMarker(Math.max(0, marker - 1))} />
      <Slider
        className={css.slider}
        size={4}
        label={null}
        thumbLabel="Marker along the story pole"
        min={0}
        max={lines.length}
        value={marker}
        onChange={setMarker}
        thumbProps={{ 'aria-valuetext': line ? `Line ${line.whole}, ${where}` : where }}
        onKeyDown={keepFromPage}
      />
      <Tool label="Marker up one line" icon={IconCaretUpFilled} onClick={() => setMarker(Math.min(lines.length, marker + 1))} />
      <span className={`fig ${css.markerWhere}`}>{line ? `line ${line.whole} · ${where}` : where}</span>
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
const Labels = memo(function Labels({ view, width }: { view: Viewport; width: number }) {
  const { units } = useEditing();
  const { plan } = usePlanned();
  const { plane, roof, lineOf } = useSlope();
  const { marker } = useView();
  const { end: slopeLength, gauge } = plane.lines;
  const middle = (Math.max(POLE, toX(view, 0)) + Math.min(width, toX(view, roof.eaveLength))) / 2;
  const room = gauge * view.scale > 22;
  return (
    <g className={css.labels}>
      <text x={middle} y={toY(view, 0) + 30} textAnchor="middle">
        {roof.edges.some(({ kind }) => kind === 'eave') ? `eave ${units.length(eaveOf(roof))}` : 'no eave'}
      </text>
      <text x={middle} y={toY(view, slopeLength) - 9} textAnchor="middle">
        {roof.top === 'ridge' ? 'ridge' : roof.top === 'wall' ? 'wall' : 'top'} · {units.length(slopeLength)} up the slope
      </text>
      {placeWalls(roof.walls, slopeLength).map((wall) => {
        const middleOfWall = (wall.from + wall.to) / 2;
        return (
          <text
            key={wall.id}
            transform={`translate(${toX(view, faceAt(wall, middleOfWall) - wall.side * (UNFOLDED + 10))} ${toY(view, middleOfWall)}) rotate(-90)`}
            textAnchor="middle"
          >
            {wall.name}
          </text>
        );
      })}
      {roof.right === 'rake' &&
        !roof.walls.some((wall) => wall.stands === 'right' && (isSlanted(wall) || wall.x > roof.eaveLength - 1)) && (
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
                className={css.stepMark}
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
});
