/** Paper sizes with their printable area inside 12 mm margins, millimetres. */
export const PAPERS = { A4: { width: 186, height: 273 }, Letter: { width: 191.9, height: 255.4 } } as const;
export type Paper = keyof typeof PAPERS;
export const PAPER_NAMES: Readonly<Record<Paper, string>> = { A4: 'A4', Letter: 'Letter' };
