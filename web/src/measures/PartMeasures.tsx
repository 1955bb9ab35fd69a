import { type Job, type Part, type PartOf, pitchOf, slopeFactor } from '#core';
import { useEditing, usePlanned } from '../editor/context.ts';
import { ChoiceField, DegreesField, EitherField, fieldsOf } from './fields.tsx';

export const CLADDINGS = {
  boards: 'Lapped boards, drainage layer',
  render: 'Render, drainage layer',
  masonry: 'Masonry',
} as const;

const find = <K extends Part['kind']>(draft: Job, part: PartOf<K>): PartOf<K> =>
  draft.parts.find(({ id }) => id === part.id) as PartOf<K>;

const COMPASS = ['north', 'north-east', 'east', 'south-east', 'south', 'south-west', 'west', 'north-west'] as const;

export const MEASURED = { level: 'level', slope: 'along the slope' } as const;

/** The measures of a part of the roof, as the tape took them. */
export function PartMeasures({ part }: { part: Part }) {
  const fields = fieldsOf(part, (draft) => draft.parts.find(({ id }) => id === part.id)!);
  return (
    <>
      {(part.kind === 'slope' || part.kind === 'gable') && <Slope part={part} />}
      {part.kind === 'hip' && <Hip part={part} />}
      {part.kind === 'crossGable' && <CrossGable part={part} />}
      {part.kind === 'dormer' && <Dormer part={part} />}
      {fields.pitch('pitch', 'Pitch', { rule: 'covering.pitch' })}
      {fields.length('overhang', 'Eave overhang, level')}
      {fields.length('wallThickness', 'Exterior wall thickness')}
    </>
  );
}

function Slope({ part }: { part: PartOf<'slope'> | PartOf<'gable'> }) {
  const at = (draft: Job) => find(draft, part) as typeof part;
  return (
    <>
      {fieldsOf(part, at).length('eaveLength', 'Eave length')}
      <EitherField
        label="Slope measured"
        value={part.slope.kind}
        options={MEASURED}
        set={(draft, kind) => {
          const target = at(draft);
          // the roof stays as it is: only the way it is measured changes
          const factor = slopeFactor(pitchOf(target.pitch));
          if (kind !== target.slope.kind)
            target.slope = { kind, length: kind === 'slope' ? target.slope.length * factor : target.slope.length / factor };
        }}
      />
      {fieldsOf(part.slope, (draft) => at(draft).slope).length(
        'length',
        part.slope.kind === 'level' ? 'Level run, eave edge to under the top' : 'Length along the slope',
      )}
    </>
  );
}

function Hip({ part }: { part: PartOf<'hip'> }) {
  const hip = fieldsOf(part, (draft) => find(draft, part));
  return (
    <>
      {hip.length('eaveLength', 'Eave length, front')}
      {hip.length('width', 'Eave length, side')}
    </>
  );
}

function HostFields({ part }: { part: PartOf<'crossGable'> | PartOf<'dormer'> }) {
  const { job } = useEditing();
  const { plan } = usePlanned();
  const at = (draft: Job) => find(draft, part) as typeof part;
  const host = job.parts.flatMap(({ planes }) => planes).find(({ id }) => id === part.host);
  return (
    <>
      <ChoiceField
        label="Stands on"
        value={part.host}
        options={plan.roof.filter(({ part: own }) => own !== part.id).map(({ id, name }) => ({ value: id, label: name }))}
        set={(draft, host) => void (at(draft).host = host)}
      />
      {fieldsOf(part, at).length('centre', `Its middle from the left end of ${host?.name ?? 'the slope'}`)}
    </>
  );
}

function CrossGable({ part }: { part: PartOf<'crossGable'> }) {
  const gable = fieldsOf(part, (draft) => find(draft, part));
  return (
    <>
      <HostFields part={part} />
      {gable.length('halfWidth', 'Half its width, eave edge to under the ridge')}
      {gable.length('projection', 'Stands out past the eave', { hint: '0 when flush with it' })}
      {gable.length('rise', 'Its eave above the other eave')}
      {part.rise > 0 && gable.choice('cladding', 'Cladding of its walls', CLADDINGS)}
    </>
  );
}

function Dormer({ part }: { part: PartOf<'dormer'> }) {
  const dormer = fieldsOf(part, (draft) => find(draft, part));
  const from = fieldsOf(part.from, (draft) => find(draft, part).from);
  return (
    <>
      <HostFields part={part} />
      {dormer.length('width', 'Between its sidewalls’ faces')}
      {from.length('length', `Front face up the slope (${part.from.kind === 'level' ? 'level' : 'along it'})`)}
      {dormer.length('height', 'Front wall height')}
      {dormer.choice('cladding', 'Cladding of its walls', CLADDINGS)}
    </>
  );
}

/** Where a part stands in plan; parts on a host stand where their measures put them. */
export function PartPlace({ part }: { part: Part }) {
  if (!('place' in part)) return null;
  const at = (draft: Job) => draft.parts.find(({ id }) => id === part.id) as typeof part;
  const { facing } = part.place;
  const place = fieldsOf(part.place, (draft) => at(draft).place);
  return (
    <>
      <ChoiceField
        label={part.planes.length > 1 ? `${part.planes[0]!.name} faces` : 'Faces'}
        value={String(facing)}
        options={[
          ...COMPASS.map((label, i) => ({ value: String(i * 45), label })),
          ...(facing % 45 === 0 && facing < 360 ? [] : [{ value: String(facing), label: `${facing}° from north` }]),
        ]}
        set={(draft, value) => void (at(draft).place.facing = Number(value))}
      />
      <DegreesField
        label="or degrees from north, clockwise"
        value={facing}
        set={(draft, degrees) => void (at(draft).place.facing = degrees)}
      />
      {place.length('east', 'Its eave’s left end, east of the corner mark')}
      {place.length('north', 'and north of it')}
      {place.length('height', 'Eave’s height against the main eave')}
    </>
  );
}
