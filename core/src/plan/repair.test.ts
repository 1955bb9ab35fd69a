import { describe, expect, it } from 'vitest';
import { demoFile, demoHouse, demoLibrary } from '../../fixtures/demo.ts';
import { slopeWith } from '../../fixtures/roofs.ts';
import { planFor } from '../../fixtures/planned.ts';
import { printWords } from '../assembly/index.ts';
import { type Repair, possibleRepairs } from '../document/index.ts';
import { checkDrainage } from '../drainage/index.ts';
import type { RunLine } from '../sequence/index.ts';
import type { Plan } from './index.ts';

const repaired = (what: Repair, of: string, reuse = true, job = demoHouse()): Plan =>
  planFor({ ...job, work: { kind: 'repair', what, of, reuse } });
const linesOf = ({ runSheet }: Plan): RunLine[] => runSheet.flatMap(({ lines }) => lines);
const words = ({ action }: RunLine): string => printWords(action, 'imperial');
const told = (made: Plan): string[] => linesOf(made).map(words);
const line = (made: Plan, text: string): string => told(made).find((one) => one.includes(text)) ?? '';
const coursesBack = (made: Plan): number[] => told(made).flatMap((one) => (/^Lay course (\d+) /.exec(one)?.[1] ? [Number(/^Lay course (\d+) /.exec(one)![1])] : [])); // prettier-ignore

const ALL = possibleRepairs(demoHouse(), ['V1', 'V2']);

describe('the repairs a roof offers', () => {
  it('are those its details can have, by name', () => {
    expect(ALL.map(({ what, of }) => `${what} ${of}`)).toEqual([
      'chimney set CH1', 'loose counterflashing CH1',
      'skylight re-flash SK1', 'skylight renewal SK1', 'skylight re-flash SK2', 'skylight renewal SK2',
      'boot P1', 'boot P2', 'apron HW1', 'through-wall HW1', 'loose counterflashing HW1',
      'step run SW1', 'kick-out SW1', 'step run SW2', 'kick-out SW2', 'valley V1', 'valley V2',
    ]); // prettier-ignore
  });

  it.each(ALL.map(({ what, of, label }) => [label, what, of] as const))(
    '%s: begins with what it is worth, ends with the hose, orders what its lines name, and sheds',
    (_, what, of) => {
      const made = repaired(what, of);
      const all = told(made);
      expect(made.repair).toMatchObject({ what, of });
      expect(all[0]).toMatch(/^Tell the owner first: this is a (cure|stop-gap)\. It lasts .+\. It does not .+\.$/);
      expect(all[1]).toMatch(/^Stop and say so where /);
      // looked at and photographed before anything is touched, and what may be poison tested
      expect(all[2]).toMatch(/^(Look|Walk) .*[Pp]hotograph /);
      expect(all[3]).toMatch(/^Stop where asbestos-cement or lead .* have it tested\.$/);
      expect(linesOf(made)[3]!.holdPoint).toBeDefined();
      expect(line(made, `Hose ${of} from the bottom up`)).not.toBe('');
      // far fewer lines than the roof's, numbered from 1, each once
      expect(linesOf(made).map(({ whole }) => whole)).toEqual(all.map((__, i) => i + 1));
      expect(all.length).toBeLessThan(170);
      expect(linesOf(made).filter(({ holdPoint }) => holdPoint !== undefined).length).toBeGreaterThan(0);
      const byMark = new Map(made.pieces.map(({ mark, product }) => [mark, product]));
      const named = new Set(linesOf(made).flatMap(({ uses = [], pieces }) => [...uses.map(({ product }) => product), ...pieces.map((mark) => byMark.get(mark))]).filter((product) => product !== undefined)); // prettier-ignore
      expect(new Set(made.order.map(({ product }) => product))).toEqual(named);
      // the other slopes are the house's own
      for (const plane of made.repair!.planes) expect(checkDrainage(made, { plane, stage: 'finished' }).problems).toEqual([]);
    },
  );
});

describe('a new boot', () => {
  it('bares the deck under its collar: every course from the first that lies over it to the last below the flange’s top', () => {
    const made = repaired('boot', 'P1');
    const back = coursesBack(made);
    const [low, high] = [back[0]!, back.at(-1)!];
    expect(back).toEqual(Array.from({ length: high - low + 1 }, (_, i) => low + i));
    // the boot lies on course 15 and is covered from course 16; the first whole one above is 18
    expect(high).toBe(17);
    expect(line(made, 'Break the seal')).toContain('course 18, the first whole one above');
    expect(line(made, 'Take off courses')).toContain(`courses ${high} down to ${low}`);
    // a course 13 1/4 in tall reaches over the collar's lower edge, the one below it does not
    const collar = made.pieces.find(({ mark }) => mark === 'P1-M1')!.covers[0]!.outline;
    const y0 = Math.min(...collar.map(([, y]) => y));
    const north = made.planes.find(({ id }) => id === 'north')!.lines;
    const top = (n: number): number => north.first + (n - 1) * north.gauge + north.reach;
    expect(top(low)).toBeGreaterThan(y0);
    expect(top(low - 1)).toBeLessThanOrEqual(y0 + 1e-6);
  });

  it('lays again what comes off, a tenth new for what breaks; or all of it new', () => {
    const pieces = (made: Plan): number => made.order.find(({ product }) => product === 'marrowgate-laminated')!.needed;
    const off = Number(/about (\d+) pieces/.exec(line(repaired('boot', 'P1'), 'Take off'))![1]);
    expect(pieces(repaired('boot', 'P1'))).toBe(Math.ceil(off * 0.1));
    expect(pieces(repaired('boot', 'P1', false))).toBe(off);
    expect(line(repaired('boot', 'P1', false), 'Sort what came off')).toBe('');
  });

  it('is a cure that lasts as long as its collar, by its maker', () => {
    expect(told(repaired('boot', 'P1'))[0]).toContain('this is a cure. It lasts about 15 years, as long as its collar');
  });
});

describe('a skylight', () => {
  it('re-flashed keeps its unit, and says that this is a stop-gap', () => {
    const made = repaired('skylight re-flash', 'SK1');
    expect(told(made)[0]).toContain('this is a stop-gap. It lasts as long as the old unit');
    expect(told(made).filter((one) => /lift the old unit out|set the unit square|cut and frame/.test(one))).toEqual([]);
    expect(made.order.some(({ product }) => product.startsWith('oxbourne-unit'))).toBe(false);
    expect(made.order.some(({ product }) => product.startsWith('oxbourne-kit'))).toBe(true);
  });

  it('renewed has its unit out and a new one in, and strips 2 ft each side, 18 in below and two courses more at its head', () => {
    const made = repaired('skylight renewal', 'SK1');
    expect(line(made, 'lift the old unit out')).not.toBe('');
    expect(made.order.some(({ product }) => product.startsWith('oxbourne-unit'))).toBe(true);
    // the frame stands from 5'-6" and is 30 1/2 in wide
    expect(line(made, 'Take off courses')).toContain(`3'-6" to 10'-0 1/2"`);
    const back = coursesBack(made);
    // 70 in less 18 is 52: course 10 begins at 50 1/8; 116 1/2 and 18 are 134 1/2: course 24 begins at 128 7/8, and two more
    expect([back[0], back.at(-1)]).toEqual([10, 26]);
    // a repair says how far by the course, not twice
    expect(told(made).filter((one) => one.includes('round the old unit'))).toEqual([]);
  });
});

describe('other repairs', () => {
  it('of steps are the whole run, a course after each', () => {
    const made = repaired('step run', 'SW1');
    const steps = told(made).filter((one) => /set step SW1-/i.test(one));
    expect(steps).toHaveLength(37);
    expect(coursesBack(made)).toEqual(Array.from({ length: 37 }, (_, i) => i + 1));
    const order = told(made);
    for (let n = 2; n <= 37; n++)
      expect(order.findIndex((one) => one.includes(`SW1-${String(n).padStart(2, '0')} `))).toBeLessThan(order.findIndex((one) => one.startsWith(`Lay course ${n} `))); // prettier-ignore
  });

  it('of steps up to a ridge open the caps over them and close them again with new ones; under an apron that is eased up', () => {
    const made = repaired('step run', 'SW1');
    expect(line(made, 'first whole one above')).toBe('');
    // 39 3/8 in of ridge at a cap's exposure, and the one next to them
    const { exposure } = demoLibrary.catalog.items.find(({ kind }) => kind === 'ridgeCap') as unknown as { exposure: number };
    const caps = Math.ceil((39.375 * 25.4) / exposure) + 1;
    expect(line(made, 'caps off the ridge')).toBe(`Take ${caps} caps off the ridge over it, the nails of each first.`);
    expect(line(made, 'Cap the ridge again')).toContain(`: ${caps} new caps, the last under the one that stayed.`);
    const all = told(made);
    expect(all.findIndex((one) => one.startsWith('Cap the ridge again'))).toBeGreaterThan(
      all.findIndex((one) => one.startsWith('Lay course 37 back')),
    );
    const under = repaired('step run', 'SW2');
    expect(line(under, 'first whole one above')).toBe('');
    expect(line(under, 'Lift the apron')).toContain('over course 18');
    expect(line(under, 'Press the apron down on course 18')).not.toBe('');
    expect(line(under, 'Cap the ridge')).toBe('');
  });

  it('of a valley lay back both slopes its whole length, and no slope else', () => {
    const made = repaired('valley', 'V1');
    expect(made.repair!.planes.toSorted()).toEqual(['cross-west', 'south']);
    // a course cut and bedded takes its cement, one laid across none: 5 5/8 in of slope are 7 9/16 in of valley
    const cement = (course: string): number[] =>
      linesOf(made)
        .filter((one) => words(one).startsWith(`Lay course ${course} `))
        .flatMap(({ uses = [] }) => uses.filter(({ product }) => product?.includes('cement')).map(({ amount }) => amount / 25.4));
    expect(cement('20')).toHaveLength(1);
    expect(made.order.some(({ name }) => name.startsWith('Asphalt cement'))).toBe(true);
    const sheet = told(made).findIndex((one) => one.startsWith('V1: press self-adhered sheet'));
    expect(sheet).toBeGreaterThan(0);
    expect(sheet).toBeLessThan(told(made).findIndex((one) => one.startsWith('Lay course')));
  });

  it('of loose counterflashing hang nothing new, all round', () => {
    const made = repaired('loose counterflashing', 'CH1');
    expect(made.order.filter(({ product }) => /reglet|sheet|wedge/.test(product))).toEqual([]);
    for (const face of ['front', 'left side', 'right side', 'back'])
      expect(line(made, `Stove chimney, ${face}: refix it`)).not.toBe('');
    // 29 1/16, 42, 29 1/16 and 75 in at 12 in or less, one at each end: 4, 5, 4 and 8
    expect(made.order.find(({ product }) => product.includes('masonry'))!.needed).toBe(4 + 5 + 4 + 8);
  });

  it('of an apron leave the flashing through the wall where it is', () => {
    const made = repaired('apron', 'HW1');
    const all = told(made);
    const [up, apron, down] = ['bend the ledge metal’s leg up', 'lay apron HW1-A1', 'down over the new apron'].map((text) =>
      all.findIndex((one) => one.includes(text)),
    );
    expect(up).toBeGreaterThan(0);
    expect(apron).toBeGreaterThan(up!);
    expect(down).toBeGreaterThan(apron!);
    expect(made.order.filter(({ product }) => /wall-|weep|termination/.test(product))).toEqual([]);
  });

  it('in slates cut nails with the ripper, and press no seal', () => {
    const job = demoFile('keepers-cottage-porch');
    const [first] = possibleRepairs(job, []).filter(({ what }) => what === 'step run');
    const made = repaired('step run', first!.of, true, job);
    expect(line(made, 'ripper')).not.toBe('');
    expect(line(made, 'Press course')).toBe('');
  });

  it('in tiles number whole ones: as many come off as the columns that are named', () => {
    const made = repaired('boot', 'P1', true, demoFile('keepers-cottage-front'));
    // the base is 500 wide about 4390, and a tile's width beside it: 3805 to 4975 is in columns 13 to 17
    expect(line(made, 'stack them by strip')).toContain('5 of each of courses 7 to 5, columns 13 to 17.');
    expect(line(made, 'Lay course 6 back')).toContain('5 pieces');
    // along the wall at an angle, by its sheet: cut tiles under half in courses 3 to 8 are one piece with the tile beside them
    const run = told(repaired('step run', 'SW1', true, demoFile('keepers-cottage-front')));
    expect(run.find((one) => one.includes('stack them by strip'))).toContain(
      '2 of each of courses 14 to 9, columns 29 to 30; 1 of each of courses 8 to 3, column 29; 2 of each of courses 2 to 1, columns 28 to 29.',
    );
  });

  it('whose detail is not on the roof is told, and the whole roof planned', () => {
    const made = planFor({ ...slopeWith(['pipe']), work: { kind: 'repair', what: 'boot', of: 'P9', reuse: true } });
    expect(made.repair).toBeUndefined();
    const found = made.findings.find(({ id }) => id === 'work.repair')!;
    expect(printWords(found.sentence, 'imperial')).toBe(
      'Repair: there is no pipe P9 on this roof to have its new boot or base; the whole roof is planned.',
    );
    expect(linesOf(made).length).toBeGreaterThan(40);
    // a skylight's mark cannot have a boot
    expect(repaired('boot', 'SK1').repair).toBeUndefined();
  });
});
