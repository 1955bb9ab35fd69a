import { Button } from '@mantine/core';
import { IconPrinter } from '@tabler/icons-react';
import {
  type Crew,
  type PlanePlan,
  buttLine,
  filterRunSheet,
  groupFindings,
  mutedKinds,
  told,
  groupWords,
  holdWords,
  SIDE_WORDS,
  shortMarks,
  usesWords,
} from '#core';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { Choice } from '../Choice.tsx';
import { useEditing, usePlanned, useSlope } from '../editor/context.ts';
import { CrewSelect, SlopeSelect } from '../runsheet/selects.tsx';
import { tagsByCourse } from '../slope/StoryPole.tsx';
import { FullSizeRod } from './FullSizeRod.tsx';
import { PAPERS, PAPER_NAMES, type Paper } from './papers.ts';
import css from './PrintPage.module.css';

/** The pole by its figures, or full size in sections to be joined. */
const RODS = { figures: 'Pole, figures', full: 'Rod, full size' } as const;

/** The run sheet and the pole in black and white, to carry up the ladder. */
export function PrintPage() {
  const { id } = useParams();
  const { job, units } = useEditing();
  const { plan, findings } = usePlanned();
  const { plane } = useSlope();
  const [slope, setSlope] = useState(plan.planes.length > 1 ? '' : plane.id);
  const [crew, setCrew] = useState<Crew>();
  const planes = plan.planes.filter(({ id: own }) => slope === '' || own === slope);
  const sheet = slope === '' ? plan.runSheet : planes[0]!.runSheet;
  const groups = filterRunSheet(sheet, { ...(crew && { crew }) });
  const names = new Map(plan.planes.map(({ id: own, name }) => [own, name]));
  const [rod, setRod] = useState<keyof typeof RODS>('figures');
  const [paper, setPaper] = useState<Paper>(job.units === 'imperial' ? 'Letter' : 'A4');
  return (
    <main className={css.printPage}>
      <style>{`@page { size: ${paper}; margin: 12mm; }`}</style>
      <div className="print-tools">
        <Link to={`/jobs/${id}`}>Back to the slope</Link>
        <Choice label="Paper" value={paper} onChange={setPaper} options={PAPER_NAMES} />
        <Choice label="Pole" value={rod} onChange={setRod} options={RODS} />
        <SlopeSelect
          value={slope}
          onChange={(value) => {
            setSlope(value);
            setCrew(undefined);
          }}
        />
        <CrewSelect sheet={sheet} value={crew} onChange={setCrew} />
        <Button leftSection={<IconPrinter size={16} />} onClick={() => print()}>
          Print
        </Button>
      </div>
      <article className={css.paper} style={{ width: `${PAPERS[paper].width}mm` }}>
        <header>
          <h1>{job.name}</h1>
          {planes.map((one) => (
            <p key={one.id}>
              {one.name}: {one.lines.count} courses at {units.cut(one.lines.gauge)}, slope {units.length(one.lines.end)}, eave{' '}
              {units.length(plan.roof.find(({ id: own }) => own === one.id)!.eaveLength)}
              {one.walls.map((wall) => `; ${wall.id} ${wall.name}: ${wall.pieces} ${SIDE_WORDS[wall.sides]}`).join('')}
              {one.barrier && `; ice barrier ${units.cut(one.barrier.needed)} up, ${one.barrier.rows.length} rows`}
            </p>
          ))}
          {job.note && <p>{job.note}</p>}
        </header>
        {findings.length > 0 && (
          <section className="paper-findings">
            <h2>Findings</h2>
            <ul>
              {groupFindings(told(findings)).map((group) => (
                <li key={group.findings[0].id}>
                  <b>{group.findings[0].severity}:</b> {units.words(groupWords(group))} {units.words(group.findings[0].fix)}
                </li>
              ))}
              {mutedKinds(findings).map(({ kind, count, reason }) => (
                <li key={kind}>
                  <b>Muted:</b> {kind}, {count}: {reason}
                </li>
              ))}
            </ul>
          </section>
        )}
        <h2>Run sheet{crew && `, ${crew}`}</h2>
        {groups.map((group) => (
          <section key={`${group.id}-${group.lines[0]!.line}`} className={css.paperGroup}>
            <h3>
              {group.title}
              {group.y !== undefined && <span className="fig">{units.length(group.y)}</span>}
            </h3>
            <div>
              {group.lines.map((line) => (
                <div key={line.line} className={css.paperLine}>
                  <span className={css.box} aria-hidden />
                  <b className="fig">{line.whole}</b>
                  <div>
                    {slope === '' && planes.length > 1 && group.course === undefined && line.plane && (
                      <b>{names.get(line.plane)}: </b>
                    )}
                    {units.words(line.action)}
                    {line.fasteners && <> {units.words(line.fasteners)}.</>}
                    {line.uses && <> Takes {units.words(usesWords(line.uses))}.</>}
                    {line.wait && <> Wait: {line.wait}.</>}
                    {line.people === 2 && <> Two people.</>}
                    {line.pieces.length > 1 && <span className="fig"> [{shortMarks(line.pieces)}]</span>}
                    {line.holdPoint && (
                      <p className={css.paperHold}>
                        ⚑ {holdWords(line.holdPoint)} <span className={css.sign}>seen by</span>
                      </p>
                    )}
                    {line.caution && <p className={css.paperCaution}>▲ {line.caution}</p>}
                  </div>
                </div>
              ))}
            </div>
          </section>
        ))}
        <p className="small">
          Local code, the maker’s current instructions and licensed practice govern. Ruvet computes; it does not approve.
        </p>
        {planes.map((one) =>
          rod === 'figures' ? (
            <PaperPole key={one.id} paper={paper} plane={one} />
          ) : (
            <FullSizeRod key={one.id} paper={paper} plane={one} />
          ),
        )}
      </article>
    </main>
  );
}

/** Least height of a course on paper that keeps its figures apart. */
const LEAST_ROW = 5.2;

/** The pole to transfer to a stick: every course's distance from the deck's eave edge, with what comes in there. */
function PaperPole({ paper, plane }: { paper: Paper; plane: PlanePlan }) {
  const { units } = useEditing();
  const tags = tagsByCourse(plane.runSheet.flatMap(({ lines }) => lines));
  const usable = PAPERS[paper].height - 30;
  const perPage = Math.floor(usable / LEAST_ROW);
  const pages = Math.ceil(plane.lines.count / perPage);
  const shown = Math.ceil(plane.lines.count / pages);
  return (
    <>
      {Array.from({ length: pages }, (_, page) => {
        const first = page * shown + 1;
        const last = Math.min(plane.lines.count, first + shown - 1);
        const row = usable / (last - first + 1.5);
        const y = (n: number): number => usable - 4 - (n - first) * row;
        return (
          <section key={page} className={css.paperPole}>
            <h2>
              {plane.name}: story pole{pages > 1 ? `, courses ${first} to ${last}` : ''}: butt lines from the deck’s eave edge
            </h2>
            <svg
              viewBox={`0 0 120 ${usable}`}
              style={{ height: `${usable}mm`, width: '120mm' }}
              role="img"
              aria-label={`${plane.name}: story pole, courses ${first} to ${last}`}
            >
              <rect x={40} y={1} width={14} height={usable - 2} className={css.paperStick} />
              {Array.from({ length: last - first + 1 }, (_, i) => {
                const n = first + i;
                return (
                  <g key={n}>
                    <line x1={36} x2={54} y1={y(n)} y2={y(n)} />
                    <text x={34} y={y(n) + 1.2} textAnchor="end">
                      {units.length(buttLine(plane.lines, n))}
                    </text>
                    <text x={47} y={y(n) - 1} textAnchor="middle" className={css.paperNumber}>
                      {n}
                    </text>
                    <text x={57} y={y(n) + 1.2}>
                      {tags
                        .get(n)
                        ?.map((tag) => (tag.kind === 'hold' ? '⚑ see first' : tag.text))
                        .join('  ')}
                    </text>
                  </g>
                );
              })}
            </svg>
            <p className="small">
              Rows are evenly spaced for reading; transfer the written distances, measured from the deck’s eave edge (minus: past
              it).
            </p>
          </section>
        );
      })}
    </>
  );
}
