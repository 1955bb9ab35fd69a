import type { FeatureOf } from '../document/index.ts';
import { type Cricket, cricketOf, tableHeight } from '../roof/index.ts';
import { type Requirements, mostOf } from '../rules/index.ts';
import { isOver } from '../units/index.ts';
import type { BaseContext } from './asks.ts';
import { isOnTiles } from './cover.ts';

/** Does the code ask for a cricket behind something this wide across the slope? Over 30 in; exactly 30 in does not. */
export const isRequiredCricket = (rules: Requirements, width: number): boolean =>
  isOver(width, mostOf(rules, 'chimney.cricketOver'));

/** Behind a chimney on tiles lies a back gutter, as wide as it is (trade practice). */
export const takesCricket = (context: Pick<BaseContext, 'surface'>): boolean => !isOnTiles(context);

/** The cricket behind a chimney, or undefined where a pan lies there. */
export function cricketBehind(context: BaseContext, chimney: FeatureOf<'chimney'>): Cricket | undefined {
  if (!takesCricket(context)) return undefined;
  const wanted =
    chimney.back === 'cricket' || (chimney.back === 'by the rules' && isRequiredCricket(context.rules, chimney.width));
  if (!wanted) return undefined;
  const { pitch } = context.plane;
  return cricketOf(chimney.width, pitch, Math.max(chimney.cricketHeight ?? 0, tableHeight(chimney.width, pitch)));
}
