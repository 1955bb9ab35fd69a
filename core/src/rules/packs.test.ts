import { describe, expect, it } from 'vitest';
import { demoFile, demoLibrary } from '../../fixtures/demo.ts';
import { planFor } from '../../fixtures/planned.ts';
import { inches, toInches } from '../units/index.ts';
import { type Pack, type RuleContext, type RuleKey, isRequired, leastOf, mostOf, resolveRules } from './index.ts';

const pack = (id: string): Pack => demoLibrary.packs.find((candidate) => candidate.id === id)!;
const at = (x12: number, iceDams = true): RuleContext => ({ covering: 'shingle', pitch: x12 / 12, iceDams });

describe('the model-code pack says what the sections say', () => {
  const code = (context: RuleContext) => resolveRules({ packs: [pack('model-code')] }, context);
  it.each<[RuleKey, string, number]>([
    ['flashing.thickness', 'R903.2.1', 0.019],
    ['iceBarrier.insideWall', 'R905.1.2', 24],
    ['nail.embedment', 'R905.2.5', 0.75],
    ['stepFlashing.roofLeg', 'R905.2.8.3', 4],
    ['stepFlashing.wallLeg', 'R905.2.8.3', 4],
    ['edgeMetal.lap', 'R905.2.8.5', 2],
    ['edgeMetal.belowSheathing', 'R905.2.8.5', 0.25],
    ['edgeMetal.onDeck', 'R905.2.8.5', 2],
    ['underlayment.sideLap', 'R905.1.1', 2],
    ['underlayment.endLap', 'R905.1.1', 4],
    ['underlayment.endLapStagger', 'R905.1.1', 72],
  ])('%s, %s: at least %d in', (key, section, value) => {
    const found = code(at(6)).get(key);
    expect(toInches(found.least!)).toBeCloseTo(value, 9);
    expect(found.statements[0]!.section).toBe(section);
  });

  it('asks for a kick-out, edge metal, and fasteners no more than a foot apart', () => {
    const rules = code(at(6));
    expect([isRequired(rules, 'kickOut.required'), isRequired(rules, 'edgeMetal.required')]).toEqual([true, true]);
    expect(mostOf(rules, 'edgeMetal.fastenerSpacing')).toBe(inches(12));
  });

  it('asks for the barrier only where ice dams are on record, and for 36 in along the slope from 8/12', () => {
    expect([isRequired(code(at(6)), 'iceBarrier.required'), isRequired(code(at(6, false)), 'iceBarrier.required')]).toEqual([
      true,
      false,
    ]);
    expect([leastOf(code(at(7.9)), 'iceBarrier.alongSlope'), leastOf(code(at(8)), 'iceBarrier.alongSlope')]).toEqual([
      0,
      inches(36),
    ]);
  });

  it('doubles the underlayment from 2/12 to under 4/12, sheets lapping 19 in', () => {
    expect([2, 3.99, 4].map((x12) => leastOf(code(at(x12)), 'underlayment.layers'))).toEqual([2, 2, 1]);
    expect(leastOf(code(at(3)), 'underlayment.sideLap')).toBe(inches(19));
  });

  it('says everywhere that the adopted edition and local amendments govern', () => {
    expect(pack('model-code').notice).toContain('local amendments govern');
  });
});

describe('trade practice fills what the code leaves open', () => {
  const both = resolveRules({ packs: [pack('model-code'), pack('trade-practice')] }, at(6));
  it.each<[RuleKey, number]>([
    ['stepFlashing.headlap', 2],
    ['fieldNails.fromWall', 6],
    ['counterflashing.cover', 2],
    ['counterflashing.endLap', 3],
    ['counterflashing.reglet', 1],
    ['cladding.clearance', 1],
    ['iceBarrier.sideLap', 3],
    ['iceBarrier.endLap', 6],
    ['wallMembrane.up', 6],
    ['covering.gapAtWall', 0.375],
    ['kickOut.height', 4],
  ])('%s: %d in', (key, value) => {
    expect(toInches(leastOf(both, key))).toBeCloseTo(value, 9);
    expect(both.get(key).statements.find(({ standing }) => standing === 'governs')!.source).toBe('standard');
  });

  it('does not outrank the code on the order at the eave', () => {
    expect(both.get('eave.order').allowed).toEqual(['metal-first']);
  });

  it.each(['ringing-house', 'ringing-house-north', 'keepers-cottage-porch', 'keepers-cottage-wash-house', 'peat-shed-shakes'])(
    'leaves nothing assumed that the demo job %s asks',
    (file) => {
      const { planes } = planFor(demoFile(file));
      const open = planes.flatMap(({ requirements }) => requirements.filter(({ status }) => status !== 'settled'));
      expect([...new Set(open.map(({ key }) => key))].filter((key) => key !== 'iceBarrier.alongSlope')).toEqual([]);
    },
  );
});
