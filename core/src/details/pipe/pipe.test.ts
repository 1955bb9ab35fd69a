import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoLibrary } from '../../../fixtures/demo.ts';
import { crossed, feature, slopeWith } from '../../../fixtures/roofs.ts';
import { cases } from '../../../fixtures/seeds.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { type Piece, printWords } from '../../assembly/index.ts';
import { type FeatureOf, newFeature } from '../../document/index.ts';
import { type Plan } from '../../plan/index.ts';
import { bounds } from '../../roof/index.ts';
import { buttLine } from '../../surface/index.ts';
import { evenLines } from '../../surface/lines.ts';
import { inches, toInches } from '../../units/index.ts';
import { firstCourseOver } from './index.ts';

const pipe = (change: Partial<FeatureOf<'pipe'>>): Plan =>
  planFor(slopeWith(['pipe'], (features) => void Object.assign(feature(features, 'pipe'), change)));
const grid = (change: Partial<FeatureOf<'standoffs'>>): Plan =>
  planFor(
    slopeWith(['standoffs'], (features) => void Object.assign(feature(features, 'standoffs'), change), { eave: 240, up: 200 }),
  );
const at = (across: number, up: number) => ({
  across: { from: 'left' as const, distance: inches(across) },
  up: { kind: 'slope' as const, length: inches(up) },
});
const boxOf = ({ covers }: Piece) => bounds(covers[0]!.outline);
const boots = ({ pieces }: Plan): Piece[] => pieces.filter(({ role }) => role === 'boot');

describe('a grid of legs', () => {
  const plan = grid({ rows: 3, columns: 4, spacingAcross: inches(24), spacingUp: inches(30), ...at(32, 48) });

  it('has a base, two collars and a line each for 3 rows of 4 legs, by row and leg', () => {
    expect(
      boots(plan)
        .map(({ mark }) => mark)
        .toSorted(),
    ).toEqual([1, 2, 3].flatMap((row) => [1, 2, 3, 4].map((leg) => `ST1-${row}.${leg}-B`)));
    expect(plan.pieces.filter(({ role }) => role === 'collar')).toHaveLength(24);
    for (const { mark } of boots(plan)) expect(plan.steps.filter(({ pieces }) => pieces.includes(mark))).toHaveLength(1);
    expect(plan.order.find(({ product }) => product === boots(plan)[0]!.product)!.needed).toBe(12);
  });

  it('stands 24 in by 30 in, its first leg 32 in from the left and 48 in up', () => {
    const middle = (mark: string): number[] => {
      const { x0, x1 } = boxOf(plan.pieces.find((piece) => piece.mark === `${mark}-B`)!);
      return [toInches((x0 + x1) / 2)];
    };
    expect(middle('ST1-1.1')).toEqual([expect.closeTo(32, 6)]);
    expect(middle('ST1-3.4')).toEqual([expect.closeTo(32 + 3 * 24, 6)]);
    const hole = (row: number) => bounds(plan.facets.find(({ id }) => id === 'north')!.pierced![(row - 1) * 4]!);
    for (const row of [1, 2, 3]) expect(toInches((hole(row).y0 + hole(row).y1) / 2)).toBeCloseTo(48 + (row - 1) * 30, 6);
  });

  it('is told leg by leg, with the first course over each and where rafters are not measured, that', () => {
    const sheet = plan.panels.find(({ detail }) => detail === 'ST1')!;
    const rows = sheet.tables![0]!.rows.map((row) => row.map((words) => printWords(words, 'imperial')));
    expect(rows).toHaveLength(12);
    for (const [mark, , , course, rafter] of rows) {
      expect(Number(course)).toBe(plan.pieces.find((piece) => piece.mark === `${mark}-B`)!.course);
      expect(rafter).toBe('rafters not measured');
    }
  });

  it('tells how far each leg stands off its rafter, where rafters are measured', () => {
    const made = planFor(
      slopeWith(
        ['standoffs'],
        (features, job) => {
          Object.assign(feature(features, 'standoffs'), { rows: 1, columns: 3, spacingAcross: inches(20), ...at(32, 48) });
          job.parts[0]!.planes[0]!.rafters = { spacing: inches(16), first: inches(0) };
        },
        { eave: 240, up: 200 },
      ),
    );
    // 32, 52 and 72 in: rafters at 32, 48 and 80 (or 64)
    const rows = made.panels
      .find(({ detail }) => detail === 'ST1')!
      .tables![0]!.rows.map((row) => printWords(row[4]!, 'imperial'));
    expect(rows).toEqual(['on a rafter', '4" off the rafter', '8" off the rafter']);
  });

  it('legs that stand too near each other are said, whatever the grid', () => {
    fc.assert(
      fc.property(fc.integer({ min: 10, max: 40 }), (apart) => {
        const made = grid({ rows: 1, columns: 2, spacingAcross: inches(apart), ...at(60, 60) });
        const [left, right] = boots(made)
          .map(boxOf)
          .toSorted((a, b) => a.x0 - b.x0);
        const overlap = left!.x1 > right!.x0 + inches(1 / 4);
        expect(made.findings.some(({ severity }) => severity === 'breaks a rule' || severity === 'leaks') || !overlap).toBe(true);
      }),
      cases(12),
    );
  });
});

describe('the base of a pipe', () => {
  it('has the first course over it start at or above the flange’s cut-out, its flange under at least the rule’s cover', () => {
    fc.assert(
      fc.property(fc.double({ min: 40, max: 120, noNaN: true }), fc.constantFrom(2.375, 3.5, 4.5), (up, wide) => {
        const plan = pipe({ diameter: inches(wide), ...at(80, up) });
        const base = boots(plan)[0]!;
        const { lines } = plan.planes[0]!;
        const { y1 } = boxOf(base);
        // what of the flange lies above that course's butt is hidden by it
        expect(toInches(y1 - buttLine(lines, base.course!))).toBeGreaterThan(3.9);
        const order = (mark: string): number => plan.pieces.findIndex((piece) => piece.mark === mark);
        const mark = (n: number): string => `C${String(n).padStart(2, '0')}`;
        expect(order(base.mark)).toBeLessThan(order(mark(base.course!)));
        expect(order(base.mark)).toBeGreaterThan(order(mark(base.course! - 1)));
      }),
      cases(30),
    );
  });

  it('no nail of the covering stands in its flange, nor within the rule’s distance of it', () => {
    const plan = pipe(at(80, 60));
    const { x0, x1, y0, y1 } = boxOf(boots(plan)[0]!);
    const near = plan.fasteners.filter(
      ({ piece, at: [x, y] }) => piece.startsWith('C') && x > x0 - inches(1.9) && x < x1 + inches(1.9) && y > y0 && y < y1,
    );
    expect(near).toEqual([]);
  });

  it('is nailed every few inches along its upper edge, under the course that covers it, and screwed inboard of its lower rim', () => {
    const plan = pipe(at(80, 60));
    const base = boots(plan)[0]!;
    const { x0, x1, y0, y1 } = boxOf(base);
    const held = plan.fasteners.filter(({ piece }) => piece === base.mark);
    const nails = held.filter(({ keptDry }) => keptDry === 'covered').toSorted((a, b) => a.at[0] - b.at[0]);
    const screws = held.filter(({ keptDry }) => keptDry === 'cap');
    expect(screws).toHaveLength(2);
    for (const {
      at: [, y],
    } of nails) {
      expect(toInches(y1 - y)).toBeCloseTo(0.5, 6);
      expect(y).toBeGreaterThan(buttLine(plan.planes[0]!.lines, base.course!));
    }
    expect(toInches(nails[0]!.at[0] - x0)).toBeCloseTo(0.5, 6);
    expect(toInches(x1 - nails.at(-1)!.at[0])).toBeCloseTo(0.5, 6);
    for (let i = 1; i < nails.length; i++) expect(toInches(nails[i]!.at[0] - nails[i - 1]!.at[0])).toBeLessThanOrEqual(4.01);
    // water drawn under the rim would meet a screw that stands at it
    for (const {
      at: [x, y],
    } of screws) {
      expect(Math.min(x - x0, x1 - x, y - y0)).toBeGreaterThanOrEqual(inches(1.24));
      expect(y).toBeLessThan((y0 + y1) / 2);
    }
  });

  it('a chosen one too small, or of plastic round a hot flue, breaks a rule by name', () => {
    const small = demoLibrary.catalog.items.find(
      (item) => item.kind === 'boot' && !item.hot && !item.standoff && item.most < inches(4),
    )!;
    const plan = pipe({ diameter: inches(4.5), boot: small.id, ...at(80, 60) });
    const found = plan.findings.find(({ id }) => id === 'P1.size');
    expect(found?.severity).toBe('breaks a rule');
    expect(printWords(found!.sentence, 'imperial')).toMatch(/4 1\/2"/);
  });

  it('near a valley is told, its distance from the line with it; clear of it nothing is said', () => {
    const beside = (across: number) =>
      planFor(
        crossed((job) => {
          const plane = { id: 'south', eaveLength: inches(300), slope: { length: inches(134) } };
          const one = newFeature('pipe', job, plane) as FeatureOf<'pipe'>;
          job.features.push({ ...one, plane: 'south', ...at(across, 60) });
        }),
      ).findings.filter(({ id }) => id.startsWith('P1.') && id.includes('V1'));
    // the valley runs from 78 in at the eave to the middle; at 60 in up it stands near 132 in
    expect(beside(112).length).toBeGreaterThan(0);
    expect(printWords(beside(112)[0]!.sentence, 'imperial')).toMatch(/\d+"/);
    expect(beside(40)).toEqual([]);
  });
});

describe('pipes', () => {
  const lines = evenLines(-inches(0.5), inches(5.625), inches(13.25), inches(200));

  it('a flange from 79 in has course 16 first over it; from 82 1/2 in 16 goes under and 17 is first', () => {
    expect(firstCourseOver(lines, inches(79), inches(2))).toBe(16);
    expect(firstCourseOver(lines, inches(82.5), inches(2))).toBe(17);
  });

  it('none that fits, too near a wall, and a base chosen too small are said', () => {
    const told = (change: Parameters<typeof slopeWith>[1]): string[] =>
      planFor(slopeWith(['pipe'], change)).findings.map(({ id }) => id);
    expect(told((all) => Object.assign(feature(all, 'pipe'), { diameter: inches(12) }))).toContain('P1.boot');
    expect(told((all) => Object.assign(feature(all, 'pipe'), { boot: 'oxbourne-boot-2' }))).toContain('P1.size');
    expect(told((all) => Object.assign(feature(all, 'pipe'), { across: { from: 'left', distance: inches(3) } }))).toContain(
      'P1.edge',
    );
  });
});
