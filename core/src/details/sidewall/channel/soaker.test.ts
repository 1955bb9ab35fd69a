import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cases } from '../../../../fixtures/seeds.ts';
import { LINE_TOLERANCE } from '../../../units/index.ts';
import { channelLengths, channelWater, driftACourse } from './soaker.ts';

const DEGREE = Math.PI / 180;
const shed = {
  up: 4650,
  roofAngle: 30 * DEGREE,
  comesIn: 325,
  wallHeight: 2000,
  width: 75,
  rainPerHour: 75,
  drivenRainShare: 0.5,
};

describe('the channel soaker at the shed’s wall, by hand', () => {
  it('the wall drifts 23.0 a course', () => {
    expect(driftACourse(4 * DEGREE, 4270 / 13)).toBeCloseTo(22.97, 2);
  });

  it('4361 in 3 m lengths lapped 150: 2', () => {
    const { length, pieces } = channelLengths(4650 - 300, 4 * DEGREE, 3000, 150);
    expect(length).toBeCloseTo(4360.6, 1);
    expect(pieces).toBe(2);
  });

  it('6.2 L/min, 1.5 mm deep in a moulded channel, deeper in a metal one', () => {
    const { flow, depth } = channelWater(shed, 'moulded');
    // (0.654 + 0.302 + 4.027) m² × 75 mm/h ÷ 60
    expect(flow).toBeCloseTo(6.23, 2);
    expect(depth).toBeCloseTo(1.496, 2);
    expect(channelWater(shed, 'metal').depth).toBeCloseTo(1.496 * 1.2 ** 0.6, 2);
  });

  it('a roof that narrows upward brings nothing of its own: channel and wall alone', () => {
    // (0.302 + 4.027) m² × 75 ÷ 60
    expect(channelWater({ ...shed, comesIn: -325 }, 'moulded').flow).toBeCloseTo(5.41, 2);
  });
});

it('the pieces of any channel reach from end to end with their laps, and one fewer would not', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 100, max: 20_000, noNaN: true }),
      fc.double({ min: -0.5, max: 0.5, noNaN: true }),
      fc.integer({ min: 1000, max: 4000 }),
      (up, angle, stock) => {
        const { length, pieces } = channelLengths(up, angle, stock, 150);
        expect(length).toBeGreaterThanOrEqual(up);
        expect(pieces * stock - (pieces - 1) * 150).toBeGreaterThanOrEqual(length - LINE_TOLERANCE);
        if (pieces > 1) expect((pieces - 1) * stock - (pieces - 2) * 150).toBeLessThan(length);
      },
    ),
    cases(300),
  );
});
