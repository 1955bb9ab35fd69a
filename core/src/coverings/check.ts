import type { Issue } from '../document/index.ts';
import { leastOf } from '../rules/index.ts';
import type { ToCheck } from '../slope/index.ts';
import { isFlatter, isOver, printLength, printPitch } from '../units/index.ts';

/** A pitch under the least for a product; it can be planned all the same. `label` names the field. */
export function tooFlat(
  { plane, rules, partPath }: ToCheck,
  name: string,
  style: 'x12' | 'degrees',
  label = `${plane.name}, pitch`,
): Issue[] {
  const least = leastOf(rules, 'covering.pitch');
  if (!isFlatter(plane.pitch, least)) return [];
  return [
    {
      path: `${partPath}.pitch`,
      message: `${label}: ${printPitch(plane.pitch, style)} is under the least for ${name}, ${printPitch(least, style)}.`,
      planned: true,
    },
  ];
}

/** Courses farther apart than `most`, as the covering or its slope says (field `field`, in a form `name`); they can be planned all the same. */
export function tooFarApart(
  { job, plane, path, recordPath }: ToCheck,
  { field, name, given }: { readonly field: string; readonly name: string; readonly given: number | null },
  most: number,
  because: (most: string) => string,
): Issue[] {
  const print = (mm: number): string => printLength(mm, job.units);
  const said = [
    { value: given, at: `${path}.${field}`, label: `${name[0]!.toUpperCase()}${name.slice(1)}` },
    { value: plane.exposure, at: `${recordPath}.exposure`, label: `${plane.name}, ${name}` },
  ];
  return said.flatMap(({ value, at, label }): Issue[] =>
    value !== null && isOver(value, most)
      ? [{ path: at, message: `${label}: ${print(value)} is more than ${because(print(most))}.`, planned: true }]
      : [],
  );
}
