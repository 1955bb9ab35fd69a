import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoFile, demoHouse, demoLibrary } from '../../fixtures/demo.ts';
import { anyJob } from '../../fixtures/jobs.ts';
import { VALLEYS, anyCrossed, anyDormered, anyFeatured, dormered, feature, slopeWith, valleyOf } from '../../fixtures/roofs.ts';
import { cases } from '../../fixtures/seeds.ts';
import { planFor } from '../../fixtures/planned.ts';
import { type Use, band, bead, partsOf, printWords, usesWords } from '../assembly/index.ts';
import { type Item, itemsOf } from '../catalog/index.ts';
import { type Plan, planJob } from '../plan/index.ts';
import { bounds, outlineArea } from '../roof/index.ts';
import { inches, onTwelve, toInches } from '../units/index.ts';
import { buyWords } from '../exchange/index.ts';
import { packFlatStock } from './index.ts';

const usesOf = (made: Plan): Use[] => made.steps.flatMap(({ uses = [] }) => uses);
const ordered = (made: Plan, product: string) => made.order.find((line) => line.product === product);

describe('sealants and cements', () => {
  const tube = { id: 'x', name: 'x' };
  it('a tube of 10.1 fl oz runs 371 in of 1/4 in bead and 165 in of 3/8 in; a gallon of cement 616 in of 3 × 1/8 in band', () => {
    const millilitres = (use: Use): number => (use.amount * use.section!) / 1000;
    const perInch = (use: Use): number => millilitres(use) / toInches(use.amount);
    expect(298.7 / perInch(bead(tube, '', inches(100), inches(1 / 4)))).toBeCloseTo(371, 0);
    expect(298.7 / perInch(bead(tube, '', inches(100), inches(3 / 8)))).toBeCloseTo(165, 0);
    expect(3785.41 / perInch(band(tube, '', inches(100), inches(3), inches(1 / 8)))).toBeCloseTo(616, 0);
  });

  it('are said in the line and ordered from it, never none where a line uses some', () => {
    const house = planFor(demoHouse());
    for (const product of [
      'tollen-polyurethane',
      'tollen-cement-tube',
      'tollen-cement-pail',
      'quillhaven-mastic',
      'quillhaven-air-barrier',
    ])
      expect(ordered(house, product)!.packages, product).toBeGreaterThan(0);
    // both valleys' cut sides: two lines of 204 in, a band of cement along each, and a gallon runs 616 in
    expect(ordered(house, 'tollen-cement-pail')!.packages).toBe(1);
    const boot = house.steps.find(({ pieces }) => pieces.includes('P1-B'))!;
    expect(printWords(usesWords(boot.uses!), 'imperial')).toMatch(
      /^4|5 × Roofing nail.*Asphalt cement, tube, \d+ \S+ of 3\/8" bead/,
    );
  });
});

describe('what the order used to forget', () => {
  const house = planFor(demoHouse());

  it('starter and cap nails: 4 to a starter, 2 to a cap, long enough for what they go through', () => {
    const starter = house.steps.find(({ action }) =>
      printWords(action, 'imperial').startsWith('Lay the starter along the eave'),
    )!;
    const pieces = house.pieces.filter(({ mark }) => starter.pieces.includes(mark));
    const units = pieces.reduce((sum, { units: own }) => sum + own!.whole + own!.parts.length, 0);
    expect(starter.uses).toMatchObject([{ amount: 4 * units, unit: 'pieces' }]);
    const ridge = house.steps.find(({ action }) => printWords(action, 'imperial').startsWith('Cap the ridge'))!;
    // 5 layers of 3/16 in, 3/4 in of vent and 3/4 in into the deck: 2 7/16 in
    expect(ridge.uses![0]!.name).toBe('Roofing nail 2 1/2 in, galvanised');
    const caps = house.pieces.find(({ mark }) => ridge.pieces.includes(mark))!.units!.whole;
    expect(ridge.uses![0]!.amount).toBe(2 * caps);
  });

  it('frame tape: sill, two sides and head, each 8 in longer than the frame, and a patch at each corner', () => {
    const tape = house.steps.find(({ action }) => printWords(action, 'imperial').includes('tape the frame'))!;
    expect(tape.uses![0]!.cuts!.map((length) => Math.round(toInches(length) * 10) / 10)).toEqual([
      38.5, 54.5, 54.5, 38.5, 8, 8, 8, 8,
    ]);
    expect(ordered(house, tape.uses![0]!.product!)!.unit).toBe('rolls');
  });

  it('what the catalog lacks stands in the line and is said to be off the order', () => {
    const without = { ...demoLibrary, catalog: { ...demoLibrary.catalog, items: demoLibrary.catalog.items.filter(({ id }) => id !== 'tollen-cement-tube') } }; // prettier-ignore
    const made = planJob(slopeWith(['pipe']), without);
    const lacking = made.findings.find(({ id }) => id === 'order.asphalt-cement')!;
    expect(printWords(lacking.sentence, 'imperial')).toBe(
      'The catalog has no asphalt cement that will do, so it is not on the order; 1 line uses it.',
    );
  });
});

it('an open valley of 204 in has 18 cleats a side, all of them ordered', () => {
  const job = demoHouse();
  for (const key of VALLEYS) job.valleys[key] = valleyOf('open');
  const made = planFor(job);
  for (const { id } of made.valleys) {
    const cleats = made.fasteners.filter(({ piece, product }) => piece.startsWith(`${id}-L`) && product.includes('cleat'));
    const sides = [...new Set(cleats.map(({ facet }) => facet))].map(
      (facet) => cleats.filter((one) => one.facet === facet).length,
    );
    expect(sides).toEqual([18, 18]);
  }
  expect(ordered(made, 'pellwick-cleat-al')).toMatchObject({ needed: 72, packages: 2 });
});

it('a lining whose edge runs past a hip has no cleats on that side, and the plan says so', () => {
  const made = planFor(
    dormered('hip', (dormer, roof, job) => {
      Object.assign(roof, { pitch: onTwelve(4), width: inches(420) });
      const measures = { width: 33.9, height: 33.12, centre: 330 };
      for (const [field, value] of Object.entries(measures)) Object.assign(dormer, { [field]: inches(value) });
      Object.assign(dormer, { pitch: onTwelve(5.17), from: { kind: 'slope', length: inches(20) } });
      for (const side of ['left', 'right']) job.valleys[`hip-front+dormer-${side}`] = valleyOf('open');
    }),
  );
  const past = made.findings.filter(({ key }) => key === 'valley.cleats');
  expect(past.map(({ id }) => id)).toEqual(['V2.hip-front.cleats']);
  const on = (facet: string) => made.fasteners.filter((one) => one.piece.startsWith('V2-L') && one.facet === facet).length;
  expect(on('hip-front')).toBe(0);
  expect(on('dormer-right')).toBeGreaterThan(1);
  const line = made.steps.find(({ detail, pieces }) => detail === 'V2' && pieces.includes('V2-L1'))!;
  expect(printWords(line.fasteners!, 'imperial')).toMatch(/^(\d+) cleats, \1 along its edge on Dormer, right slope/);
  const all = made.fasteners.filter(({ product }) => product.includes('cleat')).length;
  expect(ordered(made, 'pellwick-cleat-al')!.needed).toBe(all);
});

describe('pieces larger than what they are cut from', () => {
  it('a strip wider than its roll is laid in rows that lap: behind a wide chimney two strips, none over 36 in', () => {
    const made = planFor(demoHouse());
    const strips = made.pieces.filter(({ mark }) => /^CH1-M\d$/.test(mark));
    expect(strips.map(({ mark }) => mark)).toEqual(['CH1-M4', 'CH1-M5']);
    for (const { mark, sheetWidth } of strips) expect(toInches(sheetWidth!), mark).toBeLessThanOrEqual(36 + 1e-6);
    const [lower, upper] = strips.map(({ covers }) => bounds(covers[0]!.outline));
    expect(toInches(lower!.y1 - upper!.y0)).toBeCloseTo(3, 6);
    expect(upper!.y1).toBeGreaterThan(lower!.y1);
  });

  it('a cricket behind 130 in of chimney is parted with 4 in laps, said in its line, and the order has sheets enough', () => {
    const made = planFor(
      slopeWith(
        ['chimney'],
        (all) =>
          Object.assign(feature(all, 'chimney'), {
            width: inches(130),
            depth: inches(30),
            across: { from: 'left', distance: inches(60) },
          }),
        { eave: 260, up: 240 },
      ),
    );
    const cricket = made.pieces.find(({ role }) => role === 'cricket')!;
    const { x0, x1, y0, y1 } = bounds(cricket.flat!.outline);
    const sheet = itemsOf(demoLibrary.catalog, 'flatSheet').find(({ id }) => id === cricket.product)!;
    const parts = partsOf({ width: x1 - x0, length: y1 - y0 }, sheet);
    expect(parts.length).toBeGreaterThan(1);
    const line = made.steps.find(({ pieces }) => pieces.includes(cricket.mark))!;
    expect(printWords(line.action, 'imperial')).toMatch(/Larger than the sheet: \d parts, upper over lower, laps 4"/);
    const area = 2 * Math.abs(outlineArea(cricket.flat!.outline));
    expect(ordered(made, sheet.id)!.needed * sheet.width * sheet.length).toBeGreaterThan(area);
  });

  it('parts cover their blank with every lap, fit the sheet, and a small blank takes the small sheet', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 50, max: 9000, noNaN: true }),
        fc.double({ min: 50, max: 9000, noNaN: true }),
        (width, length) => {
          const sheet = { width: inches(48), length: inches(120) };
          const parts = partsOf({ width, length }, sheet);
          const area = parts.reduce((sum, part) => sum + part.width * part.length, 0);
          expect(area).toBeGreaterThanOrEqual(width * length - 1);
          expect(packFlatStock(parts, sheet).needed * sheet.width * sheet.length).toBeGreaterThanOrEqual(area - 1);
        },
      ),
    );
    const made = planFor(demoHouse());
    const counters = made.pieces.filter(({ role, detail }) => role === 'counter' && detail === 'CH1' && role === 'counter');
    expect(new Set(counters.flatMap(({ flat, product }) => (flat && product?.includes('sheet') ? [product] : [])))).toEqual(
      new Set(['pellwick-sheet-small-al']),
    );
  });
});

/** What one package holds, in the pieces' own measure; undefined for what is counted piece by piece. */
function stockOf(item: Item): number | undefined {
  switch (item.kind) {
    case 'iceBarrier':
    case 'underlayment':
      return item.rollLength * item.width;
    case 'flatSheet':
      return item.width * item.length;
    default:
      return undefined;
  }
}

describe('the order is never short', () => {
  it('fasteners: what steps use is at least what is placed; sheets and rolls: at least what pieces cover', () => {
    fc.assert(
      fc.property(fc.oneof(anyJob, anyFeatured, anyCrossed, anyDormered), (job) => {
        const made = planFor(job);
        const placed = new Map<string, number>();
        for (const { product } of made.fasteners) placed.set(product, (placed.get(product) ?? 0) + 1);
        const used = new Map<string, number>();
        for (const { product, unit, amount } of usesOf(made))
          if (product !== undefined && unit === 'pieces') used.set(product, (used.get(product) ?? 0) + amount);
        for (const [product, count] of placed) {
          expect(used.get(product), product).toBeGreaterThanOrEqual(count);
          expect(ordered(made, product)!.needed).toBe(used.get(product));
        }
        for (const item of demoLibrary.catalog.items) {
          const stock = stockOf(item);
          const pieces = made.pieces.filter(({ product }) => product === item.id);
          if (stock === undefined || pieces.length === 0) continue;
          const need = pieces.reduce(
            (sum, { flat, halves, cutLength, sheetWidth, covers }) =>
              sum +
              (flat ? Math.abs(outlineArea(flat.outline)) * (halves ?? 1) : Math.max((cutLength ?? 0) * (sheetWidth ?? 0), covers.reduce((all, { outline }) => all + Math.abs(outlineArea(outline)), 0))),
            0,
          ); // prettier-ignore
          expect(ordered(made, item.id)!.needed * stock, item.id).toBeGreaterThanOrEqual(need * 0.999);
        }
      }),
      { ...cases(16), endOnFailure: true },
    );
  });
});

describe('the truck leaves once', () => {
  /** Products that lines name: what they use, and what their pieces are made of. */
  const namedIn = (made: Plan): Set<string> => {
    const byMark = new Map(made.pieces.map(({ mark, product }) => [mark, product]));
    return new Set(
      made.runSheet
        .flatMap(({ lines }) => lines)
        .flatMap(({ uses = [], pieces }) => [...uses.map(({ product }) => product), ...pieces.map((mark) => byMark.get(mark))])
        .filter((product) => product !== undefined),
    );
  };
  const orderedIn = (made: Plan): Set<string> => new Set(made.order.map(({ product }) => product));

  it('what the lines of the demo jobs name is what is ordered, neither more nor less, and nothing is lacking', () => {
    for (const job of [
      demoHouse(),
      ...['keepers-cottage-porch', 'keepers-cottage-wash-house', 'peat-shed-shakes'].map(demoFile),
    ]) {
      const made = planFor(job);
      expect(orderedIn(made), job.name).toEqual(namedIn(made));
      expect(made.findings.filter(({ id }) => id.startsWith('order.'))).toEqual([]);
    }
  });

  it('and of any roof', () => {
    fc.assert(
      fc.property(fc.oneof(anyJob, anyFeatured, anyCrossed, anyDormered), (job) => {
        const made = planFor(job);
        expect(orderedIn(made)).toEqual(namedIn(made));
      }),
      { ...cases(12), endOnFailure: true },
    );
  });

  it('packages and loose ones together are what is needed and what is bought beside it, and never a package more', () => {
    fc.assert(
      fc.property(
        fc.oneof(anyJob, anyFeatured, anyCrossed),
        fc.double({ min: 0, max: 0.5, noNaN: true }),
        fc.double({ min: 0, max: 0.5, noNaN: true }),
        (job, covering, fasteners) => {
          for (const line of planFor({ ...job, spare: { covering, fasteners } }).order) {
            if (line.unit === 'rolls' || line.leftPieces === undefined) continue;
            const wanted = line.needed + line.extra.reduce((sum, { count }) => sum + count, 0);
            const got = line.packages * line.perPackage + (line.loose ?? 0);
            expect(got - wanted, line.product).toBe(line.leftPieces);
            expect(line.leftPieces).toBeGreaterThanOrEqual(0);
            expect(line.leftPieces).toBeLessThan(line.perPackage);
            // a spare is a whole piece at least, and no more than its share asks
            for (const { count } of line.extra) expect(Math.abs(count - line.needed * (/dropped/.test(line.extra[0]!.why) ? fasteners : covering))).toBeLessThan(1); // prettier-ignore
          }
        },
      ),
      { ...cases(8), endOnFailure: true },
    );
  });

  it('a job that buys nothing beside what is needed has no such lines', () => {
    const made = planFor({ ...demoHouse(), spare: { covering: 0, fasteners: 0 } });
    expect(made.order.flatMap(({ extra }) => extra)).toEqual([]);
    const usual = ordered(planFor(demoHouse()), 'marrowgate-laminated')!;
    expect(usual.extra).toEqual([{ count: Math.ceil(usual.needed * 0.02), why: 'breakage, 2 %' }]);
  });

  it('metal sold loose is not bought by the bundle for a length or two', () => {
    const apron = ordered(planFor(demoHouse()), 'pellwick-apron-al')!;
    expect([apron.needed, apron.packages, apron.loose]).toEqual([2, 0, 2]);
    expect(buyWords(apron)).toBe('2 loose lengths');
    // 8 lengths of gutter apron of 10 to a bundle: a bundle is the smaller parcel
    expect(buyWords(ordered(planFor(demoHouse()), 'pellwick-gutter-apron-al')!)).toBe('1 bundle');
  });

  it('wedges: one at each end of every piece, and one every 18 in: 42 in of chimney front in one piece takes 4', () => {
    const front = planFor(demoHouse()).steps.find(({ action }) =>
      printWords(action, 'imperial').startsWith('Stove chimney, front: wedge'),
    )!;
    expect(front.uses![0]).toMatchObject({ product: 'pellwick-wedge', amount: 4 });
  });

  it('a cricket’s ridge, two valley boards and post: 21, 31 1/2, 31 1/2 and 10 1/2 in, and a sheet for both faces', () => {
    const made = planFor(demoHouse());
    const frame = made.steps.find(({ action }) => printWords(action, 'imperial').includes('frame the cricket'))!;
    expect(frame.uses![0]!.cuts!.map((length) => Math.round(toInches(length) * 2) / 2)).toEqual([21, 31.5, 31.5, 10.5]);
    expect(frame.uses![1]).toMatchObject({ product: 'holmgarth-sheet-58', amount: 1 });
  });

  it('headers between the uncut rafters: two cut at 16 in leave 46 1/2 in clear, four members, deeper than a stud', () => {
    const made = planFor(demoHouse());
    const opening = made.steps.find(({ action }) => printWords(action, 'imperial').includes('West skylight: cut and frame'))!;
    expect(opening.uses![0]!.cuts!.map(toInches)).toEqual([46.5, 46.5, 46.5, 46.5]);
    expect(opening.uses![0]!.product).toBe('holmgarth-timber-2x8');
  });

  it('tarps cover the largest slope: two of 20 × 30 ft over 44 ft × 17 ft', () => {
    const ready = planFor(demoHouse()).steps.find(({ action }) => printWords(action, 'imperial').startsWith('Have 2 tarps'))!;
    expect(ready.uses).toMatchObject([{ product: 'skelby-tarp', amount: 2 }]);
  });

  it('a kit with fewer steps than courses meet the frame is told, with what to order beside it', () => {
    const short = { ...demoLibrary, catalog: { ...demoLibrary.catalog, items: demoLibrary.catalog.items.map((item) => (item.kind === 'skylightKit' ? { ...item, steps: 7 } : item)) } }; // prettier-ignore
    const found = planJob(demoHouse(), short).findings.filter(({ id }) => id.startsWith('SK') && id.includes('kitSteps'));
    expect(found.map(({ sentence, fix }) => printWords([...sentence, ' ', ...fix], 'imperial'))).toEqual(
      ['West', 'East'].map((name) => `${name} skylight: its kit brings 7 steps a side, and 9 courses meet the frame: a course each. Order 4 steps more of its maker.`), // prettier-ignore
    );
    expect(planFor(demoHouse()).findings.filter(({ id }) => id.includes('kitSteps'))).toEqual([]);
  });
});

describe('primer', () => {
  const primed = (masonry: boolean) => {
    const made = planFor(slopeWith(['chimney'], (all) => Object.assign(feature(all, 'chimney'), { masonry })));
    const lines = made.runSheet.flatMap(({ lines: own }) => own);
    return { made, lines, line: lines.findIndex(({ action }) => printWords(action, 'imperial').includes('prime it')) };
  };

  it('goes on masonry before the first strip that turns up it, is waited for and seen, and is on the order', () => {
    const { made, lines, line } = primed(true);
    const strips = made.pieces
      .filter(({ detail, product }) => detail === 'CH1' && product === 'tollen-standard')
      .map(({ mark }) => mark);
    expect(line).toBeGreaterThanOrEqual(0);
    expect(line).toBeLessThan(lines.findIndex(({ pieces }) => pieces.some((mark) => strips.includes(mark))));
    expect(lines[line]).toMatchObject({ detail: 'CH1', wait: 'primer dry to the touch, by its label' });
    expect(lines[line]!.holdPoint).toContain('primed');
    expect(ordered(made, 'tollen-primer')!.packages).toBe(1);
    // one line for all four faces
    expect(lines.filter(({ action }) => printWords(action, 'imperial').includes('prime it'))).toHaveLength(1);
  });

  it('does not go on boards', () => {
    const { made, line } = primed(false);
    expect(line).toBe(-1);
    expect(ordered(made, 'tollen-primer')).toBeUndefined();
  });
});
