import { describe, expect, it } from 'vitest';
import { changed, slopeRecord } from '../../../fixtures/demo.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { printWords } from '../../assembly/index.ts';
import { checkDrainage } from '../../drainage/index.ts';
import { type Plan } from '../../plan/index.ts';
import { bounds } from '../../roof/index.ts';
import { toInches } from '../../units/index.ts';

const sheds = (made: Plan, plane: string): string => checkDrainage(made, { plane, stage: 'finished' }).verdict;
const figure = (made: Plan, family: string, label: string): string =>
  printWords(made.panels.find((sheet) => sheet.family === family)!.figures.find((one) => one.label === label)!.value, 'imperial');

describe('trays through a cavity wall on the slope', () => {
  const tower = planFor(
    changed((job) => {
      const [wall] = slopeRecord(job).walls;
      Object.assign(wall!, { cladding: 'masonry', counter: 'trays', from: 0, to: null });
    }),
  );
  const trays = tower.pieces.filter(({ role }) => role === 'throughWall');

  it('are one a step: 184 in level at 5 1/3 in are 35, with 7 weeps, of a sheet wide enough for veneer, cavity and rise', () => {
    expect(trays).toHaveLength(35);
    expect(figure(tower, 'through-wall', 'Trays, one a step')).toBe('35, 5 5/16" level apart');
    expect(figure(tower, 'through-wall', 'Width needed')).toContain('12 5/8"');
    expect(figure(tower, 'through-wall', 'Sheet')).toContain('16 in');
    expect(figure(tower, 'through-wall', 'Weeps')).toBe('7');
    expect(tower.order.find(({ product }) => product.includes('weep'))!.needed).toBe(7);
  });

  it('have their wall opened and its backup coated before the covering below is laid, and sheeted for the night', () => {
    const lines = tower.runSheet.flatMap(({ lines: own }) => own).map(({ action }) => printWords(action, 'imperial'));
    const at = (text: string): number => lines.findIndex((line) => line.includes(text));
    const order = ['Walk the whole roof', 'take the veneer off above each joint', 'fill holes and board joints', 'sheet the open wall at SW1 on North plane', 'Lay the starter', 'lay 35 trays'].map(at); // prettier-ignore
    expect(order.every((index) => index >= 0)).toBe(true);
    expect(order).toEqual([...order].sort((a, b) => a - b));
  });

  it('each lie over the one below, stopped uphill, the lowest at both ends', () => {
    trays.forEach(({ mark, covers, flat }, i) => {
      const { x0, x1 } = bounds(covers[0]!.outline);
      const below = i > 0 ? bounds(trays[i - 1]!.covers[0]!.outline) : undefined;
      if (below) expect(toInches(below.x1 - x0), mark).toBeCloseTo(3, 6);
      expect(covers[0]!.holds[1]).toBe('bonded');
      expect(covers[0]!.holds[3]).toBe(i === 0 ? 'bonded' : 'open');
      // turned up 2 in at each stopped end
      expect(toInches(bounds(flat!.outline).x1 - (x1 - x0)), mark).toBeCloseTo(i === 0 ? 4 : 2, 6);
    });
    expect(sheds(tower, 'north')).toBe('clean');
  });
});
