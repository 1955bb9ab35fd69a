import { type Finding, type Words, cut } from '../../assembly/index.ts';
import type { ItemOf } from '../../catalog/index.ts';
import type { FeatureOf } from '../../document/index.ts';
import { type RuleKey, leastOf } from '../../rules/index.ts';
import { type Footprint, type PlaneContext, SILL_LEG, isOnTiles } from '../../slope/index.ts';
import { type Lines, buttLine, interfaceLines, lastCourseAtOrBelow } from '../../surface/index.ts';
import { inches, isOver, isUnder } from '../../units/index.ts';
import { extentFor } from '../../underlayers/index.ts';
import { NEAR_SILL, headLayers } from './asks.ts';
import { openingOf } from './opening.ts';

/** In ice country a barrier that ends so near below a sill leaves ice to back up at the frame (trade practice). */
const BELOW_SILL = inches(12);

const rafters = (count: number): string => `${count} ${count === 1 ? 'rafter' : 'rafters'}`;

/** The lowest course whose butt line is nearer to a place up the slope than so much. */
function courseNear(lines: Lines, y: number, nearer: number): number | undefined {
  for (let n = lastCourseAtOrBelow(lines, y - nearer); n <= lines.count && buttLine(lines, n) < y + nearer; n++)
    if (isUnder(Math.abs(buttLine(lines, n) - y), nearer)) return n;
  return undefined;
}

export function findingsOf(
  context: PlaneContext,
  skylight: FeatureOf<'skylight'>,
  foot: Footprint,
  kit: ItemOf<'skylightKit'> | undefined,
  rules: PlaneContext['rules'],
): Finding[] {
  const { lines, surface } = context;
  const { id, name } = skylight;
  const findings: Finding[] = [];
  const say = (what: string, severity: Finding['severity'], sentence: Words, fix: Words, key?: RuleKey): void =>
    void findings.push({ id: `${id}.${what}`, severity, sentence, fix, piece: `${id}F-A1`, ...(key ? { key } : {}) });
  if (skylight.flashing === 'kit' && !kit)
    say('kit', 'breaks a rule', [`${name}: the catalog has no flashing kit for a ${skylight.mount}-mounted frame `, cut(skylight.width), ' × ', cut(skylight.height), '.'], ['Measure the frame’s outside again, or have the metal bent on site.']); // prettier-ignore
  const head = isOnTiles(context) ? 0 : leastOf(rules, 'skylight.headCourse');
  const reaches = (surface.unit.width - skylight.width) / 2;
  if (surface.wholeOverHead && isUnder(reaches, head) && headLayers(context, skylight) === 1)
    findings.push({
      id: `${id}.head`,
      severity: 'worth a look',
      sentence: [`${name}: one shingle over its head reaches `, cut(Math.max(0, reaches)), ' past each side, where ', cut(head), ' is wanted: ', cut(skylight.width + 2 * head), ' without a joint is longer than a ', cut(surface.unit.width), ' shingle.'],
      fix: ['Lay the head course in two layers, joints broken: a dummy course of whole shingles under it.'],
      remedy: { does: 'two layers', feature: id },
      piece: `${id}F-A1`,
      key: 'skylight.headCourse',
    }); // prettier-ignore
  const met = interfaceLines(lines, foot.from, foot.to);
  const steps = met.last - met.first + 1;
  if (kit?.steps !== undefined && !isOnTiles(context) && steps > kit.steps)
    say('kitSteps', 'breaks a rule', [`${name}: its kit brings ${kit.steps} steps a side, and ${steps} courses meet the frame: a course each.`], [`Order ${2 * (steps - kit.steps)} steps more of its maker.`]); // prettier-ignore
  const lower = foot.from - SILL_LEG;
  // over tiles it is dressed to them wherever it ends
  const near = isOnTiles(context) ? undefined : courseNear(lines, lower, NEAR_SILL);
  if (near !== undefined)
    say('sill', 'worth a look', [`${name}: the butt of course ${near} lies `, cut(Math.abs(buttLine(lines, near) - lower)), ' from the sill flashing’s lower edge, so the flashing has no full exposure to lie on.'], ['Shift the layout, or cut a filler course below it.'], 'skylight.headCourse'); // prettier-ignore
  if (kit && surface.years !== undefined && isUnder(kit.years, surface.years))
    findings.push({
      id: `${id}.lasts`,
      severity: 'worth a look',
      sentence: [`${name}: unit and kit last about ${kit.years} years, the covering round them ${surface.years}.`],
      fix: ['Write their renewal into the hand-over, or choose a unit that lasts as long.'],
      lasts: kit.years,
      piece: `${id}F-A1`,
    });
  const { nudge, cutRafters } = openingOf(context, skylight, foot, kit);
  if (skylight.work === 'new opening' && nudge) {
    const spared = cutRafters.length - nudge.cut;
    const side = nudge.by > 0 ? 'right' : 'left';
    findings.push({
      id: `${id}.rafters`,
      severity: 'worth a look',
      sentence: [`${name}: its opening cuts ${rafters(cutRafters.length)}; `, cut(Math.abs(nudge.by)), ` to the ${side} it cuts ${nudge.cut === 0 ? 'none' : nudge.cut}.`],
      fix: ['Move it, or have the cutting approved.'],
      remedy: { does: 'move', feature: id, by: nudge.by, so: `cuts ${rafters(spared)} fewer` },
      piece: `${id}F-A1`,
    }); // prettier-ignore
  }
  const barrier = context.job.site.iceDams ? extentFor(context) : undefined;
  if (barrier && isUnder(barrier.covered, foot.from) && isOver(barrier.covered, foot.from - BELOW_SILL))
    say('barrier', 'worth a look', [`${name}: the ice barrier ends `, cut(foot.from - barrier.covered), ' below its sill, where ice backs up against the frame.'], ['Lay one row more, so that it runs under the frame’s band.'], 'iceBarrier.insideWall'); // prettier-ignore
  if (skylight.bedding === 'bedded')
    say('bedded', 'relies on sealant', [`${name} is set in sealant under steps and head course, which its maker’s parts do not ask for.`], ['Lay it dry with all its maker’s parts.']); // prettier-ignore
  if (skylight.mount === 'curb' && isOver(skylight.width, inches(30)) && skylight.flashing === 'site-bent')
    say('curb', 'breaks a rule', [`${name}: a site-built curb wider than 30 in wants a cricket behind it; only unit skylights by their maker’s instructions are excepted.`], ['Use the maker’s kit, or frame a cricket.'], 'chimney.cricketOver'); // prettier-ignore
  if (kit && skylight.work === 'replacement' && skylight.age > 0)
    say('life', 'worth a look', [`${name}: the old unit is ${skylight.age} of about ${kit.years} years old; kept through a re-roof it fails within the new covering’s life, and sealing round its edge hides a rotten deck.`], ['Renew it with the covering.']); // prettier-ignore
  return findings;
}
