import { DRAWN_OF_WALL, type Dimension, type Facet, ROLES, byLay, lengthOf } from '#core';
import { useEditing, usePlanned, useView } from '../editor/context.ts';
import { pathOf } from '../slope/develop.ts';
import { DimensionLines } from './DimensionLines.tsx';
import css from './FaceDrawing.module.css';

const HEIGHT = 280;
const WIDE = 660;
/** Room beside a face for its dimensions, and for its name at least. */
const BESIDE = 148;
const NAME = 160;
/** Of every wall its lowest part is shown. */
const SHOWN = 22 * 25.4;

type Props = {
  facet: Facet;
  dimensions: readonly Dimension[];
  /** Greatest height and width, pixels. */
  height?: number;
  most?: number;
};

type Span = { x0: number; x1: number; low: number; high: number };

/** One upright face with what goes up it, to scale: the roof line at the bottom, plumb, as one stands before it. */
export function FaceDrawing({ facet, dimensions, height: highest = HEIGHT, most = WIDE }: Props) {
  const { units } = useEditing();
  const { plan } = usePlanned();
  const { choose, chosen } = useView();
  const roof = plan.roof.find(({ id }) => id === facet.on)!;
  const joint = plan.joints.find(({ b }) => b === facet.id);
  const raking = joint?.kind === 'side';
  // charts run uphill or to the right as seen from below: a face to the right of the roof and a back are seen the other way round
  const mirrored = joint?.kind === 'back' || (raking && joint.side === -1);
  const covers = plan.pieces
    .toSorted(byLay)
    .flatMap((piece) => piece.covers.filter((cover) => cover.facet === facet.id).map((cover) => ({ piece, cover })));
  const span = shownOf(facet, raking ? roof.pitch : 0);
  const own = dimensions.filter((one) => one.facet === facet.id);
  const beside = own.length > 0 ? BESIDE : 10;
  const scale = Math.min((most - 2 * beside) / (span.x1 - span.x0), (highest - 34) / (span.high - span.low));
  const height = Math.ceil((span.high - span.low) * scale + 34);
  const width = Math.max(NAME, Math.ceil((span.x1 - span.x0) * scale + 2 * beside));
  const left = (width - (span.x1 - span.x0) * scale) / 2;
  const at = ([x, y]: readonly [number, number]): [number, number] => [
    left + (mirrored ? span.x1 - x : x - span.x0) * scale,
    height - 18 - (y - span.low) * scale,
  ];
  const path = (outline: readonly (readonly [number, number])[]): string => pathOf([outline.map(at)]);
  const clip = `clip-${facet.id.replaceAll('/', '-')}`;
  const cutShort = Math.max(...facet.outline.map(([x]) => x)) > span.x1 + 1;
  return (
    <figure className={css.face} style={{ width }}>
      <svg width={width} height={height} role="img" aria-label={`${facet.name}, to scale`}>
        <clipPath id={clip}>
          <path d={path(facet.outline)} />
        </clipPath>
        <g clipPath={`url(#${clip})`}>
          <path d={path(facet.outline)} className="wall" />
          {covers.map(({ piece, cover }, i) => (
            <path
              key={i}
              d={path(piece.role === 'cladding' ? plumbUp(cover.outline) : cover.outline)}
              className={`piece ${piece.role} ${chosen?.mark === piece.mark ? 'picked' : ''}`}
              data-mark={piece.mark}
              onClick={() => choose(piece.mark)}
            >
              <title>{piece.mark}</title>
            </path>
          ))}
          {covers
            .filter(({ piece }) => ROLES[piece.role].lettered === 'wall')
            .map(({ piece, cover }, i) => {
              const drawn = cover.outline.map(at);
              const xs = drawn.map(([x]) => x);
              const room = Math.max(...xs) - Math.min(...xs) > 26;
              const middle = drawn.reduce(([sx, sy], [x, y]) => [sx + x / drawn.length, sy + y / drawn.length], [0, 0]);
              return room ? (
                <text
                  key={i}
                  x={middle[0]}
                  y={middle[1]! + 3}
                  textAnchor="middle"
                  className={`letters ${css.faceMark}`}
                  data-mark={piece.mark}
                >
                  {piece.mark.split('-')[1]}
                </text>
              ) : null;
            })}
        </g>
        <path d={path(facet.outline)} className={css.faceEdge} />
        <DimensionLines dimensions={own} lengthOf={(one) => units.cut(lengthOf(one))} place={at} away={12} />
      </svg>
      <figcaption>
        {facet.name}
        {cutShort && ', its foot'}
      </figcaption>
    </figure>
  );
}

/** What closes a wall is planned square to the slope; it goes up plumb, as far as the wall does. */
const plumbUp = ([left, right]: Facet['outline']): Facet['outline'] =>
  left && right ? [left, right, [right[0] + FAR, right[1]], [right[0] + FAR, FAR], [left[0], FAR]] : [];
const FAR = 1e5;

function shownOf(facet: Facet, pitch: number): Span {
  const xs = facet.outline.map(([x]) => x);
  const ys = facet.outline.map(([, y]) => y);
  const [x0, low] = [Math.min(...xs), Math.min(...ys)];
  const x1 = pitch > 0 ? Math.min(Math.max(...xs), x0 + DRAWN_OF_WALL) : Math.max(...xs);
  return { x0, x1, low, high: Math.min(Math.max(...ys), low + (x1 - x0) * pitch + SHOWN) };
}
