import { describe, expect, it } from 'vitest';
import { demoHouse } from '../../fixtures/demo.ts';
import { VALLEYS, valleyOf } from '../../fixtures/roofs.ts';
import { planFor } from '../../fixtures/planned.ts';
import { printWords } from '../assembly/index.ts';
import { inches, toInches } from '../units/index.ts';
import { type Plan } from './index.ts';

const feet = (value: number): number => inches(12 * value);
const figure = (made: Plan, detail: string, label: string): string =>
  printWords(
    made.panels
      .find((sheet) => sheet.detail === detail && sheet.figures.some((one) => one.label === label))!
      .figures.find((one) => one.label === label)!.value,
    'imperial',
  );

describe('the measure sheet of the Ringing House', () => {
  const house = planFor(demoHouse());
  const steps = (wall: string): number =>
    house.pieces.filter(({ role, mark }) => role === 'step' && mark.startsWith(`${wall}-`)).length;

  it('agrees with what was expected by hand', () => {
    const courses = Object.fromEntries(house.planes.map(({ id, lines }) => [id, lines.count]));
    expect(courses).toMatchObject({ north: 37, south: 37, porch: 18 });
    expect([steps('SW1'), steps('CH1L'), steps('CH1R'), steps('SK1L'), steps('SK2R')]).toEqual([37, 6, 6, 9, 9]);
    expect(figure(house, 'CH1', 'Cricket height')).toContain('10 1/2"');
    expect(figure(house, 'CH1', 'Cricket ridge, level')).toBe('21"');
    expect(figure(house, 'CH1', 'Cricket valleys')).toBe('31 1/2"');
    expect(figure(house, 'CH1', 'Last course under the apron')).toBe('17, 6 1/2" tall');
    expect(figure(house, 'CH1', 'Counterflashing behind the cricket')).toBe('4 a half and a ridge piece');
    expect(house.pieces.filter(({ mark }) => mark.startsWith('CH1L-R'))).toHaveLength(5);
    expect(house.pieces.filter(({ mark }) => /^CH1B-[LRT]/.test(mark))).toHaveLength(9);
    expect(figure(house, 'HW1', 'Courses to the wall as laid')).toBe('19, the last 7/16" tall');
    expect(figure(house, 'HW1', 'Fitted')).toBe('exposure 5 1/2": 18 courses, the last 8 3/16" tall');
    expect(figure(house, 'HW1', 'Lengths')).toContain('3 of 5\'-0"');
    expect(figure(house, 'HW1', 'Weeps')).toBe('6');
    expect(
      house.valleys.map(({ through, areaA, areaB }) => [
        through,
        (areaA / feet(1) ** 2).toFixed(1),
        (areaB / feet(1) ** 2).toFixed(1),
      ]),
    ).toEqual([
      ['cross-west', '109.6', '64.2'],
      ['cross-east', '109.6', '64.2'],
    ]);
    expect(house.findings.map(({ severity }) => severity)).toEqual(house.findings.map(() => 'worth a look'));
  });

  it('lines both valleys with 2 pieces of 10 ft stock, open 8 1/8 in at the eave', () => {
    const job = demoHouse();
    for (const key of VALLEYS) job.valleys[key] = valleyOf('open');
    const made = planFor(job);
    for (const { id, line, openLow } of made.valleys) {
      expect(made.pieces.filter(({ role, detail }) => role === 'valleyLining' && detail === id)).toHaveLength(2);
      expect(toInches(line.trueLength)).toBeCloseTo(204, 0);
      expect(toInches(2 * openLow)).toBeCloseTo(8.125, 3);
    }
  });

  it('tells the whole roof in one sheet: dry-in, then slope by slope, through sides before cut ones, then the finish', () => {
    const order = house.runSheet.map(({ id }) => id);
    expect([order[0], order.at(-1)]).toEqual(['Make safe', 'Hand-over']);
    expect(order.indexOf('cross-west.course-1')).toBeLessThan(order.indexOf('south.course-1'));
    const lines = house.runSheet.flatMap(({ lines: own }) => own);
    expect(lines.map(({ whole }) => whole)).toEqual(lines.map((_, i) => i + 1));
    expect(new Set(lines.map(({ id }) => id)).size).toBe(lines.length);
    const laid = lines.flatMap(({ pieces }) => pieces);
    for (const { mark, product } of house.pieces) if (product) expect(laid, mark).toContain(mark);
  });
});
