import { type Finding, ROLES } from '../assembly/index.ts';
import type { Plan } from './planJob.ts';

/** What is different between two plans of one roof. */
export type Difference = {
  /** By kind of piece, where their number changes. */
  readonly pieces: readonly { readonly name: string; readonly before: number; readonly after: number }[];
  /** Order lines whose packages change; 0 where a line is not there. */
  readonly order: readonly { readonly name: string; readonly package: string; readonly before: number; readonly after: number }[];
  readonly gone: readonly Finding[];
  readonly added: readonly Finding[];
};

/** Compares two plans, such as one job's with an older and a newer catalog. */
export function comparePlans(before: Plan, after: Plan): Difference {
  const count = ({ pieces }: Plan): Map<string, number> => {
    const counts = new Map<string, number>();
    for (const { role } of pieces) counts.set(ROLES[role].name, (counts.get(ROLES[role].name) ?? 0) + 1);
    return counts;
  };
  const [had, has] = [count(before), count(after)];
  const names = [...new Set([...had.keys(), ...has.keys()])];
  const ordered = new Map([...before.order, ...after.order].map((line) => [line.name, line]));
  const packages = ({ order }: Plan, name: string): number => order.find((line) => line.name === name)?.packages ?? 0;
  const isAmong = (findings: readonly Finding[], { id, piece }: Finding): boolean =>
    findings.some((other) => other.id === id && other.piece === piece);
  return {
    pieces: names
      .map((name) => ({ name, before: had.get(name) ?? 0, after: has.get(name) ?? 0 }))
      .filter((line) => line.before !== line.after),
    order: [...ordered.values()]
      .map((line) => ({
        name: line.name,
        package: line.package,
        before: packages(before, line.name),
        after: packages(after, line.name),
      }))
      .filter((line) => line.before !== line.after),
    gone: before.findings.filter((finding) => !isAmong(after.findings, finding)),
    added: after.findings.filter((finding) => !isAmong(before.findings, finding)),
  };
}
