import { type Finding, type Words, cut } from '../../assembly/index.ts';
import { type RuleKey, isRequired, leastOf } from '../../rules/index.ts';
import type { PlaneContext, ValleySide } from '../../slope/index.ts';
import { inches, isFlatter } from '../../units/index.ts';
import { type One, sideOf, waterAt } from './one.ts';

/** A joint keeps this far from the centre, so that water that creeps 2 in from it stays on the course below. */
const JOINT_BESIDE = inches(2.5);

/** How far along the eave a course is from where it meets a valley at its butt to where it meets it at its top. */
const spanOf = ({ surface }: PlaneContext, { low, high }: ValleySide): number =>
  (surface.unit.height * Math.abs(high[0] - low[0])) / (high[1] - low[1]);

export function styleFindings(one: One): Finding[] {
  const { valley, rules, a, b, job } = one;
  const findings: Finding[] = [];
  const say = (id: string, severity: Finding['severity'], sentence: Words, fix: Words, key?: RuleKey): void =>
    void findings.push({ id: `${valley.id}.${id}`, severity, sentence, fix, piece: `${valley.id}-S1`, ...(key ? { key } : {}) });
  // what a covering permits it must permit on both slopes
  const permits = (key: RuleKey): boolean => [a, b].every((context) => isRequired(context.rules, key));
  const chosen = job.valleys[valley.key]?.style;
  if (chosen !== undefined && chosen !== valley.style)
    say('style', 'worth a look', [`${valley.name} is planned open, not ${chosen}: ${a.surface.valleys === 'open' ? a.surface.name : b.surface.name} takes no other valley.`], ['Choose open.']); // prettier-ignore
  if (valley.style === 'woven' && !permits('valley.woven'))
    say('woven', 'breaks a rule', [`${valley.name} is woven, but a thick laminated shingle bridges the trough and cracks.`], ['Choose a closed cut or an open valley.'], 'valley.woven'); // prettier-ignore
  if (valley.style === 'long-edge cut') {
    if (!permits('valley.longEdge'))
      say('long-edge', 'breaks a rule', [`${valley.name}: ${a.surface.maker} does not name the long-edge cut, so the warranty may not cover it.`], ['Choose a closed cut, or get it from the maker in writing.'], 'valley.longEdge'); // prettier-ignore
    if (!isFlatter(4 / 12, Math.min(a.plane.pitch, b.plane.pitch)))
      say('long-edge-pitch', 'breaks a rule', [`${valley.name}: a long-edge cut is for slopes steeper than 4/12.`], ['Choose a closed cut or an open valley.'], 'valley.longEdge'); // prettier-ignore
  }
  if (valley.through !== undefined || valley.style === 'woven')
    for (const context of valley.style === 'woven' ? [a, b] : [valley.through === a.plane.id ? a : b])
      if (spanOf(context, sideOf(valley, context.plane.id)) + leastOf(rules, 'valley.cross') + JOINT_BESIDE > context.surface.unit.width)
        say('joint', 'worth a look', [`${valley.name}: the courses of ${context.plane.name} meet it so flat that one shingle, `, cut(context.surface.unit.width), ' wide, cannot span it: joints come to lie in the valley.'], ['Make it an open valley, or run the other slope through.'], 'valley.cross'); // prettier-ignore
  if (valley.through !== undefined && valley.through !== valley.asked.plane) {
    const reason = job.valleys[valley.key]?.through?.reason ?? '';
    const asked = valley.asked.plane === valley.a ? a.plane.name : b.plane.name;
    say('through', 'worth a look', [`${valley.name}: ${asked} would run through (${valley.asked.because}); decided otherwise (${reason}).`], ['Turn it round, or keep the reason.']); // prettier-ignore
  }
  return findings;
}

/** Unequal flows drive across the centre and under the far edge. */
export function widthFindings(one: One): Finding[] {
  const { valley, a, b } = one;
  if (valley.style !== 'open') return [];
  const ratio = Math.max(valley.flowA, valley.flowB) / Math.max(1e-9, Math.min(valley.flowA, valley.flowB));
  const findings: Finding[] = [];
  if (!valley.ribbed && (ratio > 2 || !isFlatter(Math.abs(a.plane.pitch - b.plane.pitch), 3 / 12)))
    findings.push({
      id: `${valley.id}.rib`,
      severity: 'worth a look',
      sentence: [
        `${valley.name}: the water from the two sides differs (${ratio.toFixed(1)} to 1); it can cross the centre and drive under the far edge.`,
      ],
      fix: ['Choose the ribbed lining for this valley.'],
      piece: `${valley.id}-L1`,
      key: 'valley.lining',
    });
  const water = waterAt(one, 0);
  const spread = Math.max(water.spreadA, water.spreadB);
  if (spread > valley.openLow)
    findings.push({
      id: `${valley.id}.width`,
      severity: 'worth a look',
      sentence: [
        `${valley.name}: at the eave the water spreads `,
        cut(spread),
        ' a side, more than half the open width, ',
        cut(valley.openLow),
        '.',
      ],
      fix: ['Chalk it wider towards the eave.'],
      piece: `${valley.id}-L1`,
      key: 'valley.openTop',
    });
  return findings;
}
