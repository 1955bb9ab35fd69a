import type { FlatPattern } from '#core';
import { useEditing } from '../editor/context.ts';
import css from './FlatPatternDrawing.module.css';

const BOX = { width: 220, height: 150, margin: 26 };

/** A piece as cut from flat sheet, to scale: outline, bend lines with direction and angle, overall sizes. */
export function FlatPatternDrawing({ flat }: { flat: FlatPattern }) {
  const { units } = useEditing();
  const xs = flat.outline.map(([x]) => x);
  const ys = flat.outline.map(([, y]) => y);
  const [width, height] = [Math.max(...xs), Math.max(...ys)];
  const scale = Math.min((BOX.width - 2 * BOX.margin) / width, (BOX.height - 2 * BOX.margin) / height);
  const px = (x: number): number => BOX.margin + (BOX.width - 2 * BOX.margin - width * scale) / 2 + x * scale;
  const py = (y: number): number => BOX.height - BOX.margin - (BOX.height - 2 * BOX.margin - height * scale) / 2 - y * scale;
  return (
    <figure className={css.flat}>
      <svg
        viewBox={`0 0 ${BOX.width} ${BOX.height}`}
        role="img"
        aria-label={`Flat pattern ${units.cut(width)} by ${units.cut(height)}`}
      >
        <path d={`M${flat.outline.map(([x, y]) => `${px(x)} ${py(y)}`).join('L')}Z`} className={css.sheet} />
        {flat.bends.map((bend) => (
          <g key={String(bend.from)}>
            <line x1={px(bend.from[0])} y1={py(bend.from[1])} x2={px(bend.to[0])} y2={py(bend.to[1])} className={css.bend} />
            <text
              x={(px(bend.from[0]) + px(bend.to[0])) / 2 + 4}
              y={(py(bend.from[1]) + py(bend.to[1])) / 2 - 4}
              className={css.bendNote}
            >
              {bend.direction} {bend.degrees}°
            </text>
            {bend.from[0] === bend.to[0] && bend.from[0] > 0 && (
              <>
                <text x={px(bend.from[0] / 2)} y={py(0) + 14} textAnchor="middle">
                  {units.cut(bend.from[0])}
                </text>
                <text x={px((bend.from[0] + width) / 2)} y={py(0) + 14} textAnchor="middle">
                  {units.cut(width - bend.from[0])}
                </text>
              </>
            )}
          </g>
        ))}
        <text x={px(width / 2)} y={py(height) - 6} textAnchor="middle">
          {units.cut(width)}
        </text>
        <text transform={`translate(${px(0) - 7} ${py(height / 2)}) rotate(-90)`} textAnchor="middle">
          {units.cut(height)}
        </text>
      </svg>
      <figcaption>Flat pattern, to scale</figcaption>
    </figure>
  );
}
