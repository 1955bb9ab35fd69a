import { type Finding, type Words, cut } from '../assembly/index.ts';
import { leastOf } from '../rules/index.ts';
import { type Lines, buttLine } from '../surface/index.ts';
import { isUnder } from '../units/index.ts';
import type { PlaneContext } from './model.ts';
import { lastUnderApron } from './standing.ts';

/** From its lower edge, the last course under an apron is so tall: up to what stands at `y`, or as long as its units are. */
export const lastTall = (lines: Lines, y: number, n: number): number => Math.min(lines.reach, y - buttLine(lines, n));

/** A last course under an apron that is shorter than wanted, said of whatever stands above it. */
export function shortLastCourse(
  { lines, rules }: Pick<PlaneContext, 'lines' | 'rules'>,
  y: number,
  apronLeg: number,
  {
    id,
    what,
    piece,
    fix,
    remedy,
  }: {
    readonly id: string;
    readonly what: string;
    readonly piece: string;
    readonly fix: Words;
    readonly remedy?: Finding['remedy'];
  },
): Finding[] {
  const tall = lastTall(lines, y, lastUnderApron(lines, y, apronLeg));
  const wanted = leastOf(rules, 'headwall.lastCourse');
  if (!isUnder(tall, wanted)) return [];
  return [
    {
      id: `${id}.lastCourse`,
      severity: 'worth a look',
      sentence: [`${what} is `, cut(tall), ' tall, under the wanted ', cut(wanted), '.'],
      fix,
      ...(remedy ? { remedy } : {}),
      piece,
      key: 'headwall.lastCourse',
    },
  ];
}
