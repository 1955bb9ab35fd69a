import {
  type EdgeKind,
  type FaceEdge,
  type Plane,
  distanceToStretch,
  footprint,
  isWithin,
  slopeFactor,
  toPlan,
  faceAt,
  placeWalls,
} from '#core';
import { useEditing, usePlanned, useSlope } from '../editor/context.ts';
import { pathOf } from '../slope/develop.ts';
import { useSize } from '../slope/viewport.ts';
import { pitchSaid } from './pitch.ts';
import css from './PlanView.module.css';

const MARGIN = 54;
/** Half the room on a slope, in pixels, from which its pitch and its arrow are drawn. */
const ROOM_FOR_PITCH = 18;
const ROOM_FOR_ARROW = 44;

/** The roof from above, north up, to scale: slopes, what their edges are, walls and what stands on the slopes. */
export function PlanView({ onOpen }: { onOpen: (plane: string) => void }) {
  const { job, units } = useEditing();
  const { plan } = usePlanned();
  const { plane: current } = useSlope();
  const [frame, size] = useSize();
  const { width, height } = size ?? { width: 0, height: 0 };
  const points = plan.roof.flatMap(({ joined }) => joined.plan);
  const xs = points.map(([x]) => x);
  const ys = points.map(([, y]) => y);
  const [west, east, south, north] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const scale = size ? Math.min((width - 2 * MARGIN) / (east - west), (height - 2 * MARGIN) / (north - south)) : 0;
  const at = ([x, y]: readonly [number, number]): [number, number] => [
    width / 2 + (x - (west + east) / 2) * scale,
    height / 2 - (y - (north + south) / 2) * scale,
  ];
  const path = (outline: readonly (readonly [number, number])[]): string => pathOf([outline.map(at)]);
  const onChart = (roof: Plane, [x, y]: readonly [number, number]) =>
    at(toPlan(roof.joined.face, [x, y / slopeFactor(roof.pitch)]));
  const standing = new Map(
    plan.roof.map((roof) => [
      roof.id,
      size && scale > 0
        ? job.features.flatMap((feature) => {
            if (feature.plane !== roof.id || feature.kind === 'headwall') return [];
            const { x0, x1, from, to } = footprint(feature, roof);
            return [onChart(roof, [(x0 + x1) / 2, (from + to) / 2])];
          })
        : [],
    ]),
  );
  const drawnHole = (roof: Plane, hole: readonly (readonly [number, number])[]): [number, number][] =>
    hole.map((point) => onChart(roof, point));
  // the roomiest place of each slope, for its name
  const named = new Map(
    size && scale > 0
      ? plan.roof.map((roof) => [
          roof.id,
          roomiest(
            roof.joined.plan.map(at),
            roof.holes.map((hole) => drawnHole(roof, hole)),
            standing.get(roof.id) ?? [],
          ),
        ])
      : [],
  );
  return (
    <div className={css.planView} ref={frame}>
      {size && scale > 0 && (
        <svg width={size.width} height={size.height} role="img" aria-label="The roof from above, to scale">
          <rect width={size.width} height={size.height} className="film" />
          {plan.roof.map((roof) => {
            const holes = pathOf(roof.holes.map((hole) => drawnHole(roof, hole)));
            const [cx, cy, room] = named.get(roof.id)!;
            const [ax, ay] = fallOf(roof);
            const short = plan.planes.find(({ id }) => id === roof.id)!.mark.slice(0, -1);
            const name = room * 2 > roof.name.length * 6.2 || short === '' ? roof.name : short;
            return (
              <g
                key={roof.id}
                className={roof.id === current.id ? `${css.planSlope} on` : css.planSlope}
                onClick={() => onOpen(roof.id)}
              >
                <path d={path(roof.joined.plan) + holes} fillRule="evenodd" />
                <title>{roof.name}</title>
                {room > ROOM_FOR_ARROW && (
                  <line
                    x1={cx - ax * 12}
                    y1={cy + 28 + ay * 12}
                    x2={cx + ax * 12}
                    y2={cy + 28 - ay * 12}
                    className={css.fallArrow}
                    markerEnd="url(#fall)"
                  />
                )}
                <text x={cx} y={cy - 4} textAnchor="middle" className={css.planName}>
                  {name}
                </text>
                {room > ROOM_FOR_PITCH && (
                  <text x={cx} y={cy + 10} textAnchor="middle" className={css.planFigure}>
                    {pitchSaid(job, roof)}
                  </text>
                )}
              </g>
            );
          })}
          <defs>
            <marker id="fall" viewBox="0 0 10 10" refX="8" refY="5" markerWidth="7" markerHeight="7" orient="auto">
              <path d="M0 1L9 5L0 9" className={css.fallHead} />
            </marker>
          </defs>
          {plan.roof.flatMap((roof) =>
            roof.edges.map((edge, i) => {
              // a line two slopes share is drawn once
              if (edge.other !== undefined && roof.id > edge.other) return null;
              const [x1, y1] = onChart(roof, edge.from);
              const [x2, y2] = onChart(roof, edge.to);
              const length = Math.hypot(edge.to[0] - edge.from[0], edge.to[1] - edge.from[1]);
              const narrow = edge.other !== undefined && named.get(roof.id)![2] < ROOM_FOR_PITCH;
              const room = Math.hypot(x2 - x1, y2 - y1) > 84 && !narrow;
              const turn = (Math.atan2(y2 - y1, x2 - x1) * 180) / Math.PI;
              const upright = turn > 90 || turn <= -90 ? turn + 180 : turn;
              return (
                <g key={`${roof.id}${i}`} className={`${css.planEdge} ${edgeName(roof, edge).replaceAll(' ', '-')}`}>
                  <line x1={x1} y1={y1} x2={x2} y2={y2} />
                  {room && (
                    <text
                      transform={`translate(${(x1 + x2) / 2} ${(y1 + y2) / 2}) rotate(${upright})`}
                      y={SHARED.has(edge.kind) ? -5 : outward(turn, upright)}
                      textAnchor="middle"
                    >
                      {edgeName(roof, edge)} {units.length(length)}
                    </text>
                  )}
                </g>
              );
            }),
          )}
          {plan.roof.flatMap((roof) =>
            job.features
              .filter(({ plane }) => plane === roof.id)
              .map((feature) => {
                if (feature.kind === 'headwall') return null;
                const { x0, x1, from, to } = footprint(feature, roof);
                const corners = [[x0, from], [x1, from], [x1, to], [x0, to]] as const; // prettier-ignore
                const drawn = corners.map((corner) => onChart(roof, corner));
                const [cx] = middleOf(drawn);
                return (
                  <g key={feature.id} className={`${css.planFeature} ${feature.kind}`}>
                    <path d={`M${drawn.map(([x, y]) => `${x} ${y}`).join('L')}Z`} />
                    <text x={cx} y={Math.min(...drawn.map(([, y]) => y)) - 4} textAnchor="middle">
                      {feature.id}
                    </text>
                  </g>
                );
              }),
          )}
          {plan.roof.flatMap((roof) =>
            placeWalls(roof.walls, roof.slope.length).map((wall) => {
              const [x1, y1] = onChart(roof, [faceAt(wall, wall.from), wall.from]);
              const [x2, y2] = onChart(roof, [faceAt(wall, wall.to), wall.to]);
              return <line key={wall.id} x1={x1} y1={y1} x2={x2} y2={y2} className={css.planWall} />;
            }),
          )}
          <g className={css.north} transform={`translate(${size.width - 30} 44)`}>
            <path d="M0 14V-14M-5 -6L0 -16L5 -6" />
            <text y={28} textAnchor="middle">
              N
            </text>
          </g>
        </svg>
      )}
    </div>
  );
}

/** What an edge is called: where a wall stands along it, it is a wall; the top of a slope that ends in a ridge is one, also where the other side is not measured. */
function edgeName(roof: Plane, { kind, from }: FaceEdge): string {
  if (kind === 'top') return roof.top === 'continues' ? 'top' : roof.top;
  return kind === 'rake' && roof.walls.some(({ x }) => Math.abs(x - from[0]) < 1) ? 'wall' : kind;
}

const SHARED: ReadonlySet<EdgeKind> = new Set(['ridge', 'hip', 'valley', 'change of pitch']);

/** Corners run counter-clockwise in plan, so clockwise on the screen: outside is on a fixed side of the edge. */
const outward = (turn: number, upright: number): number => (turn === upright ? 14 : -6);

const middleOf = (points: readonly (readonly [number, number])[]): [number, number] => [
  points.reduce((sum, [x]) => sum + x, 0) / points.length,
  points.reduce((sum, [, y]) => sum + y, 0) / points.length,
];

/** The place inside an outline farthest from its edges, its holes and other places, and how far that is. */
function roomiest(
  outline: readonly (readonly [number, number])[],
  holes: readonly (readonly (readonly [number, number])[])[],
  avoid: readonly (readonly [number, number])[],
): [number, number, number] {
  const xs = outline.map(([x]) => x);
  const ys = outline.map(([, y]) => y);
  let best: [number, number, number] = [...middleOf(outline), 0];
  for (let i = 1; i < 24; i++)
    for (let j = 1; j < 16; j++) {
      const x = Math.min(...xs) + ((Math.max(...xs) - Math.min(...xs)) * i) / 24;
      const y = Math.min(...ys) + ((Math.max(...ys) - Math.min(...ys)) * j) / 16;
      if (!isWithin(outline, [x, y]) || holes.some((hole) => isWithin(hole, [x, y]))) continue;
      const edges = [outline, ...holes].flatMap((ring) =>
        ring.map((p, k) => distanceToStretch([x, y], p, ring[(k + 1) % ring.length]!)),
      );
      const others = avoid.map(([ax, ay]) => Math.hypot(x - ax, (y - ay) * 1.5) - 24);
      const room = Math.min(...edges, ...others);
      if (room > best[2]) best = [x, y, room];
    }
  return best;
}

/** Direction the water runs, on the plan with north up. */
function fallOf({ joined }: Plane): [number, number] {
  const turn = (joined.face.place.facing * Math.PI) / 180;
  return [Math.sin(turn), Math.cos(turn)];
}
