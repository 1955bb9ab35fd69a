import type { FlatPattern } from '../../assembly/index.ts';
import { slopeFactor } from '../../roof/index.ts';

/** A stepped piece as cut: level on top with the depth that goes into the joint, its lower edge along the slope. */
export function steppedFlat(length: number, tall: number, pitch: number, clear: number, depth: number): FlatPattern {
  const low = clear * slopeFactor(pitch);
  return {
    outline: [
      [0, low],
      [length, low + length * pitch],
      [length, tall + depth],
      [0, tall + depth],
    ],
    bends: [{ from: [0, tall], to: [length, tall], direction: 'down', degrees: 90 }],
  };
}
