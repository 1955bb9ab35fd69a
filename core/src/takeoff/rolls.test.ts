import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoLibrary } from '../../fixtures/demo.ts';
import { cases } from '../../fixtures/seeds.ts';
import { type Assembly, type Piece, emptyAssembly, onDeck } from '../assembly/index.ts';
import { itemById, itemsOf } from '../catalog/index.ts';
import { inches } from '../units/index.ts';
import { type OrderLine, listOrder, stripsAcross } from './index.ts';

const { catalog } = demoLibrary;
const barrier = itemById(catalog, 'iceBarrier', 'tollen-standard');
const starter = itemsOf(catalog, 'starter')[0]!;
const sheet = itemsOf(catalog, 'flatSheet').find(({ metal }) => metal === 'aluminium')!;

let count = 0;
const piece = (product: string, rest: Partial<Piece>): Piece => ({
  mark: `X-${++count}`,
  detail: 'X',
  role: 'wallMembrane',
  product,
  covers: [],
  lay: onDeck({ order: 0 }),
  liesOn: [],
  keys: [],
  ...rest,
});
const orderOf = (pieces: readonly Piece[]): OrderLine => {
  const assembly: Assembly = { ...emptyAssembly, pieces };
  return listOrder(assembly, catalog, { covering: 0, fasteners: 0 })[0]!;
};
const strip = (length: number, width?: number): Piece =>
  piece(barrier.id, { cutLength: inches(length), ...(width === undefined ? {} : { sheetWidth: inches(width) }) });

describe('strips from rolls 36 in wide', () => {
  const roll = barrier.rollLength / inches(1);

  it('two half a roll wide come side by side from one length; the third opens another', () => {
    const three = [strip(roll, 18), strip(roll, 18), strip(roll, 18)];
    expect(orderOf(three.slice(0, 2)).needed).toBe(1);
    expect(orderOf(three).needed).toBe(2);
  });

  it('wider than half they take a roll’s length each', () => {
    expect(orderOf([strip(roll, 19), strip(roll, 19)]).needed).toBe(2);
  });

  it('of unlike length, the longer one’s is taken for both', () => {
    // 0.7 and 0.6 of a roll side by side leave 0.3 for the whole strip of 0.3
    expect(orderOf([strip(roll * 0.7, 18), strip(roll * 0.6, 18), strip(roll * 0.29)]).needed).toBe(1);
    expect(orderOf([strip(roll * 0.7, 18), strip(roll * 0.6, 18), strip(roll * 0.31)]).needed).toBe(2);
  });

  it('wider than the roll they are laid as several, lapped 3 in: 48 in takes two, 69 in two, 70 in three', () => {
    expect([36, 48, 69, 70].map((width) => stripsAcross(inches(width), barrier.width))).toEqual([1, 2, 2, 3]);
    expect(orderOf([strip(roll, 48)]).needed).toBe(2);
  });

  it('what is left is what the rolls have more than the strips take', () => {
    const line = orderOf([strip(roll * 0.4), strip(roll * 0.3)]);
    expect(line.needed).toBe(1);
    expect(line.leftLength!).toBeCloseTo(inches(roll * 0.3), 3);
  });

  it('never fewer rolls than the area asks, never more than a roll a strip', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.double({ min: 0.05, max: 1, noNaN: true }), fc.constantFrom(9, 18, 36)), {
          minLength: 1,
          maxLength: 12,
        }),
        (strips) => {
          const { needed, bound } = orderOf(strips.map(([share, width]) => strip(roll * share, width)));
          const area = strips.reduce((sum, [share, width]) => sum + (share * Math.max(width, 18)) / 36, 0);
          expect(needed).toBeGreaterThanOrEqual(Math.ceil(area - 1e-6));
          expect(needed).toBeLessThanOrEqual(strips.length);
          expect(bound!).toBeLessThanOrEqual(needed);
        },
      ),
      cases(100),
    );
  });
});

describe('starters', () => {
  const wide = starter.width;
  const units = (whole: number, ...parts: number[]): Piece =>
    piece(starter.id, { role: 'starter', units: { whole, parts: parts.map((part) => part * wide) } });

  it('parts are cut from further ones, and what is left of one is used where it is long enough', () => {
    expect(orderOf([units(3, 0.5)]).needed).toBe(4);
    expect(orderOf([units(3, 0.5), units(2, 0.5)]).needed).toBe(6);
    expect(orderOf([units(3, 0.6), units(2, 0.5)]).needed).toBe(7);
  });

  it('come by the package, the rest told as left over', () => {
    const line = orderOf([units(starter.perPackage + 1)]);
    expect([line.packages, line.leftPieces]).toEqual([2, starter.perPackage - 1]);
  });
});

describe('flat stock', () => {
  const flat = (width: number, length: number, halves?: 2): Piece =>
    piece(sheet.id, {
      role: 'pan',
      flat: { outline: [[0, 0], [width, 0], [width, length], [0, length]], bends: [] }, // prettier-ignore
      ...(halves ? { halves } : {}),
    });

  it('two blanks that lie side by side take one sheet, a third that does not fit beside them a second', () => {
    const half = sheet.width / 2;
    expect(orderOf([flat(half, sheet.length), flat(half, sheet.length)]).needed).toBe(1);
    expect(orderOf([flat(half, sheet.length), flat(half, sheet.length), flat(half, sheet.length)]).needed).toBe(2);
  });

  it('a pattern cut twice is counted twice', () => {
    expect(orderOf([flat(sheet.width * 0.9, sheet.length * 0.9, 2)]).needed).toBe(2);
  });

  it('three of six tenths of the width need three sheets, though their area would go on two', () => {
    const blanks = [1, 2, 3].map(() => flat(sheet.width * 0.6, sheet.length));
    expect(orderOf(blanks).needed).toBe(3);
    expect(orderOf(blanks).bound).toBe(2);
  });
});
