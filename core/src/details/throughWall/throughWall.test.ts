import { describe, expect, it } from 'vitest';
import { demoLibrary } from '../../../fixtures/demo.ts';
import { feature, slopeWith } from '../../../fixtures/roofs.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { inches, toInches } from '../../units/index.ts';
import { chooseWidth, drainageBody, flashingPieces, weepCount } from './index.ts';

const feet = (value: number): number => inches(12 * value);

describe('through-wall flashing', () => {
  it('22 ft in 5 ft lengths: 5 pieces and 9 weeps; 12 ft: 3 and 6', () => {
    expect([flashingPieces(feet(22), feet(5), inches(6)), weepCount(feet(22), inches(33))]).toEqual([5, 9]);
    expect([flashingPieces(feet(12), feet(5), inches(6)), weepCount(feet(12), inches(33))]).toEqual([3, 6]);
  });

  it('22 ft of drainage body in 3 ft pieces with 1 1/2 outlets a foot: 8 pieces, 33 outlets', () => {
    expect(drainageBody(feet(22), feet(3), 1.5)).toEqual({ pieces: 8, outlets: 33 });
  });

  it('takes the next width the catalog has, or says none is wide enough', () => {
    expect(toInches(chooseWidth(demoLibrary.catalog, inches(3.625 + 1 + 8))!.width)).toBe(16);
    expect(chooseWidth(demoLibrary.catalog, inches(40))).toBeUndefined();
    const made = planFor(
      slopeWith(['headwall'], (all) =>
        Object.assign(feature(all, 'headwall'), {
          cladding: 'masonry',
          counter: 'through-wall',
          throughWall: { veneer: inches(12), cavity: inches(8), rise: inches(24), pieceLength: feet(5), pointing: 'sound' },
        }),
      ),
    );
    expect(made.findings.map(({ id }) => id)).toContain('HW1.width');
  });
});
