import type { Metal } from './schema.ts';

const SEAMS: Record<Metal, string> = {
  aluminium: 'welded, or locked, riveted and sealed (not soldered)',
  'galvanised steel': 'soldered',
  copper: 'soldered',
  lead: 'welded',
};

/** How a seam of a corner, pan, cricket or end dam is closed in a metal, never by sealant alone (trade practice). */
export const seamOf = (metal: Metal): string => SEAMS[metal];
