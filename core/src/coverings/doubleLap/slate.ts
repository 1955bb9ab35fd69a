import { type ItemOf, itemById } from '../../catalog/index.ts';
import { coveringOfKind } from '../../document/index.ts';
import type { PlaneContext } from '../../slope/index.ts';

/** The slates (or plain tiles) of a slope: the usual one, and the one half as wide again where there is one. */
export function slatesOf(context: Pick<PlaneContext, 'covering' | 'catalog'>): {
  readonly slate: ItemOf<'slate'>;
  readonly wide: ItemOf<'slate'> | undefined;
} {
  const { slate, slateAndHalf } = coveringOfKind(context, 'doubleLap');
  return {
    slate: itemById(context.catalog, 'slate', slate),
    wide: slateAndHalf === null ? undefined : itemById(context.catalog, 'slate', slateAndHalf),
  };
}

/** A hole stands this far above the head of the slate two courses down: nearer the tail the nail would go through that slate (trade practice). */
const HOLE_ABOVE_HEAD = 5;

/** What follows from the lap a slope really has: under-eave slates H − g, and the nail hole so far above the tail. 500 at 193.75: 306.25, 311.25. */
export const lengthsAt = (height: number, gauge: number): { readonly underEave: number; readonly hole: number } => ({
  underEave: height - gauge,
  hole: height - gauge + HOLE_ABOVE_HEAD,
});
