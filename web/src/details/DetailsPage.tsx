import { Button } from '@mantine/core';
import { type FigurePanel, ROLES, VALLEY_STYLES, type ValleyChoice, isSidePiece } from '#core';
import { Suspense, lazy, useState } from 'react';
import { Link, useParams } from 'react-router';
import { useAddressed, useKeptInAddress } from '../editor/address.ts';
import { useWorkbench } from '../editor/context.ts';
import { Findings } from '../findings/Findings.tsx';
import { ChoiceField, EitherField, TextField } from '../measures/fields.tsx';
import { FlatPatternDrawing } from '../piece/FlatPatternDrawing.tsx';
import { PieceCard } from '../piece/PieceCard.tsx';
import { AskWho } from '../rules/WhoSays.tsx';
import { DetailDrawing } from './DetailDrawing.tsx';
import { FaceDrawing } from './FaceDrawing.tsx';

/** Every detail of the roof: its drawing to scale, its faces turned up flat, its figures, tables and pieces. */
export function DetailsPage() {
  const { plan, plane, setPlane, chosen } = useWorkbench();
  const [wanted, setWanted] = useState(useAddressed('detail'));
  const panels = plan.panels;
  const panel = panels.find((one) => keyOf(one) === wanted) ?? panels.find((one) => one.plane === plane.id) ?? panels[0];
  useKeptInAddress({ detail: panel && keyOf(panel) });
  if (!panel)
    return (
      <main className="details-page empty">
        <p>Nothing stands on this roof yet. Add a chimney, skylight, pipe or another part of the roof; it gets its page here.</p>
      </main>
    );
  return (
    <main className="details-page">
      <nav className="detail-list" aria-label="Details of this roof">
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
      <section className="detail-body" aria-label={panel.title}>
        <Findings />
        <Detail key={keyOf(panel)} panel={panel} />
        {chosen && <PieceCard />}
      </section>
    </main>
  );
}

/** The chart's library comes when a curve is drawn. */
const CurveChart = lazy(async () => ({ default: (await import('./CurveChart.tsx')).CurveChart }));

const keyOf = (panel: FigurePanel): string => `${panel.family} ${panel.detail}`;

function Detail({ panel }: { panel: FigurePanel }) {
  const { units, plan, plane, setPlane, choose, editor } = useWorkbench();
  const { id } = useParams();
  const pieces = plan.pieces.filter(({ detail }) => detail === panel.detail);
  const patterns = pieces.filter(({ flat, role }) => flat && !isSidePiece(role));
  const faces = plan.facets.filter(({ on, detail, cavity }) => on === panel.plane && detail === panel.detail && !cavity);
  // the metal that sheds there, or failing that anything of it on the slope
  const onSlope = pieces.filter(({ covers }) => covers[0]?.facet === panel.plane);
  const first = onSlope.find(({ flat, role }) => flat && !isSidePiece(role)) ?? onSlope[0];
  return (
    <>
      <header className="detail-head">
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
      </header>
      <div className="detail-grid">
        <div className="detail-main">
          <DetailDrawing panel={panel} />
          {faces.length > 0 && (
            <div className="face-row" aria-label="Its faces">
              {faces.map((facet) => (
                <FaceDrawing key={facet.id} facet={facet} />
              ))}
            </div>
          )}
          {panel.curve && (
            <Suspense fallback={<p className="quiet">Drawing the curve…</p>}>
              <CurveChart curve={panel.curve} />
            </Suspense>
          )}
          {panel.tables?.map((table) =>
            table.rows.length === 0 ? null : (
              <table key={table.title} className="detail-table">
                <caption>{table.title}</caption>
                <thead>
                  <tr>
                    {table.columns.map((column) => (
                      <th key={column}>{column}</th>
                    ))}
                  </tr>
                </thead>
                <tbody>
                  {table.rows.map((row, i) => (
                    <tr key={i}>
                      {row.map((cell, c) => (
                        <td key={c} className="fig">
                          {units.words(cell)}
                        </td>
                      ))}
                    </tr>
                  ))}
                </tbody>
              </table>
            ),
          )}
          {patterns.length > 0 && (
            <section className="patterns" aria-label="Flat patterns">
              <h3>Flat patterns, each to its own scale</h3>
              <ul>
                {patterns.map((piece) => (
                  <li key={piece.mark}>
                    <button type="button" className="mark" onClick={() => choose(piece.mark)}>
                      {piece.mark}
                    </button>{' '}
                    {ROLES[piece.role].name}
                    {piece.halves && ', twice, once turned over'}
                    <FlatPatternDrawing flat={piece.flat!} />
                  </li>
                ))}
              </ul>
            </section>
          )}
        </div>
        <div className="detail-figures">
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
                editor.change('fit the courses', (draft) => {
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
  const { plan, job } = useWorkbench();
  const valley = plan.valleys.find((one) => one.id === id);
  if (!valley) return null;
  const choice: ValleyChoice = job.valleys[valley.key] ?? {
    style: valley.style,
    through: null,
    trim: 'back from the centre',
    lining: 'plain',
  };
  const name = (plane: string): string => plan.planes.find((one) => one.id === plane)?.name ?? plane;
  return (
    <div className="valley-fields">
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
