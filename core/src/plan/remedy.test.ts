import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoHouse } from '../../fixtures/demo.ts';
import { anyJob } from '../../fixtures/jobs.ts';
import { anyFeatured, feature, slopeWith } from '../../fixtures/roofs.ts';
import { cases } from '../../fixtures/seeds.ts';
import { planFor } from '../../fixtures/planned.ts';
import { type Finding, SEVERITIES, printWords } from '../assembly/index.ts';
import { type Job, jobSchema } from '../document/index.ts';
import { inches, toInches } from '../units/index.ts';
import { type FindingGroup, type Plan, applyRemedy, isSound, mendable, remediesOf, remedyWords } from './index.ts';

const find = ({ findings }: Plan, id: string): Finding | undefined => findings.find((one) => one.id === id);
const told = (finding: Finding | undefined): string =>
  finding ? `${finding.severity}: ${printWords([...finding.sentence, ' ', ...finding.fix], 'imperial')}` : '';
/** Does what a finding's button says, and plans again. */
function mended(job: Job, id: string): { button: string; after: Plan } {
  const remedy = find(planFor(job), id)!.remedy!;
  applyRemedy(job, remedy);
  return { button: printWords(remedyWords(remedy), 'imperial'), after: planFor(job) };
}

describe('a fix that can be done by itself', () => {
  it('on the porch sets 5 1/2 in: 18 courses, the last 8.19 in tall', () => {
    const { button, after } = mended(demoHouse(), 'HW1.lastCourse');
    expect(button).toBe('Set 5 1/2" on this slope');
    expect(find(after, 'HW1.lastCourse')).toBeUndefined();
    expect(after.planes.find(({ id }) => id === 'porch')!.lines.count).toBe(18);
  });

  it.each(['left', 'right'] as const)('moves a skylight measured from the %s clear of a rafter', (from) => {
    const job = slopeWith(['skylight'], (all, draft) => {
      draft.parts[0]!.planes[0]!.rafters = { spacing: inches(16), first: inches(0.75) };
      // the opening from 48 to 78 3/8 in cuts the rafters at 48 3/4 and 64 3/4; a little to the right it misses the first
      const x = from === 'left' ? 48 : 160 - 48 - 30.375;
      Object.assign(feature(all, 'skylight'), {
        width: inches(30.375),
        flashing: 'site-bent',
        across: { from, distance: inches(x) },
      });
    });
    expect(told(find(planFor(job), 'SK1.rafters'))).toMatch(/its opening cuts 2 rafters; 1 1\/2" to the right it cuts 1\./);
    const { button, after } = mended(job, 'SK1.rafters');
    expect(button).toBe('Move SK1 1 1/2" right: cuts 1 rafter fewer');
    expect(find(after, 'SK1.rafters')).toBeUndefined();
    const moved = feature(job.features, 'skylight').across;
    expect(toInches(moved.distance)).toBeCloseTo(from === 'left' ? 49.5 : 160 - 49.5 - 30.375, 6);
  });

  it('moves a flue clear of the rafter its listing keeps it from, where a bay is wide enough', () => {
    const flue = (spacing: number): Job =>
      slopeWith(['pipe'], (all, draft) => {
        draft.parts[0]!.planes[0]!.rafters = { spacing: inches(spacing), first: 0 };
        Object.assign(feature(all, 'pipe'), {
          hot: true, material: 'metal', diameter: inches(8), clearance: inches(2), across: { from: 'left', distance: inches(70) },
        }); // prettier-ignore
      });
    // at 24 in a rafter's face comes to 71 1/4; flue and clearance take 64 to 76: 4 3/4 in to the right is clear up to 95 1/4
    const job = flue(24);
    expect(told(find(planFor(job), 'P1.framing'))).toMatch(
      /^breaks a rule: .*a rafter stands within the 2" its listing keeps clear/,
    );
    expect(mended(job, 'P1.framing').button).toMatch(
      /^Move P1 4 \d\/\d" left: clear of rafters$|^Move P1 .*" right: clear of rafters$/,
    );
    expect(find(planFor(job), 'P1.framing')).toBeUndefined();
    // between rafters 12 in apart there is no such place
    expect(find(planFor(flue(12)), 'P1.framing')!.remedy).toBeUndefined();
  });

  it('sets the nails a maker asks on a site open to the wind, once for all slopes', () => {
    const job = demoHouse();
    job.site.wind = { from: 240, exposed: true };
    job.deviations = [];
    const windy = planFor(job).findings.filter(({ id }) => id.startsWith('covering.wind'));
    expect(windy.length).toBeGreaterThan(1);
    for (const { remedy } of windy) applyRemedy(job, remedy!);
    expect(job.deviations).toHaveLength(1);
    const after = planFor(job);
    expect(find(after, 'covering.wind')).toBeUndefined();
    // more than what governs is no rule broken
    expect(after.findings.filter(({ id }) => id === 'rule.covering.nails')).toEqual([]);
    const nailed = (made: Plan): number => made.fasteners.filter(({ piece }) => piece === 'N-C05').length;
    job.deviations = [];
    expect(nailed(after)).toBeGreaterThan(nailed(planFor(job)) * 1.3);
  });

  it('takes a base that lasts as long as the covering', () => {
    const job = slopeWith(['pipe'], ([one]) => void Object.assign(one!, { diameter: inches(3) }));
    expect(told(find(planFor(job), 'P1.life'))).toMatch(/lasts about 15 years, the covering round it 30\. Take All-metal boot/);
    const { after } = mended(job, 'P1.life');
    expect(find(after, 'P1.life')).toBeUndefined();
    expect(after.order.some(({ product }) => product === 'pellwick-boot-3-lead')).toBe(true);
  });

  it('lays a head course in two layers over a frame too wide for one shingle', () => {
    const { button, after } = mended(demoHouse(), 'SK1.head');
    expect(button).toBe('Two-layer head course on SK1');
    expect(find(after, 'SK1.head')).toBeUndefined();
    expect(find(after, 'SK2.head')).toBeDefined();
    expect(after.pieces.some(({ mark }) => mark.endsWith('SK1-DC'))).toBe(true);
  });
});

describe('a fix is offered only where it was tried:', () => {
  const groupsOf = (made: Plan): FindingGroup[] => mendable(made.findings);

  it('on any roof what it is offered for goes, the job stays sound, and nothing as grave comes', () => {
    const offered = new Set<string>();
    let tried = 0;
    const framed = fc
      .tuple(anyFeatured, fc.constantFrom(16, 19.2, 24), fc.double({ min: 0, max: 16, noNaN: true }))
      .map(([job, spacing, first]) => {
        job.parts[0]!.planes[0]!.rafters = { spacing: inches(spacing), first: inches(first) };
        job.site.wind = { from: 200, exposed: true };
        return job;
      });
    fc.assert(
      fc.property(fc.oneof(anyJob, framed), (job) => {
        const before = planFor(job);
        const groups = groupsOf(before);
        fc.pre(groups.length > 0);
        for (const group of groups) {
          const { does } = group.findings[0].remedy!;
          if (offered.has(does) && tried > 60) continue;
          tried++;
          if (!isSound(job, group, before.findings, planFor)) continue;
          offered.add(does);
          const changed = structuredClone(job);
          for (const remedy of remediesOf(group)) applyRemedy(changed, remedy);
          expect(jobSchema.safeParse(changed).success).toBe(true);
          const after = planFor(changed);
          const words = new Set(group.findings.map(({ sentence }) => JSON.stringify(sentence)));
          expect(after.findings.filter(({ sentence }) => words.has(JSON.stringify(sentence)))).toEqual([]);
          const rank = ({ severity }: Finding): number => SEVERITIES.indexOf(severity);
          const known = new Set(before.findings.map(({ id }) => id));
          const come = after.findings.filter((one) => !known.has(one.id) && rank(one) <= rank(group.findings[0]));
          expect(come.map(({ id }) => id)).toEqual([]);
        }
      }),
      cases(24),
    );
    expect([...offered].sort()).toEqual(['move', 'set base', 'set exposure', 'set nails', 'two layers']);
  });

  it('one that leaves what it is for, or brings another as grave, is not; one that brings less is', () => {
    const finding = (id: string, severity: Finding['severity'], extra: Partial<Finding> = {}): Finding => ({
      id,
      severity,
      sentence: [id],
      fix: [],
      ...extra,
    });
    const remedy = { does: 'set nails', nails: 6, reason: 'wind' } as const;
    const before = [finding('a.x', 'relies on sealant', { remedy }), finding('b.y', 'worth a look')];
    const [group] = mendable(before) as [FindingGroup];
    const after = (...findings: Finding[]): boolean => isSound(demoHouse(), group, before, () => ({ findings }));
    expect(after()).toBe(true);
    expect(after(finding('b.y', 'worth a look'), finding('c.z', 'worth a look'))).toBe(true);
    expect(after(finding('a.x', 'relies on sealant'))).toBe(false);
    expect(after(finding('c.z', 'relies on sealant'))).toBe(false);
    expect(after(finding('c.z', 'breaks a rule'))).toBe(false);
    // what was there already may stay, not come a second time
    const two = [...before, finding('c.z', 'breaks a rule')];
    const again = (...findings: Finding[]): boolean => isSound(demoHouse(), group, two, () => ({ findings }));
    expect(again(finding('c.z', 'breaks a rule'))).toBe(true);
    expect(again(finding('c.z', 'breaks a rule'), finding('c.z#2', 'breaks a rule'))).toBe(false);
    expect(again(finding('c.z', 'breaks a rule', { muted: 'seen' }))).toBe(true);
  });
});

describe('what fails first', () => {
  it('is told first among what is worth a look: a boot before a skylight’s kit', () => {
    const lives = planFor(demoHouse()).findings.flatMap(({ lasts }) => lasts ?? []);
    expect(lives.length).toBeGreaterThan(1);
    expect(lives).toEqual([...lives].sort((a, b) => a - b));
    expect(lives[0]).toBe(15);
  });
});

describe('a wall opened above a roof', () => {
  it('of 12 ft comes out in three lengths; aluminium in its mortar is told, copper is not', () => {
    const job = demoHouse();
    expect(told(find(planFor(job), 'HW1.opened'))).toMatch(
      /12'-0" of veneer comes out above the roof, in 3 lengths of at most 5'-0"/,
    );
    expect(told(find(planFor(job), 'HW1.mortar'))).toMatch(/aluminium ledge metal lies in fresh mortar/);
    job.coverings[0]!.metal = 'copper';
    expect(find(planFor(job), 'HW1.mortar')).toBeUndefined();
  });
});

describe('an ice barrier below a skylight’s sill', () => {
  const sill = (up: number, iceDams = true): string =>
    told(
      find(
        planFor(
          slopeWith(['skylight'], (all, job) => {
            job.site.iceDams = iceDams;
            Object.assign(feature(all, 'skylight'), { up: { kind: 'slope', length: inches(up) } });
          }),
        ),
        'SK1.barrier',
      ),
    );
  // two rows of 36 in with 3 in of lap end 67 1/2 or 69 in up
  it('that ends within 12 in of it is told in ice country, one that ends lower or runs under it is not', () => {
    expect(sill(74)).toMatch(/^worth a look: .*the ice barrier ends (5|6 1\/2)" below its sill/);
    expect(sill(84)).toBe('');
    expect(sill(60)).toBe('');
    expect(sill(74, false)).toBe('');
  });
});
