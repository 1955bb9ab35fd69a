import { type Facet, byLay, wallToSlope } from '@ruvet/core';
import { useWorkbench } from '../editor/context.ts';

const WIDTH = 300;
const HEIGHT = 190;
const SHOWN = 22 * 25.4;

/** One upright face with what goes up it, to scale: the roof line at the bottom, plumb as it stands. */
export function FaceDrawing({ facet }: { facet: Facet }) {
  const { plan, roof, choose, chosen } = useWorkbench();
  const side = plan.joints.find(({ b }) => b === facet.id)?.kind === 'side';
  const covers = plan.pieces
    .toSorted(byLay)
    .flatMap((piece) => piece.covers.filter((cover) => cover.facet === facet.id).map((cover) => ({ piece, cover })));
  const xs = facet.outline.map(([x]) => x);
  const ys = facet.outline.map(([, y]) => y);
  const [x0, x1] = [Math.min(...xs), Math.max(...xs)];
  const low = Math.min(...ys);
  // a long sidewall is shown at its foot
  const right = Math.min(x1, x0 + 96 * 25.4);
  const high = side ? right * roof.pitch + SHOWN : Math.min(Math.max(...ys), low + SHOWN);
  const scale = Math.min((WIDTH - 20) / (right - x0), (HEIGHT - 34) / (high - low));
  const at = ([x, y]: readonly [number, number]): string =>
    `${((x - x0) * scale + 10).toFixed(1)} ${(HEIGHT - 20 - (y - low) * scale).toFixed(1)}`;
  return (
    <figure className="face">
      <svg width={WIDTH} height={HEIGHT} role="img" aria-label={`${facet.name}, to scale`}>
        <clipPath id={`clip-${facet.id.replaceAll('/', '-')}`}>
          <path d={`M${facet.outline.map(at).join('L')}Z`} />
        </clipPath>
        <g clipPath={`url(#clip-${facet.id.replaceAll('/', '-')})`}>
          <path d={`M${facet.outline.map(at).join('L')}Z`} className="wall" />
          {covers.map(({ piece, cover }, i) => (
            <path
              key={i}
              d={`M${cover.outline.map(at).join('L')}Z`}
              className={`piece ${piece.role} ${chosen?.mark === piece.mark ? 'picked' : ''}`}
              onClick={() => choose(piece.mark)}
            >
              <title>{piece.mark}</title>
            </path>
          ))}
          {covers
            .filter(({ piece }) => piece.role === 'counter' || piece.role === 'throughWall' || piece.role === 'ledge')
            .map(({ piece, cover }, i) => {
              const middle = cover.outline.reduce(
                ([sx, sy], [x, y]) => [sx + x / cover.outline.length, sy + y / cover.outline.length],
                [0, 0],
              );
              const [px, py] = at(middle as [number, number]).split(' ');
              const room = (Math.max(...cover.outline.map(([x]) => x)) - Math.min(...cover.outline.map(([x]) => x))) * scale > 26;
              return room ? (
                <text key={i} x={px} y={py} textAnchor="middle" className="face-mark">
                  {piece.mark.split('-')[1]}
                </text>
              ) : null;
            })}
        </g>
      </svg>
      <figcaption>
        {facet.name}
        {side && wallToSlope([x1, 0], roof.pitch).s > 96 * 25.4 * 1.2 && right < x1 ? ', its foot' : ''}
      </figcaption>
    </figure>
  );
}
