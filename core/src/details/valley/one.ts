import type { Catalog } from '../../catalog/index.ts';
import type { Covering, Job } from '../../document/index.ts';
import { type Point, type ValleyWater, drainedInto, ribbedWater, runoff, valleyWater } from '../../roof/index.ts';
import type { Requirements } from '../../rules/index.ts';
import type { PlaneContext, ValleySide } from '../../slope/index.ts';
import { inches } from '../../units/index.ts';
import type { Valley } from './find.ts';

export type ValleyInput = {
  readonly job: Job;
  readonly catalog: Catalog;
  readonly valleys: readonly Valley[];
  readonly contexts: readonly PlaneContext[];
  readonly rulesOf: ReadonlyMap<string, Requirements>;
  /** Marks before the marks of each slope's courses. */
  readonly marks: ReadonlyMap<string, string>;
};

export const FOOT = inches(12);

export type One = ValleyInput & {
  readonly valley: Valley;
  readonly rules: Requirements;
  readonly a: PlaneContext;
  readonly b: PlaneContext;
  /** Between two coverings it is lined and sheeted as the first slope's is flashed. */
  readonly covering: Covering;
};

export const sideOf = (valley: Valley, plane: string): ValleySide => valley.sides.find((side) => side.plane === plane)!.side;

/** The slope a valley begins up on, if it does not begin at an eave. */
export function hostOf({ valley, a, b }: One): { context: PlaneContext; side: ValleySide } | undefined {
  const host = valley.sides.find(({ side }) => side.footOn > 0);
  return host && { context: host.plane === a.plane.id ? a : b, side: host.side };
}

/** Every foot up a valley from its lower end. */
export const stationsOf = ({ line }: Valley): number[] =>
  Array.from({ length: Math.floor(line.trueLength / FOOT) + 1 }, (_, i) => i * FOOT);

/** A place beside a valley, `along` up from its lower end and `off` square to it on the slope. */
export function besidePoint({ low, high, side }: ValleySide, along: number, off: number): Point {
  const length = Math.hypot(high[0] - low[0], high[1] - low[1]);
  const run: Point = [(high[0] - low[0]) / length, (high[1] - low[1]) / length];
  return [low[0] + run[0] * along + side * run[1] * off, low[1] + run[1] * along - side * run[0] * off];
}

/** How wide and deep the water runs at a distance from the valley's lower end: what each slope brings in above it. */
export function waterAt(one: One, along: number): ValleyWater {
  const { valley, job } = one;
  const [a, b] = [one.a, one.b].map(({ plane }) => {
    const side = sideOf(valley, plane.id);
    const share = along / valley.line.trueLength;
    const from: Point = [side.low[0] + (side.high[0] - side.low[0]) * share, side.low[1] + (side.high[1] - side.low[1]) * share];
    return runoff(job.site.rainPerHour, drainedInto(plane.joined, from, side.high));
  }) as [number, number];
  return valley.ribbed ? ribbedWater(a, b, valley.section) : valleyWater(a + b, valley.section);
}

/** Half the distance between the chalk lines at a distance from the lower end. */
export const openAt = ({ openLow, openHigh, line }: Valley, along: number): number =>
  openLow + ((openHigh - openLow) * along) / line.trueLength;
