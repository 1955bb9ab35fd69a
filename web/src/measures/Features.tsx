import { ActionIcon, Button, TextInput } from '@mantine/core';
import { IconPlus, IconTrash } from '@tabler/icons-react';
import {
  type Feature,
  type FeatureOf,
  type Job,
  type Wall,
  itemsOf,
  newFeature,
  parseLength,
  spreadSkylights,
} from '@ruvet/core';
import { useState } from 'react';
import { useWorkbench } from '../editor/context.ts';
import { CLADDING_OPTIONS } from './PartMeasures.tsx';
import { ChoiceField, CountField, EitherField, LengthField, Section, SwitchField, TextField } from './fields.tsx';

/** What a flashing through a cavity wall has to cross. */
export function CavityWallFields({
  id,
  value,
  at,
}: {
  id: string;
  value: Wall['cavityWall'];
  at: (draft: Job) => Wall['cavityWall'];
}) {
  return (
    <>
      <LengthField label={`${id}: veneer`} value={value.veneer} set={(draft, to) => void (at(draft).veneer = to!)} />
      <LengthField label={`${id}: cavity`} value={value.cavity} set={(draft, to) => void (at(draft).cavity = to!)} />
      <LengthField
        label={`${id}: up the backup wall`}
        rule="throughWall.rise"
        value={value.rise}
        set={(draft, to) => void (at(draft).rise = to!)}
      />
    </>
  );
}

export const COUNTER_OPTIONS = [
  { value: 'stepped', label: 'Stepped in the joints' },
  { value: 'reglet', label: 'Straight reglet' },
  { value: 'repair', label: 'The old one, made good' },
] as const;

const KINDS = [
  { kind: 'chimney', label: 'chimney' },
  { kind: 'skylight', label: 'skylight' },
  { kind: 'pipe', label: 'pipe or flue' },
  { kind: 'standoffs', label: 'standoffs' },
] as const;

/** What stands on the slope looked at. */
export function Features() {
  const { job, measured: roof, editor } = useWorkbench();
  const [error, setError] = useState<string>();
  return (
    <>
      {job.features.map((feature, i) =>
        feature.plane === roof.id ? <FeatureSection key={feature.id} feature={feature} index={i} /> : null,
      )}
      <div className="add-feature" role="group" aria-label="Add to this slope">
        {KINDS.map(({ kind, label }) => (
          <Button
            key={kind}
            variant="default"
            size="compact-sm"
            leftSection={<IconPlus size={14} />}
            onClick={() => {
              const [issue] = editor.change(`add ${label}`, (draft) => void draft.features.push(newFeature(kind, draft, roof)));
              setError(issue?.message);
            }}
          >
            {label}
          </Button>
        ))}
        {error && (
          <p className="field-error" role="alert">
            {error}
          </p>
        )}
      </div>
    </>
  );
}

function FeatureSection({ feature, index }: { feature: Feature; index: number }) {
  const { editor } = useWorkbench();
  return (
    <Section
      title={`${feature.id} · ${feature.name}`}
      aside={
        feature.kind !== 'headwall' && (
          <ActionIcon
            variant="subtle"
            size={32}
            aria-label={`Remove ${feature.name}`}
            onClick={() => void editor.change(`remove ${feature.id}`, (draft) => void draft.features.splice(index, 1))}
          >
            <IconTrash size={18} />
          </ActionIcon>
        )
      }
    >
      <TextField
        label={`Name of ${feature.id}`}
        value={feature.name}
        set={(draft, name) => void (draft.features[index]!.name = name)}
      />
      {feature.kind !== 'headwall' && <PlaceFields feature={feature} index={index} />}
      {feature.kind === 'chimney' && <ChimneyFields feature={feature} index={index} />}
      {feature.kind === 'skylight' && <SkylightFields feature={feature} index={index} />}
      {feature.kind === 'pipe' && <PipeFields feature={feature} index={index} />}
      {feature.kind === 'standoffs' && <GridFields feature={feature} index={index} />}
      {feature.kind === 'headwall' && <HeadwallFields feature={feature} index={index} />}
    </Section>
  );
}

type Of<K extends Feature['kind']> = { feature: FeatureOf<K>; index: number };
const at = <K extends Feature['kind']>(draft: Job, { index }: Of<K>): FeatureOf<K> => draft.features[index] as FeatureOf<K>;

const TO: Record<Exclude<Feature['kind'], 'headwall'>, { across: string; up: string }> = {
  chimney: { across: 'its near side', up: 'its front face' },
  skylight: { across: 'its near edge', up: 'its sill' },
  pipe: { across: 'its centre', up: 'its centre' },
  standoffs: { across: 'the first leg', up: 'the lowest row' },
};

/** Where it is, from the ends and the eave as the tape was held. */
function PlaceFields({ feature, index }: { feature: Exclude<Feature, { kind: 'headwall' }>; index: number }) {
  const { plane, measured: roof } = useWorkbench();
  const target = (draft: Job) => draft.features[index] as typeof feature;
  const words = TO[feature.kind];
  return (
    <>
      <EitherField
        label={`${feature.id}: across, measured from the`}
        value={feature.across.from}
        options={[
          { value: 'left', label: 'left end' },
          { value: 'right', label: 'right end' },
        ]}
        set={(draft, from) => {
          const one = target(draft);
          const width = 'width' in one ? one.width : one.kind === 'standoffs' ? (one.columns - 1) * one.spacingAcross : 0;
          // it stays where it is: only the end it is measured from changes
          if (one.across.from !== from) one.across = { from, distance: roof.eaveLength - one.across.distance - width };
        }}
      />
      <LengthField
        label={`${feature.id}: ${feature.across.from} end to ${words.across}`}
        value={feature.across.distance}
        set={(draft, value) => void (target(draft).across.distance = value!)}
      />
      <EitherField
        label={`${feature.id}: up, measured`}
        value={feature.up.kind}
        options={[
          { value: 'slope', label: 'along the slope' },
          { value: 'level', label: 'level' },
        ]}
        set={(draft, kind) => {
          const { up } = target(draft);
          if (up.kind !== kind)
            target(draft).up = { kind, length: kind === 'slope' ? up.length * plane.slopeFactor : up.length / plane.slopeFactor };
        }}
      />
      <LengthField
        label={`${feature.id}: eave edge to ${words.up}`}
        value={feature.up.length}
        set={(draft, value) => void (target(draft).up.length = value!)}
      />
    </>
  );
}

function ChimneyFields(props: Of<'chimney'>) {
  const { feature } = props;
  return (
    <>
      <LengthField
        label={`${feature.id}: width across the slope`}
        value={feature.width}
        set={(draft, value) => void (at(draft, props).width = value!)}
      />
      <LengthField
        label={`${feature.id}: depth, level`}
        value={feature.depth}
        set={(draft, value) => void (at(draft, props).depth = value!)}
      />
      <LengthField
        label={`${feature.id}: height above the roof`}
        value={feature.height}
        set={(draft, value) => void (at(draft, props).height = value!)}
      />
      <SwitchField label="Masonry" value={feature.masonry} set={(draft, on) => void (at(draft, props).masonry = on)} />
      {feature.masonry && (
        <>
          <LengthField
            label={`${feature.id}: joint to joint`}
            value={feature.jointSpacing}
            set={(draft, value) => void (at(draft, props).jointSpacing = value!)}
          />
          <ChoiceField
            label={`${feature.id}: counterflashing`}
            rule="counterflashing.cover"
            value={feature.counter}
            options={COUNTER_OPTIONS}
            set={(draft, counter) => void (at(draft, props).counter = counter)}
          />
        </>
      )}
      <LengthField
        label={`${feature.id}: apron’s roof leg`}
        rule="apron.roofLeg"
        value={feature.apronLeg}
        set={(draft, value) => void (at(draft, props).apronLeg = value!)}
      />
      <ChoiceField
        label={`${feature.id}: behind it`}
        rule="chimney.cricketOver"
        value={feature.back}
        options={[
          { value: 'by the rules', label: 'By the rules' },
          { value: 'pan', label: 'Back pan' },
          { value: 'cricket', label: 'Cricket' },
        ]}
        set={(draft, back) => void (at(draft, props).back = back)}
      />
      <LengthField
        label={`${feature.id}: cricket height`}
        value={feature.cricketHeight}
        optional="The table’s"
        set={(draft, value) => void (at(draft, props).cricketHeight = value)}
      />
    </>
  );
}

function SkylightFields(props: Of<'skylight'>) {
  const { feature } = props;
  return (
    <>
      <LengthField
        label={`${feature.id}: frame’s outside width`}
        value={feature.width}
        set={(draft, value) => void (at(draft, props).width = value!)}
      />
      <LengthField
        label={`${feature.id}: frame’s outside height`}
        value={feature.height}
        set={(draft, value) => void (at(draft, props).height = value!)}
      />
      <EitherField
        label={`${feature.id}: mounted on`}
        value={feature.mount}
        options={[
          { value: 'deck', label: 'the deck' },
          { value: 'curb', label: 'a curb' },
        ]}
        set={(draft, mount) => void (at(draft, props).mount = mount)}
      />
      <LengthField
        label={`${feature.id}: frame above the deck`}
        value={feature.upstand}
        set={(draft, value) => void (at(draft, props).upstand = value!)}
      />
      <EitherField
        label={`${feature.id}: flashing`}
        value={feature.flashing}
        options={[
          { value: 'kit', label: 'maker’s kit' },
          { value: 'site-bent', label: 'bent on site' },
        ]}
        set={(draft, flashing) => void (at(draft, props).flashing = flashing)}
      />
      <EitherField
        label={`${feature.id}: laid`}
        value={feature.bedding}
        options={[
          { value: 'dry', label: 'dry' },
          { value: 'bedded', label: 'bedded' },
        ]}
        set={(draft, bedding) => void (at(draft, props).bedding = bedding)}
      />
      <ChoiceField
        label={`${feature.id}: work`}
        value={feature.work}
        options={[
          { value: 'new opening', label: 'New opening' },
          { value: 'replacement', label: 'Replacement' },
        ]}
        set={(draft, work) => void (at(draft, props).work = work)}
      />
      {feature.work === 'replacement' && (
        <>
          <EitherField
            label={`${feature.id}: shingles round it`}
            value={feature.strip}
            options={[
              { value: 'renewing', label: 'renewed' },
              { value: 're-using', label: 'laid again' },
            ]}
            set={(draft, strip) => void (at(draft, props).strip = strip)}
          />
          <CountField
            label={`${feature.id}: years the old unit has been in`}
            most={100}
            value={feature.age}
            set={(draft, value) => void (at(draft, props).age = value)}
          />
        </>
      )}
      <SpreadFields feature={feature} />
    </>
  );
}

/** Several units alike with equal gaps between two references, as they are set out from inside. */
function SpreadFields({ feature }: { feature: FeatureOf<'skylight'> }) {
  const { editor, units, measured: roof } = useWorkbench();
  const [typed, setTyped] = useState({ from: '', to: '', count: '2' });
  const [error, setError] = useState<string>();
  const field = (key: keyof typeof typed, label: string, placeholder: string) => (
    <TextInput
      className="measure"
      size="sm"
      label={<span className="field-label">{label}</span>}
      aria-label={label}
      placeholder={placeholder}
      value={typed[key]}
      onChange={(event) => setTyped({ ...typed, [key]: event.currentTarget.value })}
    />
  );
  const labels = {
    from: `${feature.id}: left end to the first reference`,
    to: `${feature.id}: left end to the second reference`,
    count: `${feature.id}: units alike between them`,
  };
  const spread = (): string | undefined => {
    const [from, to] = [parseLength(typed.from, units.system), parseLength(typed.to, units.system)];
    const count = Number(typed.count);
    if (!from.ok) return `${labels.from}: ${from.reason}.`;
    if (!to.ok) return `${labels.to}: ${to.reason}.`;
    if (!Number.isInteger(count) || count < 1 || count > 20) return `${labels.count}: write a whole number from 1 to 20.`;
    let refused: string | undefined;
    const [issue] = editor.change(`space ${feature.id} evenly`, (draft) => {
      const features = spreadSkylights(draft, feature.id, from.value, to.value, count);
      if (typeof features === 'string') refused = features;
      else draft.features = features;
    });
    return refused ?? issue?.message;
  };
  return (
    <details className="spread">
      <summary>Space units evenly between references</summary>
      <div className="section-fields">
        {field('from', labels.from, units.length(0))}
        {field('to', labels.to, units.length(roof.eaveLength))}
        {field('count', labels.count, '2')}
        <Button variant="default" size="compact-sm" onClick={() => setError(spread())}>
          Space evenly
        </Button>
        {error && (
          <p className="field-error" role="alert">
            {error}
          </p>
        )}
      </div>
    </details>
  );
}

function PipeFields(props: Of<'pipe'>) {
  const { library } = useWorkbench();
  const { feature } = props;
  return (
    <>
      <LengthField
        label={`${feature.id}: outside diameter`}
        value={feature.diameter}
        set={(draft, value) => void (at(draft, props).diameter = value!)}
      />
      <SwitchField
        label={`${feature.id}: a flue that gets hot`}
        value={feature.hot}
        set={(draft, hot) => {
          at(draft, props).hot = hot;
          if (hot) at(draft, props).material = 'metal';
          at(draft, props).boot = null;
        }}
      />
      <ChoiceField
        label={`${feature.id}: base`}
        rule="pipe.showing"
        value={feature.boot ?? ''}
        options={[
          { value: '', label: 'The smallest that fits' },
          ...itemsOf(library.catalog, 'boot')
            .filter(({ standoff, hot }) => !standoff && hot === feature.hot)
            .map(({ id, name, maker }) => ({ value: id, label: `${name}, ${maker}` })),
        ]}
        set={(draft, id) => void (at(draft, props).boot = id === '' ? null : id)}
      />
    </>
  );
}

function GridFields(props: Of<'standoffs'>) {
  const { feature } = props;
  return (
    <>
      <CountField
        label={`${feature.id}: rows`}
        most={40}
        value={feature.rows}
        set={(draft, value) => void (at(draft, props).rows = value)}
      />
      <CountField
        label={`${feature.id}: legs a row`}
        most={40}
        value={feature.columns}
        set={(draft, value) => void (at(draft, props).columns = value)}
      />
      <LengthField
        label={`${feature.id}: legs apart, across`}
        value={feature.spacingAcross}
        set={(draft, value) => void (at(draft, props).spacingAcross = value!)}
      />
      <LengthField
        label={`${feature.id}: rows apart, up the slope`}
        value={feature.spacingUp}
        set={(draft, value) => void (at(draft, props).spacingUp = value!)}
      />
      <LengthField
        label={`${feature.id}: leg’s diameter`}
        value={feature.diameter}
        set={(draft, value) => void (at(draft, props).diameter = value!)}
      />
    </>
  );
}

function HeadwallFields(props: Of<'headwall'>) {
  const { feature } = props;
  const through = (draft: Job) => at(draft, props).throughWall;
  return (
    <>
      <LengthField
        label={`${feature.id}: wall height rain can strike`}
        value={feature.height}
        set={(draft, value) => void (at(draft, props).height = value!)}
      />
      <ChoiceField
        label={`${feature.id}: cladding`}
        value={feature.cladding}
        options={CLADDING_OPTIONS}
        set={(draft, cladding) => void (at(draft, props).cladding = cladding)}
      />
      <LengthField
        label={`${feature.id}: apron’s roof leg`}
        rule="apron.roofLeg"
        value={feature.apronLeg}
        set={(draft, value) => void (at(draft, props).apronLeg = value!)}
      />
      <ChoiceField
        label={`${feature.id}: apron`}
        value={feature.apron}
        options={[
          { value: 'exposed', label: 'Fastened along its lower edge, in sight' },
          { value: 'strip adhered', label: 'Cap strip adhered over it' },
          { value: 'strip nailed', label: 'Cap strip nailed over it (leaks)' },
        ]}
        set={(draft, apron) => void (at(draft, props).apron = apron)}
      />
      {feature.cladding === 'masonry' && (
        <ChoiceField
          label={`${feature.id}: in the masonry`}
          rule="throughWall.rise"
          value={feature.counter}
          options={[
            { value: 'reglet', label: 'Straight reglet' },
            { value: 'repair', label: 'The old counterflashing, made good' },
            { value: 'through-wall', label: 'Through-wall flashing' },
          ]}
          set={(draft, counter) => void (at(draft, props).counter = counter)}
        />
      )}
      {feature.cladding === 'masonry' && feature.counter === 'through-wall' && (
        <>
          <CavityWallFields id={feature.id} value={feature.throughWall} at={through} />
          <LengthField
            label={`${feature.id}: length of the pieces`}
            value={feature.throughWall.pieceLength}
            set={(draft, value) => void (through(draft).pieceLength = value!)}
          />
        </>
      )}
    </>
  );
}
