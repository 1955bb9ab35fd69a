import { type LayKey, STAGE } from '../assembly/index.ts';
import type { PlaneContext } from './model.ts';

/** Place in the stack of what wraps a thing standing at `from`: over the underlayment below it, under the underlayment above. */
export const wrapLay = (context: PlaneContext, from: number, rank: number, along: number): LayKey => [
  STAGE.underlayment,
  context.order,
  from,
  rank,
  along,
];

/** Above every slit, and above all the underlayment: what goes on last of the sheets. */
export const ABOVE_SLITS = 1e6;

export const TOPMOST = 2e6;
