import { distanceToStretch } from '../roof/index.ts';
import { isRequired, leastOf } from '../rules/index.ts';
import { LINE_TOLERANCE } from '../units/index.ts';
import type { PlaneContext, ValleySide } from './model.ts';

export type RakeStretch = { readonly x: number; readonly from: number; readonly to: number };

/** The stretches of the slope's rakes on one side that no wall takes up, lowest first; none where the plane continues. */
export function rakeStretches(context: PlaneContext, side: 'left' | 'right'): RakeStretch[] {
  const { plane, blocks } = context;
  // corners run counter-clockwise: a rake at the left is walked down, one at the right up
  const rakes = plane.edges.filter(
    ({ kind, from, to }) => kind === 'rake' && (side === 'left' ? from[1] > to[1] : to[1] > from[1]),
  );
  return rakes.flatMap((edge): RakeStretch[] => {
    const x = edge.from[0];
    const atEnd = Math.abs(x - (side === 'left' ? 0 : plane.eaveLength)) < 1;
    if (atEnd && plane[side] !== 'rake') return [];
    let free: [number, number][] = [[Math.min(edge.from[1], edge.to[1]), Math.max(edge.from[1], edge.to[1])]];
    for (const block of blocks.filter(({ x0, x1 }) => x0 <= x + LINE_TOLERANCE && x1 >= x - LINE_TOLERANCE)) {
      free = free.flatMap(([a, b]): [number, number][] => [
        [a, Math.min(b, block.from)],
        [Math.max(a, block.to), b],
      ]);
    }
    return free.filter(([a, b]) => b - a > LINE_TOLERANCE).map(([from, to]) => ({ x, from, to }));
  });
}

/**
 * The open valley at whose foot a rake ends, if it does. What runs down the rake goes on over the valley's lining, so that is slid under the rake's metal (trade
 * practice).
 */
export function liningUnderRake({ rules, valleys }: PlaneContext, { x, from }: RakeStretch): ValleySide | undefined {
  const open = valleys.filter(({ role, footOn }) => role === 'open' && footOn === 0);
  if (open.length === 0 || !isRequired(rules, 'edgeMetal.required')) return undefined;
  const reach = leastOf(rules, 'valley.lining') / 2 + leastOf(rules, 'edgeMetal.onDeck');
  return open.find(({ low, high }) => distanceToStretch([x, Math.max(from, low[1])], low, high) < reach);
}

/** Is a valley's lining slid under the metal of one of the slope's rakes? */
export const isUnderRake = (context: PlaneContext, valley: string): boolean =>
  (['left', 'right'] as const).some((side) =>
    rakeStretches(context, side).some((stretch) => liningUnderRake(context, stretch)?.id === valley),
  );
