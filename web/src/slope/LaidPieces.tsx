import { type Piece, type Role, buttLine, byLay, chalkLine } from '@ruvet/core';
import { memo, useMemo } from 'react';
import type { Workbench } from '../editor/context.ts';
import { type Sheet, UNFOLDED, pathOf, piecePath, round, toSheet } from './develop.ts';

/** What lies under the covering and still has to be seen: drawn again over it as a hidden edge, dashed. */
const SEEN_THROUGH: readonly Role[] = ['step', 'kickOut', 'apronEnd'];

type Props = {
  bench: Workbench;
  sheet: Sheet;
  marker: number;
  chosen: string | undefined;
  nails: boolean;
  zones: boolean;
  /** Whether the pieces of the next line show as outlines. */ ghost?: boolean;
};

/** The roof in millimetres, `y` up; strokes keep their width at any zoom. Not redrawn while panning. */
export const LaidPieces = memo(
  function LaidPieces({ bench, sheet, marker, chosen, nails, zones, ghost = true }: Props) {
    const { plan, plane, lineOf } = bench;
    const { plane: roof } = sheet;
    const { layout } = plane;
    const paths = useMemo(() => new Map(plan.pieces.map((piece) => [piece.mark, piecePath(sheet, piece)])), [plan, sheet]);
    const isLaid = (piece: Piece): boolean => (lineOf.get(piece.mark) ?? 0) <= marker;
    const laid = plan.pieces.filter(isLaid).toSorted(byLay);
    const next = plan.pieces.filter((piece) => lineOf.get(piece.mark) === marker + 1);
    const picked = plan.pieces.find(({ mark }) => mark === chosen);
    const laidMarks = new Set(laid.map(({ mark }) => mark));
    return (
      <g>
        <rect x={0} y={0} width={roof.eaveLength} height={layout.slopeLength} className="deck" />
        {roof.walls.map((wall) => (
          <WallFace
            key={wall.id}
            x={wall.x}
            side={wall.stands === 'left' ? 1 : -1}
            from={wall.from}
            to={Math.min(wall.to ?? layout.slopeLength, layout.slopeLength)}
          />
        ))}
        {laid.map((piece) => (
          <path key={piece.mark} d={paths.get(piece.mark)} className={`piece ${piece.role}`} data-mark={piece.mark} />
        ))}
        <path d={jointsPath(laid, bench)} className="slits" />
        <path
          d={Array.from({ length: plane.courses }, (_, i) =>
            laidMarks.has(courseMarkOf(i + 1)) ? '' : `M0 ${round(buttLine(layout, i + 1))}H${roof.eaveLength}`,
          ).join('')}
          className="chalk-lines"
        />
        {laid
          .filter(({ role }) => SEEN_THROUGH.includes(role))
          .map((piece) => (
            <path key={piece.mark} d={paths.get(piece.mark)} className="hidden-edge" data-mark={piece.mark} />
          ))}
        {ghost &&
          next.map((piece) => (
            <path key={piece.mark} d={paths.get(piece.mark)} className={`piece next ${piece.role}`} data-mark={piece.mark} />
          ))}
        {zones && <path d={zonePath(bench, sheet, laidMarks)} className="zones" />}
        {nails && <path d={nailPath(bench, sheet, laidMarks)} className="nails" />}
        {picked && <path d={paths.get(picked.mark)} className="picked" />}
      </g>
    );
  },
  (before, after) =>
    before.bench.plan === after.bench.plan &&
    before.sheet === after.sheet &&
    before.marker === after.marker &&
    before.chosen === after.chosen &&
    before.nails === after.nails &&
    before.zones === after.zones,
);

const courseMarkOf = (n: number): string => `C${String(n).padStart(2, '0')}`;

function WallFace({ x, side, from, to }: { x: number; side: 1 | -1; from: number; to: number }) {
  const far = x - side * UNFOLDED;
  return (
    <g>
      <rect x={Math.min(x, far)} y={from} width={UNFOLDED} height={to - from} className="wall" />
      <line x1={x} x2={x} y1={from} y2={to} className="fold" />
    </g>
  );
}

/** Butt joints between the shingles of a course, over its exposed part. */
function jointsPath(laid: readonly Piece[], { plane }: Workbench): string {
  return laid
    .flatMap(({ joints, course }) =>
      (joints ?? []).map(
        (x) =>
          `M${round(x)} ${round(buttLine(plane.layout, course!))}V${round(Math.min(buttLine(plane.layout, course! + 1), plane.layout.slopeLength))}`,
      ),
    )
    .join('');
}

/** No-nail zones whose metal lies open at the marker, and the bands beside the walls. */
function zonePath({ plan }: Workbench, sheet: Sheet, laid: ReadonlySet<string>): string {
  const shown = plan.zones.filter(({ piece }) => piece === undefined || laid.has(piece));
  return pathOf(shown.map(({ facet, outline }) => outline.map((point) => toSheet(sheet, facet, point))));
}

/**
 * The nails of what is laid; those of the underlayers only where no course covers them yet. A zero-length stroke with round ends is a
 * dot of the same size at any zoom.
 */
function nailPath({ plan, plane }: Workbench, sheet: Sheet, laid: ReadonlySet<string>): string {
  const detailOf = new Map(plan.pieces.map(({ mark, detail }) => [mark, detail]));
  let covered = Number.NEGATIVE_INFINITY;
  for (let n = 1; n <= plane.courses; n++) if (laid.has(courseMarkOf(n))) covered = chalkLine(plane.layout, n);
  return plan.fasteners
    .filter(({ piece, at }) => laid.has(piece) && (detailOf.get(piece) !== 'underlayers' || at[1] > covered))
    .map(({ facet, at }) => {
      const [x, y] = toSheet(sheet, facet, at);
      return `M${round(x)} ${round(y)}h0`;
    })
    .join('');
}
