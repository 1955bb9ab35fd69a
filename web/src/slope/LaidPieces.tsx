import {
  type PlacedWall,
  faceAt,
  placeWalls,
  type Feature,
  type Plan,
  type PlanePlan,
  type FeatureOf,
  type Footprint,
  type Piece,
  ROLES,
  bounds,
  buttLine,
  byLay,
  chalkLine,
  footprint,
  slopeFactor,
} from '#core';
import { memo, useMemo } from 'react';
import { type Chart, UNFOLDED, coversOn, pathOf, piecePath, round, toChart } from './develop.ts';
import css from './LaidPieces.module.css';

type Props = {
  plan: Plan;
  plane: PlanePlan;
  lineOf: ReadonlyMap<string, number>;
  features: readonly Feature[];
  chart: Chart;
  marker: number;
  chosen: string | undefined;
  /** How strong the nails are drawn: 0 not at all, 1 full. */
  nails: number;
  zones: boolean;
  /** Whether the pieces of the next line show as outlines. */ ghost?: boolean;
};

/** The roof in millimetres, `y` up; strokes keep their width at any zoom. Not redrawn while panning. */
export const LaidPieces = memo(function LaidPieces({
  plan,
  plane,
  lineOf,
  features,
  chart,
  marker,
  chosen,
  nails,
  zones,
  ghost = true,
}: Props) {
  const { plane: roof } = chart;
  const { lines: layout } = plane;
  const here = useMemo(() => plan.pieces.filter((piece) => coversOn(chart, piece).length > 0), [plan, chart]);
  const paths = useMemo(() => new Map(here.map((piece) => [piece.mark, piecePath(chart, piece)])), [here, chart]);
  const isLaid = (piece: Piece): boolean => (lineOf.get(piece.mark) ?? 0) <= marker;
  const laid = here.filter(isLaid).toSorted(byLay);
  const next = here.filter((piece) => lineOf.get(piece.mark) === marker + 1);
  const picked = here.find(({ mark }) => mark === chosen);
  const laidMarks = new Set(laid.map(({ mark }) => mark));
  return (
    <g>
      <path d={pathOf([roof.outline, ...roof.holes])} fillRule="evenodd" className="deck" />
      {placeWalls(roof.walls, layout.end).map((wall) => (
        <WallFace key={wall.id} wall={wall} />
      ))}
      {laid.map((piece) => (
        <path key={piece.mark} d={paths.get(piece.mark)} className={`piece ${piece.role}`} data-mark={piece.mark} />
      ))}
      <path d={upCourses(laid, plane, ({ crowns = [] }) => crowns)} className={css.crowns} />
      <path d={upCourses(laid, plane, openOrLocked)} className={css.slits} />
      <path
        d={Array.from({ length: plane.lines.count }, (_, i) =>
          laidMarks.has(courseMarkOf(plane.mark, i + 1)) ? '' : chalkAcross(roof, buttLine(layout, i + 1)),
        ).join('')}
        className={css.chalkLines}
      />
      {laid
        .filter(({ role }) => ROLES[role].drawn === 'through')
        .map((piece) => (
          <path key={piece.mark} d={paths.get(piece.mark)} className={css.hiddenEdge} data-mark={piece.mark} />
        ))}
      {ghost &&
        next.map((piece) => (
          <path key={piece.mark} d={paths.get(piece.mark)} className={`piece ${css.next} ${piece.role}`} data-mark={piece.mark} />
        ))}
      <Standing chart={chart} features={features} />
      {zones && <path d={zonePath(plan, chart, laidMarks)} className={css.zones} />}
      {nails > 0 && <path d={nailPath(plan, plane, chart, laidMarks)} className={css.nails} opacity={nails} />}
      {picked && <path d={paths.get(picked.mark)} className="picked" />}
    </g>
  );
});

const courseMarkOf = (mark: string, n: number): string => `${mark}C${String(n).padStart(2, '0')}`;

/** A level line across the slope where the slope is. */
function chalkAcross({ outline }: Chart['plane'], y: number): string {
  const height = Math.max(y, 1);
  const crossings = outline
    .flatMap(([ax, ay], i) => {
      const [bx, by] = outline[(i + 1) % outline.length]!;
      return ay > height !== by > height ? [ax + ((bx - ax) * (height - ay)) / (by - ay)] : [];
    })
    .sort((a, b) => a - b);
  return Array.from(
    { length: Math.floor(crossings.length / 2) },
    (_, i) => `M${round(crossings[2 * i]!)} ${round(y)}H${round(crossings[2 * i + 1]!)}`,
  ).join('');
}

/** What stands on the slope, over everything: it can be taken hold of. */
function Standing({ chart, features }: { chart: Chart; features: readonly Feature[] }) {
  return (
    <>
      {features
        .filter(({ plane }) => plane === chart.plane.id)
        .map((feature) => {
          if (feature.kind === 'headwall') return null;
          const { x0, x1, from, to } = footprint(feature, chart.plane);
          if (feature.kind === 'pipe' || feature.kind === 'standoffs')
            return rounds(feature, { x0, x1, from, to }, chart.plane.pitch).map(({ x, y, rx, ry }, i) => (
              <ellipse
                key={`${feature.id}-${i}`}
                cx={x}
                cy={y}
                rx={rx}
                ry={ry}
                className={css.standing}
                data-feature={feature.id}
              />
            ));
          return (
            <rect
              key={feature.id}
              x={x0}
              y={from}
              width={x1 - x0}
              height={to - from}
              className={`${css.standing} ${feature.kind}`}
              data-feature={feature.id}
            />
          );
        })}
    </>
  );
}

/** A pipe, or every leg of a grid: round and plumb, so longer up the slope than across. */
function rounds(feature: FeatureOf<'pipe' | 'standoffs'>, foot: Footprint, pitch: number) {
  const rx = feature.diameter / 2;
  const ry = rx * slopeFactor(pitch);
  if (feature.kind === 'pipe') return [{ x: (foot.x0 + foot.x1) / 2, y: (foot.from + foot.to) / 2, rx, ry }];
  return Array.from({ length: feature.rows * feature.columns }, (_, i) => ({
    x: foot.x0 + (i % feature.columns) * feature.spacingAcross,
    y: foot.from + Math.floor(i / feature.columns) * feature.spacingUp,
    rx,
    ry,
  }));
}

function WallFace({ wall }: { wall: PlacedWall }) {
  const { side, from, to } = wall;
  const [foot, top] = [faceAt(wall, from), faceAt(wall, to)];
  const far = side * UNFOLDED;
  return (
    <g>
      <path d={`M${foot} ${from}H${foot - far}L${top - far} ${to}H${top}Z`} className="wall" />
      <line x1={foot} x2={top} y1={from} y2={to} className={css.fold} />
    </g>
  );
}

/** Joints and locks between the units of a course and the keyways between their tabs. */
const openOrLocked = ({ joints = [], locks = [], keyways }: Piece): number[] => [...joints, ...locks, ...(keyways?.at ?? [])];

/** Lines up the exposed part of each course, at the places along the eave that are told of it; of one along the eave while nothing lies over it. */
function upCourses(laid: readonly Piece[], { mark: own, lines }: PlanePlan, at: (piece: Piece) => readonly number[]): string {
  const here = laid.filter(({ mark }) => mark.startsWith(own));
  const isCovered = here.some(({ course, role }) => course === 1 && role === 'course');
  return here
    .filter(({ course }) => course! > 0 || !isCovered)
    .flatMap((piece) => {
      const n = piece.course!;
      const high = n > 0 ? buttLine(lines, n + 1) : bounds(piece.covers[0]!.outline).y1;
      return at(piece).map((x) => `M${round(x)} ${round(buttLine(lines, Math.max(1, n)))}V${round(Math.min(high, lines.end))}`);
    })
    .join('');
}

/** No-nail zones whose metal lies open at the marker, and the bands beside the walls. */
function zonePath(plan: Plan, chart: Chart, laid: ReadonlySet<string>): string {
  const shown = plan.zones.filter(
    ({ piece, facet }) => (facet === chart.plane.id || chart.facetOf.has(facet)) && (piece === undefined || laid.has(piece)),
  );
  return pathOf(shown.map(({ facet, outline }) => outline.map((point) => toChart(chart, facet, point))));
}

/**
 * The nails of what is laid; those of the underlayers only where no course covers them yet. A zero-length stroke with round ends is a
 * dot of the same size at any zoom.
 */
function nailPath(plan: Plan, plane: PlanePlan, chart: Chart, laid: ReadonlySet<string>): string {
  const detailOf = new Map(plan.pieces.map(({ mark, detail }) => [mark, detail]));
  let covered = Number.NEGATIVE_INFINITY;
  for (let n = 1; n <= plane.lines.count; n++) if (laid.has(courseMarkOf(plane.mark, n))) covered = chalkLine(plane.lines, n);
  return plan.fasteners
    .filter(
      ({ piece, at, facet }) =>
        (facet === chart.plane.id || chart.facetOf.has(facet)) &&
        laid.has(piece) &&
        (detailOf.get(piece) !== 'underlayers' || at[1] > covered),
    )
    .map(({ facet, at }) => {
      const [x, y] = toChart(chart, facet, at);
      return `M${round(x)} ${round(y)}h0`;
    })
    .join('');
}
