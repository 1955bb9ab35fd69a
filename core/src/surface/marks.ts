/** Mark of a course, counted from 1 at the eave: `C07`. */
export const courseMark = (n: number): string => `C${String(n).padStart(2, '0')}`;
/** Mark of the starter along the eave, and of the ridge caps. */
export const STARTER_MARK = 'ST';
export const RIDGE_MARK = 'RC';
