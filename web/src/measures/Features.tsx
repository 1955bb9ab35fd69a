import { ActionIcon, Button, TextInput } from '@mantine/core';
import { IconPlus, IconTrash } from '@tabler/icons-react';
import { type Feature, type FeatureOf, type Job, type Wall, itemsOf, newFeature, parseLength, spreadSkylights } from '#core';
import { useState } from 'react';
import { useEditing, useSlope } from '../editor/context.ts';
import { CLADDINGS, MEASURED } from './PartMeasures.tsx';
import { FieldError, ChoiceField, EitherField, LengthField, Section, SwitchField, fieldsOf } from './fields.tsx';
import css from './Features.module.css';

const POINTING_RULE = { sound: 'throughWall.inflowSound', 'open joints': 'throughWall.inflowOpen' } as const;

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
  const wall = fieldsOf(value, at, `${id}: `);
  return (
    <>
      {wall.length('veneer', 'veneer')}
      {wall.length('cavity', 'cavity')}
      {wall.length('rise', 'up the backup wall', { rule: 'throughWall.rise' })}
      {wall.either(
        'pointing',
        'its joints are',
        { sound: 'sound', 'open joints': 'open' },
        { rule: POINTING_RULE[value.pointing] },
      )}
    </>
  );
}

export const COUNTERS = {
  stepped: 'Stepped in the joints',
  reglet: 'Straight reglet',
  repair: 'The old one, made good',
} as const;

const KINDS = [
  { kind: 'chimney', label: 'chimney' },
  { kind: 'skylight', label: 'skylight' },
  { kind: 'pipe', label: 'pipe or flue' },
  { kind: 'standoffs', label: 'standoffs' },
  { kind: 'tileFault', label: 'faulty tile' },
] as const;

/** What stands on the slope looked at. */
export function Features() {
  const { job, library, change } = useEditing();
  const { plane, measured: roof } = useSlope();
  const [error, setError] = useState<string>();
  return (
    <>
      {job.features.map((feature, i) =>
        feature.plane === roof.id ? <FeatureSection key={feature.id} feature={feature} index={i} /> : null,
      )}
      <div className="add-feature" role="group" aria-label="Add to this slope">
        {KINDS.filter(({ kind }) => kind !== 'tileFault' || plane.sides === 'covers').map(({ kind, label }) => (
          <Button
            key={kind}
            variant="default"
            size="compact-sm"
            leftSection={<IconPlus size={14} />}
            onClick={() => {
              const [issue] = change(
                `add ${label}`,
                (draft) => void draft.features.push(newFeature(kind, draft, roof, library.catalog)),
              );
              setError(issue?.kept ? undefined : issue?.message);
            }}
          >
            {label}
          </Button>
        ))}
        <FieldError>{error}</FieldError>
      </div>
    </>
  );
}

function FeatureSection({ feature, index }: { feature: Feature; index: number }) {
  const { change } = useEditing();
  return (
    <Section
      title={`${feature.id} · ${feature.name}`}
      aside={
        feature.kind !== 'headwall' && (
          <ActionIcon
            variant="subtle"
            size={32}
            aria-label={`Remove ${feature.name}`}
            onClick={() => void change(`remove ${feature.id}`, (draft) => void draft.features.splice(index, 1))}
          >
            <IconTrash size={18} />
          </ActionIcon>
        )
      }
    >
      {fieldsOf(feature, (draft) => draft.features[index]!).text('name', `Name of ${feature.id}`)}
      {feature.kind !== 'headwall' && <PlaceFields feature={feature} index={index} />}
      {feature.kind === 'chimney' && <ChimneyFields feature={feature} index={index} />}
      {feature.kind === 'skylight' && <SkylightFields feature={feature} index={index} />}
      {feature.kind === 'pipe' && <PipeFields feature={feature} index={index} />}
      {feature.kind === 'standoffs' && <GridFields feature={feature} index={index} />}
      {feature.kind === 'tileFault' && <TileFaultFields feature={feature} index={index} />}
      {feature.kind === 'headwall' && <HeadwallFields feature={feature} index={index} />}
    </Section>
  );
}

type Of<K extends Feature['kind']> = { feature: FeatureOf<K>; index: number };
const at = <K extends Feature['kind']>(draft: Job, { index }: Of<K>): FeatureOf<K> => draft.features[index] as FeatureOf<K>;
const fieldsFor = <K extends Feature['kind']>(of: Of<K>) => fieldsOf(of.feature, (draft) => at(draft, of), `${of.feature.id}: `);

const TO: Record<Exclude<Feature['kind'], 'headwall'>, { across: string; up: string }> = {
  chimney: { across: 'its near side', up: 'its front face' },
  skylight: { across: 'its near edge', up: 'its sill' },
  pipe: { across: 'its centre', up: 'its centre' },
  standoffs: { across: 'the first leg', up: 'the lowest row' },
  tileFault: { across: 'the fault', up: 'the fault' },
};

/** Where it is, from the ends and the eave as the tape was held. */
function PlaceFields({ feature, index }: { feature: Exclude<Feature, { kind: 'headwall' }>; index: number }) {
  const { plane, measured: roof } = useSlope();
  const target = (draft: Job) => draft.features[index] as typeof feature;
  const words = TO[feature.kind];
  return (
    <>
      <EitherField
        label={`${feature.id}: across, measured from the`}
        value={feature.across.from}
        options={{ left: 'left end', right: 'right end' }}
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
        options={MEASURED}
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
  const { masonry, back } = props.feature;
  const { plane } = useSlope();
  const chimney = fieldsFor(props);
  // behind it on tiles lies a back gutter, whatever was chosen elsewhere
  const takesCricket = plane.sides !== 'covers';
  return (
    <>
      {chimney.length('width', 'width across the slope')}
      {chimney.length('depth', 'depth, level')}
      {chimney.length('height', 'height above the roof')}
      {chimney.onOff('masonry', 'masonry')}
      {masonry && chimney.length('jointSpacing', 'joint to joint')}
      {masonry && chimney.choice('counter', 'counterflashing', COUNTERS, { rule: 'counterflashing.cover' })}
      {chimney.length('apronLeg', 'apron’s roof leg', { rule: 'apron.roofLeg' })}
      {(takesCricket || back === 'cricket') && chimney.choice('back', 'behind it', BACKS, { rule: 'chimney.cricketOver' })}
      {takesCricket && back !== 'pan' && chimney.length('cricketHeight', 'cricket height', { optional: 'The table’s' })}
    </>
  );
}

const BACKS = { 'by the rules': 'By the rules', pan: 'Back pan', cricket: 'Cricket' } as const;

function SkylightFields(props: Of<'skylight'>) {
  const { feature } = props;
  const skylight = fieldsFor(props);
  return (
    <>
      {skylight.length('width', 'frame’s outside width')}
      {skylight.length('height', 'frame’s outside height')}
      {skylight.either('mount', 'mounted on', { deck: 'the deck', curb: 'a curb' })}
      {skylight.length('upstand', 'frame above the deck')}
      {skylight.either('flashing', 'flashing', { kit: 'maker’s kit', 'site-bent': 'bent on site' })}
      {skylight.either('bedding', 'laid', { dry: 'dry', bedded: 'bedded' })}
      {skylight.either('headCourse', 'course over its head', { 'one layer': 'one layer', 'two layers': 'two layers' })}
      {skylight.choice('work', 'work', { 'new opening': 'New opening', replacement: 'Replacement' })}
      {feature.work === 'replacement' && (
        <>
          {skylight.either('strip', 'covering round it', { renewing: 'renewed', 're-using': 'laid again' })}
          {skylight.count('age', 'years the old unit has been in', 100)}
        </>
      )}
      <SpreadFields feature={feature} />
    </>
  );
}

/** Several units alike with equal gaps between two references, as they are set out from inside. */
function SpreadFields({ feature }: { feature: FeatureOf<'skylight'> }) {
  const { change, units } = useEditing();
  const { measured: roof } = useSlope();
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
    const [issue] = change(`space ${feature.id} evenly`, (draft) => {
      const features = spreadSkylights(draft, feature.id, from.value, to.value, count);
      if (typeof features === 'string') refused = features;
      else draft.features = features;
    });
    return refused ?? issue?.message;
  };
  return (
    <details className={css.spread}>
      <summary>Space units evenly between references</summary>
      <div className="section-fields">
        {field('from', labels.from, units.length(0))}
        {field('to', labels.to, units.length(roof.eaveLength))}
        {field('count', labels.count, '2')}
        <Button variant="default" size="compact-sm" onClick={() => setError(spread())}>
          Space evenly
        </Button>
        <FieldError>{error}</FieldError>
      </div>
    </details>
  );
}

function PipeFields(props: Of<'pipe'>) {
  const { library } = useEditing();
  const { plane } = useSlope();
  const { feature } = props;
  const isTile = plane.sides === 'covers';
  const isFormed = isTile && feature.bases === 'formed base';
  return (
    <>
      {fieldsFor(props).length('diameter', 'outside diameter')}
      <SwitchField
        label={`${feature.id}: a flue that gets hot`}
        value={feature.hot}
        set={(draft, hot) => {
          at(draft, props).hot = hot;
          at(draft, props).boot = null;
        }}
      />
      {feature.hot &&
        fieldsFor(props).length('clearance', 'clearance to what burns', { optional: 'By its listing: not yet asked' })}
      {isTile && !feature.hot && (
        <EitherField
          label={`${feature.id}: it comes through in`}
          value={feature.bases}
          options={{ 'two levels': 'sheet and tiles', 'formed base': 'one base on a tile' }}
          set={(draft, bases) => {
            at(draft, props).bases = bases;
            at(draft, props).boot = null;
          }}
        />
      )}
      <ChoiceField
        label={`${feature.id}: base`}
        rule="pipe.showing"
        value={feature.boot ?? ''}
        options={[
          { value: '', label: 'The smallest that fits' },
          ...itemsOf(library.catalog, 'boot')
            .filter(({ standoff, hot, formed }) => !standoff && hot === feature.hot && formed === isFormed)
            .map(({ id, name, maker }) => ({ value: id, label: `${name}, ${maker}` })),
        ]}
        set={(draft, id) => void (at(draft, props).boot = id === '' ? null : id)}
      />
    </>
  );
}

function GridFields(props: Of<'standoffs'>) {
  const grid = fieldsFor(props);
  return (
    <>
      {grid.count('rows', 'rows', 40)}
      {grid.count('columns', 'legs a row', 40)}
      {grid.length('spacingAcross', 'legs apart, across')}
      {grid.length('spacingUp', 'rows apart, up the slope')}
      {grid.length('diameter', 'leg’s diameter')}
    </>
  );
}

const FAULTS = {
  'tile cracked': 'The tile is cracked',
  'side channel blocked': 'Its side channel is blocked',
  'side channel broken': 'Its side channel is broken',
} as const;
const CROSSINGS = [
  { value: 'copper', label: 'Copper tape or pipe' },
  { value: 'steel', label: 'Steel' },
  { value: 'plastic', label: 'Plastic pipe or cable' },
];

function TileFaultFields(props: Of<'tileFault'>) {
  const fields = fieldsFor(props);
  return (
    <>
      {fields.choice('fault', 'what is wrong', FAULTS)}
      {props.feature.fault !== 'tile cracked' &&
        fields.openChoice('crossedBy', 'lies in the channel and stays', CROSSINGS, 'Nothing')}
    </>
  );
}

const APRONS = {
  exposed: 'Fastened along its lower edge, in sight',
  'strip adhered': 'Cap strip adhered over it',
  'strip nailed': 'Cap strip nailed over it (leaks)',
  'left out': 'None (leaks)',
} as const;

/** Nothing goes through a tile. */
const APRONS_ON_TILE = {
  ...APRONS,
  exposed: 'Dressed to the tiles, held by clips',
  'left out': 'None: the sheet under the tiles takes its water',
} as const;

const IN_MASONRY = {
  reglet: 'Straight reglet',
  repair: 'The old counterflashing, made good',
  'through-wall': 'Through-wall flashing',
} as const;

function HeadwallFields(props: Of<'headwall'>) {
  const { id, apron, cladding, counter, throughWall } = props.feature;
  const through = (draft: Job) => at(draft, props).throughWall;
  const headwall = fieldsFor(props);
  const { plane } = useSlope();
  return (
    <>
      {headwall.length('height', 'wall height rain can strike')}
      {headwall.choice('cladding', 'cladding', CLADDINGS)}
      {apron !== 'left out' && headwall.length('apronLeg', 'apron’s roof leg', { rule: 'apron.roofLeg' })}
      {headwall.choice('apron', 'apron', plane.sides === 'covers' ? APRONS_ON_TILE : APRONS)}
      {cladding === 'masonry' && headwall.choice('counter', 'in the masonry', IN_MASONRY, { rule: 'throughWall.rise' })}
      {cladding === 'masonry' && counter === 'through-wall' && (
        <>
          <CavityWallFields id={id} value={throughWall} at={through} />
          {fieldsOf(throughWall, through, `${id}: `).length('pieceLength', 'length of the pieces')}
        </>
      )}
    </>
  );
}
