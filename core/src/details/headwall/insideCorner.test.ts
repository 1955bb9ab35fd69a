import { describe, expect, it } from 'vitest';
import { demoHouse } from '../../../fixtures/demo.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { outlineArea } from '../../roof/index.ts';

describe('the inside corner of a headwall', () => {
  const house = planFor(demoHouse());
  const pan = house.pieces.find(({ role }) => role === 'cornerPan')!;

  it('has a pan under the apron and over the last step, as large flat as bent', () => {
    const at = (mark: string): number => house.pieces.findIndex((piece) => piece.mark === mark);
    expect(pan.mark).toBe('HW1-IR');
    expect(at(pan.mark)).toBeGreaterThan(at('SW2-18'));
    expect(at(pan.mark)).toBeLessThan(at('HW1-A1'));
    const covered = pan.covers.reduce((sum, { outline }) => sum + Math.abs(outlineArea(outline)), 0);
    expect(Math.abs(outlineArea(pan.flat!.outline)) / covered).toBeCloseTo(1, 3);
  });
});
