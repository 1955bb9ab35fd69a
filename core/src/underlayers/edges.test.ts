import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { changed, demoHouse, demoJob, demoLibrary, stripOf } from '../../fixtures/demo.ts';
import { anyJob } from '../../fixtures/jobs.ts';
import { cases } from '../../fixtures/seeds.ts';
import { planFor } from '../../fixtures/planned.ts';
import type { Piece } from '../assembly/index.ts';
import { type Plan } from '../plan/index.ts';
import { bounds } from '../roof/index.ts';
import { inches, toInches } from '../units/index.ts';

const plan = planFor(demoJob());
const house = planFor(demoHouse());
const boxOf = ({ covers }: Piece) => bounds(covers.flatMap(({ outline }) => outline));
/** Pieces whose mark is this and a number, in order. */
const rowOf = ({ pieces }: Plan, mark: string): Piece[] =>
  pieces.filter((piece) => new RegExp(`^${mark}-\\d+$`).test(piece.mark)).sort((a, b) => boxOf(a).x0 - boxOf(b).x0);
/** How far each piece of a row laps the one before it, inches. */
const lapsOf = (row: readonly Piece[]): number[] => row.slice(1).map((piece, i) => toInches(boxOf(row[i]!).x1 - boxOf(piece).x0));

describe('edge metal', () => {
  it('is cut from ten-foot lengths lapped two inches: five along 44 ft of eave, two up the rake', () => {
    const eave = rowOf(plan, 'GA');
    expect(eave).toHaveLength(5);
    expect(lapsOf(eave)).toEqual([2, 2, 2, 2].map((lap) => expect.closeTo(lap, 6)));
    // 44 ft and four laps of 2 in: 536 in, four lengths of 120 and a rest of 56
    expect(eave.map(({ cutLength }) => toInches(cutLength!))).toEqual(
      [120, 120, 120, 120, 56].map((long) => expect.closeTo(long, 6)),
    );
    const rake = plan.pieces.filter(({ mark }) => /^RMR-\d$/.test(mark)).map(boxOf);
    expect(toInches(rake[0]!.y1 - rake[1]!.y0)).toBeCloseTo(2, 6);
  });

  it('has a nail within a foot of the next, whatever the slope, the first and last by the ends', () => {
    fc.assert(
      fc.property(anyJob, (job) => {
        const made = planFor(job);
        for (const role of ['gutterApron', 'dripEdge', 'rakeMetal']) {
          for (const piece of made.pieces.filter((one) => one.role === role)) {
            const along = role === 'rakeMetal' ? 1 : 0;
            const box = boxOf(piece);
            const [from, to] = along ? [box.y0, box.y1] : [box.x0, box.x1];
            const places = made.fasteners
              .filter((one) => one.piece === piece.mark)
              .map(({ at }) => at[along]!)
              .sort((a, b) => a - b);
            expect(places.length, piece.mark).toBeGreaterThan(0);
            const steps = [from, ...places, to].slice(1).map((place, i) => place - [from, ...places][i]!);
            expect(Math.max(...steps), piece.mark).toBeLessThanOrEqual(inches(12) + 0.01);
            // and no more of them than that takes, with one to spare
            expect(places.length, piece.mark).toBeLessThanOrEqual(Math.ceil((to - from) / inches(12)) + 2);
          }
        }
      }),
      cases(15),
    );
  });
});

describe('the ice barrier', () => {
  it('has end laps of 6 in, and those of one row half a strip from those of the next', () => {
    const rows = [rowOf(plan, 'IB1'), rowOf(plan, 'IB2')];
    for (const row of rows) for (const lap of lapsOf(row)) expect(lap).toBeCloseTo(6, 6);
    const ends = rows.map((row) => row.slice(0, -1).map((piece) => toInches(boxOf(piece).x1)));
    for (const one of ends[0]!) for (const other of ends[1]!) expect(Math.abs(one - other)).toBeGreaterThan(60);
  });

  it('keeps its end laps apart from row to row on every slope', () => {
    fc.assert(
      fc.property(anyJob, (job) => {
        stripOf(job).underlayers.longestStrip = inches(120);
        const made = planFor(job);
        for (let r = 1; rowOf(made, `IB${r + 1}`).length > 0; r++) {
          const [below, above] = [rowOf(made, `IB${r}`), rowOf(made, `IB${r + 1}`)].map((row) =>
            row.slice(0, -1).map((piece) => boxOf(piece).x1),
          );
          for (const one of below!) for (const other of above!) expect(Math.abs(one - other)).toBeGreaterThan(inches(12));
        }
      }),
      cases(15),
    );
  });

  it('is left out where no ice dams are on record: no strips, no line, nothing ordered', () => {
    const none = planFor(changed((job) => void (job.site.iceDams = false)));
    expect(none.pieces.filter(({ role }) => role === 'iceBarrier')).toEqual([]);
    expect(none.order.map(({ name }) => name).join()).not.toMatch(/barrier|Ridgeguard sheet/i);
    expect(none.planes[0]!.barrier).toBeUndefined();
    expect(
      none.runSheet.flatMap(({ lines }) => lines).filter(({ pieces }) => pieces.some((mark) => mark.startsWith('IB'))),
    ).toEqual([]);
  });

  it('laid first folds down over the deck’s edge, drip edge over it and sealed along its back; laid second it ends on the metal', () => {
    const barrierFirst = planFor(changed((job) => void (stripOf(job).underlayers.eaveOrder = 'barrier-first')));
    const lineOf = (made: Plan, mark: string): number =>
      made.runSheet.flatMap(({ lines }) => lines).findIndex(({ pieces }) => pieces.includes(mark));
    const low = (made: Plan): number =>
      toInches(Math.min(...made.pieces.filter(({ mark }) => mark.startsWith('IB1-')).map((piece) => boxOf(piece).y0)));
    expect(low(barrierFirst)).toBeCloseTo(-1.5, 6);
    expect(lineOf(barrierFirst, 'IB1-1')).toBeLessThan(lineOf(barrierFirst, 'DE-1'));
    const [seal, drip] = ['ES', 'DE-1'].map((mark) => barrierFirst.pieces.find((piece) => piece.mark === mark)!);
    // over the flange's back edge and on to the barrier above it
    expect(boxOf(seal!).y0).toBeLessThan(boxOf(drip!).y1);
    expect(boxOf(seal!).y1).toBeGreaterThan(boxOf(drip!).y1);
    expect(lineOf(plan, 'GA-1')).toBeLessThan(lineOf(plan, 'IB1-1'));
    expect(low(plan)).toBeGreaterThanOrEqual(0);
    expect(lineOf(plan, 'DE-1')).toBe(-1);
  });
});

describe('starters and caps', () => {
  const unitsOf = (made: Plan, mark: string) => {
    const { units } = made.pieces.find((piece) => piece.mark === mark)!;
    return units!;
  };
  const item = (id: string) =>
    demoLibrary.catalog.items.find((one) => one.id === id) as unknown as { width: number; exposure: number };

  it('along the eave are as many as its length takes, once: 44 ft', () => {
    const { whole, parts } = unitsOf(plan, 'ST');
    const laid = whole + parts.length;
    const each = toInches(item('marrowgate-starter').width);
    expect(laid).toBe(Math.ceil(528 / each - 1e-6));
  });

  it('along a ridge are as many as its length has exposures, once for both slopes', () => {
    const { whole } = unitsOf(plan, 'RC');
    expect(whole).toBe(Math.ceil((44 * 12) / toInches(item('marrowgate-cap').exposure) - 1e-6));
    const both = house.pieces.filter(({ mark }) => mark === 'S-RC' || mark === 'N-RC');
    expect(both.filter(({ units }) => units !== undefined)).toHaveLength(1);
  });
});
