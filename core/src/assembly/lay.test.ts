import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cases } from '../../fixtures/seeds.ts';
import { compareLay } from './assemble.ts';
import {
  type LayKey,
  afterCourses,
  alongEave,
  alongRake,
  barrierAmongSheets,
  barrierFlap,
  barrierRow,
  barrierRowOverSheet,
  beforeAll,
  beforeCourse,
  evening,
  opening,
  inCourse,
  inStarter,
  isAfterValleySheets,
  masonryAbove,
  onDeck,
  ridge,
  rightAfter,
  rightBefore,
  slitRow,
  topSeal,
  underlaymentRow,
  upsideDown,
  upWall,
  valleyMetal,
  valleySheet,
  wallFinish,
  wholeRoof,
  wrap,
  wrapAtTop,
} from './lay.ts';

/** A slope whose sheets come at one place and whose courses at another. */
const slope = (order: number, courses = order) => ({
  order,
  orderAt: () => courses,
  slits: [300, 700, 1000, 2000].map((from) => ({ from })),
});
const one = slope(0);

/** Every key comes before the next. */
const expectInOrder = (keys: readonly (readonly [name: string, key: LayKey])[]): void => {
  for (let i = 1; i < keys.length; i++)
    expect(compareLay(keys[i - 1]![1], keys[i]![1]), `${keys[i - 1]![0]}, then ${keys[i]![0]}`).toBeLessThan(0);
};

describe('the order of laying', () => {
  it('of a whole slope, from what is there before to what is let into the masonry', () => {
    expectInOrder([
      ['what is there', beforeAll()],
      ['make safe', wholeRoof('makeSafe')],
      ['deck', onDeck(one)],
      ['eave metal', alongEave(one, 'on deck')],
      ['barrier', barrierRow(one, 0, 0)],
      ['barrier’s second row', barrierRow(one, 1, 0)],
      ['eave metal over it', alongEave(one, 'over barrier')],
      ['the evening after it', evening('overBarrier')],
      ['an opening', opening(one, 900, 0)],
      ['the evening after it', evening('opening')],
      ['valley sheet', valleySheet(one, 0, 0)],
      ['barrier over it', barrierRowOverSheet(one, 0, 0)],
      ['eave metal over that', alongEave(one, 'over barrier over sheet')],
      ['membrane up a wall', upWall(one, 0, 0)],
      ['underlayment', underlaymentRow(one, 0, 0)],
      ['rake metal', alongRake(one)],
      ['dried in', wholeRoof('driedIn')],
      ['masonry opened', masonryAbove(one, 900)],
      ['the evening after it', evening('masonry')],
      ['valley metal', valleyMetal(one, 0)],
      ['what the slope waits for', beforeCourse(one, 0)],
      ['starter', inStarter(one)],
      ['course 1', inCourse(one, 1, 'shingles')],
      ['the evening after its courses', afterCourses(one, 1)],
      ['a vent at the ridge', ridge(one, 'vent')],
      ['ridge', ridge(one, 'caps')],
      ['strip over the steps', topSeal(one, 0, 0)],
      ['what is cut for counterflashing', rightBefore(wallFinish(one, 'face', 0, 0))],
      ['counterflashing', wallFinish(one, 'face', 0, 0)],
      ['water test', wholeRoof('waterTest')],
      ['its second line', wholeRoof('waterTest', 1)],
      ['hand-over', wholeRoof('handOver')],
    ]);
  });

  it('one opening at a time: all of one, on whatever slope, before the next is begun', () => {
    expectInOrder([
      ['the one at 900', opening(one, 900, 0)],
      ['its last line', opening(one, 900, 6)],
      ['the one at 2000', opening(one, 2000, 0)],
      ['the other slope’s', opening(slope(1), 100, 0)],
    ]);
  });

  it('of what stands on the slope: felt below goes under its wrap, felt above over it', () => {
    expectInOrder([
      ['felt below a thing at 1000', slitRow(one, undefined, 3, 0)],
      ['its bottom strip', wrap(one, 1000, 'bottom', 0)],
      ['its side strips', wrap(one, 1000, 'sides', 0)],
      ['its top strip', wrap(one, 1000, 'top', 0)],
      ['felt above it', slitRow(one, 1000, 0, 0)],
      ['the bottom strip of a thing higher up', wrap(one, 2000, 'bottom', 0)],
      ['felt above that', slitRow(one, 2000, 0, 0)],
      ['felt where nothing stands', underlaymentRow(one, 0, 0)],
      ['the strip under a wall along the top', wrapAtTop(one, 0)],
    ]);
  });

  it('by levels, not by heights: a thing a hair higher is laid with its neighbour, one a millimetre higher after it', () => {
    const [, , level] = wrap(one, 700, 'bottom', 0);
    expect([300, 700, 1000, 2000].map((height) => wrap(one, height, 'bottom', 0)[2])).toEqual([1, 2, 3, 4]);
    expect(wrap(one, 700.01, 'bottom', 0)[2]).toBe(level);
    const near = { ...one, slits: [{ from: 700 }, { from: 701 }] };
    expectInOrder([
      ['the lower one’s top strip', wrap(near, 700, 'top', 0)],
      ['felt above it', slitRow(near, 700, 0, 0)],
      ['the upper one’s bottom strip', wrap(near, 701, 'bottom', 0)],
    ]);
  });

  it('of barrier among the sheets up the slope: after the sheet of a valley that begins there; a flap after its wrap’s sides', () => {
    expectInOrder([
      ['barrier before all sheets', barrierAmongSheets(one, undefined, 1, 500)],
      ['a valley’s sheet', wrap(one, 700, 'valleySheet', 0)],
      ['barrier over it', barrierAmongSheets(one, 700, 0, 0)],
      ['its next row', barrierAmongSheets(one, 700, 1, 0)],
    ]);
    expectInOrder([
      ['a pipe’s lower collar', wrap(one, 300, 'first', 0)],
      ['its upper collar', wrap(one, 300, 'second', 0)],
      ['the flap over it', barrierFlap(one, 300, 0, 9000)],
      ['the next row’s flap', barrierFlap(one, 300, 1, 0)],
    ]);
  });

  it('within a course: back pieces, inside corners, aprons, steps, shingles; all of it before the next course', () => {
    expectInOrder([
      ['course 4', inCourse(one, 4, 'shingles')],
      ['a back piece on it', inCourse(one, 5, 'backPiece', 9000)],
      ['an inside corner', inCourse(one, 5, 'insideCorner')],
      ['an apron', inCourse(one, 5, 'across', 9000)],
      ['a step', inCourse(one, 5, 'flashing')],
      ['course 5', inCourse(one, 5, 'shingles')],
      ['metal past every course', inCourse(one, 5, 'pastAll')],
      ['a step of course 6', inCourse(one, 6, 'flashing')],
    ]);
    expectInOrder([
      ['starter along the eave', inStarter(one)],
      ['starters up the rakes', inStarter(one, 0.5)],
      ['kick-out', inCourse(one, 0, 'kickOut')],
      ['first step', inCourse(one, 1, 'flashing')],
    ]);
  });

  it('on a wall: what faces it, stepped pieces, the back, trays', () => {
    expectInOrder((['face', 'stepped', 'back', 'throughWall'] as const).map((part) => [part, wallFinish(one, part, 0, 0)]));
  });

  it('of two slopes: all of a stage on the first before any of it on the second, whatever the course', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 0, max: 60 }), (n, m) => {
        expect(compareLay(inCourse(slope(0), n, 'shingles'), inCourse(slope(1), m, 'backPiece'))).toBeLessThan(0);
        expect(compareLay(barrierRow(slope(0), n, 0), barrierRow(slope(1), m, 0))).toBeLessThan(0);
      }),
      cases(40),
    );
  });

  it('slopes woven together take turns by height', () => {
    const woven = (height: number) => ({ order: 0, orderAt: () => 2 + height / 1e7 });
    expectInOrder([
      ['course 3 of the one', inCourse(woven(300), 3, 'shingles')],
      ['course 2 of the other, higher up', inCourse(woven(350), 2, 'shingles')],
      ['course 4 of the one', inCourse(woven(440), 4, 'shingles')],
    ]);
  });
});

describe('what is derived', () => {
  const key = inCourse(one, 7, 'flashing', 120);

  it('right after is after, and before whatever else comes next', () => {
    expectInOrder([
      ['itself', key],
      ['a cut strip after it', rightAfter(key, 0.001)],
      ['the next along', rightAfter(key, 1)],
      ['course 7', inCourse(one, 7, 'shingles')],
    ]);
  });

  it('rows upside down come from the top', () => {
    const rows = [0, 1, 2].map((row) => upsideDown(barrierRow(one, row, 0)));
    expect(rows.toSorted(compareLay)).toEqual(rows.toReversed());
  });

  it('only what goes over a valley’s sheet is after it', () => {
    expect(isAfterValleySheets(barrierRow(one, 3, 0))).toBe(false);
    expect(isAfterValleySheets(barrierRowOverSheet(one, 0, 0))).toBe(true);
    expect(isAfterValleySheets(barrierAmongSheets(one, 700, 0, 0))).toBe(true);
  });

  it('a kilometre along a row is still the same row', () => {
    expect(compareLay(barrierAmongSheets(one, 700, 0, 999_999), barrierAmongSheets(one, 700, 1, 0))).toBeLessThan(0);
  });
});
