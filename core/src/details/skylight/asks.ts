import { rectangle } from '../../roof/index.ts';
import {
  type Asks,
  type BaseContext,
  type Footprint,
  type PlaneContext,
  footprint,
  reachOverCrown,
  upBehind,
  isOnTiles,
} from '../../slope/index.ts';
import { interfaceLines } from '../../surface/index.ts';
import { leastOf } from '../../rules/index.ts';
import { inches } from '../../units/index.ts';
import { type ItemOf, itemsOf } from '../../catalog/index.ts';
import type { FeatureOf } from '../../document/index.ts';

/**
 * The course over a head flashing has one whole shingle in the middle of the unit, so that no joint stands above it; or it lies in two layers, no joint of
 * either near a corner.
 */
export function skylightAsks(context: BaseContext): Partial<Asks> {
  const { lines, plane } = context;
  const units = context.features.flatMap((feature) =>
    feature.kind === 'skylight'
      ? [{ ...footprint(feature, plane), skylight: feature, layers: headLayers(context, feature) }]
      : [],
  );
  // asked only where a skylight is: a job without one needs nobody who speaks on it
  const past = (): number => leastOf(context.rules, 'skylight.headCourse');
  const byCourse = new Map<number, typeof units>();
  for (const unit of units) {
    const n = interfaceLines(lines, unit.from, unit.to).last + 1;
    byCourse.set(n, [...(byCourse.get(n) ?? []), unit]);
  }
  const over = (n: number, layers: 1 | 2): typeof units => (byCourse.get(n) ?? []).filter((one) => one.layers === layers);
  return {
    metal: units.map((unit) =>
      rectangle(
        unit.x0 - headPast(context, unit),
        unit.to - HEAD_DOWN,
        unit.x1 + headPast(context, unit),
        unit.to + upBehind(lines, unit, HEAD_UP) + NAIL_ABOVE_HEAD,
      ),
    ),
    jointFree: (n) => over(n, 1).map(({ x0, x1 }) => ({ x0, x1 })),
    jointOff: (n) => over(n, 2).flatMap(({ x0, x1 }) => [x0, x1].map((corner) => ({ x0: corner - past(), x1: corner + past() }))),
    doubled: (n) =>
      over(n, 2).map(({ x0, x1, skylight: { id, name } }) => ({ detail: id, name, on: `${id}-HD`, x0, x1, past: past() })),
  };
}

/** In how many layers the course over a head lies: in one where the covering goes over it in bond anyway. */
export const headLayers = ({ surface }: Pick<PlaneContext, 'surface'>, { headCourse }: FeatureOf<'skylight'>): 1 | 2 =>
  headCourse === 'two layers' && surface.wholeOverHead ? 2 : 1;

/** Field nails stand this far above the head flashing (trade practice). */
const NAIL_ABOVE_HEAD = inches(1);

/** Head flashing up the roof under the head course, down over the top steps, and past the sides. */
export const HEAD_UP = inches(8);
export const HEAD_DOWN = inches(4);
const HEAD_PAST = inches(6);

/** How far a head flashing goes past the frame's sides: over tiles past a crown on both. */
export const headPast = (context: Pick<BaseContext, 'surface' | 'rules' | 'plane'>, { x0, x1 }: Footprint): number =>
  Math.max(reachOverCrown(context, x0, -1, HEAD_PAST), reachOverCrown(context, x1, 1, HEAD_PAST));

/** A butt line this near a sill flashing's lower edge leaves it without a full exposure to lie on. */
export const NEAR_SILL = inches(2);

export const kitFor = (
  { catalog, surface }: Pick<PlaneContext, 'catalog' | 'surface'>,
  skylight: FeatureOf<'skylight'>,
): ItemOf<'skylightKit'> | undefined =>
  itemsOf(catalog, 'skylightKit').find(
    ({ width, height, mount, for: covering }) =>
      mount === skylight.mount &&
      (covering === 'tile') === isOnTiles({ surface }) &&
      Math.abs(width - skylight.width) < inches(1 / 8) &&
      Math.abs(height - skylight.height) < inches(1 / 8),
  );
