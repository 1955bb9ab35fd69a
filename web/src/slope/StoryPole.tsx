import { type RunLine, buttLine } from '#core';
import { memo, useMemo } from 'react';
import { useEditing, usePlanned, useSlope, useView } from '../editor/context.ts';
import { LETTER, notchGroups, notches } from './pole.ts';
import { POLE, STICK, type Viewport, toY } from './viewport.ts';
import css from './StoryPole.module.css';

/** What a course's lines bring: a tag at the course for each kind of thing. */
export type PoleTag = { readonly text: string; readonly kind: 'metal' | 'hold' };

/** Tags by course, short enough for the pole. */
export function tagsByCourse(lines: readonly RunLine[]): Map<number, PoleTag[]> {
  const tags = new Map<number, PoleTag[]>();
  for (const line of lines) {
    if (line.course === undefined) continue;
    const here = tags.get(line.course) ?? [];
    if (line.detail !== 'covering') here.push(...line.pieces.map((text): PoleTag => ({ text, kind: 'metal' })));
    if (line.holdPoint) here.push({ text: 'see first', kind: 'hold' });
    tags.set(line.course, here);
  }
  return tags;
}

const STICK_WIDTH = 26;

/** The stick itself: numbered courses with their distance from the eave, and a tag where something comes in. */
export const StoryPole = memo(function StoryPole({ view, height }: { view: Viewport; height: number }) {
  const { units } = useEditing();
  const { plan } = usePlanned();
  const { plane, lines } = useSlope();
  const { marker } = useView();
  const { lines: layout } = plane;
  const tags = useMemo(() => tagsByCourse(lines), [lines]);
  const step = layout.gauge * view.scale;
  // where courses stand closer than a line of text, every second, fourth, … is lettered
  const every = step <= 0 ? 1 : 2 ** Math.max(0, Math.ceil(Math.log2(12.5 / step)));
  const top = toY(view, layout.end);
  const foot = toY(view, layout.first);
  const marks = notches(view, height, plane, lines);
  const groups = useMemo(() => notchGroups(marks, plan.pieces), [marks, plan]);
  return (
    <g className={css.pole}>
      {/* it may slide as far as the frame is high */}
      <rect x={0} y={-height} width={POLE} height={3 * height} className={css.poleGround} />
      <rect
        x={STICK}
        y={Math.min(top, ...marks.map(({ y, height: step }) => y - step / 2))}
        width={STICK_WIDTH}
        height={
          Math.max(foot, ...marks.map(({ y, height: step }) => y + step / 2)) -
          Math.min(top, ...marks.map(({ y, height: step }) => y - step / 2))
        }
        className={css.stick}
      />
      {Array.from({ length: layout.count }, (_, i) => {
        const n = i + 1;
        const y = toY(view, buttLine(layout, n));
        if (y < -20 || y > height + 20) return null;
        const lettered = i % every === 0;
        return (
          <g key={n} className={lastLaid(lines, n, marker) ? `${css.poleCourse} laid` : css.poleCourse}>
            <line x1={STICK} x2={STICK + STICK_WIDTH} y1={y} y2={y} />
            {lettered && (
              <>
                <text x={STICK + STICK_WIDTH / 2} y={y - 2} textAnchor="middle" className={css.poleNumber}>
                  {n}
                </text>
                <text x={STICK - LETTERS} y={y - 1} textAnchor="end" className="pole-distance">
                  {units.length(buttLine(layout, n))}
                </text>
                <CourseTags tags={tags.get(n) ?? []} y={y} />
              </>
            )}
          </g>
        );
      })}
      {marks.map(({ line, y, height: step }) => (
        <g key={line.line} className={line.line <= marker ? `${css.poleNotch} laid` : css.poleNotch}>
          <line x1={STICK} x2={STICK + STICK_WIDTH} y1={y + step / 2} y2={y + step / 2} />
          {line.holdPoint && step > 7 && <path d={`M${STICK + STICK_WIDTH + 4} ${y + 4}v-9l8 3l-8 3`} className={css.tagHold} />}
        </g>
      ))}
      {groups.map(({ rows, y, laidAt }) => (
        <g key={laidAt} className={laidAt <= marker ? 'laid' : ''}>
          <text y={y + 4 - ((rows.length - 1) * LETTER) / 2} textAnchor="end" className="notch-name">
            {rows.map((row, i) => (
              <tspan key={row} x={STICK - LETTERS} dy={i === 0 ? 0 : LETTER}>
                {row}
              </tspan>
            ))}
          </text>
        </g>
      ))}
    </g>
  );
});

/** Letters end this far left of the stick: the marker's arrow has its place between. */
const LETTERS = 16;

/** More squares than these beside a course, or as many with a flag, would run over the drawing: one with their number stands for them. */
const SQUARES = 3;
const TAG = STICK + STICK_WIDTH + 4;

function CourseTags({ tags, y }: { tags: readonly PoleTag[]; y: number }) {
  const metal = tags.filter(({ kind }) => kind === 'metal');
  const flagged = tags.some(({ kind }) => kind === 'hold');
  const counted = metal.length > (flagged ? SQUARES - 1 : SQUARES);
  const drawn = counted ? metal.slice(0, 1) : metal;
  const flag = TAG + drawn.length * 12 + (counted ? 17 : 0);
  return (
    <>
      {drawn.map(({ text }, i) => (
        <rect key={text} x={TAG + i * 12} y={y - 9} width={9} height={7} className={css.tagMetal} data-mark={text}>
          <title>{counted ? metal.map((one) => one.text).join(', ') : text}</title>
        </rect>
      ))}
      {counted && (
        <text x={TAG + 11} y={y - 2} className={css.tagCount}>
          ×{metal.length}
        </text>
      )}
      {flagged && (
        <path d={`M${flag} ${y - 1}v-9l8 3l-8 3`} className={css.tagHold}>
          <title>To be seen before it is covered</title>
        </path>
      )}
    </>
  );
}

const lastLaid = (lines: readonly RunLine[], course: number, marker: number): boolean =>
  lines[marker - 1] !== undefined &&
  (lines.find((line) => line.course === course && line.detail === 'covering')?.line ?? 0) <= marker;
