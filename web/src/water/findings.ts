import { type CheckResult, type Finding, type Plan, SEVERITIES } from '@ruvet/core';

/** The plan's findings with what the water found among them, worst first. A leak jumps to the bench. */
export function withWater(plan: Plan, results: readonly CheckResult[]): Finding[] {
  const wet = results.flatMap(({ problems }) =>
    problems.slice(0, 5).map((problem, i): Finding => ({
      id: `water.${problem.verdict}.${problem.piece}.${i}`,
      severity: problem.verdict === 'relies on sealant' ? 'relies on sealant' : 'leaks',
      sentence: problem.sentence,
      fix: ['See it on the lap bench.'],
      ...(problem.piece || problem.onto ? { piece: problem.piece || problem.onto } : {}),
    })),
  );
  return [...plan.findings, ...wet].sort((a, b) => SEVERITIES.indexOf(a.severity) - SEVERITIES.indexOf(b.severity));
}
