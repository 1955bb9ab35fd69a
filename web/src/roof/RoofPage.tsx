import { ActionIcon, Button } from '@mantine/core';
import { IconPlus, IconTrash } from '@tabler/icons-react';
import { type Part, newPart } from '#core';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { useEditing, usePlanned, useSlope } from '../editor/context.ts';
import { Findings } from '../findings/Findings.tsx';
import { PartMeasures, PartPlace } from '../measures/PartMeasures.tsx';
import { FieldError, Section, TextField } from '../measures/fields.tsx';
import { PlanView } from './PlanView.tsx';
import { pitchSaid } from './pitch.ts';
import css from './RoofPage.module.css';

const KINDS: readonly { kind: Part['kind']; label: string }[] = [
  { kind: 'gable', label: 'Gable' },
  { kind: 'crossGable', label: 'Cross gable' },
  { kind: 'slope', label: 'Lean-to, one slope' },
  { kind: 'hip', label: 'Hip roof' },
  { kind: 'dormer', label: 'Dormer' },
];

/** The whole roof from above: its parts by their measures, its slopes, edges and valleys as they follow from them. */
export function RoofPage() {
  const { job, units, change } = useEditing();
  const { plan } = usePlanned();
  const { setPlane } = useSlope();
  const { id } = useParams();
  const navigate = useNavigate();
  const [error, setError] = useState<string>();
  const open = (plane: string): void => {
    setPlane(plane);
    void navigate(`/jobs/${id}`);
  };
  return (
    <main className={css.roofPage}>
      <aside className="left-column" aria-label="Parts of the roof">
        <form className="measures" aria-label="Parts of the roof" onSubmit={(event) => event.preventDefault()}>
          {job.parts.map((part, i) => (
            <PartSection key={part.id} part={part} index={i} />
          ))}
          <div className="add-feature" role="group" aria-label="Add a part of the roof">
            {KINDS.map(({ kind, label }) => (
              <Button
                key={kind}
                variant="default"
                size="compact-sm"
                leftSection={<IconPlus size={14} />}
                onClick={() => {
                  const part = newPart(kind, job.parts, job.parts[0]!.planes[0]!.covering);
                  if (!part) return setError(`${label}: it needs a slope to stand on; add that first.`);
                  const [issue] = change(`add ${label}`, (draft) => void draft.parts.push(part));
                  setError(issue?.kept ? undefined : issue?.message);
                }}
              >
                {label}
              </Button>
            ))}
            <FieldError>{error}</FieldError>
          </div>
        </form>
      </aside>
      <section className="middle-column" aria-label="Roof from above">
        <Findings />
        <PlanView onOpen={open} />
      </section>
      <aside className={`right-column ${css.roofList}`} aria-label="Slopes and lines">
        <h2>Slopes, in the order they are covered</h2>
        <ol className={css.slopeList}>
          {plan.runSheet
            .filter(({ course }) => course !== undefined)
            .map(({ plane }) => plane)
            .filter((plane, i, all) => all.indexOf(plane) === i)
            .map((planeId) => plan.planes.find(({ id: own }) => own === planeId)!)
            .map((plane) => (
              <li key={plane.id}>
                <button type="button" className={css.slopeLink} onClick={() => open(plane.id)}>
                  <b>{plane.name}</b> {plane.mark && <span className="mark">{plane.mark.slice(0, -1)}</span>}
                  <span className="fig">
                    {plane.lines.count} courses · {units.length(plane.lines.end)} up ·{' '}
                    {pitchSaid(
                      job,
                      plan.roof.find(({ id: own }) => own === plane.id)!,
                    )}
                  </span>
                </button>
              </li>
            ))}
        </ol>
        {plan.valleys.length > 0 && (
          <>
            <h2>Valleys</h2>
            <ul className={css.slopeList}>
              {plan.valleys.map((valley) => (
                <li key={valley.id}>
                  <b>{valley.id}</b> {valley.name}
                  <span className="fig">
                    {units.length(valley.line.trueLength)} true · {units.flow(valley.flowA + valley.flowB)} · {valley.style}
                  </span>
                  {valley.through && (
                    <span className="quiet small">
                      {plan.planes.find(({ id: own }) => own === valley.through)?.name} runs through:{' '}
                      {valley.through === valley.asked.plane ? valley.asked.because : 'decided on site'}
                    </span>
                  )}
                </li>
              ))}
            </ul>
          </>
        )}
        {job.features.length > 0 && (
          <>
            <h2>On the slopes</h2>
            <ul className={css.slopeList}>
              {job.features.map((feature) => (
                <li key={feature.id}>
                  <button type="button" className={css.slopeLink} onClick={() => open(feature.plane)}>
                    <b>{feature.id}</b> {feature.name}
                  </button>
                </li>
              ))}
            </ul>
          </>
        )}
      </aside>
    </main>
  );
}

function PartSection({ part, index }: { part: Part; index: number }) {
  const { change, job } = useEditing();
  const [error, setError] = useState<string>();
  return (
    <Section
      title={part.name}
      aside={
        job.parts.length > 1 && (
          <ActionIcon
            variant="subtle"
            size={32}
            aria-label={`Remove ${part.name}`}
            onClick={() => {
              const gone = new Set(part.planes.map(({ id }) => id));
              const [issue] = change(`remove ${part.name}`, (draft) => {
                draft.parts.splice(index, 1);
                draft.features = draft.features.filter(({ plane }) => !gone.has(plane));
              });
              setError(issue?.kept ? undefined : issue?.message);
            }}
          >
            <IconTrash size={18} />
          </ActionIcon>
        )
      }
    >
      <TextField label="Name of the part" value={part.name} set={(draft, name) => void (draft.parts[index]!.name = name)} />
      {part.planes.map((plane, p) => (
        <TextField
          key={plane.id}
          label={part.planes.length === 1 ? 'Name of the slope' : `Slope ${p + 1}`}
          value={plane.name}
          set={(draft, name) => void (draft.parts[index]!.planes[p]!.name = name)}
        />
      ))}
      <PartMeasures part={part} />
      <PartPlace part={part} />
      <FieldError>{error}</FieldError>
    </Section>
  );
}
