import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoHouse } from '../../fixtures/demo.ts';
import { anyJob } from '../../fixtures/jobs.ts';
import { cases } from '../../fixtures/seeds.ts';
import { planFor } from '../../fixtures/planned.ts';
import { CREWS } from '../assembly/index.ts';
import { barredLines, crewOf, filterRunSheet } from './index.ts';

it('lays every piece in one line, each course once, in order from the eave up', () => {
  fc.assert(
    fc.property(anyJob, (job) => {
      const plan = planFor(job);
      const groups = plan.planes[0]!.runSheet;
      const lines = groups.flatMap((group) => group.lines);
      expect(lines.map(({ line }) => line)).toEqual(lines.map((_, i) => i + 1));
      const laid = lines.flatMap(({ pieces }) => pieces);
      expect(new Set(laid).size).toBe(laid.length);
      // what was there before the job (masonry above a reglet) is drawn, not laid
      const before = new Set(
        plan.pieces.filter(({ role, product }) => role === 'cladding' && product === undefined).map(({ mark }) => mark),
      );
      expect(plan.pieces.map(({ mark }) => mark).filter((mark) => !laid.includes(mark) && !before.has(mark))).toEqual([]);
      const courses = groups.flatMap(({ course }) => (course === undefined ? [] : [course]));
      expect(courses).toEqual([...new Set(courses)].sort((a, b) => a - b));
    }),
    cases(30),
  );
});

describe('hold points that bar what follows', () => {
  const house = planFor(demoHouse());
  const all = house.runSheet.flatMap(({ lines }) => lines);
  const stops = all.filter(({ holdPoint }) => holdPoint !== undefined);

  it('bar the lines after them, on their slope or of the whole roof, until they are ticked off', () => {
    const none = barredLines(house.runSheet, new Set());
    // nothing before the first stop; the deck of another slope may be looked over meanwhile
    const first = stops[0]!;
    expect(all.filter(({ whole }) => whole <= first.whole).some(({ id }) => none.has(id))).toBe(false);
    const next = all.find(({ plane, whole }) => plane === first.plane && whole > first.whole)!;
    expect(none.get(next.id)).toBe(first.whole);
    const other = all.find(({ plane, whole }) => plane !== undefined && plane !== first.plane && whole > first.whole)!;
    expect(none.has(other.id)).toBe(false);
    const ticked = barredLines(house.runSheet, new Set([first.id]));
    expect(ticked.get(next.id)).toBeUndefined();
  });

  it('bar the covering of every slope until the roof is dried in, and nothing once all are ticked off', () => {
    const dry = stops.find(({ holdPoint }) => holdPoint!.includes('dried in'))!;
    const done = new Set(stops.filter(({ id }) => id !== dry.id).map(({ id }) => id));
    const barred = barredLines(house.runSheet, done);
    for (const { course, id } of all) if (course !== undefined) expect(barred.get(id)).toBe(dry.whole);
    expect(barredLines(house.runSheet, new Set(stops.map(({ id }) => id))).size).toBe(0);
  });
});

describe('the run sheet by crew', () => {
  const house = planFor(demoHouse());
  const lines = (crew?: (typeof CREWS)[number]) =>
    filterRunSheet(house.runSheet, crew ? { crew } : {}).flatMap((group) => group.lines);

  it('gives every line to one crew: masons what is let into masonry, carpenters the openings, cladders the walls', () => {
    expect(CREWS.flatMap((crew) => lines(crew)).length).toBe(lines().length);
    expect([...new Set(lines('masons').map(({ detail }) => detail))].sort()).toEqual(['CH1', 'HW1']);
    expect([...new Set(lines('carpenters').map(({ detail }) => detail))]).toEqual(['SK1', 'SK2', 'CH1']);
    expect(
      lines('cladders')
        .map(({ detail }) => detail)
        .sort(),
    ).toEqual(['SW1', 'SW2']);
    expect(lines('roofers').every((line) => crewOf(line) === 'roofers' && !line.action.join('').includes('veneer'))).toBe(true);
  });

  it('keeps the numbers of the whole sheet, by detail too', () => {
    const chimney = filterRunSheet(house.runSheet, { detail: 'CH1', crew: 'masons' }).flatMap((group) => group.lines);
    // on four faces: what is cut, what is hung, what holds it
    expect(chimney.length).toBe(12);
    for (const { line } of chimney) expect(lines().some((one) => one.line === line)).toBe(true);
  });
});
