import { describe, expect, it } from 'vitest';
import { changed, demoHouse, demoJob, demoLibrary } from '../../fixtures/demo.ts';
import { slopeWith } from '../../fixtures/roofs.ts';
import { planFor } from '../../fixtures/planned.ts';
import { planJob } from '../plan/index.ts';
import { inches } from '../units/index.ts';
import { KEYS, type Pack, RULE_KEYS, type RuleKey, leastOf, packSchema, resolveRules, strictestOf, unheard } from './index.ts';

const pack = (rules: object[], source = 'standard'): Pack =>
  packSchema.parse({
    format: 'ruvet-pack',
    formatVersion: 1,
    id: 'own',
    version: 1,
    source,
    name: 'Own',
    edition: 'one',
    rules: rules.map((rule) => ({ section: 'S', ...rule })),
  });
const at = { covering: 'shingle', pitch: 0.5, iceDams: true };
const keysOf = (job = demoJob()) => planFor(job).planes.map(({ requirements }) => requirements.map(({ key }) => key));

describe('what is asked of the rules', () => {
  it('is what is told, in the order of the keys, however often it is asked', () => {
    const rules = resolveRules({ packs: [] }, at);
    expect(rules.asked()).toEqual([]);
    leastOf(rules, 'apron.lap');
    leastOf(rules, 'covering.nails');
    leastOf(rules, 'apron.lap');
    expect(rules.asked().map(({ key }) => key)).toEqual(['covering.nails', 'apron.lap']);
    leastOf(unheard(rules), 'pipe.gap');
    rules.peek('pan.up');
    expect(rules.asked()).toHaveLength(2);
  });

  it('where two slopes meet counts for both', () => {
    const [a, b] = [resolveRules({ packs: [] }, at), resolveRules({ packs: [] }, at)];
    leastOf(strictestOf(a, b), 'valley.sheet');
    expect([a, b].map((rules) => rules.asked().map(({ key }) => key))).toEqual([['valley.sheet'], ['valley.sheet']]);
  });

  it('a slope without chimney, skylight, pipe or valley tells nothing of them; one with a chimney does', () => {
    const told = keysOf()[0]!;
    expect(told.filter((key) => /^(chimney|cricket|pan|skylight|pipe|valley|throughWall)\./.test(key))).toEqual([]);
    expect(told).toEqual(expect.arrayContaining(['stepFlashing.headlap', 'kickOut.height', 'covering.pitch']));
    expect(keysOf(slopeWith(['chimney']))[0]).toEqual(expect.arrayContaining(['chimney.clearance', 'chimney.cricketOver']));
  });

  it('every requirement behind a piece or a step can be asked for', () => {
    const { planes, pieces, steps } = planFor(demoHouse());
    const told = new Set(planes.flatMap(({ requirements }) => requirements.map(({ key }) => key)));
    const missing = [...pieces, ...steps].flatMap(({ keys }) => keys).filter((key) => !told.has(key));
    expect(missing).toEqual([]);
  });

  it('a key nobody asks, though a pack speaks on it, changes not a byte of a plan', () => {
    const before = JSON.stringify(planFor(demoHouse()));
    const keys = KEYS as Record<string, unknown>;
    keys['thatch.spars'] = { meaning: 'spars in a bundle of thatch', kind: 'count', assumed: { value: 3, unit: 'count' } };
    RULE_KEYS.push('thatch.spars' as RuleKey);
    try {
      const own = pack([{ key: 'thatch.spars', sense: 'atLeast', value: 5, unit: 'count' }]);
      const speaking = { ...demoLibrary, packs: [...demoLibrary.packs, own] };
      const job = demoHouse();
      job.packs.push({ id: own.id, version: own.version });
      expect(JSON.stringify(planJob(job, speaking))).toBe(before);
    } finally {
      RULE_KEYS.pop();
      delete keys['thatch.spars'];
    }
  });
});

describe('a rule that speaks only of a product or an exposure', () => {
  const nails = (when: object) => ({ key: 'covering.nails', sense: 'atLeast', value: 8, unit: 'count', when });
  const asked = (when: object, context: object) =>
    leastOf(resolveRules({ packs: [pack([nails(when)])] }, { ...at, ...context }), 'covering.nails');

  it.each<[string, object, object, number]>([
    ['a product that is used', { products: ['x', 'y'] }, { products: ['y'] }, 8],
    ['a product that is not', { products: ['x'] }, { products: ['y'] }, 4],
    ['an exposure just reached', { exposureAtLeast: { value: 5, unit: 'in' } }, { exposure: inches(5) }, 8],
    ['one not reached', { exposureAtLeast: { value: 5, unit: 'in' } }, { exposure: inches(4.9) }, 4],
    ['one that must stay below', { exposureBelow: { value: 127, unit: 'mm' } }, { exposure: inches(4.9) }, 8],
    ['one that is just no longer below', { exposureBelow: { value: 127, unit: 'mm' } }, { exposure: inches(5) }, 4],
    ['an exposure nobody knows yet', { exposureAtLeast: { value: 1, unit: 'in' } }, {}, 4],
  ])('%s', (_, when, context, least) => expect(asked(when, context)).toBe(least));

  it('holds in a plan by the exposure its slope really has', () => {
    const own = pack([nails({ exposureBelow: { value: 5.2, unit: 'in' } })], 'code');
    const library = { ...demoLibrary, packs: [...demoLibrary.packs, own] };
    const nailsAt = (exposure: number): number => {
      const job = changed((draft) => {
        draft.packs = [{ id: own.id, version: 1 }];
        draft.parts[0]!.planes[0]!.exposure = inches(exposure);
      });
      return planJob(job, library).planes[0]!.requirements.find(({ key }) => key === 'covering.nails')!.least!;
    };
    expect([nailsAt(5), nailsAt(5.5)]).toEqual([8, 4]);
  });

  it('may not decide the exposure by the exposure', () => {
    const rule = {
      key: 'covering.exposure',
      sense: 'atMost',
      value: 5,
      unit: 'in',
      when: { exposureBelow: { value: 5, unit: 'in' } },
    };
    expect(() => pack([rule])).toThrow('covering.exposure decides the exposure, so it cannot depend on it');
  });
});
