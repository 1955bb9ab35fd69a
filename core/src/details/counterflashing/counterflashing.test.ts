import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { changed, slopePart, slopeRecord } from '../../../fixtures/demo.ts';
import { cases } from '../../../fixtures/seeds.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { type Piece, printWords } from '../../assembly/index.ts';
import type { Job, Wall } from '../../document/index.ts';
import { type Plan } from '../../plan/index.ts';
import { bounds } from '../../roof/index.ts';
import { inches, onTwelve, toInches } from '../../units/index.ts';

/** The north plane with its wall in masonry, counterflashed as said. */
const masonry = (counter: Wall['counter'], change: (job: Job, wall: Wall) => void = () => undefined): Plan =>
  planFor(
    changed((job) => {
      const wall = slopeRecord(job).walls[0]!;
      Object.assign(wall, { cladding: 'masonry', counter });
      change(job, wall);
    }),
  );

const counters = ({ pieces }: Plan): Piece[] => pieces.filter(({ role, detail }) => role === 'counter' && detail === 'SW1');
const onWall = ({ covers }: Piece) => bounds(covers.find(({ facet }) => facet.endsWith('/SW1'))!.outline);
const linesOf = ({ steps }: Plan): string[] =>
  steps.filter(({ detail, stage }) => detail === 'SW1' && stage === 'finish').map(({ action }) => printWords(action, 'imperial'));

describe('in a straight reglet', () => {
  it('205.7 in of wall at 6/12 are 120 in and 88.7 in of stock, lapped 3 in, upper over lower, let in along the top', () => {
    const plan = masonry('reglet');
    const [low, high] = counters(plan) as [Piece, Piece];
    expect(counters(plan)).toHaveLength(2);
    expect(toInches(low.cutLength!)).toBeCloseTo(120, 6);
    // 184 in level are 205.72 in along the slope; what is left of it, and the lap
    expect(toInches(high.cutLength!)).toBeCloseTo(205.7182 - 120 + 3, 3);
    expect(plan.pieces.indexOf(low)).toBeLessThan(plan.pieces.indexOf(high));
    for (const { covers } of [low, high]) expect(covers[0]!.holds).toEqual(['open', 'open', 'letIn', 'open']);
    expect(linesOf(plan)[0]).toMatch(/saw the reglet parallel to the slope, .* 1" deep/);
    expect(linesOf(plan)[1]).toMatch(/hang SW1-R1 to SW1-R2, 2 lengths lapped 3", upper over lower, lower edge 1" clear/);
    expect(linesOf(plan)[2]).toMatch(/: wedge it at most 18" apart/);
  });

  it('stands clear of the covering and covers the steps, whatever the wall', () => {
    fc.assert(
      fc.property(fc.double({ min: 4, max: 12, noNaN: true }), fc.double({ min: 60, max: 280, noNaN: true }), (x12, up) => {
        const plan = masonry('reglet', (job) => {
          slopePart(job).pitch = onTwelve(x12);
          slopePart(job).slope = { kind: 'slope', length: inches(up) };
        });
        const pieces = counters(plan);
        const spans = pieces.map(onWall);
        // one after the other from the foot to the top without a gap, each over the one before by the lap or more
        expect(spans[0]!.x0).toBeLessThan(1);
        for (let i = 1; i < spans.length; i++) expect(spans[i - 1]!.x1 - spans[i]!.x0).toBeGreaterThan(inches(2));
        expect(pieces.every(({ cutLength }) => toInches(cutLength!) <= 120.01)).toBe(true);
        const run = pieces.reduce((sum, { cutLength }) => sum + cutLength!, 0) - (pieces.length - 1) * inches(3);
        expect(toInches(run)).toBeGreaterThanOrEqual(up - 0.01);
      }),
      cases(20),
    );
  });
});

describe('stepped in the joints', () => {
  const plan = masonry('stepped');
  const pieces = counters(plan);

  it('of 2 2/3 in at 6/12: 35 pieces 5 1/3 in apart, 8 1/3 in long, each over the one downhill by 3 in', () => {
    // 184 in level ÷ 5 1/3 in = 34.5
    expect(pieces).toHaveLength(35);
    const spans = pieces.map(onWall);
    for (let i = 2; i < spans.length - 1; i++) {
      expect(toInches(spans[i]!.x0 - spans[i - 1]!.x0)).toBeCloseTo(16 / 3, 6);
      expect(toInches(spans[i]!.x1 - spans[i]!.x0)).toBeCloseTo(25 / 3, 6);
      expect(toInches(spans[i - 1]!.x1 - spans[i]!.x0)).toBeCloseTo(3, 6);
    }
    const order = pieces.map(({ mark }) => plan.pieces.findIndex((piece) => piece.mark === mark));
    expect(order).toEqual(order.toSorted((a, b) => a - b));
  });

  it('each lies with its top in the next joint, one joint above the last', () => {
    const tops = pieces.map((piece) => onWall(piece).y1);
    for (let i = 1; i < tops.length; i++) expect(toInches(tops[i]! - tops[i - 1]!)).toBeCloseTo(8 / 3, 6);
  });

  it('the lowest stands above the membrane, not the lower steps: 6 in along the wall are 6.71 in plumb, and half an inch', () => {
    // its joint is one step of 2 2/3 in above where the wall begins
    expect(toInches(onWall(pieces[0]!).y1)).toBeCloseTo(8 / 3 + 6 * Math.hypot(1, 0.5) + 0.5, 6);
  });

  it('taller joints take fewer pieces', () => {
    const tall = masonry('stepped', (_, wall) => void (wall.jointSpacing = inches(4)));
    // 4 in joints at 6/12 stand 8 in apart: 184 ÷ 8
    expect(counters(tall)).toHaveLength(23);
  });
});

describe('the old counterflashing made good', () => {
  const plan = masonry('repair');

  it('is cleaned, refixed and sealed in that order, each a line of its own, none of it new metal', () => {
    const lines = linesOf(plan);
    expect(lines).toHaveLength(4);
    expect(lines[0]).toMatch(/paint and old silicone off/);
    expect(lines[1]).toMatch(/refix it/);
    expect(lines[2]).toMatch(/polyurethane into the joint/);
    expect(lines[3]).toMatch(/liquid membrane/);
    expect(counters(plan).every(({ product }) => product === undefined)).toBe(true);
    expect(plan.order.some(({ name }) => /reglet/i.test(name))).toBe(false);
  });

  it('takes sealant and membrane for the length of the wall, and stops until the ground is seen', () => {
    const steps = plan.steps.filter(({ detail, stage }) => detail === 'SW1' && stage === 'finish');
    expect(steps.flatMap(({ uses = [] }) => uses.map(({ unit }) => unit))).toEqual(expect.arrayContaining(['bead', 'area']));
    expect(steps[0]!.holdPoint).toMatch(/mineral surface/);
  });
});
