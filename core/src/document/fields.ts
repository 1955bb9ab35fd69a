import { z } from 'zod';
import { printArea, printLength } from '../units/index.ts';

const both = (mm: number): string => `${printLength(mm, 'imperial')} (${printLength(mm, 'metric')})`;

/** A length in millimetres within sane bounds; the message names them in both unit systems. */
export const length = (least: number, most: number) => {
  const error = `must be between ${both(least)} and ${both(most)}`;
  return z.number({ error }).min(least, { error }).max(most, { error });
};

/** An area in square millimetres. */
export const area = (most: number) => {
  const error = `must be between 0 and ${printArea(most, 'imperial')} (${printArea(most, 'metric')})`;
  return z.number({ error }).min(0, { error }).max(most, { error });
};

export const name = z
  .string({ error: 'must be a text' })
  .trim()
  .min(1, { error: 'must not be empty' })
  .max(120, { error: 'must be at most 120 characters' });
export const productId = z.string({ error: 'must name a catalog item' }).min(1).max(100);

/** Names a slope, a part or a covering within the job. */
export const id = z.string().regex(/^[a-z0-9-]{1,30}$/, { error: 'must be small letters, digits and dashes' });
