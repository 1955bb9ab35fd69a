import type { FeatureOf } from '../document/index.ts';
import { columnStart, lastCourseAtOrBelow } from '../surface/index.ts';
import type { BaseContext } from './asks.ts';
import { featurePoint } from './standing.ts';

/** A fault of a tile where it is: the course it is in, and its place on the slope. */
export type TileFault = {
  readonly feature: FeatureOf<'tileFault'>;
  readonly course: number;
  readonly x: number;
  readonly y: number;
};

/** The lock of its course that a fault is nearest to: there is the side channel. In columns 300.8 wide from 0, at 3290: 3308.8. */
export function channelAt(
  { surface: { columns } }: Pick<BaseContext, 'surface'>,
  { course, x }: Pick<TileFault, 'course' | 'x'>,
): number {
  if (!columns) return x;
  const from = columnStart(columns, course);
  return from + Math.round((x - from) / columns.width) * columns.width;
}

/** The faults told of the tiles of a slope. */
export const tileFaultsOn = ({ features, plane, lines }: Pick<BaseContext, 'features' | 'plane' | 'lines'>): TileFault[] =>
  features.flatMap((feature) => {
    if (feature.kind !== 'tileFault') return [];
    const { x, y } = featurePoint(feature, plane, 0);
    return [{ feature, course: Math.min(lines.count, lastCourseAtOrBelow(lines, y)), x, y }];
  });
