import { type PlanePlan, inches } from '#core';
import { useEditing } from '../editor/context.ts';
import { PAPERS, type Paper } from './papers.ts';
import { rodOf, rodSections } from './rod.ts';
import css from './FullSizeRod.module.css';
import page from './PrintPage.module.css';

/** What of a sheet its heading and foot take, millimetres. */
const HEADING = 32;
/** Long enough to check a printer by with a tape, and a whole figure on it. */
const CHECK = { metric: 100, imperial: inches(4) } as const;

/** The rod itself, full size, a section a sheet: cut out, joined on their dashed lines and glued to a batten it is the gauge rod. */
export function FullSizeRod({ paper, plane }: { paper: Paper; plane: PlanePlan }) {
  const { units } = useEditing();
  const { what, marks } = rodOf(plane);
  const longest = PAPERS[paper].height - HEADING;
  const check = CHECK[units.system];
  const sections = rodSections(marks, longest);
  return (
    <>
      {sections.map(({ from, to, marks: own }, i) => {
        const y = (at: number): number => to - at;
        return (
          <section key={from} className={page.paperPole}>
            <h2>
              {plane.name}: rod, full size, {i + 1} of {sections.length}
            </h2>
            <svg
              viewBox={`0 0 150 ${longest}`}
              style={{ height: `${longest}mm`, width: '150mm' }}
              role="img"
              aria-label={`${plane.name}: rod, full size, ${i + 1} of ${sections.length}`}
            >
              <rect x={20} y={0} width={40} height={longest} className={page.paperStick} />
              {[...(i > 0 ? [sections[i - 1]!.to] : []), ...(i + 1 < sections.length ? [sections[i + 1]!.from] : [])].map(
                (at) => (
                  <g key={at}>
                    <line x1={20} x2={60} y1={y(at)} y2={y(at)} className={css.join} />
                    <text x={62} y={y(at) + 1.2}>
                      {at > (from + to) / 2 ? `join ${i + 2} here` : `join ${i} here`}
                    </text>
                  </g>
                ),
              )}
              {from < 0 && to > 0 && (
                <g>
                  <line x1={10} x2={60} y1={y(0)} y2={y(0)} />
                  <text x={62} y={y(0) + 1.2}>
                    eave edge of the deck
                  </text>
                </g>
              )}
              {own.map(({ n, at }) => (
                <g key={n} data-mark={n}>
                  <line x1={20} x2={60} y1={y(at)} y2={y(at)} />
                  <text x={62} y={y(at) + 1.2}>
                    {what} {n}: {units.length(at)}
                  </text>
                </g>
              ))}
              <line x1={140} x2={140} y1={longest - check - 2} y2={longest - 2} />
              {[longest - check - 2, longest - 2].map((at) => (
                <line key={at} x1={137} x2={143} y1={at} y2={at} />
              ))}
              <text x={137} y={longest - check / 2} textAnchor="end">
                {units.cut(check)}
              </text>
            </svg>
            <p className="small">
              Print at 100 %, no fitting to the page: measure the {units.cut(check)} line first.{' '}
              {what === 'Batten' ? 'Marks are the battens’ upper edges.' : 'Marks are the courses’ lower edges.'}
            </p>
          </section>
        );
      })}
    </>
  );
}
