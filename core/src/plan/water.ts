import { type Finding, SEVERITIES, printWords } from '../assembly/index.ts';
import { type CheckRequest, type CheckResult, type Problem, checkDrainage } from '../drainage/index.ts';
import { dryInMarks } from '../sequence/index.ts';
import type { Plan } from './planJob.ts';

/** What the water is asked of a whole roof: finished and at dry-in, one slope of every group that shares valleys, which are judged in one run. */
export const waterRequests = (plan: Plan): CheckRequest[] =>
  joinedSlopes(plan).flatMap((plane): CheckRequest[] => [
    { plane, stage: 'finished' },
    // what a repair leaves open until evening is seen to by its crew
    ...(plan.repair ? [] : [{ plane, stage: 'dry-in' as const, laid: dryInMarks(plan) }]),
  ]);

function joinedSlopes(plan: Plan): string[] {
  const seen = new Set<string>();
  return plan.planes
    .map(({ id }) => id)
    .filter((id) => {
      if (seen.has(id)) return false;
      const group = [id];
      for (const own of group)
        for (const { a, b } of plan.valleys)
          for (const [from, to] of [[a, b], [b, a]] as const) if (from === own && !group.includes(to)) group.push(to); // prettier-ignore
      for (const one of group) seen.add(one);
      return true;
    });
}

/** So many leaks of one run of the water stand among the findings; the lap bench has them all. */
const LEAKS_TOLD = 5;

/** What reads alike is told once, where it is first found: five nails of one course tell no more than one. */
function onceEach(problems: readonly Problem[]): Problem[] {
  const told = new Map<string, Problem>();
  for (const problem of problems) {
    const words = printWords(problem.sentence, 'imperial');
    if (!told.has(words)) told.set(words, problem);
  }
  return [...told.values()];
}

/** A plan's findings and what the water found, the worst first. */
export function withWater(plan: Plan, results: readonly CheckResult[]): Finding[] {
  const wet = results.flatMap(({ problems }) =>
    onceEach(problems)
      .slice(0, LEAKS_TOLD)
      .map((problem, i): Finding => ({
        id: `water.${problem.verdict}.${problem.piece}.${i}`,
        severity: problem.verdict === 'relies on sealant' ? 'relies on sealant' : 'leaks',
        sentence: problem.sentence,
        fix: ['See it on the lap bench.'],
        ...(problem.piece || problem.onto ? { piece: problem.piece || problem.onto } : {}),
      })),
  );
  return [...plan.findings, ...wet].sort((a, b) => SEVERITIES.indexOf(a.severity) - SEVERITIES.indexOf(b.severity));
}

/** How many findings of each weight a plan has, what the water says of it among them. */
export type Tally = { readonly leaks: number; readonly breaks: number; readonly seals: number; readonly looks: number };

/** Lets the water judge a plan and counts its findings. */
export function tallyOf(plan: Plan): Tally {
  const findings = withWater(
    plan,
    waterRequests(plan).map((request) => checkDrainage(plan, request)),
  );
  const count = (of: Finding['severity']): number => findings.filter(({ severity }) => severity === of).length;
  return {
    leaks: count('leaks'),
    breaks: count('breaks a rule'),
    seals: count('relies on sealant'),
    looks: count('worth a look'),
  };
}
