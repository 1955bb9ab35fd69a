import type { Span } from '../../roof/index.ts';
import { courseJoints } from '../../surface/index.ts';
import { LINE_TOLERANCE, isOver } from '../../units/index.ts';
import { type Row, rowOf } from '../rows.ts';

/**
 * Half bond: joints of course `n` (0: the under-eave course) stand half a slate from those of its neighbours all along the slope, from its left end. What would
 * be half a slate or less at an end of the stretch is taken into the slate beside it, which is then cut from one half as wide again.
 * Slates 250 wide on 2400: odd courses have joints at 250, 500 … 2250; even ones a slate and a half at the left, 275 at the right.
 */
export const halfBond = (span: Span, n: number, width: number): Row =>
  rowOf(
    span,
    courseJoints(n + 2, span[0], span[1], width, width / 2),
    (from, to) => isOver(to - from, width / 2 + LINE_TOLERANCE),
    // what is left over at a verge is less than a saw's width
    1.5 * width + 1,
  );
