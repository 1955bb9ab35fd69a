import { type Lines, buttLine, lastCourseBelow } from '../../surface/index.ts';

/** A base with a collar: how far its centre stands above its lower edge. */
export type BootSize = { readonly baseWidth: number; readonly baseLength: number; readonly centre: number };

/** A base as it lies: how far it reaches from the pipe's centre to either side; turned a quarter, its lower edge to one of them. */
export type Lies = BootSize & { readonly left: number; readonly right: number; readonly turned?: 'left' | 'right' };

/**
 * A base laid as it is made, or a quarter turned with its head to the left or right. 12 × 16 in, its collar 6 in from the lower edge: 6 in to each side; turned to the left
 * 10 and 6, 16 wide and 12 long.
 */
export function layBase({ baseWidth, baseLength, centre }: BootSize, turned?: 'left' | 'right'): Lies {
  if (!turned) return { baseWidth, baseLength, centre, left: baseWidth / 2, right: baseWidth / 2 };
  const head = baseLength - centre;
  const [left, right] = turned === 'left' ? [head, centre] : [centre, head];
  return { baseWidth: baseLength, baseLength: baseWidth, centre: baseWidth / 2, left, right, turned };
}

export type BootPlace = {
  /** Flange on the slope. */
  readonly lower: number;
  readonly upper: number;
  /** First course over it. */
  readonly firstOver: number;
  /** Flange showing below that course's butt. */
  readonly showing: number;
  /** Top of the covering's cut-out round the pipe. */
  readonly cutTop: number;
  /** The flange reaches this far above the cut-out. */
  readonly flangeAbove: number;
};

/**
 * First course over a flange: the lowest butt line at least `showing` above the flange's lower edge. Flange at 79 in with 2 in showing:
 * 16 (butt 83.875 in); at 82 1/2 in only 1 3/8 in would show below 16, so it goes under and 17 is first.
 */
export const firstCourseOver = (lines: Lines, lower: number, showing: number): number =>
  lastCourseBelow(lines, lower + showing) + 1;

/** Where a base stands that is formed to the tiles it lies on: over the course its upper edge ends on, with nothing over it. */
export function placeOnTile(
  lines: Lines,
  { centre, baseLength }: BootSize,
  y: number,
  half: number,
  { gap }: { readonly gap: number },
): BootPlace {
  const lower = y - centre;
  const upper = lower + baseLength;
  const cutTop = y + half + gap;
  return { lower, upper, firstOver: lastCourseBelow(lines, upper) + 1, showing: baseLength, cutTop, flangeAbove: upper - cutTop };
}

/**
 * Where a boot stands and which course is first over it. `half` is the pipe's half length along the slope, `gap` what is left open round
 * it. Nothing more is asked of the last course under the flange: on a long base that would push the first course over it far past the pipe.
 */
export function placeBoot(
  lines: Lines,
  { centre, baseLength }: BootSize,
  y: number,
  half: number,
  { showing, gap }: { readonly showing: number; readonly gap: number },
): BootPlace {
  const lower = y - centre;
  const upper = lower + baseLength;
  const cutTop = y + half + gap;
  const firstOver = firstCourseOver(lines, lower, showing);
  return {
    lower,
    upper,
    firstOver,
    showing: buttLine(lines, firstOver) - lower,
    cutTop,
    flangeAbove: upper - cutTop,
  };
}
