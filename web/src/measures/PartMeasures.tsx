import type { Job, Part, PartOf } from '@ruvet/core';
import { useWorkbench } from '../editor/context.ts';
import { ChoiceField, DegreesField, EitherField, LengthField, PitchField } from './fields.tsx';

export const CLADDING_OPTIONS = [
  { value: 'boards', label: 'Lapped boards, drainage layer' },
  { value: 'render', label: 'Render, drainage layer' },
  { value: 'masonry', label: 'Masonry' },
] as const;

const find = <K extends Part['kind']>(draft: Job, part: PartOf<K>): PartOf<K> =>
  draft.parts.find(({ id }) => id === part.id) as PartOf<K>;

const COMPASS = ['north', 'north-east', 'east', 'south-east', 'south', 'south-west', 'west', 'north-west'] as const;

const MEASURED = [
  { value: 'level', label: 'level' },
  { value: 'slope', label: 'along the slope' },
] as const;

/** The measures of a part of the roof, as the tape took them. */
export function PartMeasures({ part }: { part: Part }) {
  return (
    <>
      {(part.kind === 'slope' || part.kind === 'gable') && <Slope part={part} />}
      {part.kind === 'hip' && <Hip part={part} />}
      {part.kind === 'crossGable' && <CrossGable part={part} />}
      {part.kind === 'dormer' && <Dormer part={part} />}
      <PitchField
        label="Pitch"
        rule="covering.pitch"
        value={part.pitch}
        set={(draft, value) => void (find(draft, part).pitch = value)}
      />
      <LengthField
        label="Eave overhang, level"
        value={part.overhang}
        set={(draft, value) => void (find(draft, part).overhang = value!)}
      />
      <LengthField
        label="Exterior wall thickness"
        value={part.wallThickness}
        set={(draft, value) => void (find(draft, part).wallThickness = value!)}
      />
    </>
  );
}

function Slope({ part }: { part: PartOf<'slope'> | PartOf<'gable'> }) {
  const at = (draft: Job) => find(draft, part) as typeof part;
  return (
    <>
      <LengthField label="Eave length" value={part.eaveLength} set={(draft, value) => void (at(draft).eaveLength = value!)} />
      <EitherField
        label="Slope measured"
        value={part.slope.kind}
        options={MEASURED}
        set={(draft, kind) => {
          const target = at(draft);
          // the roof stays as it is: only the way it is measured changes
          const factor = Math.hypot(1, target.pitch);
          if (kind !== target.slope.kind)
            target.slope = { kind, length: kind === 'slope' ? target.slope.length * factor : target.slope.length / factor };
        }}
      />
      <LengthField
        label={part.slope.kind === 'level' ? 'Level run, eave edge to under the top' : 'Length along the slope'}
        value={part.slope.length}
        set={(draft, value) => void (at(draft).slope.length = value!)}
      />
    </>
  );
}

function Hip({ part }: { part: PartOf<'hip'> }) {
  return (
    <>
      <LengthField
        label="Eave length, front"
        value={part.eaveLength}
        set={(draft, value) => void (find(draft, part).eaveLength = value!)}
      />
      <LengthField label="Eave length, side" value={part.width} set={(draft, value) => void (find(draft, part).width = value!)} />
    </>
  );
}

function HostFields({ part }: { part: PartOf<'crossGable'> | PartOf<'dormer'> }) {
  const { job, plan } = useWorkbench();
  const at = (draft: Job) => find(draft, part) as typeof part;
  return (
    <>
      <ChoiceField
        label="Stands on"
        value={part.host}
        options={plan.roof.filter(({ part: own }) => own !== part.id).map(({ id, name }) => ({ value: id, label: name }))}
        set={(draft, host) => void (at(draft).host = host)}
      />
      <LengthField
        label={`Its middle from the left end of ${job.parts.flatMap(({ planes }) => planes).find(({ id }) => id === part.host)?.name ?? 'the slope'}`}
        value={part.centre}
        set={(draft, value) => void (at(draft).centre = value!)}
      />
    </>
  );
}

function CrossGable({ part }: { part: PartOf<'crossGable'> }) {
  return (
    <>
      <HostFields part={part} />
      <LengthField
        label="Half its width, eave edge to under the ridge"
        value={part.halfWidth}
        set={(draft, value) => void (find(draft, part).halfWidth = value!)}
      />
      <LengthField
        label="Stands out past the eave"
        hint="0 when flush with it"
        value={part.projection}
        set={(draft, value) => void (find(draft, part).projection = value!)}
      />
      <LengthField
        label="Its eave above the other eave"
        value={part.rise}
        set={(draft, value) => void (find(draft, part).rise = value!)}
      />
      {part.rise > 0 && <CladdingField part={part} />}
    </>
  );
}

function Dormer({ part }: { part: PartOf<'dormer'> }) {
  return (
    <>
      <HostFields part={part} />
      <LengthField
        label="Between its sidewalls’ faces"
        value={part.width}
        set={(draft, value) => void (find(draft, part).width = value!)}
      />
      <LengthField
        label={`Front face up the slope (${part.from.kind === 'level' ? 'level' : 'along it'})`}
        value={part.from.length}
        set={(draft, value) => void (find(draft, part).from.length = value!)}
      />
      <LengthField
        label="Front wall height"
        value={part.height}
        set={(draft, value) => void (find(draft, part).height = value!)}
      />
      <CladdingField part={part} />
    </>
  );
}

function CladdingField({ part }: { part: PartOf<'crossGable'> | PartOf<'dormer'> }) {
  const at = (draft: Job) => find(draft, part) as typeof part;
  return (
    <ChoiceField
      label="Cladding of its walls"
      value={part.cladding}
      options={CLADDING_OPTIONS}
      set={(draft, cladding) => void (at(draft).cladding = cladding)}
    />
  );
}

/** Where a part stands in plan; parts on a host stand where their measures put them. */
export function PartPlace({ part }: { part: Part }) {
  if (!('place' in part)) return null;
  const at = (draft: Job) => draft.parts.find(({ id }) => id === part.id) as typeof part;
  const { facing } = part.place;
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
      <LengthField
        label="Its eave’s left end, east of the corner mark"
        value={part.place.east}
        set={(draft, value) => void (at(draft).place.east = value!)}
      />
      <LengthField
        label="and north of it"
        value={part.place.north}
        set={(draft, value) => void (at(draft).place.north = value!)}
      />
      <LengthField
        label="Eave’s height against the main eave"
        value={part.place.height}
        set={(draft, value) => void (at(draft).place.height = value!)}
      />
    </>
  );
}
