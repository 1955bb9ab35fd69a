import type { ValleySide } from '../slope/index.ts';
import { inches } from '../units/index.ts';

/** A nail stands this far from the edge of what is cut along a valley: what water creeps in a plan's reserve, and half an inch for a cut that strays from its line. */
const NAIL_FROM_EDGE = inches(2.75);

/** How far a valley keeps nails from its line: its own distance, or what is cut along it and the room beside that. */
export const reachOf = ({ clearLow, clearHigh, noNail }: ValleySide): number =>
  Math.max(noNail, Math.max(clearLow, clearHigh) + NAIL_FROM_EDGE);
