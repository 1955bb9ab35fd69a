import { type Plan, type Section } from '#core';
import { SectionDrawing, legendOf } from './SectionDrawing.tsx';
import css from './SectionFigure.module.css';

type Props = { section: Section; plan: Plan; detail: string; width: number; onChoose?: (mark: string) => void };

/** A section with what its numbers stand for. */
export function SectionFigure({ section, plan, detail, width, onChoose }: Props) {
  const pieces = new Map(plan.pieces.map((piece) => [piece.mark, piece]));
  return (
    <figure className={css.figure} style={{ maxWidth: width }}>
      <figcaption className={css.caption}>{SAID[section.title]}; lengths to scale, layers drawn thicker than they are</figcaption>
      <SectionDrawing section={section} plan={plan} detail={detail} width={width} {...(onChoose ? { onChoose } : {})} />
      <ol className={css.legend}>
        {legendOf(section, pieces).map(({ numbers, words, marks }) => (
          <li key={numbers} data-mark={marks}>
            <b className="fig">{numbers}</b> {words}
          </li>
        ))}
      </ol>
    </figure>
  );
}

const SAID = {
  'up the slope': 'Up the slope, seen from its side',
  'across the slope': 'Across the slope, seen from below',
  'square to the valley': 'Square to the valley, seen from its foot',
} as const;
