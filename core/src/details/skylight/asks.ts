import { rectangle } from '../../roof/index.ts';
import { type Asks, type BaseContext, type PlaneContext, footprint, upBehind } from '../../slope/index.ts';
import { interfaceLines } from '../../surface/index.ts';
import { inches } from '../../units/index.ts';
import { type ItemOf, itemsOf } from '../../catalog/index.ts';
import type { FeatureOf } from '../../document/index.ts';

/** The course over a head flashing has one whole shingle in the middle of the unit, so that no joint stands above it. */
export function skylightAsks(context: BaseContext): Partial<Asks> {
  const { lines, plane } = context;
  const units = context.features.flatMap((feature) => (feature.kind === 'skylight' ? [footprint(feature, plane)] : []));
  return {
    metal: units.map((unit) =>
      rectangle(unit.x0 - HEAD_PAST, unit.to - HEAD_DOWN, unit.x1 + HEAD_PAST, unit.to + upBehind(lines, unit, HEAD_UP)),
    ),
    jointFree: (n) =>
      units.filter(({ from, to }) => interfaceLines(lines, from, to).last + 1 === n).map(({ x0, x1 }) => ({ x0, x1 })),
  };
}

/** Head flashing up the roof under the head course, down over the top steps, and past the sides. */
export const HEAD_UP = inches(8);
export const HEAD_DOWN = inches(4);
export const HEAD_PAST = inches(6);

/** A butt line this near a sill flashing's lower edge leaves it without a full exposure to lie on. */
export const NEAR_SILL = inches(2);

export const kitFor = (
  context: Pick<PlaneContext, 'catalog'>,
  skylight: FeatureOf<'skylight'>,
): ItemOf<'skylightKit'> | undefined =>
  itemsOf(context.catalog, 'skylightKit').find(
    ({ width, height, mount }) =>
      mount === skylight.mount &&
      Math.abs(width - skylight.width) < inches(1 / 8) &&
      Math.abs(height - skylight.height) < inches(1 / 8),
  );
