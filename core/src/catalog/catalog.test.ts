import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoLibrary } from '../../fixtures/demo.ts';
import { findPack } from '../rules/index.ts';
import { inches } from '../units/index.ts';
import {
  catalogSchema,
  chooseLengthMetal,
  chooseNail,
  chooseStepFlashing,
  coatingFor,
  flatStockFor,
  itemsOf,
  largestFlatStock,
  sealantFor,
  stepShortfalls,
} from './index.ts';

const { catalog, packs } = demoLibrary;
const need = {
  metal: 'aluminium' as const,
  length: inches(7.625),
  roofLeg: inches(4),
  wallLeg: inches(4),
  thickness: inches(0.019),
};

describe('the shipped catalog', () => {
  it('names every item once, and only packs that are shipped', () => {
    const ids = catalog.items.map(({ id }) => id);
    expect(new Set(ids).size).toBe(ids.length);
    for (const { instructions } of catalog.items) if (instructions) expect(findPack(packs, instructions)).toBeDefined();
  });

  it('holds what the planner needs, in several sizes and metals', () => {
    expect(new Set(itemsOf(catalog, 'stepFlashing').map(({ metal }) => metal)).size).toBeGreaterThanOrEqual(3);
    expect(itemsOf(catalog, 'shingle')).toHaveLength(2);
    expect(new Set(itemsOf(catalog, 'iceBarrier').map(({ grade }) => grade))).toEqual(new Set(['standard', 'high-temperature']));
  });
});

describe('choosing', () => {
  it('takes the smallest step flashing that fits, whatever the order of the catalog', () => {
    expect(chooseStepFlashing(catalog, need)!.id).toBe('pellwick-step-8-4x4-al');
    expect(chooseStepFlashing({ ...catalog, items: catalog.items.toReversed() }, need)!.id).toBe('pellwick-step-8-4x4-al');
    expect(chooseStepFlashing(catalog, { ...need, length: inches(13) })).toBeUndefined();
  });

  it('thinner than the rules want is a shortfall like any other, and is passed over', () => {
    const chosen = chooseStepFlashing(catalog, need)!;
    expect(stepShortfalls(chosen, { ...need, thickness: chosen.thickness + 0.01 })).toEqual(['thickness']);
    expect(stepShortfalls(chosen, { ...need, thickness: chosen.thickness })).toEqual([]);
    const thicker = chooseStepFlashing(catalog, { ...need, thickness: chosen.thickness + 0.01 });
    expect(thicker === undefined || thicker.thickness > chosen.thickness).toBe(true);
  });

  it('says each side that falls short, alone and all of them', () => {
    const item = chooseStepFlashing(catalog, need)!;
    for (const side of ['length', 'roofLeg', 'wallLeg'] as const)
      expect(stepShortfalls(item, { ...need, [side]: item[side] + 1 })).toEqual([side]);
    expect(stepShortfalls(item, { metal: 'aluminium', length: 9_999, roofLeg: 9_999, wallLeg: 9_999, thickness: 9_999 })).toEqual(
      ['length', 'roofLeg', 'wallLeg', 'thickness'],
    );
  });

  it('never chooses one that falls short, nor passes over a smaller one that fits', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 4, max: 12, noNaN: true }),
        fc.double({ min: 2, max: 7, noNaN: true }),
        fc.double({ min: 2, max: 7, noNaN: true }),
        (length, roofLeg, wallLeg) => {
          const wanted = { ...need, length: inches(length), roofLeg: inches(roofLeg), wallLeg: inches(wallLeg) };
          const chosen = chooseStepFlashing(catalog, wanted);
          const fitting = itemsOf(catalog, 'stepFlashing').filter(
            (item) => item.metal === wanted.metal && stepShortfalls(item, wanted).length === 0,
          );
          if (!chosen) expect(fitting).toEqual([]);
          else for (const item of fitting) expect(chosen.length).toBeLessThanOrEqual(item.length);
        },
      ),
    );
  });

  it('takes a nail that is long enough and suits the metal', () => {
    expect(chooseNail(catalog, 'roofing', inches(1.3), 'copper')).toMatchObject({
      id: 'skelby-copper-1-12',
      suits: ['copper', 'lead'],
    });
    expect(chooseNail(catalog, 'roofing', inches(3), 'copper')).toBeUndefined();
  });

  it('takes the narrowest length metal with the legs asked for', () => {
    expect(chooseLengthMetal(catalog, 'apron', 'copper', { first: inches(6) })!.id).toBe('pellwick-apron-wide-cu');
    expect(chooseLengthMetal(catalog, 'apron', 'copper', { first: inches(9) })).toBeUndefined();
  });
});

it('refuses a size without its unit', () => {
  const shingle = { kind: 'tape', id: 'x', name: 'x', maker: 'x', width: '4', rollLength: '75 ft' };
  const read = (width: string) =>
    catalogSchema.safeParse({ format: 'ruvet-catalog', formatVersion: 1, version: 1, items: [{ ...shingle, width }] });
  expect(read('4 in').success).toBe(true);
  expect(read('4').error!.issues[0]!.message).toBe('"4" is not a size with its unit');
  expect(read('-4 in').success).toBe(false);
});

describe('flat sheet, sealants and coatings', () => {
  const blank = (width: number, length: number) => ({ width: inches(width), length: inches(length) });
  const sheet = (width: number, length: number) => flatStockFor(catalog, 'copper', inches(0.019), blank(width, length))?.id;

  it('the smallest sheet a blank can be cut from, either way round; none where none is large enough', () => {
    expect(sheet(20, 30)).toBe('pellwick-sheet-small-cu');
    expect(sheet(48, 36)).toBe('pellwick-sheet-small-cu');
    expect(sheet(47, 40)).toBe('pellwick-sheet-cu');
    expect(sheet(118, 47)).toBe('pellwick-sheet-cu');
    expect(sheet(121, 10)).toBeUndefined();
    expect(largestFlatStock(catalog, 'copper', inches(0.019))!.id).toBe('pellwick-sheet-cu');
    expect(largestFlatStock(catalog, 'copper', inches(0.5))).toBeUndefined();
  });

  it('cement by the pail for bands, by the tube for beads; each coating by its use', () => {
    expect(sealantFor(catalog, 'cement')!.package).toBe('pail');
    expect(sealantFor(catalog, 'cement', 1000)!.package).toBe('tube');
    expect(sealantFor(catalog, 'joint')!.id).toBe('tollen-polyurethane');
    expect(sealantFor(catalog, 'mastic', 10)).toBeUndefined();
    expect(coatingFor(catalog, 'air barrier')!.litresPerSquareMetre).toBe(1.02);
    expect(coatingFor({ ...catalog, items: [] }, 'liquid membrane')).toBeUndefined();
  });

  it('a base states its metal, and its metal is the one in its name', () => {
    for (const { name, metal, hot, standoff } of itemsOf(catalog, 'boot'))
      if (hot || standoff) expect(name, name).toContain(metal!);
  });
});
