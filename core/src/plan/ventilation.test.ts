import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoHouse } from '../../fixtures/demo.ts';
import { anyCrossed, anyDormered, crossed } from '../../fixtures/roofs.ts';
import { cases } from '../../fixtures/seeds.ts';
import { planFor } from '../../fixtures/planned.ts';
import { printWords } from '../assembly/index.ts';
import type { Job, Ventilation } from '../document/index.ts';
import { inches } from '../units/index.ts';
import { type Plan } from './index.ts';

const SQ_FT = 304.8 ** 2;
const SQ_IN = 25.4 ** 2;
const house = (change: (job: Job) => void = () => undefined): Plan => {
  const job = demoHouse();
  change(job);
  return planFor(job);
};
const vented = (floor: number, intake: number, others = false): Ventilation => ({
  exhaust: 'ridge vent',
  floor: floor * SQ_FT,
  intake: intake * SQ_IN,
  others,
});
const lines = ({ runSheet }: Plan): string[] =>
  runSheet.flatMap(({ lines: own }) => own.map(({ action }) => printWords(action, 'imperial')));
const line = (made: Plan, text: string): string => lines(made).find((one) => one.includes(text)) ?? '';
const kinds = ({ findings }: Plan): string[] =>
  findings.map(({ id }) => id).filter((id) => id.startsWith('ventilation.') && !id.startsWith('ventilation.balanced'));
const sentence = ({ findings }: Plan, id: string): string => {
  const found = findings.find((one) => one.id === id);
  return found ? printWords([...found.sentence, ' ', ...found.fix], 'imperial') : '';
};

describe('ventilation', () => {
  it('of the house: 1300 ft² of floor ask 624 in² balanced; 330 in² at the eaves allow 18\'-4" of slot, 330 in² out', () => {
    const { ventilation, order } = house();
    expect(ventilation!.needed / SQ_IN).toBeCloseTo((1300 * 144) / 300, 0);
    expect(ventilation!.balanced).toBe(true);
    // 72 in² to a length of 4 ft is 1 1/2 in² to an inch
    expect(ventilation!.slot).toBeCloseTo(inches(330 / 1.5), 0);
    expect(ventilation!.exhaust / SQ_IN).toBeCloseTo(330, 0);
    expect(kinds(house())).toEqual([]);
    // over the whole 44 ft of ridge, slot or not: 11 lengths, 4 nails in each
    expect(order.find(({ product }) => product === 'marrowgate-ridge-vent')).toMatchObject({ needed: 11, packages: 2 });
  });

  it('lets out no more than the eaves let in, whatever the roof', () => {
    fc.assert(
      fc.property(
        fc.oneof(anyCrossed, anyDormered),
        fc.double({ min: 0, max: 2000, noNaN: true }),
        fc.double({ min: 100, max: 4000, noNaN: true }),
        (job, intake, floor) => {
          const made = planFor({ ...job, ventilation: vented(floor, intake) });
          const { ventilation } = made;
          expect(ventilation!.exhaust).toBeLessThanOrEqual(intake * SQ_IN + 1);
          expect(ventilation!.slot).toBeLessThanOrEqual(ventilation!.ridge);
          const slots = lines(made).filter((one) => one.startsWith('Snap the slot'));
          expect(slots.length > 0).toBe(ventilation!.slot > 0);
          // told short exactly where it is
          const short = ventilation!.exhaust + ventilation!.intake < ventilation!.needed - 1;
          expect(kinds(made).includes('ventilation.short')).toBe(short);
        },
      ),
      cases(8),
    );
  });

  it('that is not decided is a finding, and that is decided against is none', () => {
    expect(
      sentence(
        house((job) => void (job.ventilation = null)),
        'ventilation.open',
      ),
    ).toMatch(/is not decided/);
    const none = house((job) => void (job.ventilation = { exhaust: 'none', reason: 'insulated between the rafters' }));
    expect(kinds(none)).toEqual([]);
    expect(none.ventilation).toBeUndefined();
    expect(line(none, 'Snap the slot')).toBe('');
  });

  it('says what is too little, what is out of balance, and what draws through other vents', () => {
    expect(
      sentence(
        house((job) => void (job.ventilation = vented(1300, 200))),
        'ventilation.short',
      ),
    ).toBe(
      'Vents come to 400 in² net free, 200 in² of it at the eaves; the attic’s floor asks 624 in², 1 part in 300. Open 224 in² more, half of it at the eaves.',
    );
    expect(kinds(house((job) => void (job.ventilation = vented(1300, 330, true))))).toEqual(['ventilation.mixed']);
    const asItIs = house(
      (job) => void (job.ventilation = { exhaust: 'as it is', floor: 1300 * SQ_FT, intake: 100 * SQ_IN, outlet: 400 * SQ_IN }),
    );
    expect(sentence(asItIs, 'ventilation.intake')).toBe(
      'The eaves let in 100 in², less than the 400 in² let out: the rest is drawn from the rooms below. Open 300 in² more at the eaves.',
    );
    // four fifths of it up the roof: 1 in 150, twice as much
    expect(asItIs.ventilation).toMatchObject({ balanced: false, onePartIn: 150 });
    expect(sentence(asItIs, 'ventilation.short')).toMatch(/asks 1248 in², 1 part in 150. Balance them/);
  });

  it.each([
    // outlet, intake, square inches: from 40 to 50 parts in 100 of it let out up the roof is balanced, and asks half as much
    [400, 600, 300],
    [500, 500, 300],
    [390, 610, 150],
    [600, 400, 150],
  ])('%i in² out and %i in² in asks 1 part in %i', (outlet, intake, onePartIn) => {
    const { ventilation } = house(
      (job) =>
        void (job.ventilation = { exhaust: 'as it is', floor: 1300 * SQ_FT, intake: intake * SQ_IN, outlet: outlet * SQ_IN }),
    );
    expect(ventilation).toMatchObject({ balanced: onePartIn === 300, onePartIn });
  });

  it('has its slot before its vent, and that before the caps, whose nails reach through it', () => {
    const made = house();
    const all = lines(made);
    const at = (text: string): number => all.findIndex((one) => one.includes(text));
    expect(at('Snap the slot')).toBeLessThan(at('Lay the vent the whole ridge'));
    expect(at('Lay the vent the whole ridge')).toBeLessThan(at('Cap the ridge once both slopes are laid: 66'));
    const nails = (one: Plan): string =>
      printWords(
        one.steps.find(({ action }) => printWords(action, 'imperial').startsWith('Cap the ridge'))!.fasteners!,
        'imperial',
      );
    const without = nails(house((job) => void (job.ventilation = null)));
    const length = (text: string): number => Number(/(\d+) (\d+)\/(\d+)" or longer/.exec(text)?.slice(1).map(Number).reduce((_, __, i, [whole, top, bottom]) => (i === 2 ? whole! + top! / bottom! : 0), 0)); // prettier-ignore
    expect(length(nails(made)) - length(without)).toBeCloseTo(0.75, 2);
  });
});

describe('the nails of the caps', () => {
  it('reach through the vent where one lies under them, and nowhere else', () => {
    const nailOf = (plane: string): string =>
      house().steps.find((step) => step.plane === plane && printWords(step.action, 'imperial').startsWith('Cap the ridge'))!
        .uses![0]!.name;
    expect(nailOf('north')).toBe('Roofing nail 2 1/2 in, galvanised');
    // the cross gable's ridge has no slot: the eaves let in no more than the main ridge lets out
    expect(nailOf('cross-east')).toBe('Roofing nail 1 3/4 in, galvanised');
  });
});

describe('the caps of a ridge', () => {
  // the main ridge runs east and west
  it.each([
    [240, 'its east end, away from the weather from the south-west'],
    [90, 'its west end, away from the weather from the east'],
    [0, 'either end, the weather coming square to it from the north'],
    [315, 'its east end, away from the weather from the north-west'],
  ])('begin by weather from %s°', (from, told) => {
    const made = house((job) => void (job.site.wind = { from, exposed: false }));
    expect(line(made, 'Cap the ridge once both slopes are laid: 66')).toContain(`begun at ${told}.`);
  });

  it('begin at the end away from the weather where nobody said where that comes from', () => {
    expect(
      line(
        house((job) => void (job.site.wind = null)),
        'laid: 66',
      ),
    ).toContain('begun at the end away from the weather.');
  });
});

describe('a ridge that dies into another slope', () => {
  it('has a piece of sheet over the heads of its valleys before the rows, and its last cap under the course above', () => {
    const made = planFor(crossed());
    const all = lines(made);
    const sheet = all.findIndex((one) => one.startsWith('Cover the end of'));
    expect(all[sheet]).toContain('36" × 36"');
    expect(sheet).toBeGreaterThan(all.findLastIndex((one) => /valley sheet/i.test(one) && !one.startsWith('Cover the end')));
    expect(sheet).toBeLessThan(all.findIndex((one) => one.startsWith('Unroll')));
    // its ridge comes in 6 ft level up from the eave of equal pitch: 72 in × 1.118 = 80 1/2 in up the slope
    const south = made.planes.find(({ id }) => id === 'south')!;
    const above = Number(/Lift course (\d+)/.exec(line(made, 'slide the last cap'))![1]);
    expect(south.lines.first + (above - 1) * south.lines.gauge).toBeGreaterThan(inches(80.4));
    expect(south.lines.first + (above - 2) * south.lines.gauge).toBeLessThan(inches(80.6));
    // the sheet is on the order with the rest of its roll
    expect(made.steps.flatMap(({ uses = [] }) => uses).some(({ cuts }) => cuts?.[0] === inches(36))).toBe(true);
  });

  it('says nothing of a ridge that ends at two gables', () => {
    const gable = planFor(crossed((job) => void job.parts.splice(1)));
    expect(line(gable, 'Cover the end of')).toBe('');
    expect(line(gable, 'Lay the vent')).toContain('Push its end plugs in at both gables.');
  });
});
