import { describe, expect, it } from 'vitest';
import { changed, demoFile, demoLibrary } from '../../fixtures/demo.ts';
import { printWords } from '../assembly/index.ts';
import type { Job } from '../document/index.ts';
import { planJob } from '../plan/index.ts';
import { type KeyKind, type RuleUnit, packSchema, printBound, printRuleValue, ruleSchema, toCore } from './index.ts';

describe('a rule’s number, in the unit it was written in', () => {
  it.each<[number, RuleUnit, KeyKind, number]>([
    [2, 'in', 'length', 50.8],
    [6, 'x12', 'pitch', 0.5],
    [45, 'deg', 'pitch', 1],
    [105, 'deg', 'angle', 105],
    [30, '%', 'ratio', 0.3],
    [0.3, 'ratio', 'ratio', 0.3],
    [0.3, 'count', 'ratio', 0.3],
    [90, 'min', 'time', 90],
    [2, 'h', 'time', 120],
    [3, 'days', 'time', 4320],
    [5, 'C', 'temperature', 5],
    [14, 'F', 'temperature', -10],
  ])('%d %s is %s: %d', (value, unit, kind, core) => expect(toCore(value, unit, kind)).toBeCloseTo(core, 9));

  it.each<[number, RuleUnit, string, string]>([
    [2, 'in', '2"', '2" (51 mm)'],
    [65, 'mm', '65 mm (2 9/16")', '65 mm'],
    [100, 'deg', '100°', '100°'],
    [30, '%', '30 %', '30 %'],
    [90, 'days', '90 days', '90 days'],
    [5, 'C', '5 °C (41 °F)', '5 °C'],
    [40, 'F', '40 °F', '40 °F (4.44 °C)'],
    [-10, 'C', '-10 °C (14 °F)', '-10 °C'],
  ])('%d %s prints as %s, and in metric as %s', (value, unit, imperial, metric) => {
    expect(printRuleValue({ value, unit }, 'imperial')).toBe(imperial);
    expect(printRuleValue({ value, unit }, 'metric')).toBe(metric);
  });

  it('a bound nobody wrote prints by the kind of its key: a count is no length', () => {
    expect(printBound('count', 4, 'imperial')).toBe('4');
    expect(printBound('ratio', 0.1, 'metric')).toBe('10 %');
    expect(printBound('time', 90, 'metric')).toBe('1.5 h');
    expect(printBound('time', 43_200, 'imperial')).toBe('30 days');
    expect([printBound('pitch', 0.5, 'imperial'), printBound('pitch', 1, 'metric')]).toEqual(['6/12', '45°']);
    expect(printBound('temperature', 4, 'imperial')).toBe('39.2 °F');
    expect(printBound('angle', 100, 'metric')).toBe('100°');
  });

  const rule = (more: object) => ruleSchema.safeParse({ sense: 'atLeast', section: 'S', ...more });

  it.each<[object, string]>([
    [{ key: 'kickOut.angle', value: 100, unit: 'in' }, 'must be deg for kickOut.angle'],
    [{ key: 'iceBarrier.laying', value: 5, unit: 'days' }, 'must be C or F for iceBarrier.laying'],
    [{ key: 'iceBarrier.uncovered', value: 5, unit: 'C' }, 'must be min or h or days for iceBarrier.uncovered'],
    [{ key: 'throughWall.inflowSound', value: 5, unit: 'mm' }, 'must be % or ratio or count for throughWall.inflowSound'],
    [{ key: 'covering.nails', value: -1, unit: 'count' }, 'covering.nails is never below 0'],
  ])('%o is refused: %s', (more, message) => expect(rule(more).error?.issues.map((one) => one.message)).toContain(message));

  it('only a temperature may be below zero', () => {
    expect(rule({ key: 'iceBarrier.laying', value: -5, unit: 'C' }).success).toBe(true);
  });
});

describe('what those rules do', () => {
  const house = (rules: object[]) => {
    const own = packSchema.parse({ format: 'ruvet-pack', formatVersion: 1, id: 'own', version: 1, source: 'house', name: 'Own', edition: 'one', rules: rules.map((one) => ({ section: 'S', ...one })) }); // prettier-ignore
    const library = { ...demoLibrary, packs: [...demoLibrary.packs, own] };
    const job: Job = changed((draft) => void draft.packs.push({ id: 'own', version: 1 }));
    return planJob(job, library);
  };
  const barrierLine = (plan: ReturnType<typeof house>): string =>
    plan.steps.map(({ action }) => printWords(action, 'imperial')).find((line) => line.includes('ice barrier row 1'))!;

  it('the sheet is laid no colder than its maker and the rules allow, and covered in time; a house may ask more, never less', () => {
    expect(barrierLine(house([]))).toContain('Not below 5 °C (41 °F), deck dry; cover it within 90 days.');
    const stricter = [
      { key: 'iceBarrier.laying', sense: 'atLeast', value: 50, unit: 'F' },
      { key: 'iceBarrier.uncovered', sense: 'atMost', value: 48, unit: 'h' },
    ];
    expect(barrierLine(house(stricter))).toContain('Not below 10 °C (50 °F), deck dry; cover it within 2 days.');
    const looser = [{ key: 'iceBarrier.laying', sense: 'atLeast', value: -5, unit: 'C' }];
    expect(barrierLine(house(looser))).toContain('Not below 5 °C');
  });

  it('a kick-out whose diverter the rules do not allow is not chosen, and its want is told', () => {
    expect(house([]).pieces.map(({ role }) => role)).toContain('kickOut');
    const plan = house([{ key: 'kickOut.angle', sense: 'atLeast', value: 108, unit: 'deg' }]);
    expect(plan.pieces.map(({ role }) => role)).not.toContain('kickOut');
    const told = plan.findings.find(({ id }) => id === 'SW1.kick-out')!;
    expect(printWords(told.sentence, 'imperial')).toContain('its diverter turned 108° to 110°');
  });

  it('a pitch may be ruled in degrees', () => {
    const porch = demoFile('keepers-cottage-porch');
    const own = packSchema.parse({ format: 'ruvet-pack', formatVersion: 1, id: 'own', version: 1, source: 'code', name: 'Own', edition: 'one', rules: [{ key: 'covering.pitch', sense: 'atLeast', value: 30, unit: 'deg', section: 'S' }] }); // prettier-ignore
    porch.packs.push({ id: 'own', version: 1 });
    const plan = planJob(porch, { ...demoLibrary, packs: [...demoLibrary.packs, own] });
    expect(plan.planes[0]!.requirements.find(({ key }) => key === 'covering.pitch')!.least).toBeCloseTo(Math.tan(Math.PI / 6), 9);
  });
});
