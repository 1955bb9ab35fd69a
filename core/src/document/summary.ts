import type { Job } from './schema.ts';

/** What a list of jobs tells of one: its name, its first slope, and how many slopes, walls and features (chimneys, pipes and the like) it has. */
export type Summary = {
  readonly name: string;
  readonly slope: string;
  readonly slopes: number;
  readonly walls: number;
  readonly features: number;
};

/** A job's entry in a list. */
export function summaryOf({ name, parts, features }: Job): Summary {
  const planes = parts.flatMap((part) => part.planes);
  return {
    name,
    slope: planes[0]?.name ?? '',
    slopes: planes.length,
    walls: planes.reduce((sum, { walls }) => sum + walls.length, 0),
    features: features.length,
  };
}
