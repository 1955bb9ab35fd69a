import { describe, expect, it } from 'vitest';
import { feature, slopeWith } from '../../../fixtures/roofs.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { type Piece, printWords } from '../../assembly/index.ts';
import type { FeatureOf } from '../../document/index.ts';
import { type Plan } from '../../plan/index.ts';
import { bounds, slopeFactor } from '../../roof/index.ts';
import { lastCourseBelow } from '../../surface/index.ts';
import { evenLines } from '../../surface/lines.ts';
import { inches, toInches } from '../../units/index.ts';
import { fitCourses } from './index.ts';

const headwall = (change: Partial<FeatureOf<'headwall'>> = {}): Plan =>
  planFor(slopeWith(['headwall'], (features) => void Object.assign(feature(features, 'headwall'), change)));
const piecesOf = ({ pieces }: Plan, role: Piece['role']): Piece[] => pieces.filter((piece) => piece.role === role);
const roofBox = ({ covers }: Piece) => bounds(covers.find(({ facet }) => !facet.includes('/'))!.outline);

describe('the apron under a wall along the top', () => {
  const plan = headwall();

  it('160 in of wall: lengths of 120 and 44 in, lapped 4 in, 4 in on the roof and 5 in up the wall', () => {
    const aprons = piecesOf(plan, 'apron');
    expect(aprons.map(({ cutLength }) => toInches(cutLength!))).toEqual([expect.closeTo(120, 6), expect.closeTo(44, 6)]);
    const [left, right] = aprons.map(roofBox) as [ReturnType<typeof roofBox>, ReturnType<typeof roofBox>];
    expect(toInches(left.x1 - right.x0)).toBeCloseTo(4, 6);
    expect(toInches(left.y1 - left.y0)).toBeCloseTo(4, 6);
    expect(toInches(bounds(aprons[0]!.covers[1]!.outline).y1)).toBeCloseTo(5, 6);
    expect(aprons[0]!.flat!.bends).toHaveLength(1);
  });

  it('lies on the last course laid, and no course is laid above it', () => {
    const { lines } = plan.planes[0]!;
    expect(lines.count).toBe(lastCourseBelow(lines, inches(170 - 4)));
    const apron = plan.pieces.findIndex(({ role }) => role === 'apron');
    expect(plan.pieces.findLastIndex(({ role }) => role === 'course')).toBeLessThan(apron);
  });

  it.each(['exposed', 'strip adhered', 'strip nailed'] as const)(
    '%s: fastened, covered and told as the school has it',
    (apron) => {
      const made = headwall({ apron });
      const strips = piecesOf(made, 'capStrip');
      const nails = made.fasteners.filter(({ piece }) => /^HW1-(A|CS)/.test(piece));
      expect(strips).toHaveLength(apron === 'exposed' ? 0 : 1);
      expect(nails.length > 0).toBe(apron !== 'strip adhered');
      // heads that lie open rely on their sealant; a strip nailed through is said to leak
      if (apron === 'exposed') expect(nails.every(({ keptDry }) => keptDry === 'sealed head')).toBe(true);
      expect(made.findings.some(({ id }) => id === 'HW1.strip')).toBe(apron === 'strip nailed');
      const line = made.steps.find(({ pieces }) => pieces.includes('HW1-A1'))!;
      expect(printWords(line.action, 'imperial')).toMatch(
        { exposed: /sealed/, 'strip adhered': /adhered/, 'strip nailed': /nailed/ }[apron],
      );
      if (apron === 'exposed') return;
      // the strip covers the apron's lower edge by 2 in and lies as far on the course below it
      const [strip, edge] = [roofBox(strips[0]!), roofBox(piecesOf(made, 'apron')[0]!)];
      expect([strip.y0 < edge.y0, strip.y1 > edge.y0]).toEqual([true, true]);
      expect(toInches(edge.y0 - strip.y0)).toBeCloseTo(toInches(strip.y1 - edge.y0), 6);
      expect([strip.x0, toInches(strip.x1)]).toEqual([0, expect.closeTo(160, 6)]);
    },
  );

  it('nails along it stand no more than 12 in apart', () => {
    const made = headwall({ apron: 'exposed' });
    const xs = made.fasteners
      .filter(({ piece }) => piece.startsWith('HW1-A'))
      .map(({ at }) => toInches(at[0]))
      .sort((a, b) => a - b);
    expect(xs[0]).toBeLessThanOrEqual(1.01);
    expect(xs.at(-1)).toBeGreaterThanOrEqual(158.99);
    for (let i = 1; i < xs.length; i++) expect(xs[i]! - xs[i - 1]!).toBeLessThanOrEqual(12.01);
  });
});

describe('an apron in front of a chimney', () => {
  const chimney = (up: number) =>
    planFor(
      slopeWith(['chimney'], (features) => {
        const one = feature(features, 'chimney');
        Object.assign(one, { width: inches(24), up: { kind: 'slope', length: inches(up) } });
      }),
    );

  it('has an ear past either corner, which the corner piece of the steps laps by 2 1/2 in or more, wherever it stands', () => {
    for (let up = 50; up < 80; up += 1.25) {
      const plan = chimney(up);
      const apron = piecesOf(plan, 'apron').find(({ mark }) => mark === 'CH1F-A1')!;
      const roof = apron.covers.filter(({ facet }) => !facet.includes('/')).map(({ outline }) => bounds(outline));
      const [x0, x1] = [Math.min(...roof.map((box) => box.x0)), Math.max(...roof.map((box) => box.x1))];
      expect(toInches(x1 - x0)).toBeGreaterThan(24 + 2 * 3.9);
      for (const side of ['L', 'R']) {
        const corner = roofBox(plan.pieces.find(({ mark }) => mark === `CH1${side}-01`)!);
        const ear = Math.max(
          ...roof
            .filter((box) =>
              side === 'L' ? box.x0 < corner.x1 - 1 && box.x1 > corner.x0 + 1 : box.x1 > corner.x0 + 1 && box.x0 < corner.x1 - 1,
            )
            .map((box) => box.y1),
        );
        expect(toInches(ear - corner.y0), `${up} ${side}`).toBeGreaterThanOrEqual(2.49);
      }
    }
  });
});

it('fits the porch’s courses: 5 1/2 in gives 18, the last 8.19 in tall', () => {
  const lines = evenLines(-inches(0.5), inches(5.625), inches(13.25), inches(96) * slopeFactor(4 / 12));
  const fit = fitCourses(lines, lines.end, inches(4), inches(8))!;
  expect([toInches(fit.exposure), fit.courses]).toEqual([5.5, 18]);
  expect(toInches(fit.lastTall)).toBeCloseTo(8.19, 2);
});
