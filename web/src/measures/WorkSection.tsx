import { OLD_COVERINGS, type OldCovering, type Work, possibleRepairs, pounds } from '#core';
import { useEditing, usePlanned } from '../editor/context.ts';
import { AreaField, ChoiceField, CountField, MassField, Section, SwitchField } from './fields.tsx';

const KINDS = { new: 'New roof', 're-roof': 'Strip and lay anew', repair: 'Repair of one thing' } as const;
const OLD = Object.fromEntries(Object.entries(OLD_COVERINGS).map(([value, { name }]) => [value, name])) as Record<
  OldCovering,
  string
>;
/** A day's strip of a crew of three, and what a small skip takes, until the house says its own. */
const USUAL = { old: 'shingles', layers: 1, perDay: 500 * 304.8 ** 2, load: pounds(4000) } as const;

/** What is done to the roof: all of it new, stripped and laid anew, or one thing mended. */
export function WorkSection() {
  const { job } = useEditing();
  const { plan } = usePlanned();
  const { work } = job;
  const repairs = possibleRepairs(
    job,
    plan.valleys.map(({ id }) => id),
  );
  const chosen = work.kind === 'repair' ? `${work.what}/${work.of}` : '';
  const options = repairs.map(({ what, of, label }) => ({ value: `${what}/${of}`, label }));
  return (
    <Section title="Work">
      <ChoiceField
        label="What is done"
        value={work.kind}
        options={KINDS}
        set={(draft, kind) => {
          const [first] = repairs;
          if (kind === 'repair') draft.work = { kind, what: first?.what ?? 'boot', of: first?.of ?? 'P1', reuse: true };
          else draft.work = kind === 'new' ? { kind } : { kind, ...USUAL };
        }}
      />
      {work.kind === 're-roof' && <StripFields work={work} />}
      {work.kind === 'repair' && (
        <>
          <ChoiceField
            label="Repair"
            value={chosen}
            options={
              options.some(({ value }) => value === chosen)
                ? options
                : [{ value: chosen, label: `${work.of}, not on this roof` }, ...options]
            }
            set={(draft, value) => {
              const found = repairs.find(({ what, of }) => `${what}/${of}` === value);
              if (found) draft.work = { kind: 'repair', what: found.what, of: found.of, reuse: work.reuse };
            }}
          />
          <SwitchField
            label="Lay what comes off again"
            value={work.reuse}
            set={(draft, reuse) => void Object.assign(draft.work, { reuse })}
          />
        </>
      )}
    </Section>
  );
}

function StripFields({ work }: { work: Extract<Work, { kind: 're-roof' }> }) {
  return (
    <>
      <ChoiceField
        label="What comes off"
        value={work.old}
        options={OLD}
        set={(draft, old) => void Object.assign(draft.work, { old })}
      />
      <CountField
        label="Layers of it"
        most={5}
        value={work.layers}
        set={(draft, layers) => void Object.assign(draft.work, { layers })}
      />
      <AreaField
        label="Stripped and closed in a day"
        size="floor"
        hint="Your crew’s own figure"
        value={work.perDay}
        set={(draft, perDay) => void Object.assign(draft.work, { perDay })}
      />
      <MassField label="A skip takes" value={work.load} set={(draft, load) => void Object.assign(draft.work, { load })} />
    </>
  );
}
