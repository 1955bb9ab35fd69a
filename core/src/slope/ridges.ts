import { type Catalog, type ItemOf, itemsOf } from '../catalog/index.ts';
import type { Job, Plane } from '../document/index.ts';
import type { EdgeKind, Point } from '../roof/index.ts';
import { LINE_TOLERANCE, inches } from '../units/index.ts';

/** The slot stops so far short of a gable's end, and of all else a ridge runs into (trade practice). */
const SHORT_OF_RAKE = inches(6);
const SHORT_OF_REST = inches(12);
/** No slot shorter than this is worth its two ends (trade practice). */
const LEAST_SLOT = inches(24);

/** An end of a ridge on its slope's chart: a gable's rake, or what else it runs into there. */
export type RidgeEnd = { readonly at: Point; readonly meets: EdgeKind | 'nothing' };
export type RidgeLine = { readonly length: number; readonly ends: readonly [RidgeEnd, RidgeEnd] };

/** The ridges told on a slope: one that two slopes share is told on one of them. */
export function ridgesOf(plane: Plane): RidgeLine[] {
  return plane.edges
    .filter(
      ({ kind, from, to, other }) =>
        (kind === 'ridge' || (kind === 'top' && plane.top === 'ridge' && Math.abs(from[1] - to[1]) < LINE_TOLERANCE)) &&
        (other === undefined || plane.id < other),
    )
    .map((line): RidgeLine => {
      const endAt = (at: Point): RidgeEnd => {
        const next = plane.edges.find((edge) => edge !== line && (isAt(edge.from, at) || isAt(edge.to, at)));
        return { at, meets: next?.kind ?? 'nothing' };
      };
      return {
        length: Math.hypot(line.to[0] - line.from[0], line.to[1] - line.from[1]),
        ends: [endAt(line.from), endAt(line.to)],
      };
    });
}

const isAt = (a: Point, b: Point): boolean => Math.hypot(a[0] - b[0], a[1] - b[1]) < LINE_TOLERANCE;

/** The vent under the caps of a job that has one; undefined without, or where the catalog has none. */
export const ridgeVentOf = (job: Job, catalog: Catalog): ItemOf<'ridgeVent'> | undefined =>
  job.ventilation?.exhaust === 'ridge vent' ? itemsOf(catalog, 'ridgeVent')[0] : undefined;

/** A ridge told on a slope, and how long its slot is; 0 where it has none. */
export type VentSlot = { readonly plane: Plane; readonly line: RidgeLine; readonly slot: number };

/** The slots along a roof's ridges: as long as the eaves let air in for, the longest ridge first; what went out beyond that would be drawn in through other ridges. */
export function ventSlots(job: Job, catalog: Catalog, planes: readonly Plane[]): VentSlot[] {
  const vent = ridgeVentOf(job, catalog);
  if (job.ventilation?.exhaust !== 'ridge vent' || !vent) return [];
  let left = (job.ventilation.intake * vent.length) / vent.netFree;
  return planes
    .flatMap((plane) => ridgesOf(plane).map((line) => ({ plane, line })))
    .sort((a, b) => b.line.length - a.line.length)
    .map(({ plane, line }) => {
      const ends = line.ends.reduce((sum, { meets }) => sum + (meets === 'rake' ? SHORT_OF_RAKE : SHORT_OF_REST), 0);
      const room = Math.min(line.length - ends, left);
      const slot = room < LEAST_SLOT ? 0 : room;
      left -= slot;
      return { plane, line, slot };
    });
}
