import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cases } from '../../../fixtures/seeds.ts';
import { outshot } from '../../../fixtures/tiles.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { printWords } from '../../assembly/index.ts';
import { checkDrainage, measureReserve } from '../../drainage/index.ts';
import { type Plan, waterRequests } from '../../plan/index.ts';
import { isWithin } from '../../roof/index.ts';

const plan = (...args: Parameters<typeof outshot>): Plan => planFor(outshot(...args));
const problems = (planned: Plan): string[] =>
  waterRequests(planned).flatMap((request) =>
    checkDrainage(planned, request).problems.map(({ cause, piece }) => `${request.stage}: ${cause} at ${piece}`),
  );

describe('the outshot’s valleys', () => {
  const planned = plan();

  it('its slopes are 2309.4 with 7 courses of 321.6, the main roof’s 14 of 328.5', () => {
    const [south, , west] = planned.planes;
    expect([south!.lines.count, west!.lines.count]).toEqual([14, 7]);
    expect(west!.lines.end).toBeCloseTo(2309.4, 1);
    // 2309.4 less 35 and the first batten at 345, in 6
    expect(west!.lines.gauge).toBeCloseTo((2309.4 - 35 - 345) / 6, 2);
  });

  it('are 3055 long, 2.646 a side over the rise, their slope term 0.378, open, a rib along the middle', () => {
    for (const { line, section, style, ribbed } of planned.valleys) {
      expect(line.trueLength).toBeCloseTo(3055, 0);
      expect([section.zA, section.zB, section.sine]).toEqual([2.646, 2.646, 0.378].map((x) => expect.closeTo(x, 3)));
      expect([style, ribbed]).toEqual(['open', true]);
    }
  });

  it('their linings are 280 and more each side, two pieces of 3 m lapped 150, on valley boards', () => {
    for (const { id } of planned.valleys) {
      const linings = planned.pieces.filter(({ role, detail }) => role === 'valleyLining' && detail === id);
      expect(linings).toHaveLength(2);
      for (const { product } of linings) expect(product).toBe('pellwick-valley-lead-rib');
      const said = planned.steps.filter(({ detail }) => detail === id).map(({ action }) => printWords(action, 'metric'));
      expect(said.join(' ')).toContain('620 mm wide, its rib along the centre, 2 pieces from the eave up, laps 150 mm');
      expect(said.join(' ')).toContain('on the valley boards');
    }
  });

  it('no tile beside them is cut to under half a one, and it sheds with 25 of head and 50 of creep in hand', () => {
    expect(planned.pieces.flatMap(({ role, units }) => (role === 'course' ? units!.parts : [])).filter((width) => width < 148)).toEqual([]); // prettier-ignore
    expect(problems(planned)).toEqual([]);
    for (const { id } of planned.planes) {
      const { reach, creep } = measureReserve(planned, { plane: id, stage: 'finished' });
      expect(reach!.head).toBeGreaterThanOrEqual(25);
      expect(creep?.distance ?? 50).toBeGreaterThanOrEqual(50);
    }
  });

  it('nothing is driven through their linings: tiles on them are clipped', () => {
    const linings = planned.pieces.filter(({ role }) => role === 'valleyLining').flatMap(({ covers }) => covers);
    const courses = new Set(planned.pieces.filter(({ role }) => role === 'course').map(({ mark }) => mark));
    const nails = planned.fasteners.filter(({ piece }) => courses.has(piece));
    expect(nails.length).toBeGreaterThan(100);
    expect(nails.filter(({ facet, at }) => linings.some((one) => one.facet === facet && isWithin(one.outline, at)))).toEqual([]);
    expect(planned.order.find(({ name }) => /Tile clip/.test(name))!.needed).toBeGreaterThan(10);
  });

  it('a plain lining may be chosen; one piece left out lets the water in', () => {
    const plain = plan('brindlecombe-roll', (job) => {
      job.valleys = Object.fromEntries(
        planned.valleys.map(({ key }) => [key, { style: 'open', through: null, trim: 'back from the centre', lining: 'plain' }]),
      );
    });
    expect(plain.valleys.every(({ ribbed }) => !ribbed)).toBe(true);
    const without = { ...planned, pieces: planned.pieces.filter(({ mark }) => mark !== `${planned.valleys[0]!.id}-L1`) };
    expect(problems(without).length).toBeGreaterThan(0);
  });
});

it('whatever the gable that crosses and the tile, its valleys shed', () => {
  fc.assert(
    fc.property(
      fc.constantFrom('brindlecombe-roll', 'brindlecombe-plain-face', 'hollin-two-roll'),
      fc.integer({ min: 1200, max: 2400 }),
      fc.integer({ min: 25, max: 45 }),
      fc.integer({ min: 25, max: 45 }),
      (tile, halfWidth, main, cross) => {
        const planned = plan(tile, ({ parts }) => {
          Object.assign(parts[0]!, { pitch: { degrees: main } });
          Object.assign(parts[1]!, { pitch: { degrees: cross }, halfWidth });
        });
        expect(problems(planned)).toEqual([]);
      },
    ),
    cases(8),
  );
});
