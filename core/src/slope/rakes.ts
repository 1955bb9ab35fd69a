import { LINE_TOLERANCE } from '../units/index.ts';
import type { PlaneContext } from './model.ts';

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
