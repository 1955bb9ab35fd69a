import { Button } from '@mantine/core';
import { IconPlus } from '@tabler/icons-react';
import {
  COVERING_NAMES,
  type Covering,
  type CoveringKind,
  type CoveringOf,
  type Item,
  type ItemKind,
  type Job,
  METALS,
  type RuleKey,
  itemsOf,
  newCovering,
} from '#core';
import { type ReactNode, useState } from 'react';
import { useEditing, useSlope } from '../../editor/context.ts';
import { ChoiceField, FieldError, Section, fieldsOf } from '../fields.tsx';
import { DoubleLapFields } from './DoubleLap.tsx';
import { ShakeFields } from './Shake.tsx';
import { SingleLapFields } from './SingleLap.tsx';
import { StripFields } from './Strip.tsx';
import type { CoveringForm } from './form.ts';
import css from './CoveringSection.module.css';

/** The fields of each kind of covering; a new kind is a file beside these and a line here. */
const FORMS: { [K in CoveringKind]: (form: CoveringForm<K>) => ReactNode } = {
  strip: StripFields,
  doubleLap: DoubleLapFields,
  shake: ShakeFields,
  singleLap: SingleLapFields,
};

/** What of a unit is left to see, as each kind of covering calls it, and the rule that says how much. */
export const SHOWN = {
  strip: { word: 'Exposure', rule: 'covering.exposure' },
  doubleLap: { word: 'Gauge', rule: 'covering.headlap' },
  shake: { word: 'Exposure', rule: 'covering.exposure' },
  singleLap: { word: 'Gauge', rule: 'tile.headlap' },
} as const satisfies Record<CoveringKind, { word: string; rule: RuleKey }>;

const named = (items: readonly Item[]) => items.map(({ id, name, maker }) => ({ value: id, label: `${name}, ${maker}` }));

const EAVE_ORDERS = { 'metal-first': 'metal first', 'barrier-first': 'barrier first' } as const;

/** Which covering of the job this slope has; what is changed in it changes on every slope that has it. */
export function CoveringSection() {
  const { job, library, change } = useEditing();
  const { measured: roof, recordIn } = useSlope();
  const [error, setError] = useState<string>();
  const covering = job.coverings.find(({ id }) => id === roof.covering)!;
  const at = (draft: Job): Covering => draft.coverings.find(({ id }) => id === covering.id)!;
  const fields = fieldsOf(covering, at);
  const elsewhere = job.parts
    .flatMap(({ planes }) => planes)
    .filter(({ covering: id, id: plane }) => id === covering.id && plane !== roof.id);
  return (
    <Section title="Covering">
      {job.coverings.length > 1 && (
        <ChoiceField
          label="Covering of this slope"
          value={covering.id}
          options={job.coverings.map(({ id, name }) => ({ value: id, label: name }))}
          set={(draft, id) => void (recordIn(draft).covering = id)}
        />
      )}
      {job.coverings.length > 1 && fields.text('name', 'Name of the covering')}
      <KindFields covering={covering} at={at} />
      {fields.choice(
        'metal',
        'Flashing metal',
        METALS.map((metal) => ({ value: metal, label: metal })),
        { rule: 'flashing.thickness' },
      )}
      {elsewhere.length > 0 && <p className="quiet small">Also on {elsewhere.map(({ name }) => name).join(', ')}.</p>}
      <div className="add-feature" role="group" aria-label="Cover this slope with another covering">
        <span className="quiet small">Cover this slope anew with</span>
        {(Object.keys(FORMS) as CoveringKind[]).map((kind) => (
          <Button
            key={kind}
            variant="default"
            size="compact-sm"
            leftSection={<IconPlus size={14} />}
            onClick={() => {
              const fresh = newCovering(kind, library.catalog, job.coverings);
              if (!fresh) return setError(`${COVERING_NAMES[kind]}: the catalog lacks what it needs.`);
              const [issue] = change(`cover with ${COVERING_NAMES[kind]}`, (draft) => {
                draft.coverings.push(fresh);
                recordIn(draft).covering = fresh.id;
                dropUnused(draft);
              });
              setError(issue?.kept ? undefined : issue?.message);
            }}
          >
            {COVERING_NAMES[kind]}
          </Button>
        ))}
        <FieldError>{error}</FieldError>
      </div>
    </Section>
  );
}

/** A covering no slope has any more goes: nothing of it would be planned or ordered. */
const dropUnused = (draft: Job): void => {
  const used = new Set(draft.parts.flatMap(({ planes }) => planes.map(({ covering }) => covering)));
  draft.coverings = draft.coverings.filter(({ id }) => used.has(id));
};

function KindFields<K extends CoveringKind>({ covering, at }: { covering: CoveringOf<K>; at: (draft: Job) => Covering }) {
  const { library } = useEditing();
  const Form = FORMS[covering.kind as K] as (form: CoveringForm<K>) => ReactNode;
  const own = (draft: Job): CoveringOf<K> => at(draft) as CoveringOf<K>;
  return (
    <Form
      covering={covering}
      at={own}
      catalog={library.catalog}
      fields={fieldsOf(covering, own)}
      options={(kind, which = () => true) => named(itemsOf(library.catalog, kind).filter(which))}
    />
  );
}

/** What lies under the covering of this slope. */
export function UnderlayerSection() {
  const { job, library, units } = useEditing();
  const { plane, measured: roof } = useSlope();
  const covering = job.coverings.find(({ id }) => id === roof.covering)!;
  const under = fieldsOf(covering.underlayers, (draft) => draft.coverings.find(({ id }) => id === covering.id)!.underlayers);
  const options = (kind: ItemKind) => named(itemsOf(library.catalog, kind));
  const { barrier } = plane;
  return (
    <Section title="Underlayers">
      {under.choice('iceBarrier', 'Ice barrier', options('iceBarrier'))}
      {barrier && (
        <p className={css.worked} aria-label="Ice barrier worked out">
          {units.cut(barrier.level)} level is <b className="fig">{units.cut(barrier.byLevel)}</b>
          {units.system === 'imperial' && <span className="fig"> ({(barrier.byLevel / 25.4).toFixed(1)}")</span>} along the slope:{' '}
          <b>{barrier.rows.length === 1 ? '1 row' : `${barrier.rows.length} rows`}</b>, covering {units.cut(barrier.covered)}.
          Laid off along the slope, {units.cut(barrier.level)} would end {units.cut(barrier.shortfall)} short.{' '}
          {barrier.needed > barrier.byLevel + 1 && <>Along the slope at least {units.cut(barrier.needed)} governs here.</>}
        </p>
      )}
      {under.length('insideWall', 'Inside the wall line, level', {
        rule: 'iceBarrier.insideWall',
        optional: 'The least that governs',
      })}
      {under.either('eaveOrder', 'At the eave', EAVE_ORDERS, { rule: 'eave.order' })}
      {under.onOff('gutter', 'Gutter hangs at this eave')}
      {under.length('longestStrip', 'Longest strip you handle', { optional: 'The whole roll' })}
      {under.choice('underlayment', 'Underlayment', options('underlayment'), { rule: 'underlayment.layers' })}
    </Section>
  );
}
