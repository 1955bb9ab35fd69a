import fc from 'fast-check';
import { expect, it } from 'vitest';
import { cases } from '../../../core/fixtures/seeds.ts';
import { clear } from './flatNotes.ts';

it('notes on a flat pattern never lie on one another, none goes up or aside, and one alone stays', () => {
  const note = fc.record({ x: fc.integer({ min: 0, max: 120 }), y: fc.integer({ min: 0, max: 60 }) });
  fc.assert(
    fc.property(fc.array(note, { minLength: 1, maxLength: 6 }), (notes) => {
      const placed = clear(notes);
      expect(placed[0]).toEqual(notes[0]);
      placed.forEach(({ x, y }, i) => {
        expect([x, y >= notes[i]!.y]).toEqual([notes[i]!.x, true]);
        for (const other of placed.slice(0, i)) expect(Math.abs(other.x - x) >= 52 || Math.abs(other.y - y) >= 12).toBe(true);
      });
    }),
    cases(100),
  );
});
