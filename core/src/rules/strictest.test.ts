import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoHouse, demoLibrary, stripOf } from '../../fixtures/demo.ts';
import { sourcesOf } from '../document/index.ts';
import { inches } from '../units/index.ts';
import { RULE_KEYS, type Requirements, isRequired, leastOf, mostOf, resolveRules, strictestOf } from './index.ts';

const at = (x12: number): Requirements =>
  resolveRules(sourcesOf(demoHouse(), demoLibrary, stripOf(demoHouse())), {
    covering: 'shingle',
    pitch: x12 / 12,
    iceDams: true,
  });

describe('where two slopes meet', () => {
  it('the stricter of both holds: two layers of underlayment from the flat one, 36 in of barrier from the steep one', () => {
    const both = strictestOf(at(3), at(9));
    expect(leastOf(both, 'underlayment.layers')).toBe(2);
    expect(leastOf(both, 'iceBarrier.alongSlope')).toBe(inches(36));
    expect(leastOf(at(9), 'underlayment.layers')).toBe(1);
    expect(leastOf(at(3), 'iceBarrier.alongSlope')).toBe(0);
  });

  it('neither side is ever let off, whichever comes first', () => {
    const x12 = fc.double({ min: 2, max: 18, noNaN: true });
    fc.assert(
      fc.property(x12, x12, (p, q) => {
        const [a, b] = [at(p), at(q)];
        for (const both of [strictestOf(a, b), strictestOf(b, a)])
          for (const key of RULE_KEYS) {
            expect(leastOf(both, key), key).toBe(Math.max(leastOf(a, key), leastOf(b, key)));
            expect(mostOf(both, key), key).toBe(Math.min(mostOf(a, key), mostOf(b, key)));
            expect(isRequired(both, key), key).toBe(isRequired(a, key) || isRequired(b, key));
          }
      }),
      { numRuns: 25 },
    );
  });

  it('keeps the words of the one that governs, so that who says so can be asked', () => {
    const both = strictestOf(at(3), at(9));
    const said = both.get('underlayment.layers')!.statements.filter(({ standing }) => standing === 'governs');
    expect(said.map(({ name, section }) => `${name} ${section}`)).toEqual(['Model residential code R905.1.1']);
  });
});
