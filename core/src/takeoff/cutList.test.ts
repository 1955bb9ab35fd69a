import { describe, expect, it } from 'vitest';
import { demoHouse } from '../../fixtures/demo.ts';
import { planFor } from '../../fixtures/planned.ts';
import { inches } from '../units/index.ts';
import { cutListOf } from './index.ts';

const house = planFor(demoHouse());
const of = (detail: string) => cutListOf(house.pieces.filter((piece) => piece.detail === detail));

describe('the cut list of a detail', () => {
  it('has every piece that is ours to order once, and equal blanks in one row', () => {
    for (const { detail } of house.panels) {
      const rows = of(detail);
      const marks = rows.flatMap((row) => row.marks);
      const ordered = house.pieces.filter((piece) => piece.detail === detail && piece.product !== undefined);
      expect(marks.toSorted()).toEqual(ordered.map(({ mark }) => mark).toSorted());
      expect(new Set(rows.map(({ role, product, width, length }) => `${role} ${product} ${width} ${length}`)).size).toBe(
        rows.length,
      );
    }
  });

  it('of the chimney: ten whole steps and the last of each side cut short; an apron of 42 in and two ears of 5', () => {
    const rows = of('CH1');
    const steps = rows.filter(({ role }) => role === 'step');
    expect(steps.map(({ count, width }) => [count, width])).toEqual(
      [10, 2].map((count) => [count, expect.closeTo(inches(8), 6)]),
    );
    expect(steps[1]!.length).toBeLessThan(steps[0]!.length!);
    const apron = rows.find(({ role }) => role === 'apron')!;
    const flat = house.pieces.find(({ mark }) => mark === apron.marks[0])!.flat!;
    const xs = flat.outline.map(([x]) => x);
    expect(Math.max(apron.width!, apron.length!)).toBeCloseTo(inches(52), 3);
    expect([apron.width, apron.length]).toContainEqual(expect.closeTo(Math.max(...xs) - Math.min(...xs), 6));
    expect(apron.count).toBe(1);
  });

  it('counts a piece made of two halves as two blanks', () => {
    const cricket = of('CH1').find(({ role }) => role === 'cricket')!;
    const piece = house.pieces.find(({ mark }) => mark === cricket.marks[0])!;
    expect(cricket.count).toBe(piece.halves ?? 1);
  });
});
