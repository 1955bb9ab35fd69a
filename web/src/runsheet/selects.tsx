import { NativeSelect } from '@mantine/core';
import { CREWS, type Crew, type RunGroup, crewOf } from '#core';
import { usePlanned } from '../editor/context.ts';

/** One slope or the whole roof (empty); nothing where there is only one slope. */
export function SlopeSelect({ value, onChange }: { value: string; onChange: (plane: string) => void }) {
  const { plan } = usePlanned();
  if (plan.planes.length < 2) return null;
  return (
    <NativeSelect
      size="sm"
      aria-label="Which slope"
      value={value}
      onChange={(event) => onChange(event.currentTarget.value)}
      data={[{ value: '', label: 'Whole roof' }, ...plan.planes.map(({ id, name }) => ({ value: id, label: name }))]}
    />
  );
}

type CrewSelectProps = { sheet: readonly RunGroup[]; value: Crew | undefined; onChange: (crew: Crew | undefined) => void };

/** One of the crews a run sheet gives work to, or all of them; nothing where there is only one. */
export function CrewSelect({ sheet, value, onChange }: CrewSelectProps) {
  const crews = CREWS.filter((one) => sheet.some(({ lines }) => lines.some((line) => crewOf(line) === one)));
  if (crews.length < 2) return null;
  return (
    <NativeSelect
      size="sm"
      aria-label="Which crew"
      value={value ?? ''}
      onChange={(event) => onChange(crews.find((one) => one === event.currentTarget.value))}
      data={[{ value: '', label: 'Every crew' }, ...crews]}
    />
  );
}
