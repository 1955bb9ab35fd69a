import { Button, Table } from '@mantine/core';
import {
  type FigurePanel,
  ROLES,
  type CutListRow,
  VALLEY_STYLES,
  type ValleyChoice,
  cutListOf,
  dimensionsOf,
  isSidePiece,
  sectionsOf,
  shortMarks,
} from '#core';
import { Suspense, lazy, useMemo, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { useAddressed, useKeptInAddress } from '../editor/address.ts';
import { type Units, useEditing, usePlanned, useSlope, useView } from '../editor/context.ts';
import { HeadRow } from '../editor/HeadRow.tsx';
import { Findings } from '../findings/Findings.tsx';
import { ChoiceField, EitherField, TextField } from '../measures/fields.tsx';
import { FlatPatternDrawing } from '../piece/FlatPatternDrawing.tsx';
import { PieceCard } from '../piece/PieceCard.tsx';
import { AskWho } from '../rules/WhoSays.tsx';
import { BuildUp } from './BuildUp.tsx';
import { DetailDrawing } from './DetailDrawing.tsx';
import { FaceDrawing } from './FaceDrawing.tsx';
import { SectionFigure } from './SectionFigure.tsx';
import css from './DetailsPage.module.css';

/** Every detail of the roof: its drawing to scale, its faces turned up flat, its figures, tables and pieces. */
export function DetailsPage() {
  const { plan } = usePlanned();
  const { plane, setPlane } = useSlope();
  const { chosen } = useView();
  const [wanted, setWanted] = useState(useAddressed('detail'));
  const panels = plan.panels;
  const panel = panels.find((one) => keyOf(one) === wanted) ?? panels.find((one) => one.plane === plane.id) ?? panels[0];
  useKeptInAddress({ detail: panel && keyOf(panel) });
  if (!panel)
    return (
      <main className={`${css.detailsPage} ${css.empty}`}>
        <p>Nothing stands on this roof yet. Add a chimney, skylight, pipe or another part of the roof; it gets its page here.</p>
      </main>
    );
  return (
    <main className={css.detailsPage}>
      <nav className={css.detailList} aria-label="Details of this roof">
        {panels.map((one) => (
          <button
            key={keyOf(one)}
            type="button"
            className={one === panel ? 'on' : ''}
            aria-current={one === panel ? 'true' : undefined}
            onClick={() => {
              setWanted(keyOf(one));
              if (one.plane !== plane.id) setPlane(one.plane);
            }}
          >
            <b>{one.detail}</b> <span>{one.title.split(' · ')[1]}</span>
            <span className="quiet small">{one.family}</span>
          </button>
        ))}
      </nav>
      <section className={css.detailBody} aria-label={panel.title}>
        <Findings />
        <Detail key={keyOf(panel)} panel={panel} />
        {chosen && <PieceCard />}
      </section>
    </main>
  );
}

/** The blank of a row of the cut list, `52" × 9"`. */
export const blankOf = ({ width, length }: CutListRow, units: Units): string =>
  [width, length].flatMap((size) => (size === undefined ? [] : units.cut(size))).join(' × ') || 'as it comes';

/** The chart's library comes when a curve is drawn. */
const CurveChart = lazy(async () => ({ default: (await import('./CurveChart.tsx')).CurveChart }));

/** A detail in an address. */
export const keyOf = (panel: FigurePanel): string => `${panel.family} ${panel.detail}`;

function Detail({ panel }: { panel: FigurePanel }) {
  const { units, change } = useEditing();
  const { plan } = usePlanned();
  const { plane, setPlane } = useSlope();
  const { setMarker, choose } = useView();
  const navigate = useNavigate();
  const { id } = useParams();
  const pieces = plan.pieces.filter(({ detail }) => detail === panel.detail);
  const cuts = cutListOf(pieces);
  const faces = plan.facets.filter(({ on, detail, cavity }) => on === panel.plane && detail === panel.detail && !cavity);
  const dimensions = useMemo(() => dimensionsOf(plan, panel), [plan, panel]);
  const sections = useMemo(() => sectionsOf(plan, panel), [plan, panel]);
  // the metal that sheds there, or failing that anything of it on the slope
  const onSlope = pieces.filter(({ covers }) => covers[0]?.facet === panel.plane);
  const first = onSlope.find(({ flat, role }) => flat && !isSidePiece(role)) ?? onSlope[0];
  return (
    <>
      <header className={css.detailHead}>
        <h2>{panel.title}</h2>
        <Link
          to={`/jobs/${id}/bench`}
          onClick={() => {
            if (panel.plane !== plane.id) setPlane(panel.plane);
            if (first) choose(first.mark);
          }}
        >
          Run water over it
        </Link>
        <Link to={`/jobs/${id}/print/detail?detail=${encodeURIComponent(keyOf(panel))}`}>Print this detail</Link>
      </header>
      <div className={css.detailGrid}>
        <div className={css.detailMain}>
          <DetailDrawing panel={panel} />
          {faces.length > 0 && (
            <div className={css.faceRow} aria-label="Its faces">
              {faces.map((facet) => (
                <FaceDrawing key={facet.id} facet={facet} dimensions={dimensions} />
              ))}
            </div>
          )}
          <section className={css.detailPart} aria-label="Sections">
            <h3>Cut through, numbered in the order of laying</h3>
            {sections.map((section) => (
              <SectionFigure
                key={section.title}
                section={section}
                plan={plan}
                detail={panel.detail}
                width={640}
                onChoose={choose}
              />
            ))}
          </section>
          <section className={css.detailPart} aria-label="Build-up">
            <h3>Built up in this order</h3>
            <BuildUp
              panel={panel}
              plan={plan}
              width={150}
              onLine={({ lines }) => {
                // the slope's own sheet counts its own lines
                const last = lines.at(-1)!;
                const own = plan.planes.find(({ id: one }) => one === (last.plane ?? panel.plane))!;
                const line = own.runSheet.flatMap((group) => group.lines).find(({ whole }) => whole === last.whole);
                setPlane(own.id);
                if (line) setMarker(line.line);
                void navigate(`/jobs/${id}`);
              }}
            />
          </section>
          {panel.curve && (
            <Suspense fallback={<p className="quiet">Drawing the curve…</p>}>
              <CurveChart curve={panel.curve} />
            </Suspense>
          )}
          {panel.tables?.map((table) =>
            table.rows.length === 0 ? null : (
              <Table key={table.title} className={css.detailTable}>
                <Table.Caption>{table.title}</Table.Caption>
                <HeadRow titles={table.columns} />
                <Table.Tbody>
                  {table.rows.map((row, i) => (
                    <Table.Tr key={i}>
                      {row.map((cell, c) => (
                        <Table.Td key={c} className="fig">
                          {units.words(cell)}
                        </Table.Td>
                      ))}
                    </Table.Tr>
                  ))}
                </Table.Tbody>
              </Table>
            ),
          )}
          {cuts.length > 0 && (
            <section className={css.detailPart} aria-label="Cut list">
              <h3>Cut list and flat patterns, each to its own scale</h3>
              <Table className="fig-table" withRowBorders verticalSpacing={3}>
                <HeadRow titles={['How many', 'Piece', 'Blank', 'Marks', 'Flat']} />
                <Table.Tbody>
                  {cuts.map((row) => {
                    const { flat } = pieces.find(({ mark }) => mark === row.marks[0])!;
                    return (
                      <Table.Tr key={row.marks[0]} data-mark={row.marks.join(' ')}>
                        <Table.Td className="fig">{row.count}</Table.Td>
                        <Table.Td>
                          {ROLES[row.role].name}
                          {row.halves && ', in halves, one turned over'}
                        </Table.Td>
                        <Table.Td className="fig">{blankOf(row, units)}</Table.Td>
                        <Table.Td>
                          <button type="button" className="mark" onClick={() => choose(row.marks[0])}>
                            {shortMarks(row.marks)}
                          </button>
                        </Table.Td>
                        <Table.Td>{flat && !isSidePiece(row.role) && <FlatPatternDrawing flat={flat} />}</Table.Td>
                      </Table.Tr>
                    );
                  })}
                </Table.Tbody>
              </Table>
            </section>
          )}
        </div>
        <div className={css.detailFigures}>
          <dl>
            {panel.figures.map(({ label, value, key }) => (
              <div key={label}>
                <dt>
                  {label}
                  {key && <AskWho rule={key} about={label} />}
                </dt>
                <dd className="fig">{units.words(value)}</dd>
              </div>
            ))}
          </dl>
          {panel.fit !== undefined && (
            <Button
              size="compact-sm"
              onClick={() => {
                const fit = panel.fit!;
                change('fit the courses', (draft) => {
                  const record = draft.parts.flatMap(({ planes }) => planes).find(({ id: own }) => own === panel.plane)!;
                  record.exposure = fit;
                });
              }}
            >
              Fit the courses: {units.cut(panel.fit)}
            </Button>
          )}
          {panel.family === 'valley' && <ValleyFields id={panel.detail} />}
        </div>
      </div>
    </>
  );
}

function ValleyFields({ id }: { id: string }) {
  const { job } = useEditing();
  const { plan } = usePlanned();
  const valley = plan.valleys.find((one) => one.id === id);
  if (!valley) return null;
  const choice: ValleyChoice = job.valleys[valley.key] ?? {
    style: valley.style,
    through: null,
    trim: 'back from the centre',
    lining: valley.ribbed ? 'ribbed' : 'plain',
  };
  const name = (plane: string): string => plan.planes.find((one) => one.id === plane)?.name ?? plane;
  return (
    <div className={css.valleyFields}>
      <ChoiceField
        label={`${id}: style`}
        rule="valley.cross"
        value={choice.style}
        options={VALLEY_STYLES.map((style) => ({ value: style, label: style }))}
        set={(draft, style) => void (draft.valleys[valley.key] = { ...choice, style })}
      />
      {valley.style === 'open' && (
        <EitherField
          label={`${id}: lining`}
          rule="valley.lining"
          value={choice.lining}
          options={[
            { value: 'plain', label: 'plain' },
            { value: 'ribbed', label: 'with a rib' },
          ]}
          set={(draft, lining) => void (draft.valleys[valley.key] = { ...choice, lining })}
        />
      )}
      {valley.through !== undefined && (
        <>
          <ChoiceField
            label={`${id}: runs through`}
            hint={`By the water: ${name(valley.asked.plane)}`}
            value={valley.through}
            options={[valley.a, valley.b].map((plane) => ({ value: plane, label: name(plane) }))}
            set={(draft, plane) =>
              void (draft.valleys[valley.key] = {
                ...choice,
                through: plane === valley.asked.plane ? null : { plane, reason: 'chosen on the roof' },
              })
            }
          />
          {job.valleys[valley.key]?.through && valley.through !== valley.asked.plane && (
            <TextField
              label={`${id}: why that way round`}
              value={job.valleys[valley.key]!.through!.reason}
              set={(draft, reason) => void (draft.valleys[valley.key]!.through!.reason = reason)}
            />
          )}
          <EitherField
            label={`${id}: cut side trimmed`}
            rule="valley.trim"
            value={choice.trim}
            options={[
              { value: 'back from the centre', label: 'back' },
              { value: 'on the centre', label: 'on the centre' },
            ]}
            set={(draft, trim) => void (draft.valleys[valley.key] = { ...choice, trim })}
          />
        </>
      )}
    </div>
  );
}
