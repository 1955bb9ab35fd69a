import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { changed, demoHouse, demoLibrary, slopePart, stripOf } from '../../fixtures/demo.ts';
import { anyJob } from '../../fixtures/jobs.ts';
import { VALLEYS, anyCrossed, anyDormered, crossed, valleyOf } from '../../fixtures/roofs.ts';
import { cases } from '../../fixtures/seeds.ts';
import { planFor } from '../../fixtures/planned.ts';
import { type Piece, printWords } from '../assembly/index.ts';
import { itemsOf } from '../catalog/index.ts';
import { type Plan } from '../plan/index.ts';
import { bounds, isWithin } from '../roof/index.ts';
import { inches, toInches } from '../units/index.ts';

const piecesOf = ({ pieces }: Plan, ...roles: Piece['role'][]): Piece[] => pieces.filter(({ role }) => roles.includes(role));
const anyRoof = fc.oneof(anyJob, anyCrossed, anyDormered);
const rollOf = (product: string): number => {
  const item = demoLibrary.catalog.items.find(({ id }) => id === product);
  return item && 'rollLength' in item ? item.rollLength : Number.POSITIVE_INFINITY;
};

describe('edge metal on every roof', () => {
  it('is held at both ends and at most 12 in apart, also where a mitre cuts it back', () => {
    fc.assert(
      fc.property(anyRoof, (job) => {
        const made = planFor(job);
        for (const { mark, covers, role } of piecesOf(made, 'gutterApron', 'dripEdge', 'rakeMetal')) {
          const along = role === 'rakeMetal' ? 1 : 0;
          const places = made.fasteners.filter(({ piece }) => piece === mark).map(({ at }) => at[along]).sort((a, b) => a - b); // prettier-ignore
          expect(places.length, mark).toBeGreaterThanOrEqual(2);
          for (let i = 1; i < places.length; i++) expect(places[i]! - places[i - 1]!, mark).toBeLessThanOrEqual(inches(12) + 0.5);
          const box = bounds(covers[0]!.outline);
          const [low, high] = along === 1 ? [box.y0, box.y1] : [box.x0, box.x1];
          // an inch in from the ends, and as far more as the mitre takes
          expect(places[0]! - low, mark).toBeLessThan(inches(5));
          expect(high - places.at(-1)!, mark).toBeLessThan(inches(5));
        }
      }),
      { ...cases(5), endOnFailure: true },
    );
  });
});

describe('sheets on every roof', () => {
  it('come from their roll in one piece, and lie on one stretch of their slope', () => {
    fc.assert(
      fc.property(anyRoof, (job) => {
        for (const { mark, product, cutLength, covers } of piecesOf(planFor(job), 'iceBarrier', 'underlayment')) {
          expect(cutLength, mark).toBeLessThanOrEqual(rollOf(product!) + 0.5);
          const boxes = covers.map(({ outline }) => bounds(outline));
          const extent = Math.max(...boxes.map(({ x1 }) => x1)) - Math.min(...boxes.map(({ x0 }) => x0));
          expect(extent, mark).toBeLessThanOrEqual(cutLength! + 0.5);
        }
      }),
      { ...cases(5), endOnFailure: true },
    );
  });

  it('caps hold each strip of underlayment on it, never in what stands up through it', () => {
    fc.assert(
      fc.property(anyDormered, (job) => {
        const made = planFor(job);
        for (const { mark, covers } of piecesOf(made, 'underlayment')) {
          const caps = made.fasteners.filter(({ piece }) => piece === mark);
          for (const { at, facet } of caps) {
            expect(covers.some((cover) => cover.facet === facet && isWithin(cover.outline, at)), mark).toBe(true);
            const { holes } = made.roof.find(({ id }) => id === facet)!;
            expect(holes.some((hole) => isWithin(hole, at)), mark).toBe(false);
          }
        }
      }),
      { ...cases(6), endOnFailure: true },
    ); // prettier-ignore
  });
});

describe('valley sheets and linings', () => {
  it('run from over the eave to 8 in past the head in pieces no longer than their stock, each lap as ruled', () => {
    fc.assert(
      fc.property(anyCrossed, (job) => {
        const made = planFor(job);
        for (const { id, line } of made.valleys)
          for (const [role, lap] of [['valleySheet', 6], ['valleyLining', 12]] as const) {
            const own = piecesOf(made, role).filter(({ detail }) => detail === id);
            if (own.length === 0) continue;
            const stock = role === 'valleySheet' ? rollOf(own[0]!.product!) : itemsOf(demoLibrary.catalog, 'valleyMetal').find((item) => item.id === own[0]!.product)!.length;
            const total = own.reduce((sum, { cutLength }) => sum + cutLength!, 0);
            for (const { cutLength, mark } of own) expect(cutLength, mark).toBeLessThanOrEqual(Math.min(stock, (role === 'valleySheet' ? stripOf(job).underlayers.longestStrip : null) ?? stock) + 0.5);
            // an inch over the eave, 8 in past the head, and a lap between every two
            expect(toInches(total), id).toBeGreaterThanOrEqual(toInches(line.trueLength) + 9 + (own.length - 1) * lap - 0.01);
          }
      }),
      { ...cases(5), endOnFailure: true },
    ); // prettier-ignore
  });

  it('a lining’s flat pattern is as long as it is cut', () => {
    const made = planFor(
      crossed((job) => {
        for (const key of VALLEYS) job.valleys[key] = valleyOf('open');
      }),
    );
    for (const { flat, cutLength, mark } of piecesOf(made, 'valleyLining'))
      expect(bounds(flat!.outline).y1, mark).toBeCloseTo(cutLength!, 6);
  });
});

describe('the rows of ice barrier', () => {
  it('are told one by one, each with its strips and where it laps', () => {
    const lines = planFor(changed((job) => void (slopePart(job).overhang = inches(30))))
      .steps.map(({ action }) => printWords(action, 'imperial'))
      .filter((line) => line.startsWith('Lay ice barrier row'));
    // 30 + 6 + 24 in level are 67 1/16 in of slope: 36, 69 in: two rows. The slope is 44 ft
    // wide and a strip at most 15 ft: three, with two laps of 6 in, reach just that
    expect(lines).toHaveLength(2);
    expect(lines[0]).toMatch(
      /^Lay ice barrier row 1 on the bare deck, lower edge on the eave metal: 3 strips, end laps 6"; upper edge at 3'-0"\./,
    );
    expect(lines[1]).toMatch(/lower edge at 2'-9", lapped 3": \d strips, end laps 6", staggered; upper edge at 5'-9"/);
    expect(lines[1]).toContain('Needed: 67 1/16" along the slope, 60" level.');
  });

  it('of the whole house are as many as each slope’s summary says', () => {
    const house = planFor(demoHouse());
    for (const { id, barrier } of house.planes) {
      const rows = house.steps.filter(
        ({ plane, action }) => plane === id && printWords(action, 'imperial').startsWith('Lay ice barrier row'),
      );
      expect(rows.length, id).toBe(barrier!.rows.length);
    }
  });
});
