import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { inches } from '../units/index.ts';
import {
  type LocalRule,
  type Pack,
  type Rule,
  RULE_KEYS,
  type Requirements,
  type SourceKind,
  isRequired,
  leastOf,
  mostOf,
  packSchema,
  printRuleValue,
  resolveRules,
} from './index.ts';

const all = (rules: Requirements) => RULE_KEYS.map((key) => rules.get(key));

const HEADLAP = 'stepFlashing.headlap';
const context = { covering: 'shingle', pitch: 0.5, iceDams: true };

const pack = (source: Pack['source'], id: string, ...rules: Partial<Rule>[]): Pack => ({
  format: 'ruvet-pack',
  formatVersion: 1,
  id,
  version: 1,
  source,
  name: id,
  edition: '1',
  rules: rules.map((rule) => ({ key: HEADLAP, sense: 'atLeast', value: 2, unit: 'in', section: '1', ...rule }) as Rule),
});

const local = (source: LocalRule['source'], rule: Partial<Rule>): LocalRule => ({
  source,
  name: source,
  rule: pack('house', source, rule).rules[0]!,
});

describe('which source governs', () => {
  it('lets trade practice govern only where code, maker and job are silent', () => {
    const alone = resolveRules({ packs: [pack('standard', 'practice', { value: 3 })] }, context);
    expect(leastOf(alone, HEADLAP)).toBe(inches(3));
    const outranked = resolveRules(
      { packs: [pack('standard', 'practice', { value: 3 }), pack('code', 'code', { value: 2 })] },
      context,
    );
    expect(leastOf(outranked, HEADLAP)).toBe(inches(2));
    expect(outranked.get(HEADLAP).statements.map(({ name, standing }) => [name, standing])).toEqual([
      ['code', 'governs'],
      ['practice', 'outranked'],
    ]);
  });

  it('takes the strictest of code, maker and job: largest minimum, smallest maximum', () => {
    const rules = resolveRules(
      {
        packs: [
          pack('code', 'code', { value: 2 }, { sense: 'atMost', value: 6 }),
          pack('maker', 'maker', { value: 76.2, unit: 'mm' }, { sense: 'atMost', value: 5 }),
        ],
        local: [local('job', { value: 2.5 })],
      },
      context,
    );
    expect([leastOf(rules, HEADLAP), mostOf(rules, HEADLAP)]).toEqual([76.2, inches(5)]);
  });

  it('lets the house tighten and never loosen', () => {
    const code = pack('code', 'code', { value: 3 });
    const tight = resolveRules({ packs: [code, pack('house', 'house', { value: 4 })] }, context);
    const loose = resolveRules({ packs: [code, pack('house', 'house', { value: 2 })] }, context);
    expect([leastOf(tight, HEADLAP), leastOf(loose, HEADLAP)]).toEqual([inches(4), inches(3)]);
    expect(loose.get(HEADLAP).statements[1]!.standing).toBe('may not loosen');
  });

  it('lets the field deviate and keeps it a finding for ever', () => {
    const rules = resolveRules(
      { packs: [pack('code', 'code', { value: 3 })], local: [local('field', { value: 2, why: 'old brick in the way' })] },
      context,
    );
    expect(rules.get(HEADLAP)).toMatchObject({ status: 'deviated', least: inches(2) });
    expect(rules.get(HEADLAP).why).toContain('old brick in the way');
  });

  it('makes a minimum above a maximum a conflict, and a recorded choice settles it', () => {
    const packs = [pack('code', 'code', { value: 4 }), pack('maker', 'maker', { sense: 'atMost', value: 3 })];
    expect(resolveRules({ packs }, context).get(HEADLAP)).toMatchObject({ status: 'conflict' });
    const decided = resolveRules({ packs, decisions: { [HEADLAP]: { source: 'maker', reason: 'inspector agreed' } } }, context);
    expect(decided.get(HEADLAP)).toMatchObject({ status: 'decided', most: inches(3) });
    expect(decided.get(HEADLAP).least).toBeUndefined();
  });

  it('treats two different exact values, and choices with nothing in common, as conflicts', () => {
    const exact = [pack('code', 'code', { sense: 'exactly', value: 4 }), pack('maker', 'maker', { sense: 'exactly', value: 3 })];
    expect(resolveRules({ packs: exact }, context).get(HEADLAP).status).toBe('conflict');
    const school = (source: Pack['source'], value: string[]): Pack =>
      pack(source, source, { key: 'eave.order', sense: 'oneOf', value, unit: undefined });
    const opposed = { packs: [school('code', ['metal-first']), school('maker', ['barrier-first'])] };
    expect(resolveRules(opposed, context).get('eave.order')).toMatchObject({
      status: 'conflict',
      allowed: ['metal-first', 'barrier-first'],
    });
    const open = { packs: [school('code', ['metal-first', 'barrier-first']), school('maker', ['barrier-first'])] };
    expect(resolveRules(open, context).get('eave.order')).toMatchObject({
      status: 'settled',
      allowed: ['barrier-first'],
    });
  });

  it('lets a required yes beat silence, and a yes against a no conflict', () => {
    const kick = (source: Pack['source'], value: boolean): Pack =>
      pack(source, source, { key: 'kickOut.required', sense: 'yesNo', value, unit: undefined });
    expect(isRequired(resolveRules({ packs: [kick('code', true)] }, context), 'kickOut.required')).toBe(true);
    expect(resolveRules({ packs: [kick('code', true), kick('maker', false)] }, context).get('kickOut.required').status).toBe(
      'conflict',
    );
  });

  it('speaks only where its conditions hold: 36 in along the slope from 8/12 up', () => {
    const code = pack('code', 'code', { key: 'iceBarrier.alongSlope', value: 36, when: { pitchAtLeast: 8, iceDams: true } });
    const at = (x12: number, iceDams = true): number =>
      leastOf(resolveRules({ packs: [code] }, { covering: 'shingle', pitch: x12 / 12, iceDams }), 'iceBarrier.alongSlope');
    expect([at(7.99), at(8), at(12), at(12, false)]).toEqual([0, inches(36), inches(36), 0]);
  });

  it('says so when nobody speaks', () => {
    const silent = resolveRules({ packs: [] }, context);
    expect(silent.get(HEADLAP)).toMatchObject({ status: 'assumed', least: inches(2) });
    // a spacing is assumed as the most there may be between two
    expect([mostOf(silent, 'throughWall.weeps'), leastOf(silent, 'throughWall.weeps')]).toEqual([inches(33), 0]);
  });
});

const spoken = fc.array(
  fc.record({
    source: fc.constantFrom<SourceKind>('code', 'maker', 'standard', 'house'),
    sense: fc.constantFrom('atLeast' as const, 'atMost' as const),
    value: fc.integer({ min: 1, max: 12 }),
  }),
  { maxLength: 8 },
);

describe('for every set of words', () => {
  it('the outcome does not depend on who is asked first', () => {
    fc.assert(
      fc.property(spoken, (words) => {
        const packs = words.map((word, i) => pack(word.source as Pack['source'], `p${i}`, word));
        const forward = JSON.stringify(all(resolveRules({ packs }, context)));
        expect(JSON.stringify(all(resolveRules({ packs: packs.toReversed() }, context)))).toBe(forward);
      }),
    );
  });

  it('a settled value satisfies every code, maker and house word', () => {
    fc.assert(
      fc.property(spoken, (words) => {
        const packs = words.map((word, i) => pack(word.source as Pack['source'], `p${i}`, word));
        const found = resolveRules({ packs }, context).get(HEADLAP);
        if (found.status !== 'settled') return;
        for (const { source, sense, value } of words.filter(({ source }) => source !== 'standard')) {
          if (sense === 'atLeast' && source !== 'house') expect(found.least).toBeGreaterThanOrEqual(inches(value));
          if (sense === 'atMost' && source !== 'house') expect(found.most).toBeLessThanOrEqual(inches(value));
        }
      }),
    );
  });
});

it('prints a rule value in the unit it was written in', () => {
  expect(printRuleValue({ value: 2, unit: 'in' }, 'metric')).toBe('2" (51 mm)');
  expect(printRuleValue({ value: 65, unit: 'mm' }, 'imperial')).toBe('65 mm (2 9/16")');
  expect(printRuleValue({ value: 0.019, unit: 'in' }, 'imperial')).toBe('0.019"');
  expect(printRuleValue({ value: 2.5, unit: 'x12' }, 'metric')).toBe('2.5/12');
});

it('refuses a pack that speaks on an unknown key or in the wrong unit', () => {
  const bad = packSchema.safeParse(pack('code', 'code', { key: 'gutter.colour' as never }, { unit: 'count' }, { value: true }));
  expect(bad.success).toBe(false);
  expect(bad.error?.issues.map(({ path }) => path.join('.'))).toEqual(['rules.0.key', 'rules.1.unit', 'rules.2.value']);
});
