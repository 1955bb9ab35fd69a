import { readFileSync, readdirSync } from 'node:fs';
import { type Plan, ROLES, catalogSchema, jobSchema, packSchema, planJob, slopeToWall } from '#core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { UNFOLDED, developPlane, middleOnChart, placeOnChart, toChart } from './develop.ts';
import { lastLineOfCourse, markerAt, markerHeight, notchGroups, notches } from './pole.ts';
import { POLE, fitAll, fitHeight, fromX, fromY, pan, toX, toY, zoomAt } from './viewport.ts';

const demo = new URL('../../../demo/', import.meta.url);
const json = (path: string): unknown => JSON.parse(readFileSync(new URL(path, demo), 'utf8'));
const job = jobSchema.parse(json('jobs/ringing-house-north.ruvet.json'));
const library = {
  packs: readdirSync(new URL('packs/', demo)).map((file) => packSchema.parse(json(`packs/${file}`))),
  catalog: catalogSchema.parse(json('catalog.json')),
};
const plan: Plan = planJob(job, library);
const plane = plan.planes[0]!;
const lines = plane.runSheet.flatMap((group) => group.lines);
const size = { width: 640, height: 700 };
const view = fitHeight(size, plane.lines.end, -400);

describe('the view', () => {
  it('fits the slope between the strips kept for dry-in and finish', () => {
    expect(toY(view, plane.lines.end)).toBeGreaterThan(50);
    expect(toY(view, 0)).toBeLessThan(size.height - 50);
    const all = fitAll(size, plane.lines.end, -400, 14_000);
    expect(toX(all, 14_000)).toBeLessThanOrEqual(size.width - 20);
    expect(toX(all, -400)).toBeGreaterThanOrEqual(POLE + 20);
  });

  it('zooms about a point without moving it, and pans by pixels', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.2, max: 5, noNaN: true }),
        fc.integer({ min: 170, max: 600 }),
        fc.integer({ min: 0, max: 700 }),
        (factor, px, py) => {
          const [x, y] = [fromX(view, px), fromY(view, py)];
          const nearer = zoomAt(view, factor, px, py);
          expect(toX(nearer, x)).toBeCloseTo(px, 6);
          expect(toY(nearer, y)).toBeCloseTo(py, 6);
          expect(toX(pan(view, 7, -3), x)).toBeCloseTo(px + 7, 6);
          expect(toY(pan(view, 7, -3), y)).toBeCloseTo(py - 3, 6);
        },
      ),
    );
  });
});

describe('the marker on the pole', () => {
  it('dragged to where a course is complete, comes back to that course', () => {
    for (let course = 1; course <= plane.lines.count; course++) {
      const marker = lastLineOfCourse(lines, course);
      expect(lines[marker - 1]!.course).toBe(course);
      expect(markerAt(view, size.height, plane, lines, markerHeight(view, size.height, plane, lines, marker))).toBe(marker);
    }
  });

  it('only rises as more lines are laid', () => {
    let before = Number.POSITIVE_INFINITY;
    for (let marker = 0; marker <= lines.length; marker++) {
      const y = markerHeight(view, size.height, plane, lines, marker);
      expect(y).toBeLessThanOrEqual(before + 1e-9);
      before = y;
    }
  });

  it('reaches every dry-in and finish line, nothing at the foot and everything at the head', () => {
    for (const { line, y } of notches(view, size.height, plane, lines))
      expect(markerAt(view, size.height, plane, lines, y)).toBe(line.line);
    expect(markerAt(view, size.height, plane, lines, size.height + 200)).toBe(0);
    expect(markerAt(view, size.height, plane, lines, -500)).toBe(lines.length);
  });
});

describe('the names beside the pole', () => {
  const named = notchGroups(notches(view, size.height, plane, lines), plan.pieces);

  it('say what the lines bring and how much of it, alike ones together, in words that are never cut', () => {
    const names = named.map(({ rows }) => rows.join(' '));
    expect(names.slice(0, 3)).toEqual(['gutter apron, 5', 'ice barrier, 7', 'underlayment, 3']);
    expect(names.join(' ')).not.toMatch(/…|[A-Z]+\d-/);
    for (const role of ['iceBarrier', 'underlayment', 'gutterApron'] as const) {
      const count = plan.pieces.filter((piece) => piece.role === role).length;
      expect(names).toContain(`${ROLES[role].name}, ${count}`);
    }
  });

  it('stand in two rows where one would run out of the drawing, with room for both', () => {
    const [line] = lines.filter(({ stage, pieces }) => stage === 'dry-in' && pieces.length > 0);
    const marks = (['throughWall', 'underlayment', 'throughWall'] as const).map((mark, i) => ({
      line: { ...line!, pieces: [mark], line: i },
      y: 100 + 13 * i,
      height: 13,
    }));
    const pieces = [
      { ...plan.pieces[0]!, mark: 'throughWall', role: 'throughWall' as const },
      { ...plan.pieces[0]!, mark: 'underlayment', role: 'underlayment' as const },
    ];
    expect(notchGroups(marks, pieces).map(({ rows, y }) => [rows, y])).toEqual([
      [['through-wall', 'flashing'], 100],
      [['through-wall', 'flashing'], 126],
    ]);
  });

  it('stand far enough apart to be read, however many lines there are and however tall the window', () => {
    for (const height of [300, 500, 700, 1400]) {
      const all = fitAll({ width: 640, height }, plane.lines.end, -400, 14_000);
      const ys = notchGroups(notches(all, height, plane, lines), plan.pieces).map(({ y }) => y);
      for (const y of ys) expect(ys.filter((other) => Math.abs(other - y) < 12)).toEqual([y]);
      expect(ys.length).toBeGreaterThan(3);
    }
  });
});

it('turns a wall down flat beside the slope, at its true size', () => {
  const chart = developPlane(plan, plan.roof[0]!);
  expect(toChart(chart, 'north', [100, 200])).toEqual([100, 200]);
  const [x, y] = toChart(chart, 'north/SW1', slopeToWall(1000, 100, 0.5));
  expect([x, y].map((value) => Math.round(value))).toEqual([-100, 1000]);
  expect(toChart(chart, 'north/SW1', slopeToWall(0, 5000, 0.5))[0]).toBe(-UNFOLDED);
});

describe('a place of the water on the chart', () => {
  const house = planJob(jobSchema.parse(json('jobs/ringing-house.ruvet.json')), library);
  const north = house.roof.find(({ id }) => id === 'north')!;
  const chart = developPlane(house, north);
  const chimney = house.joints.filter(({ a, b }) => a === 'north' && b.startsWith('north/CH1'));
  const on = (b: string) => chimney.find((joint) => joint.b === b)!;

  it('on a face of a chimney shows at the foot of that face', () => {
    const [x] = on('north/CH1L').onA[0];
    const place = { facet: 'north/CH1L', x: 2700, y: 80, onWall: true, up: 2700 };
    expect(placeOnChart(chart, house, place)).toEqual([x, 2700]);
    const front = on('north/CH1F').onA[0];
    expect(placeOnChart(chart, house, { facet: 'north/CH1F', x: front[0] + 100, y: 80, onWall: true, up: front[1] })).toEqual([
      front[0] + 100,
      front[1],
    ]);
  });

  it('on another slope shows nowhere', () => {
    expect(placeOnChart(chart, house, { facet: 'south', x: 0, y: 0, onWall: false, up: 0 })).toBeUndefined();
    expect(
      middleOnChart(
        chart,
        house,
        house.pieces.find(({ mark }) => mark === 'S-C10')!,
      ),
    ).toBeUndefined();
  });

  it('is the middle of the foot for a piece that goes up a face only', () => {
    const counter = house.pieces.find(({ mark }) => mark === 'CH1L-R03')!;
    const [x, y] = middleOnChart(chart, house, counter)!;
    const [low, high] = on('north/CH1L').onA;
    expect(x).toBe(low[0]);
    expect(y).toBeGreaterThan(low[1]);
    expect(y).toBeLessThan(high[1]);
  });
});
