import { describe, expect, it } from 'vitest';
import { packFlatStock } from './packFlatStock.ts';

const sheet = { width: 600, length: 2000 };
const blanks = (count: number, width: number, length: number) => Array.from({ length: count }, () => ({ width, length }));

describe('sheets for blanks cut by a shear', () => {
  it.each([
    // two on a shelf, three shelves on a sheet
    ['six that fill a sheet', blanks(6, 200, 1000), 1, 1],
    ['one more', blanks(7, 200, 1000), 2, 2],
    // 0.78 of the sheet by area, but a third shelf has no room
    ['three too deep for three shelves', blanks(3, 260, 1200), 2, 1],
    // the short one goes on the first shelf beside the long one, given either way round
    ['a short one beside a long one', [...blanks(1, 300, 1500), ...blanks(1, 500, 300), ...blanks(1, 290, 1900)], 1, 1],
    ['none', [], 0, 0],
  ])('%s', (_, asked, needed, bound) => {
    expect(packFlatStock(asked, sheet)).toEqual({ needed, bound });
  });

  it('refuses what fits no sheet, with both sizes', () => {
    expect(() => packFlatStock(blanks(1, 700, 2100), sheet)).toThrow('a blank of 700 × 2100 does not fit the sheet');
  });
});
