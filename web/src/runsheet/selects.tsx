import { CREWS, type Crew, type RunGroup, crewOf } from '#core';
import { usePlanned } from '../editor/context.ts';

/** One slope or the whole roof (empty); nothing where there is only one slope. */
export function SlopeSelect({ value, onChange }: { value: string; onChange: (plane: string) => void }) {
  const { plan } = usePlanned();
  if (plan.planes.length < 2) return null;
  return (
    <select aria-label="Which slope" value={value} onChange={(event) => onChange(event.currentTarget.value)}>
      <option value="">Whole roof</option>
      {plan.planes.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </select>
  );
}

type CrewSelectProps = { sheet: readonly RunGroup[]; value: Crew | undefined; onChange: (crew: Crew | undefined) => void };

/** One of the crews a run sheet gives work to, or all of them; nothing where there is only one. */
export function CrewSelect({ sheet, value, onChange }: CrewSelectProps) {
  const crews = CREWS.filter((one) => sheet.some(({ lines }) => lines.some((line) => crewOf(line) === one)));
  if (crews.length < 2) return null;
  return (
    <select
      aria-label="Which crew"
      value={value ?? ''}
      onChange={(event) => onChange(crews.find((one) => one === event.currentTarget.value))}
    >
      <option value="">Every crew</option>
      {crews.map((one) => (
        <option key={one} value={one}>
          {one}
        </option>
      ))}
    </select>
  );
}
