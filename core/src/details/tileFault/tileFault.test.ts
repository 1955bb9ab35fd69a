import { describe, expect, it } from 'vitest';
import { demoJob, demoLibrary } from '../../../fixtures/demo.ts';
import { backSlope } from '../../../fixtures/tiles.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { printWords } from '../../assembly/index.ts';
import { type FeatureOf, type Job, newFeature, possibleRepairs } from '../../document/index.ts';
import { checkDrainage } from '../../drainage/index.ts';
import { type Plan, checkJob, waterRequests } from '../../plan/index.ts';
import { bounds } from '../../roof/index.ts';

/** Profiled tile 9025 wide, 30 columns of 300.83 counted from the right: a lock at 3309.2, the eleventh from the left. Course 9 has its tails at 2577.7. */
const faulty = (change: Partial<FeatureOf<'tileFault'>> = {}, work?: Job['work']): Job =>
  backSlope((job) => {
    const slope = { id: 'wash-house', eaveLength: 9025, slope: { length: 4650 } };
    job.features = [
      {
        ...(newFeature('tileFault', job, slope) as FeatureOf<'tileFault'>),
        across: { from: 'left', distance: 3290 },
        up: { kind: 'slope', length: 2750 },
        fault: 'side channel broken',
        crossedBy: 'copper',
        ...change,
      },
    ];
    if (work) job.work = work;
  });
const plan = (...of: Parameters<typeof faulty>): Plan => planFor(faulty(...of));
const finished = { plane: 'wash-house', stage: 'finished' } as const;
const told = ({ runSheet }: Plan): string[] =>
  runSheet.flatMap(({ lines }) => lines.map(({ action }) => printWords(action, 'metric')));

describe('a side channel broken by what crosses it', () => {
  const planned = plan();

  it('has flexible flashing under it, from uphill of the break to past the tail, a plate under that, kept from the copper', () => {
    const [flashing] = planned.pieces.filter(({ mark }) => mark === 'TF1-F');
    const { x0, x1, y0, y1 } = bounds(flashing!.covers[0]!.outline);
    expect([(x0 + x1) / 2, y0, y1]).toEqual([11 * (9025 / 30), 2577.69 - 50, 2825].map((at) => expect.closeTo(at, 1)));
    expect(told(planned).join(' ')).toContain('the flashing keeps the plate from touching it');
    expect(planned.order.find(({ product }) => product === 'tollen-flexible-100')?.needed).toBe(1);
    const order = planned.pieces.map(({ mark }) => mark);
    expect(['C08', 'TF1-P', 'TF1-F', 'C09'].map((mark) => order.indexOf(mark))).toEqual(
      ['C08', 'TF1-P', 'TF1-F', 'C09'].map((mark) => order.indexOf(mark)).sort((a, b) => a - b),
    );
  });

  it('is looked for inside from there downward, along what crosses it; where nothing does, at its place', () => {
    const shows = (made: Plan): string =>
      printWords(
        made.panels.find(({ detail }) => detail === 'TF1')!.figures.find(({ label }) => label === 'Shows inside')!.value,
        'metric',
      );
    expect(shows(planned)).toBe('along the underside of the copper, from 2750 mm up the slope downward');
    expect(shows(plan({ fault: 'side channel blocked', crossedBy: null }))).toBe('about 2750 mm up the slope');
  });

  it('sheds; without its flashing, or with one that ends short of the tile below, it drips inside, and that is why', () => {
    expect(waterRequests(planned).flatMap((request) => checkDrainage(planned, request).problems)).toEqual([]);
    const without = { ...planned, pieces: planned.pieces.filter(({ detail }) => detail !== 'TF1') };
    expect(checkDrainage(without, finished).problems.map(({ cause, piece }) => `${cause} at ${piece}`)).toEqual([
      'side channel at C09',
    ]);
    const short = {
      ...planned,
      pieces: planned.pieces.map((piece) =>
        piece.detail === 'TF1'
          ? {
              ...piece,
              covers: piece.covers.map((cover) => ({
                ...cover,
                outline: cover.outline.map(([x, y]) => [x, Math.max(y, 2700)] as const),
              })),
            }
          : piece,
      ),
    };
    expect(checkDrainage(short, finished).problems.map(({ cause }) => cause)).toEqual(['side channel']);
  });

  it('above a pipe what drips runs down to it: still the channel is told', () => {
    const job = faulty();
    job.features.push({
      ...(newFeature('pipe', job, { id: 'wash-house', eaveLength: 9025, slope: { length: 4650 } }) as FeatureOf<'pipe'>),
      across: { from: 'left', distance: 3309 },
      up: { kind: 'slope', length: 1800 },
      diameter: 110,
    });
    const made = planFor(job);
    const without = { ...made, pieces: made.pieces.filter(({ detail }) => detail !== 'TF1') };
    expect(checkDrainage(without, finished).problems.map(({ cause }) => cause)).toContain('side channel');
    expect(checkDrainage(made, finished).problems).toEqual([]);
  });
});

describe('as repairs', () => {
  it('are offered by what is wrong', () => {
    const labels = (fault: FeatureOf<'tileFault'>['fault']): string[] =>
      possibleRepairs(faulty({ fault }), []).map(({ what }) => what);
    expect(labels('tile cracked')).toEqual(['one tile']);
    expect(labels('side channel blocked')).toEqual(['side channel']);
  });

  it('lift the two tiles beside the channel and no more, look at battens and sheet, and lay them back', () => {
    const lines = told(plan({ fault: 'side channel blocked' }, { kind: 'repair', what: 'side channel', of: 'TF1', reuse: true }));
    expect(lines.join('\n')).toContain('Take off course 9, 3008 mm to 3610 mm');
    expect(lines.join('\n')).toContain('about 2 pieces');
    expect(lines.join('\n')).toContain('stack them by strip: 2 of course 9, 9/11 to 9/12.');
    expect(lines.join('\n')).toContain('Look battens and sheet over');
    expect(lines.join('\n')).toContain(
      'rake the debris out of the side channel of course 9, 3309 mm from the left end, and rinse it.',
    );
    expect(lines.length).toBeLessThan(22);
  });

  it('one tile changed orders one', () => {
    const made = plan({ fault: 'tile cracked', crossedBy: null }, { kind: 'repair', what: 'one tile', of: 'TF1', reuse: false });
    expect(made.order.find(({ product }) => product === 'brindlecombe-roll')?.needed).toBe(1);
    expect(told(made).join('\n')).toContain('change the tile of course 9');
    expect(made.repair?.planes).toEqual(['wash-house']);
    // it comes out and the new one goes in by that line alone
    expect(told(made).join('\n')).not.toMatch(/Take off course|Lay course|stack them/);
    expect(checkDrainage(made, finished).problems).toEqual([]);
  });
});

it('on shingles it is told at its place, and the roof is planned', () => {
  const job = demoJob();
  job.features.push({ ...(faulty().features[0] as FeatureOf<'tileFault'>), plane: 'north', up: { kind: 'slope', length: 2000 } });
  expect(checkJob(job, demoLibrary)).toEqual([
    { path: `features.${job.features.length - 1}.plane`, message: expect.stringContaining('is no slope of tiles') as string },
  ]);
  expect(planFor(job).pieces.length).toBeGreaterThan(90);
});
