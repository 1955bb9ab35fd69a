import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { changed, demoJob, demoLibrary, slopeRecord, stripOf } from '../../fixtures/demo.ts';
import { cases } from '../../fixtures/seeds.ts';
import { planFor } from '../../fixtures/planned.ts';
import { printWords } from '../assembly/index.ts';
import { itemsOf } from '../catalog/index.ts';
import type { Job, Wall } from '../document/index.ts';
import { planJob } from '../plan/index.ts';
import { evenLines } from '../surface/index.ts';
import { inches, toInches } from '../units/index.ts';
import { cornerPiece, earRise } from './index.ts';

const plan = (change: (wall: Wall, job: Job) => void) => planFor(changed((job) => change(slopeRecord(job).walls[0]!, job)));
const stepOf = (made: ReturnType<typeof plan>) =>
  itemsOf(demoLibrary.catalog, 'stepFlashing').find(
    ({ id }) => id === made.pieces.find(({ mark }) => mark === 'SW1-01')!.product,
  )!;

describe('the step that is chosen', () => {
  it('is as long as exposure and headlap: 5 5/8 in and 2 in take 8 in stock', () => {
    expect(toInches(stepOf(plan(() => undefined)).length)).toBe(8);
  });

  it('in masonry reaches up behind the counterflashing: cover, clearance and the shingle, whatever the cover', () => {
    for (const cover of [2, 3, 4, 5]) {
      const made = plan((wall, job) => {
        Object.assign(wall, { cladding: 'masonry' });
        job.deviations.push({
          key: 'counterflashing.cover',
          sense: 'atLeast',
          value: cover,
          unit: 'in',
          reason: 'as the mason asks',
        });
      });
      const least = (key: string): number => made.planes[0]!.requirements.find((one) => one.key === key)!.least!;
      const shingle = itemsOf(demoLibrary.catalog, 'shingle').find(({ id }) => id === stripOf(demoJob()).shingle)!;
      const needed = inches(cover) + least('counterflashing.clearance') + shingle.thickness;
      const short = made.findings.some(({ id }) => id === 'SW1.none-fits' || id === 'SW1.short-wallLeg');
      expect(stepOf(made).wallLeg >= needed || short, `${cover}`).toBe(true);
    }
  });

  it('named by the crew and too short is used, and said with both figures', () => {
    const short = itemsOf(demoLibrary.catalog, 'stepFlashing').find(
      ({ length, metal }) => metal === 'aluminium' && length < inches(7.6),
    )!;
    const made = plan((wall) => void (wall.stepFlashing = short.id));
    expect(made.pieces.find(({ mark }) => mark === 'SW1-01')!.product).toBe(short.id);
    const finding = made.findings.find(({ id }) => id === 'SW1.short-length')!;
    expect(finding.severity).toBe('breaks a rule');
    expect(printWords(finding.sentence, 'imperial')).toContain('where 7 5/8" is needed');
    expect(finding.piece).toBe('SW1-01');
  });

  it('in a metal the catalog has none of, the plan goes on and says so', () => {
    const library = {
      ...demoLibrary,
      catalog: {
        ...demoLibrary.catalog,
        items: demoLibrary.catalog.items.filter((item) => item.kind !== 'stepFlashing' || item.metal !== 'copper'),
      },
    };
    const made = planJob(
      changed((job) => void (stripOf(job).metal = 'copper')),
      library,
    );
    expect(made.findings.find(({ id }) => id === 'SW1.none-fits')?.severity).toBe('breaks a rule');
    expect(made.pieces.some(({ role }) => role === 'course')).toBe(true);
  });
});

const anyLines = fc
  .tuple(fc.double({ min: 100, max: 200, noNaN: true }), fc.double({ min: -19, max: -6, noNaN: true }))
  .map(([gauge, first]) => evenLines(first, gauge, 2.35 * gauge, 6000));

describe('where an apron turns the corner', () => {
  it('the corner piece begins at the butt line or the apron’s lower edge, whichever is higher, under the first course over the apron', () => {
    fc.assert(
      fc.property(
        anyLines,
        fc.double({ min: 800, max: 4000, noNaN: true }),
        fc.double({ min: 90, max: 160, noNaN: true }),
        (lines, from, leg) => {
          const { lower, coveredBy, underApron } = cornerPiece({ lines }, { from, to: 5000, apronLeg: leg });
          expect(lower).toBeGreaterThanOrEqual(from - leg - 1e-9);
          expect(lower).toBeLessThanOrEqual(from + 0.4);
          expect(coveredBy).toBeGreaterThan(underApron);
          // what covers it begins no lower than where the last course under the apron ends
          expect(lines.first + (underApron - 1) * lines.gauge).toBeLessThan(from - leg);
        },
      ),
      cases(100),
    );
  });

  it('ears go on up beside the wall until the corner piece laps them 2 1/2 in, and no farther', () => {
    fc.assert(
      fc.property(
        anyLines,
        fc.double({ min: 800, max: 4000, noNaN: true }),
        fc.double({ min: 90, max: 160, noNaN: true }),
        (lines, y, leg) => {
          const rise = earRise(lines, y, leg);
          const { lower } = cornerPiece({ lines }, { from: y, to: 5000, apronLeg: leg });
          expect(y + rise - lower).toBeGreaterThanOrEqual(inches(2.5) - 1e-6);
          if (rise > 0) expect(y + rise - lower).toBeCloseTo(inches(2.5), 6);
        },
      ),
      cases(100),
    );
  });
});
