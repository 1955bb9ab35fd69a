/** Two lengths closer than this are the same line: 1/64 in, in millimetres (the finest mark on a tape is twice as coarse). */
export const LINE_TOLERANCE = 25.4 / 64;

/** `a` is at or below `b`; equality within the line tolerance counts as "at or below". */
export const atOrBelow = (a: number, b: number): boolean => a <= b + LINE_TOLERANCE;

/** `a` is below `b` by more than the line tolerance. */
export const clearlyBelow = (a: number, b: number): boolean => a < b - LINE_TOLERANCE;

/**
 * How many steps of `step` it takes to reach `length`, rounded up; an overshoot within the line tolerance asks for no extra step.
 * At least 0.
 */
export const stepsToReach = (length: number, step: number): number => Math.max(0, Math.ceil((length - LINE_TOLERANCE) / step));

/** Two pitches (rise over run) closer than this are one: a thousandth of what a gauge shows, far over the noise of an angle's tangent. */
export const SAME_PITCH = 1e-6;

/** Is pitch `a` below `b` by more than the tolerance? */
export const isFlatter = (a: number, b: number): boolean => a < b - SAME_PITCH;

/** Figures that were worked out two ways differ by binary noise: far less than this, a millionth of a millimetre (or of a piece). */
export const NOISE = 1e-6;

/** `a` is `b` or more, binary noise aside. */
export const isAtLeast = (a: number, b: number): boolean => a >= b - NOISE;
/** `a` is `b` or less, binary noise aside. */
export const isAtMost = (a: number, b: number): boolean => a <= b + NOISE;
/** `a` is less than `b` by more than binary noise. */
export const isUnder = (a: number, b: number): boolean => a < b - NOISE;
/** `a` is more than `b` by more than binary noise. */
export const isOver = (a: number, b: number): boolean => a > b + NOISE;
