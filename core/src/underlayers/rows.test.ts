import { describe, expect, it } from 'vitest';
import { demoHouse } from '../../fixtures/demo.ts';
import { slopeWith } from '../../fixtures/roofs.ts';
import { planFor } from '../../fixtures/planned.ts';
import { compareLay, printWords } from '../assembly/index.ts';
import { type Plan } from '../plan/index.ts';
import { bounds } from '../roof/index.ts';
import { inches } from '../units/index.ts';

const unrolled = ({ steps }: Plan, plane: string) =>
  steps.filter((step) => step.plane === plane && printWords(step.action, 'imperial').startsWith('Unroll'));
const at = (up: number) => ({
  across: { from: 'left' as const, distance: inches(60) },
  up: { kind: 'slope' as const, length: inches(up) },
});

describe('underlayment round what stands on a slope', () => {
  const house = planFor(demoHouse());

  it('is laid up to the foot of a thing, then the thing wrapped, then the rows above', () => {
    const lines = house.steps
      .filter(({ plane, stage }) => plane === 'north' && stage === 'dry-in')
      .map(({ action }) => printWords(action, 'imperial'));
    const index = (text: string): number => lines.findIndex((line) => line.includes(text));
    const rows = [index('one layer, row 1 '), index('one layer, row 2 '), index('one layer, row 3 ')];
    expect(rows.every((row) => row >= 0)).toBe(true);
    expect(rows).toEqual([...rows].sort((a, b) => a - b));
    // pipe at 82 in and chimney at 96 in begin on row 1, the flue at 143 in on row 2
    for (const wrapped of ['Soil pipe: stick collar', 'Stove chimney, front: stick', 'Stove chimney: stick top strip']) {
      expect(index(wrapped)).toBeGreaterThan(rows[0]!);
      expect(index(wrapped)).toBeLessThan(rows[1]!);
    }
    expect(index('Stove-room flue: stick collar')).toBeGreaterThan(rows[1]!);
    expect(index('Stove-room flue: stick collar')).toBeLessThan(rows[2]!);
    expect(lines[rows[0]!]).toContain('Slit it at what stands from');
    expect(lines[rows[2]!]).toContain('over the side and top strips');
  });

  it('has every row in one line, its cap nails counted there', () => {
    for (const { id } of house.planes) {
      const lines = unrolled(house, id);
      const rows = house.pieces
        .filter(({ role, covers }) => role === 'underlayment' && covers[0]!.facet === id)
        .map(({ mark }) => mark);
      expect(lines.flatMap(({ pieces }) => pieces).toSorted()).toEqual(rows.toSorted());
      for (const { pieces, fasteners } of lines) {
        const count = house.fasteners.filter(({ piece }) => pieces.includes(piece)).length;
        expect(printWords(fasteners!, 'imperial')).toMatch(new RegExp(`^${count} cap-headed`));
      }
    }
  });

  it('each row laps over the one below, wherever things stand', () => {
    for (const [low, high] of [
      [50, 110],
      [30, 90],
      [75, 130],
    ] as const) {
      const made = planFor(slopeWith(['skylight', 'pipe'], (all) => { Object.assign(all[0]!, at(low)); Object.assign(all[1]!, { ...at(high), across: { from: 'left', distance: inches(120) } }); }, { eave: 160, up: 220 })); // prettier-ignore
      const rows = made.pieces.filter(({ role }) => role === 'underlayment');
      rows.forEach((row, i) => {
        for (const above of rows.slice(i + 1)) {
          expect(compareLay(row.lay, above.lay)).toBeLessThan(0);
          expect(Math.min(...row.covers.map(({ outline }) => bounds(outline).y0))).toBeLessThan(
            Math.min(...above.covers.map(({ outline }) => bounds(outline).y0)),
          );
        }
      });
    }
  });

  it('is one line where nothing stands in its way', () => {
    expect(unrolled(house, 'cross-west')).toHaveLength(1);
    expect(printWords(unrolled(house, 'cross-west')[0]!.action, 'imperial')).toMatch(/one layer, 2 rows from .* to the top/);
  });
});
