import { type Assembly, type Step, listed } from '../assembly/index.ts';
import type { Valley } from '../details/index.ts';
import type { Job, Library } from '../document/index.ts';
import { outlineArea } from '../roof/index.ts';
import type { PlaneContext } from '../slope/index.ts';

/** What the lines of a job that no detail lays are written from. */
export type Roof = {
  readonly job: Job;
  readonly library: Library;
  readonly contexts: readonly PlaneContext[];
  readonly valleys: readonly Valley[];
  readonly assembly: Assembly;
};

/** Belongs to the roof as a whole: a detail of this name on the run sheet. */
export const ROOF = 'roof';

/** A line that lays nothing, of the roof as a whole unless it says otherwise. */
export const roofLine = (step: Pick<Step, 'lay' | 'stage' | 'action'> & Partial<Step>): Step => ({
  detail: ROOF,
  pieces: [],
  people: 1,
  keys: [],
  ...step,
});

/** Details by their marks; more than `most` by their number. */
export const namedDetails = (details: readonly string[], most: number): string =>
  details.length === 0 ? 'eaves and rakes' : details.length > most ? `all ${details.length} details` : listed(details);

/** Area of a slope without what stands up through it, square millimetres. */
export const areaOf = ({ plane: { outline, holes } }: Pick<PlaneContext, 'plane'>): number =>
  [outline, ...holes].reduce((sum, one) => sum + outlineArea(one), 0);
