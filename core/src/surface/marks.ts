export const courseMark = (n: number): string => `C${String(n).padStart(2, '0')}`;
export const STARTER_MARK = 'ST';
export const RIDGE_MARK = 'RC';
