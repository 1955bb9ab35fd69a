import { describe, expect, it } from 'vitest';
import { demoLibrary } from '../../../fixtures/demo.ts';
import { feature, slopeWith } from '../../../fixtures/roofs.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { type Piece, printWords } from '../../assembly/index.ts';
import type { FeatureOf, Job } from '../../document/index.ts';
import { type Plan, planJob } from '../../plan/index.ts';
import { bounds } from '../../roof/index.ts';
import { inches, toInches } from '../../units/index.ts';

const jobWith = (change: Partial<FeatureOf<'chimney'>>, more: (job: Job) => void = () => undefined, pitch = 6): Job =>
  slopeWith(
    ['chimney'],
    (features, job) => {
      Object.assign(feature(features, 'chimney'), {
        across: { from: 'left', distance: inches(60) },
        up: { kind: 'slope', length: inches(60) },
        ...change,
      });
      more(job);
    },
    { eave: 200, up: 200, pitch },
  );
const chimney = (...told: Parameters<typeof jobWith>): Plan => planFor(jobWith(...told));
const one = ({ pieces }: Plan, mark: string): Piece => pieces.find((piece) => piece.mark === mark)!;
const roles = ({ pieces }: Plan): Set<Piece['role']> =>
  new Set(pieces.filter(({ detail }) => detail === 'CH1').map(({ role }) => role));
const told = (plan: Plan, id: string): string => {
  const finding = plan.findings.find((found) => found.id === id);
  return finding ? `${finding.severity}: ${printWords(finding.sentence, 'imperial')}` : 'nothing';
};

describe('what lies behind a chimney', () => {
  it.each([
    [30, 'by the rules', 'pan'],
    [30.25, 'by the rules', 'cricket'],
    [24, 'cricket', 'cricket'],
    [40, 'pan', 'pan'],
  ] as const)('%d in wide, %s: a %s', (width, back, role) => {
    const plan = chimney({ width: inches(width), back });
    expect(roles(plan)).toContain(role);
    expect(roles(plan)).not.toContain(role === 'pan' ? 'cricket' : 'pan');
  });

  it('a pan where the code wants a cricket breaks a rule, with the width it goes by', () => {
    const broken = (width: number): number =>
      chimney({ width: inches(width), back: 'pan' }).findings.filter(
        ({ key, severity }) => key === 'chimney.cricketOver' && severity === 'breaks a rule',
      ).length;
    expect([broken(40), broken(30), broken(24)]).toEqual([1, 0, 0]);
  });

  it('42 in at 6/12: the table’s cricket is 10 1/2 in high and 23.5 in up the slope, its two halves alike', () => {
    const plan = chimney({ width: inches(42) });
    const cricket = plan.pieces.find(({ role }) => role === 'cricket')!;
    expect(cricket.halves).toBe(2);
    expect(
      printWords(
        plan.panels.find(({ detail }) => detail === 'CH1')!.figures.find(({ label }) => /height/i.test(label))!.value,
        'imperial',
      ),
    ).toMatch(/10 1\/2"/);
    const slopes = plan.drifts.map(({ towards }) => towards).toSorted((a, b) => a - b);
    expect(slopes).toEqual([-1, 1]);
    // level ridge of 21 in is 23.48 in along the slope
    const apex = Math.max(...plan.drifts.flatMap(({ outline }) => outline.map(([, y]) => y)));
    const back = Math.min(...plan.drifts.flatMap(({ outline }) => outline.map(([, y]) => y)));
    expect(toInches(apex - back)).toBeCloseTo(21 * Math.hypot(1, 0.5), 3);
  });

  it('a cricket lower than the table’s is planned by the table, and said; a higher one as high as it was asked for', () => {
    const low = chimney({ width: inches(42), cricketHeight: inches(8) });
    expect(told(low, 'CH1.height')).toMatch(/^breaks a rule: .*a cricket 8" high is below the table’s 10 1\/2"/);
    const high = chimney({ width: inches(42), cricketHeight: inches(14) });
    expect(told(high, 'CH1.height')).toBe('nothing');
    const rise = (plan: Plan): number => {
      const ys = plan.drifts.flatMap(({ outline }) => outline.map(([, y]) => y));
      return Math.max(...ys) - Math.min(...ys);
    };
    expect(rise(high) / rise(low)).toBeCloseTo(14 / 10.5, 3);
  });

  it('its wings lap over the last steps of both sides', () => {
    for (const width of [24, 42]) {
      const plan = chimney({ width: inches(width) });
      const back = plan.pieces.findIndex(({ role }) => role === 'pan' || role === 'cricket');
      const steps = plan.pieces.flatMap(({ role, detail }, i) => (role === 'step' && detail === 'CH1' ? [i] : []));
      expect(Math.max(...steps)).toBeLessThan(back);
      const metal = plan.pieces[back]!.covers.filter(({ facet }) => facet === 'north').flatMap(({ outline }) => outline);
      const box = bounds(metal);
      for (const side of ['L', 'R']) {
        const last = plan.pieces.filter(({ mark }) => new RegExp(`^CH1${side}-\\d+$`).test(mark)).at(-1)!;
        const step = bounds(last.covers.find(({ facet }) => facet === 'north')!.outline);
        // the last step goes up into what lies behind, under its wing
        expect(step.y1, `${width} ${side}`).toBeGreaterThan(box.y0);
        expect(Math.min(step.x1, box.x1) - Math.max(step.x0, box.x0)).toBeGreaterThan(inches(1));
      }
    }
  });
});

describe('the four faces', () => {
  it('have steps up both sides, as many on each, an apron in front, membrane all round before any of it', () => {
    const plan = chimney({ width: inches(30), depth: inches(26) });
    const count = (side: string): number =>
      plan.pieces.filter(({ mark, role }) => role === 'step' && mark.startsWith(`CH1${side}-`)).length;
    expect(count('L')).toBe(count('R'));
    // 26 in level at 6/12 are 29 in of slope: five or six butt lines at 5 5/8 in
    expect([5, 6, 7]).toContain(count('L'));
    const first = plan.pieces.findIndex(({ detail, role }) => detail === 'CH1' && role !== 'wallMembrane' && role !== 'cladding');
    const membranes = plan.pieces.flatMap(({ detail, role }, i) => (detail === 'CH1' && role === 'wallMembrane' ? [i] : []));
    expect(membranes.length).toBeGreaterThanOrEqual(4);
    expect(Math.max(...membranes)).toBeLessThan(first);
  });

  it('in masonry are counterflashed on all four; framed they have cladding instead, and no mason comes', () => {
    const masonry = chimney({ masonry: true, counter: 'stepped' });
    const facets = new Set(
      masonry.pieces.filter(({ role }) => role === 'counter').flatMap(({ covers }) => covers.map(({ facet }) => facet)),
    );
    for (const face of ['F', 'L', 'R', 'B']) expect(facets).toContain(`north/CH1${face}`);
    const framed = chimney({ masonry: false });
    expect(roles(framed)).not.toContain('counter');
    expect(framed.steps.some(({ crew }) => crew === 'masons')).toBe(false);
    expect(masonry.steps.some(({ crew }) => crew === 'masons')).toBe(true);
  });

  it('on a steeper slope the same chimney takes more steps, and its sheet says how many', () => {
    const steps = (pitch: number): number => {
      const plan = chimney({ width: inches(24), depth: inches(26) }, undefined, pitch);
      const figure = plan.panels.find(({ detail }) => detail === 'CH1')!.figures.find(({ label }) => label === 'Steps a side')!;
      const count = plan.pieces.filter(({ mark, role }) => role === 'step' && mark.startsWith('CH1L-')).length;
      expect(printWords(figure.value, 'imperial')).toMatch(new RegExp(`^${count},`));
      return count;
    };
    expect([steps(4) <= steps(8), steps(8) <= steps(12), steps(4) < steps(12)]).toEqual([true, true, true]);
  });
});

describe('what is said of it', () => {
  it('snow behind a wide one without a cricket, where ice dams are on record and nowhere else', () => {
    const snow = (iceDams: boolean) =>
      told(
        chimney({ width: inches(28), back: 'pan' }, (job) => void (job.site.iceDams = iceDams)),
        'CH1.snow',
      );
    expect(snow(true)).not.toBe('nothing');
    expect(snow(false)).toBe('nothing');
  });

  it('metal the catalog has no sheet of is said, and what lies behind is still planned', () => {
    const library = {
      ...demoLibrary,
      catalog: { ...demoLibrary.catalog, items: demoLibrary.catalog.items.filter(({ kind }) => kind !== 'flatSheet') },
    };
    const plan = planJob(jobWith({ width: inches(24) }), library);
    expect(plan.findings.some(({ sentence }) => printWords(sentence, 'imperial').includes('no flat aluminium sheet'))).toBe(true);
    expect(one(plan, 'CH1F-A1')).toBeDefined();
  });
});
