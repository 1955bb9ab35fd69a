import { describe, expect, it } from 'vitest';
import { stripOf } from '../../../fixtures/demo.ts';
import { VALLEYS, crossed, valleyOf } from '../../../fixtures/roofs.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { type Piece, printWords } from '../../assembly/index.ts';
import type { Job, PartOf, ValleyChoice } from '../../document/index.ts';
import { checkDrainage } from '../../drainage/index.ts';
import { type Plan } from '../../plan/index.ts';
import { bounds, distanceToStretch, ribbedWater, valleyWater } from '../../roof/index.ts';
import { inches, onTwelve, toInches } from '../../units/index.ts';

const sheds = (made: Plan, plane: string): string => checkDrainage(made, { plane, stage: 'finished' }).verdict;
/** A cross gable with both valleys alike, half as wide as said. */
const valleys = (choice: ValleyChoice, half = 130, change: (job: Job) => void = () => undefined): Plan =>
  planFor(
    crossed((job) => {
      const [main, cross] = job.parts as [PartOf<'gable'>, PartOf<'crossGable'>];
      main.eaveLength = inches(3 * half);
      main.slope = { kind: 'level', length: inches(half + 48) };
      cross.centre = inches(1.5 * half);
      cross.halfWidth = inches(half);
      for (const key of VALLEYS) job.valleys[key] = structuredClone(choice);
      change(job);
    }),
  );
const open = valleys(valleyOf('open'));
const piecesOf = ({ pieces }: Plan, role: Piece['role'], valley = 'V1'): Piece[] =>
  pieces.filter((piece) => piece.role === role && piece.detail === valley);

describe('the lining of an open valley', () => {
  const linings = piecesOf(open, 'valleyLining');
  const { trueLength } = open.valleys[0]!.line;

  it('130 in of half width at 6/12: 195 in of valley in two lengths of 10 ft stock', () => {
    // rise 65 in, plan 130·√2: true √(65² + 2·130²)
    expect(toInches(trueLength)).toBeCloseTo(Math.hypot(65, 130 * Math.SQRT2), 3);
    expect(linings).toHaveLength(2);
    expect(linings.every(({ cutLength }) => toInches(cutLength!) <= 120.01)).toBe(true);
  });

  it('laps 8 in, upper over lower', () => {
    const [low, high] = linings as [Piece, Piece];
    const tails = low.cutLength! + high.cutLength! - trueLength;
    // the lap, and what the foot turns into the gutter
    expect(toInches(tails)).toBeGreaterThanOrEqual(7.99);
    expect(open.pieces.indexOf(low)).toBeLessThan(open.pieces.indexOf(high));
    const line = open.steps.find(({ pieces }) => pieces.includes(low.mark))!;
    expect(printWords(line.action, 'imperial')).toMatch(/lap/);
    // what of the lower one's outline lies above the foot of the upper one, along the valley
    const along = (piece: Piece, pick: (...values: number[]) => number): number => {
      const { low: foot, high: head } = open.valleys[0]!.line;
      const length = Math.hypot(head[0] - foot[0], head[1] - foot[1]);
      const own = piece.covers[0]!.outline.map(([, y]) => y);
      return (pick(...own) / (head[1] - foot[1])) * length;
    };
    expect(along(low, Math.max)).toBeGreaterThan(along(high, Math.min));
  });

  it('is held by cleats along its edges only, a foot apart, and pierced by nothing', () => {
    for (const lining of linings) {
      const nails = open.fasteners.filter(({ piece }) => piece === lining.mark);
      expect(nails.length).toBeGreaterThan(0);
      expect(nails.every(({ product }) => product.includes('cleat'))).toBe(true);
    }
    const cleats = open.fasteners.filter(({ piece }) => linings.some(({ mark }) => mark === piece));
    // both edges of 195 in at 12 in
    expect(cleats.length).toBeGreaterThanOrEqual(2 * Math.floor(195 / 12));
    expect(cleats.length).toBeLessThanOrEqual(2 * (Math.ceil(195 / 12) + 3));
    expect(open.order.find(({ product }) => product.includes('cleat'))!.needed).toBe(
      open.fasteners.filter(({ product }) => product.includes('cleat')).length,
    );
  });

  it('takes a ribbed one where it is chosen', () => {
    const ribbed = valleys(valleyOf('open', null, 'ribbed'));
    const product = piecesOf(ribbed, 'valleyLining')[0]!.product!;
    expect(product).not.toBe(linings[0]!.product);
    expect(printWords(ribbed.steps.find(({ pieces }) => pieces.includes('V1-L1'))!.action, 'imperial')).toMatch(/rib/);
  });
});

describe('the covering along a valley', () => {
  it.each(['open', 'closed cut', 'woven', 'long-edge cut'] as const)(
    '%s: no nail of the covering within 6 in of its line',
    (style) => {
      const plan = valleys(valleyOf(style), 90);
      const sides = plan.roof.flatMap((plane) =>
        plane.edges.filter(({ kind }) => kind === 'valley').map(({ from, to }) => ({ facet: plane.id, from, to })),
      );
      const roles = new Map(plan.pieces.map(({ mark, role }) => [mark, role]));
      for (const nail of plan.fasteners) {
        if (roles.get(nail.piece) !== 'course') continue;
        for (const { facet, from, to } of sides)
          if (facet === nail.facet)
            expect(distanceToStretch(nail.at, from, to), nail.piece).toBeGreaterThanOrEqual(inches(6) - 0.5);
      }
    },
  );

  it('closed cut: shingles of one side cross the centre by a foot, none of them jointed there', () => {
    const plan = valleys(valleyOf('closed cut', 'south'), 90);
    const valley = plan.valleys.find(({ id }) => id === 'V1')!;
    const [through, other] = valley.a === 'south' ? [valley.a, valley.b] : [valley.b, valley.a];
    const crossing = plan.pieces.filter(
      ({ role, covers }) =>
        role === 'course' && covers.some(({ facet }) => facet === through) && covers.some(({ facet }) => facet === other),
    );
    expect(crossing.length).toBeGreaterThan(8);
    const edge = plan.roof
      .find(({ id }) => id === through)!
      .edges.find(({ kind, other: beyond }) => kind === 'valley' && beyond === other)!;
    for (const { joints = [], mark, course } of crossing) {
      const { lines } = plan.planes.find(({ id }) => id === through)!;
      const y = lines.first + (course! - 0.5) * lines.gauge;
      for (const x of joints) expect(distanceToStretch([x, y], edge.from, edge.to), mark).toBeGreaterThan(inches(2));
    }
  });

  it('one end of a valley’s sheet laps the next by the rule of end laps', () => {
    const plan = valleys(valleyOf('closed cut'), 130, (job) => void (stripOf(job).underlayers.longestStrip = inches(80)));
    const panels = piecesOf(plan, 'valleySheet');
    expect(panels.length).toBeGreaterThan(2);
    const total = panels.reduce((sum, { cutLength }) => sum + cutLength!, 0);
    expect(toInches(total - open.valleys[0]!.line.trueLength)).toBeGreaterThanOrEqual((panels.length - 1) * 6 - 0.01);
    expect(panels.every(({ cutLength }) => toInches(cutLength!) <= 80.01)).toBe(true);
  });
});

describe('valleys', () => {
  it.each([
    [25, 10.1, 32],
    [100, 17, 54],
    [400, 28.5, 90],
  ])('%d L/min in a 6/12 valley run %f mm deep and spread %d mm a side', (flow, depth, spread) => {
    const water = valleyWater(flow, { zA: 3, zB: 3, sine: 1 / 3 });
    expect(water.depth).toBeCloseTo(depth, 1);
    expect(Math.round(water.spreadA)).toBe(spread);
  });

  it('a style the covering forbids, and a side turned round, are said', () => {
    const woven = planFor(crossed((job) => void (job.valleys['south+cross-west'] = valleyOf('woven'))));
    expect(woven.findings.map(({ id }) => id)).toContain('V1.woven');
    const turned = planFor(crossed((job) => void (job.valleys['south+cross-west'] = valleyOf('closed cut', 'south'))));
    expect(turned.findings.find(({ id }) => id === 'V1.through')!.severity).toBe('worth a look');
    expect(turned.valleys[0]!.through).toBe('south');
  });
});

describe('a ribbed valley', () => {
  const unequal = (lining: 'plain' | 'ribbed'): Plan =>
    planFor(
      crossed((job) => {
        job.parts[1]!.pitch = onTwelve(9);
        for (const key of VALLEYS) job.valleys[key] = valleyOf('open', null, lining);
      }),
    );

  it('is advised where pitches differ by 3/12, and the advice goes when it is chosen', () => {
    expect(unequal('plain').findings.map(({ id }) => id)).toContain('V1.rib');
    const ribbed = unequal('ribbed');
    expect(ribbed.findings.map(({ id }) => id)).not.toContain('V1.rib');
    const [lining] = ribbed.pieces.filter(({ role }) => role === 'valleyLining');
    // 24 in of lining and an inch of rib twice
    expect(toInches(bounds(lining!.flat!.outline).x1)).toBeCloseTo(26, 6);
    expect(lining!.flat!.bends.map(({ direction }) => direction)).toEqual(['up', 'down', 'up']);
    expect(ribbed.order.find(({ product }) => product === lining!.product)!.name).toContain('ribbed');
    expect(sheds(ribbed, 'south')).toBe('clean');
  });

  it('keeps each side’s water to itself', () => {
    // 50 L/min a side at 6/12, worked by Manning in half a V with the rib as its wall: 18.2 mm deep, 57 mm wide
    const section = { zA: 3, zB: 3, sine: 1 / 3 };
    const water = ribbedWater(50, 50, section);
    expect(water.depth).toBeCloseTo(18.2, 1);
    expect(Math.round(water.spreadA)).toBe(57);
    expect(ribbedWater(100, 0, section).spreadB).toBe(0);
    expect(ribbedWater(100, 0, section).spreadA).toBeGreaterThan(valleyWater(100, section).spreadA);
  });
});
