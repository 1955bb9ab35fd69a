import { type EdgeHold, type FourEdges, HUNG_IN_WALL, type Piece, STUCK_TO_WALL } from '../assembly/index.ts';
import { itemById } from '../catalog/index.ts';
import type { PlaneContext } from './model.ts';

/** What is turned up walls, and goes round what stands on a slope. */
export type WrapSheet = {
  readonly product: { readonly id: string; readonly width: number; readonly rollLength: number };
  /** How it is held on the slope, and on what it is turned up: lower, right, upper, left edge. */
  readonly onDeck: EdgeHold;
  readonly onWall: FourEdges;
  readonly seals: Pick<Piece, 'sealsNails'>;
  /** What the run sheet calls it, and how it goes on. */
  readonly name: string;
  readonly laid: string;
};

/** On a deck the ice barrier's sheet, stuck to bare deck and wall; on battens over rafters there is no deck to stick to, and the underlayment's sheet is turned up. */
export function wrapSheet({ catalog, covering, surface }: Pick<PlaneContext, 'catalog' | 'covering' | 'surface'>): WrapSheet {
  const { iceBarrier, underlayment } = covering.underlayers;
  if (surface.bearing === 'rafters')
    return {
      product: itemById(catalog, 'underlayment', underlayment),
      onDeck: 'open',
      onWall: HUNG_IN_WALL,
      seals: {},
      name: 'a strip of the underlayment’s sheet',
      laid: 'The rows beside it lap on to it, battens hold it.',
    };
  const product = itemById(catalog, 'iceBarrier', iceBarrier);
  return {
    product,
    onDeck: 'bonded',
    onWall: STUCK_TO_WALL,
    seals: { sealsNails: product.sealsNails },
    name: 'membrane strip',
    laid: 'On bare deck and bare face, no felt under it.',
  };
}
