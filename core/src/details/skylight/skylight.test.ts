import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoLibrary } from '../../../fixtures/demo.ts';
import { feature, slopeWith } from '../../../fixtures/roofs.ts';
import { cases } from '../../../fixtures/seeds.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { type Piece, printWords } from '../../assembly/index.ts';
import { type FeatureOf, spreadSkylights } from '../../document/index.ts';
import { type Plan, checkJob } from '../../plan/index.ts';
import { bounds, rectangle, spaceEvenly } from '../../roof/index.ts';
import { buttLine, interfaceLines } from '../../surface/index.ts';
import { inches, toInches } from '../../units/index.ts';
import { layOutOpening, stripOff } from './index.ts';

const skylight = (change: Partial<FeatureOf<'skylight'>> = {}): Plan =>
  planFor(slopeWith(['skylight'], (features) => void Object.assign(feature(features, 'skylight'), change)));
const at = (across: number, up: number) => ({
  across: { from: 'left' as const, distance: inches(across) },
  up: { kind: 'slope' as const, length: inches(up) },
});
const bent = { flashing: 'site-bent' as const, width: inches(24), height: inches(40), ...at(60, 50) };
const piece = ({ pieces }: Plan, mark: string): Piece => {
  const found = pieces.find((one) => one.mark === mark);
  if (!found) throw new Error(`no ${mark}`);
  return found;
};
const roofBox = ({ covers }: Piece) =>
  bounds(covers.filter(({ facet }) => !facet.includes('/')).flatMap(({ outline }) => outline));
const placeOf = ({ pieces }: Plan, mark: string): number => pieces.findIndex((one) => one.mark === mark);

describe('what lies round a frame', () => {
  const plan = skylight(bent);

  it('comes in the order sill, sides, head, each over what is below it', () => {
    const sill = plan.pieces.find(({ role }) => role === 'sill')!.mark;
    const steps = plan.pieces.filter(({ role }) => role === 'step').map(({ mark }) => placeOf(plan, mark));
    expect(placeOf(plan, sill)).toBeLessThan(Math.min(...steps));
    expect(Math.max(...steps)).toBeLessThan(placeOf(plan, 'SK1-HD'));
  });

  it('24 in of frame: a step a butt line each side, by the lines its sides meet', () => {
    const { lines } = plan.planes[0]!;
    const { first, last } = interfaceLines(lines, inches(50), inches(90));
    for (const side of ['L', 'R']) {
      const own = plan.pieces.filter(({ mark, role }) => role === 'step' && mark.startsWith(`SK1${side}-`));
      expect(own.map(({ course }) => course)).toEqual(Array.from({ length: last - first + 1 }, (_, i) => first + i));
    }
  });

  it('the sill’s leg lies 4 in down the course below, the head goes 6 in past each side and up under the course above', () => {
    const sill = roofBox(plan.pieces.find(({ role }) => role === 'sill')!);
    expect(toInches(inches(50) - sill.y0)).toBeCloseTo(4, 6);
    const head = roofBox(piece(plan, 'SK1-HD'));
    expect([toInches(head.x0), toInches(head.x1)]).toEqual([expect.closeTo(54, 6), expect.closeTo(90, 6)]);
    expect(toInches(head.y1 - inches(90))).toBeGreaterThanOrEqual(8 - 1e-6);
  });

  it('its tape goes on in the order bottom, sides, top, and turns up the frame all round', () => {
    const [bottom, left, right, top] = ['SK1-T1', 'SK1L-M1', 'SK1R-M1', 'SK1-T4'].map((mark) => placeOf(plan, mark)) as [
      number,
      number,
      number,
      number,
    ];
    expect([bottom < left, bottom < right, left < top, right < top]).toEqual([true, true, true, true]);
    for (const [mark, face] of [
      ['SK1-T1', 'F'],
      ['SK1L-M1', 'L'],
      ['SK1R-M1', 'R'],
      ['SK1-T4', 'B'],
    ] as const)
      // prettier-ignore
      expect(piece(plan, mark).covers.map(({ facet }) => facet)).toContain(`north/SK1${face}`);
  });

  it('the course over its head has one whole shingle over the middle, no joint above the unit', () => {
    const over = plan.pieces.find(({ mark }) => mark === `C${String(piece(plan, 'SK1-HD').course).padStart(2, '0')}`)!;
    const middle = inches(72);
    const { width } = demoLibrary.catalog.items.find(({ id }) => id === over.product) as unknown as { width: number };
    const near = over.joints!.filter((x) => Math.abs(x - middle) < width / 2 - inches(1.1));
    expect(near).toEqual([]);
  });

  it('is called a frame, and what turns its corner a sill, in every line of its sides', () => {
    const lines = plan.runSheet
      .flatMap(({ lines: own }) => own)
      .filter(({ pieces }) => pieces.some((mark) => /^SK1[LR]-(M|\d)/.test(mark)))
      .map(({ action, fasteners = [], holdPoint = '' }) =>
        printWords([...action, ' ', ...fasteners, ' ', holdPoint], 'imperial'),
      );
    expect(lines.length).toBeGreaterThan(6);
    expect(lines.filter((one) => !/frame|sill/.test(one) || /\bwall\b|apron/.test(one))).toEqual([]);
  });

  it('no nail of the covering goes through its head or sill', () => {
    const courses = new Set(plan.pieces.filter(({ role }) => role === 'course').map(({ mark }) => mark));
    const metal = ['SK1-HD', plan.pieces.find(({ role }) => role === 'sill')!.mark].map((mark) => piece(plan, mark));
    for (const { covers } of metal)
      for (const { facet, outline } of covers.filter((cover) => !cover.facet.includes('/'))) {
        const { x0, x1, y0, y1 } = bounds(outline);
        const inside = rectangle(x0 + 1, y0 + 1, x1 - 1, y1 - inches(1.1));
        const { y1: top } = bounds(inside);
        expect(
          plan.fasteners.filter(
            (nail) =>
              courses.has(nail.piece) &&
              nail.facet === facet &&
              nail.at[0] > x0 + 1 &&
              nail.at[0] < x1 - 1 &&
              nail.at[1] > y0 + 1 &&
              nail.at[1] < top,
          ),
        ).toEqual([]);
      }
  });
});

describe('a maker’s kit', () => {
  it('brings sill, steps and head, so that none of them is ordered by itself', () => {
    const kit = demoLibrary.catalog.items.find((item) => item.kind === 'skylightKit' && item.for === 'shingles')! as unknown as {
      id: string;
      width: number;
      height: number;
      mount: 'deck' | 'curb';
    };
    const plan = skylight({ flashing: 'kit', width: kit.width, height: kit.height, mount: kit.mount, ...at(60, 50) });
    expect(plan.order.find(({ product }) => product === kit.id)?.needed).toBe(1);
    expect(plan.pieces.filter(({ role }) => role === 'step').every(({ product }) => product === undefined)).toBe(true);
    expect(plan.order.some(({ name }) => /step flashing/i.test(name))).toBe(false);
  });

  it('for a frame the catalog has none for, the plan says so and bends the metal on site', () => {
    const plan = skylight({ flashing: 'kit', width: inches(31), height: inches(29), ...at(60, 50) });
    const found = plan.findings.find(({ id }) => id === 'SK1.kit')!;
    expect(found.severity).toBe('breaks a rule');
    expect(printWords(found.sentence, 'imperial')).toContain('31" × 29"');
  });
});

describe('a replacement', () => {
  const lines = (change: Partial<FeatureOf<'skylight'>>): string[] =>
    skylight({ ...bent, work: 'replacement', ...change })
      .steps.filter(({ detail }) => detail === 'SK1')
      .map(({ action }) => printWords(action, 'imperial'));

  it('strips before anything else; for new shingles wider than to lay the old ones again', () => {
    expect(lines({ strip: 'renewing' })[0]).toMatch(/take the old cladding and glass off/);
    expect(lines({ strip: 'renewing' })[1]).toMatch(/strip .*(72"|6'-0")/);
    expect(lines({ strip: 're-using' })[1]).not.toBe(lines({ strip: 'renewing' })[1]);
    expect(lines({})[2]).toMatch(/lift the old unit out/);
    expect(lines({})[3]).toMatch(/set the unit square/);
  });

  it('a new opening is framed instead, and nothing is stripped', () => {
    const first = skylight(bent).steps.find(({ detail }) => detail === 'SK1')!;
    expect(printWords(first.action, 'imperial')).not.toMatch(/strip off/i);
    expect(first.crew).toBe('carpenters');
  });
});

describe('wherever it stands', () => {
  it('every piece keeps to its own side, and what is told of it adds up', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 20, max: 90, noNaN: true }),
        fc.double({ min: 25, max: 80, noNaN: true }),
        fc.double({ min: 16, max: 34, noNaN: true }),
        fc.double({ min: 20, max: 50, noNaN: true }),
        (across, up, width, height) => {
          const job = slopeWith(
            ['skylight'],
            (features) =>
              void Object.assign(feature(features, 'skylight'), {
                flashing: 'site-bent',
                width: inches(width),
                height: inches(height),
                ...at(across, up),
              }),
          );
          fc.pre(checkJob(job, demoLibrary).length === 0);
          const plan = planFor(job);
          const left = plan.pieces.filter(({ mark, role }) => role === 'step' && mark.startsWith('SK1L-'));
          const right = plan.pieces.filter(({ mark, role }) => role === 'step' && mark.startsWith('SK1R-'));
          expect(left).toHaveLength(right.length);
          for (const step of left) expect(roofBox(step).x1).toBeLessThanOrEqual(inches(across) + 1e-6);
          for (const step of right) expect(roofBox(step).x0).toBeGreaterThanOrEqual(inches(across + width) - 1e-6);
          const figure = plan.panels
            .find(({ detail }) => detail === 'SK1')!
            .figures.find(({ label }) => label === 'Steps a side')!;
          expect(printWords(figure.value, 'imperial')).toMatch(new RegExp(`^${left.length},`));
          const { lines } = plan.planes[0]!;
          for (const { course } of left) expect(buttLine(lines, course!)).toBeLessThan(inches(up + height));
        },
      ),
      cases(20),
    );
  });
});

describe('the last step beside a frame', () => {
  it('has two nails in the deck under the head flashing’s arm, none in the frame, and the plan sheds', () => {
    const made = skylight(bent);
    for (const side of ['L', 'R']) {
      const last = made.pieces.filter(({ mark }) => mark.startsWith(`SK1${side}-0`) || mark.startsWith(`SK1${side}-1`)).at(-1)!;
      const nails = made.fasteners.filter(({ piece: on }) => on === last.mark);
      expect(nails.map(({ facet }) => facet)).toEqual(['north', 'north']);
      const arm = piece(made, 'SK1-HD')
        .covers.filter(({ facet }) => facet === 'north')
        .map(({ outline }) => bounds(outline));
      for (const { at: [x, y] } of nails) expect(arm.some(({ x0, x1, y0, y1 }) => x > x0 && x < x1 && y > y0 && y < y1)).toBe(true); // prettier-ignore
      const line = made.steps.find(({ pieces }) => pieces.includes(last.mark))!;
      expect(printWords(line.fasteners!, 'imperial')).toBe(
        '2 nails to the deck, top outer corner, under the head flashing’s arm; none in the frame',
      );
    }
    // the head's pattern has a leg at each arm, as high as it goes up the back, where the arms are longer than that
    const { bends } = piece(made, 'SK1-HD').flat!;
    expect(bends.length === 1 || bends.length === 3).toBe(true);
  });
});

describe('skylights', () => {
  it('cut, ceiling and block follow from the rough opening; rafters cut, and the nudge that cuts fewer', () => {
    const opening = layOutOpening(inches(40), inches(30), inches(46), { spacing: inches(16), first: 0 });
    expect([opening.ceilingWidth, opening.ceilingHeight, opening.blockWidth].map((mm) => Math.round(toInches(mm)))).toEqual([
      36, 52, 15,
    ]);
    expect(opening.cutRafters.map((mm) => Math.round(toInches(mm)))).toEqual([32, 48]);
    expect(opening.nudge!.cut).toBe(1);
  });

  it('stand with equal gaps between two references, or do not fit', () => {
    const edges = spaceEvenly(0, inches(200), 3, inches(30));
    const gaps = [edges[0]!, edges[1]! - edges[0]! - inches(30), inches(200) - edges[2]! - inches(30)];
    for (const gap of gaps) expect(gap).toBeCloseTo(inches(27.5), 6);
    expect(spaceEvenly(0, inches(80), 3, inches(30))).toEqual([]);
  });

  it('a replacement strips 2 ft each side and 1 1/2 ft above and below, or to the next whole shingle', () => {
    const unit = { width: inches(30), height: inches(46) };
    const shingle = { width: inches(39.375), exposure: inches(5.625) };
    const renewing = stripOff('renewing', unit, shingle);
    expect([toInches(renewing.width), toInches(renewing.height)]).toEqual([78, 82]);
    expect(renewing.shingles).toBe(Math.ceil(((78 * 82 - 30 * 46) / (39.375 * 5.625)) * 1.1));
    expect(toInches(stripOff('re-using', unit, shingle).width)).toBeCloseTo(108.75, 9);
  });
});

describe('skylights alike between references', () => {
  const job = slopeWith(['skylight']);
  const [unit] = job.features;

  it('stand with equal gaps; the first moves, the others are added like it', () => {
    const features = spreadSkylights(job, 'SK1', inches(10), inches(150), 3);
    if (typeof features === 'string') throw new Error(features);
    // 140 in less 3 × 30 1/2: gaps of 12 1/8
    const edges = features.map((one) => (one.kind === 'skylight' ? toInches(one.across.distance).toFixed(3) : ''));
    expect(edges).toEqual(['22.125', '64.750', '107.375']);
    expect(features.map(({ id }) => id)).toEqual(['SK1', 'SK2', 'SK3']);
    expect(checkJob({ ...job, features }, demoLibrary)).toEqual([]);
  });

  it('are refused by name where they do not fit, or where there is no such unit', () => {
    expect(spreadSkylights(job, 'SK1', 0, inches(60), 2)).toBe(
      `${unit!.name}, between the references: 2 units 2'-6 1/2" wide do not fit in 5'-0".`,
    );
    expect(spreadSkylights(job, 'SK9', 0, inches(60), 2)).toContain('SK9');
  });
});
