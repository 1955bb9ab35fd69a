import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { changed, demoJob, demoLibrary, slopePart, slopeRecord, stripOf } from '../../fixtures/demo.ts';
import { anyJob } from '../../fixtures/jobs.ts';
import { cases } from '../../fixtures/seeds.ts';
import { planFor } from '../../fixtures/planned.ts';
import { type Piece, compareLay, printWords } from '../assembly/index.ts';
import type { Job } from '../document/index.ts';
import { bounds, slopeLength, wallToSlope } from '../roof/index.ts';
import { buttLine, interfaceLines } from '../surface/index.ts';
import { inches, onTwelve, toInches } from '../units/index.ts';
import { type Plan, checkJob, planJob } from './index.ts';

const piecesOf = (made: Plan, role: Piece['role'], detail?: string): Piece[] =>
  made.pieces.filter((piece) => piece.role === role && (detail === undefined || piece.detail === detail));
const roofCover = (piece: Piece) => {
  const outline = piece.covers[0]!.outline;
  const xs = outline.map(([x]) => x);
  const ys = outline.map(([, y]) => y);
  return { x0: Math.min(...xs), x1: Math.max(...xs), y0: Math.min(...ys), y1: Math.max(...ys) };
};

describe('the Ringing House north plane', () => {
  const demo = planFor(demoJob());

  it('comes out as worked by hand: 37 courses, 37 steps, 51.4" of ice barrier in 2 rows', () => {
    const [plane] = demo.planes;
    expect(plane!.lines.count).toBe(37);
    expect(plane!.walls[0]!.pieces).toBe(37);
    expect(toInches(plane!.barrier!.needed)).toBeCloseTo(51.4, 1);
    expect(plane!.barrier!.rows).toHaveLength(2);
    expect(toInches(plane!.barrier!.needed - plane!.barrier!.level)).toBeCloseTo(5.43, 2);
    expect(demo.findings).toEqual([]);
  });

  it('leaves 2 3/8" headlap under 8" steps and nails every one within it', () => {
    const [plane] = demo.planes;
    expect(toInches(plane!.walls[0]!.step!.headlap)).toBeCloseTo(2.375, 9);
    const steps = piecesOf(demo, 'step');
    for (const [i, step] of steps.entries()) {
      const nails = demo.fasteners.filter(({ piece }) => piece === step.mark);
      expect(nails).toHaveLength(1);
      const [, y] = nails[0]!.at;
      if (i === steps.length - 1) continue;
      expect(y).toBeGreaterThan(buttLine(plane!.lines, step.course! + 1));
      // the first begins 2 in up, over the kick-out's bend
      const lower = i === 0 ? inches(2) : buttLine(plane!.lines, step.course!);
      expect(bounds(step.covers[0]!.outline).y0).toBeCloseTo(lower, 6);
      expect(y).toBeLessThan(lower + inches(8));
    }
  });

  it('adds a kick-out on the starter, under the first step', () => {
    const [kickOut] = piecesOf(demo, 'kickOut');
    expect(kickOut!.liesOn).toContain('ST');
    expect(demo.pieces.find(({ mark }) => mark === 'SW1-01')!.liesOn).toContain('SW1-K');
  });

  it('orders by package, with what is left', () => {
    const line = (product: string) => demo.order.find((candidate) => candidate.product === product);
    expect(line('pellwick-step-8-4x4-al')).toMatchObject({ needed: 37, packages: 1, leftPieces: 13 });
    expect(line('pellwick-gutter-apron-al')).toMatchObject({ needed: 5, bound: 5 });
    expect(line('tollen-standard')).toMatchObject({ unit: 'rolls', needed: 2 });
  });

  it('tells the order from the eave up, step before the course that covers it', () => {
    const lines = demo.planes[0]!.runSheet.flatMap(({ lines }) => lines);
    expect(lines.map(({ line }) => line)).toEqual(lines.map((_, i) => i + 1));
    const at = (text: string): number => lines.findIndex(({ action }) => printWords(action, 'imperial').includes(text));
    const order = [
      'Set anchors',
      'Look the deck over',
      'gutter apron',
      'ice barrier row 1',
      'ice barrier row 2',
      'Close up for the night: tarp the bare deck',
      'membrane strip',
      'Synthetic underlayment',
      'rake metal',
      'Walk the whole roof',
      'Lay the starter',
      'kick-out SW1-K',
      'set step SW1-01',
      'Lay course 1,',
      'Set step SW1-02',
      'Lay course 2,',
      'Cap the ridge',
      'strip 4" wide',
      'close with',
      'Hose from the bottom up',
      'with the magnet',
      'Hand over',
    ];
    const places = order.map(at);
    expect(places.every((place) => place >= 0)).toBe(true);
    expect(places).toEqual([...places].sort((a, b) => a - b));
  });

  it('gives the runoff along the wall, growing towards the eave', () => {
    const flow = demo.planes[0]!.walls[0]!.flow;
    // 5 in/h × 184 in level × (4 in leg + 96 in × 0.5): 13.07 L/min
    expect(flow[0]!.collected).toBeCloseTo((127 / 60) * (184 * 52 * 25.4 ** 2) * 1e-6, 6);
    for (let i = 1; i < flow.length; i++) expect(flow[i]!.collected).toBeLessThan(flow[i - 1]!.collected);
  });
});

describe('what a rule or a maker changes', () => {
  it('takes a longer stock where a maker asks 3" of headlap, or says none fits', () => {
    const thrupley = planFor(changed((job) => void (stripOf(job).shingle = 'thrupley-moorland')));
    expect(thrupley.planes[0]!.walls[0]!.step).toMatchObject({ product: 'pellwick-step-10-5x5-al' });
    const copper = changed((job) => {
      stripOf(job).shingle = 'thrupley-moorland';
      stripOf(job).metal = 'copper';
    });
    const short = {
      ...demoLibrary,
      catalog: { ...demoLibrary.catalog, items: demoLibrary.catalog.items.filter(({ id }) => id !== 'pellwick-step-10-5x5-cu') },
    };
    const none = planJob(copper, short);
    expect(none.findings.map(({ id }) => id)).toContain('SW1.none-fits');
    expect(piecesOf(none, 'step')).toHaveLength(37);
  });

  it('swapping the shingle maker changes what differs and nothing else', () => {
    const before = planFor(demoJob());
    const after = planFor(changed((job) => void (stripOf(job).shingle = 'thrupley-moorland')));
    for (const role of [
      'gutterApron',
      'iceBarrier',
      'wallMembrane',
      'underlayment',
      'rakeMetal',
      'starter',
      'ridgeCap',
      'kickOut',
    ] as const) {
      expect(piecesOf(after, role)).toEqual(piecesOf(before, role));
    }
    expect(piecesOf(after, 'step').map(({ mark }) => mark)).toEqual(piecesOf(before, 'step').map(({ mark }) => mark));
    expect(piecesOf(after, 'step')[0]!.product).not.toBe(piecesOf(before, 'step')[0]!.product);
    const differing = after.planes[0]!.requirements.filter(
      (requirement, i) => JSON.stringify(requirement) !== JSON.stringify(before.planes[0]!.requirements[i]),
    ).map(({ key }) => key);
    expect(differing).toEqual([
      'covering.pitch',
      'covering.exposure',
      'covering.jointOffset',
      'covering.nails',
      'stepFlashing.headlap',
      'stepFlashing.wallLeg',
    ]);
  });

  it('lets two sources that contradict each other wait for a choice', () => {
    const swap = (job: Job): void => void (stripOf(job).underlayers.iceBarrier = 'quillhaven-hightemp');
    const conflict = planFor(changed(swap)).findings.find(({ id }) => id === 'rule.eave.order');
    expect(printWords(conflict!.sentence, 'imperial')).toContain(
      'Model residential code and Quillhaven Sheets: high-temperature sheet contradict each other',
    );
    const decided = planFor(
      changed((job) => {
        swap(job);
        stripOf(job).underlayers.eaveOrder = 'barrier-first';
        job.decisions['eave.order'] = { source: 'Quillhaven Sheets: high-temperature sheet', reason: 'inspector agreed on site' };
      }),
    );
    expect(decided.findings).toEqual([]);
    // 1 1/2 in fold: row 1 reaches 34 1/2, row 2 (3 1/2 in lap) 67
    expect(decided.planes[0]!.barrier!.rows.map(({ to }) => toInches(to))).toEqual([34.5, 67]);
  });

  it('doubles the underlayment under 4/12 and lengthens the barrier from 8/12', () => {
    const low = planFor(changed((job) => void (slopePart(job).pitch = onTwelve(3))));
    expect(low.planes[0]!.requirements.find(({ key }) => key === 'underlayment.layers')!.least).toBe(2);
    const covering = piecesOf(low, 'underlayment').map(roofCover);
    const { end: top } = low.planes[0]!.lines;
    for (let y = low.planes[0]!.barrier!.covered + 1; y < top; y += 50)
      expect(covering.filter(({ y0, y1 }) => y0 <= y && y <= y1).length).toBeGreaterThanOrEqual(2);
    const narrow = changed((job) => {
      Object.assign(slopePart(job), { pitch: onTwelve(12), overhang: 0, wallThickness: 0 });
    });
    expect(toInches(planFor(narrow).planes[0]!.barrier!.needed)).toBeCloseTo(36, 9);
  });

  it('calls a wall that runs past the eave without a kick-out a leak', () => {
    const finding = planFor(changed((job) => void (slopeRecord(job).walls[0]!.foot = 'corner'))).findings[0];
    expect(finding).toMatchObject({ severity: 'leaks', id: 'SW1.kick-out', key: 'kickOut.required' });
  });

  it('counterflashes masonry in a straight reglet that covers the steps by the rule', () => {
    const made = planFor(changed((job) => void (slopeRecord(job).walls[0]!.cladding = 'masonry')));
    const counters = piecesOf(made, 'counter');
    expect(counters).toHaveLength(2); // 205.7" in 10 ft lengths with 3" laps
    expect(piecesOf(made, 'topSeal')).toEqual([]);
    const low = Math.min(...counters[0]!.covers[0]!.outline.map((point) => wallToSlope(point, 0.5).u));
    expect(4 - toInches(low)).toBeGreaterThanOrEqual(2);
  });
});

describe('the corner piece where an apron lies at the foot', () => {
  it('starts at max(y(n0), ya − a) and keeps the count of 11', () => {
    const job = changed((draft) => {
      Object.assign(slopeRecord(draft).walls[0]!, {
        from: inches(61),
        to: inches(113),
        foot: 'corner',
        runsPastEave: false,
        apronLeg: inches(5),
      });
    });
    const steps = piecesOf(planFor(job), 'step');
    expect(steps).toHaveLength(11);
    expect(steps[0]!.course).toBe(11);
    // y(11) = 55 3/4 in, the apron's leg starts at 56 in
    expect(toInches(roofCover(steps[0]!).y0)).toBeCloseTo(56, 9);
    expect(steps[0]!.liesOn).toEqual(['C11', 'SW1-A']);
    expect(steps[0]!.flat!.outline).toHaveLength(6);
  });
});

describe('for every plane, wall and covering', () => {
  it('same input gives the same bytes, and no figure is missing', () => {
    fc.assert(
      fc.property(anyJob, (job) => {
        const made = planFor(job);
        expect(JSON.stringify(planJob(structuredClone(job), demoLibrary))).toBe(JSON.stringify(made));
        // what the job leaves open stays open in its own slopes; a plan has no such figure
        expect(JSON.stringify({ ...made, roof: [] })).not.toMatch(/:null|NaN/);
      }),
      cases(16),
    );
  });

  it('as many steps as interface lines, none apart from the next, every nail under what covers it', () => {
    fc.assert(
      fc.property(anyJob, (job) => {
        const made = planFor(job);
        const { lines } = made.planes[0]!;
        for (const wall of slopeRecord(job).walls) {
          const steps = piecesOf(made, 'step', wall.id);
          const met = interfaceLines(lines, wall.from, wall.to ?? lines.end);
          expect(steps).toHaveLength(met.last - met.first + 1);
          steps.forEach((step, i) => {
            const here = roofCover(step);
            const next = steps[i + 1] && roofCover(steps[i + 1]!);
            // at the ridge the slope itself ends the lap
            if (next) expect(here.y1 - next.y0).toBeGreaterThanOrEqual(Math.min(inches(2), lines.end - next.y0) - 1e-6);
            for (const nail of made.fasteners.filter(({ piece }) => piece === step.mark)) {
              const up = nail.facet.includes('/') ? wallToSlope(nail.at, made.planes[0]!.pitch).s : nail.at[1];
              expect(up).toBeGreaterThan(here.y0);
              expect(up).toBeLessThan(here.y1);
              if (next) expect(up).toBeGreaterThan(next.y0);
              if (next) expect(up).toBeLessThan(next.y1);
            }
          });
        }
      }),
      cases(40),
    );
  });

  it('the barrier covers the distance needed along the whole eave, and the underlayment the rest', () => {
    fc.assert(
      fc.property(
        anyJob,
        fc.double({ min: 0.01, max: 0.99, noNaN: true }),
        fc.double({ min: 0.001, max: 0.999, noNaN: true }),
        (job, across, up) => {
          const made = planFor(job);
          const { lines, barrier } = made.planes[0]!;
          const plane = slopePart(job);
          const [x, y] = [across * plane.eaveLength, up * lines.end];
          const inWall =
            made.facets.length > 1 &&
            !piecesOf(made, 'underlayment')
              .concat(piecesOf(made, 'iceBarrier'))
              .some((piece) => covers(piece, x, y));
          if (inWall) {
            // bare only where a wall stands: no course lies there either
            expect(piecesOf(made, 'course').some((piece) => covers(piece, x, y))).toBe(false);
            return;
          }
          const role = barrier && y <= barrier.needed ? 'iceBarrier' : undefined;
          const sheets = made.pieces.filter((piece) =>
            role ? piece.role === role : piece.role === 'underlayment' || piece.role === 'iceBarrier',
          );
          expect(sheets.some((piece) => covers(piece, x, y))).toBe(true);
          if (barrier) expect(barrier.covered).toBeGreaterThanOrEqual(Math.min(barrier.needed, lines.end) - 0.4);
        },
      ),
      cases(60),
    );
  });

  it('everything is laid after what it lies on, and no covering nail stands in a zone', () => {
    fc.assert(
      fc.property(anyJob, (job) => {
        const made = planFor(job);
        const byMark = new Map(made.pieces.map((piece) => [piece.mark, piece]));
        for (const piece of made.pieces) {
          for (const mark of piece.liesOn) expect(compareLay(byMark.get(mark)!.lay, piece.lay)).toBeLessThan(0);
        }
        const role = new Map(made.pieces.map((piece) => [piece.mark, piece.role]));
        for (const zone of made.zones) {
          const [low, high] = [zone.outline[0]!, zone.outline[2]!];
          for (const nail of made.fasteners) {
            if (nail.inHeadlap || nail.facet !== zone.facet || !zone.against.includes(role.get(nail.piece)!)) continue;
            if (zone.piece && compareLay(byMark.get(nail.piece)!.lay, byMark.get(zone.piece)!.lay) < 0) continue;
            const inside =
              nail.at[0] > low[0] + 0.5 && nail.at[0] < high[0] - 0.5 && nail.at[1] > low[1] + 0.5 && nail.at[1] < high[1] - 0.5;
            expect(inside, `${nail.piece} in the zone of ${zone.detail}`).toBe(false);
          }
        }
      }),
      cases(16),
    );
  });
});

function covers(piece: Piece, x: number, y: number): boolean {
  return piece.covers.some(({ facet, outline }) => {
    if (facet.includes('/')) return false;
    const { x0, x1, y0, y1 } = bounds(outline);
    return x >= x0 - 0.5 && x <= x1 + 0.5 && y >= y0 - 0.5 && y <= y1 + 0.5;
  });
}

it('refuses what cannot be planned, one sentence each that names the field', () => {
  const problems = (change: (job: Job) => void): string[] =>
    checkJob(changed(change), demoLibrary).map(({ path, message }) => `${path}: ${message}`);
  const wall = (job: Job) => slopeRecord(job).walls[0]!;
  expect(problems(() => undefined)).toEqual([]);
  expect(problems((job) => void (slopePart(job).pitch = onTwelve(1.5)))).toEqual([
    'parts.0.pitch: Pitch: 1.5/12 is under the least for Laminated shingle, 2/12.',
  ]);
  expect(problems((job) => void (stripOf(job).exposure = inches(6)))).toEqual([
    'coverings.0.exposure: Exposure: 6" is more than Marrowgate Shingle Works allows for Laminated shingle, 5 5/8".',
  ]);
  expect(problems((job) => void (wall(job).to = inches(240)))[0]).toContain(
    'parts.0.planes.0.walls.0.to: Hide tower, west wall, upper end: 20\'-0" is past the top of the slope',
  );
  expect(problems((job) => void (wall(job).x = inches(600)))[0]).toContain('is past the end of the eave');
  expect(problems((job) => void (stripOf(job).shingle = 'slate-of-old'))).toEqual([
    'coverings.0.shingle: Shingle: the catalog has no such item as "slate-of-old".',
  ]);
  expect(problems((job) => void job.packs.push({ id: 'model-code', version: 9 }))[0]).toContain('version 9');
  expect(slopeLength(slopePart(demoJob()).slope, 0.5)).toBeCloseTo(inches(205.72), 0);
});
