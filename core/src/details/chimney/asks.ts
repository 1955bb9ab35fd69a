import { type Outline, bounds, byExtent, cricketOutline, rectangle } from '../../roof/index.ts';
import { leastOf } from '../../rules/index.ts';
import {
  type Asks,
  type BaseContext,
  type Footprint,
  TROUGH,
  cricketBehind,
  footprint,
  reachOverCrown,
  upBehind,
} from '../../slope/index.ts';
import { buttLine } from '../../surface/index.ts';
import { inches } from '../../units/index.ts';

/** Behind a cricket the covering stops short of its valleys; in a trough it stops short of the back face (see `blocksFor`). */
export function chimneyAsks(context: BaseContext): Partial<Asks> {
  const { rules, plane } = context;
  const openings: Outline[] = [];
  const metal: Outline[] = [];
  for (const feature of context.features) {
    if (feature.kind !== 'chimney') continue;
    const foot = footprint(feature, plane);
    const cricket = cricketBehind(context, feature);
    const past = pastSides(context, foot);
    // nails keep off the metal but for the last inch at its upper edge, where its own stand
    if (cricket) {
      openings.push(cricketOutline(cricket, foot.x0, foot.to, TROUGH));
      metal.push(cricketOutline(cricket, foot.x0, foot.to, leastOf(rules, 'cricket.flange')));
    } else
      metal.push(
        rectangle(foot.x0 - past, foot.to, foot.x1 + past, foot.to + upBehind(context.lines, foot, leastOf(rules, 'pan.up'))),
      );
    metal.push(rectangle(foot.x0 - past, foot.to - OVER_STEPS, foot.x1 + past, foot.to + TROUGH));
  }
  const boxed = byExtent(
    metal.map((outline) => ({ outline, ...bounds(outline) })),
    ({ y0, y1 }) => [y0, y1],
  );
  return {
    openings,
    metal,
    // a joint over a flange, or just beside its edge, would let water creep past it
    jointOff: (n) =>
      boxed(buttLine(context.lines, n), buttLine(context.lines, n + 1)).flatMap(({ outline, y0, y1 }) => {
        const at = Math.max(buttLine(context.lines, n), y0);
        const top = buttLine(context.lines, n + 1);
        const xs = top > at && at <= y1 ? widthAt(outline, at) : [];
        return xs.length < 2 ? [] : [{ x0: Math.min(...xs) - CLEAR_OF_JOINT, x1: Math.max(...xs) + CLEAR_OF_JOINT }];
      }),
  };
}

/** Where a level line crosses an outline. */
const widthAt = (outline: Outline, y: number): number[] =>
  outline.flatMap(([ax, ay], i) => {
    const [bx, by] = outline[(i + 1) % outline.length]!;
    return (ay <= y + 1 && by > y + 1) || (by <= y + 1 && ay > y + 1) ? [ax + ((bx - ax) * (y + 1 - ay)) / (by - ay)] : [];
  });

/** A joint stands this far from metal under its course: farther than the creep a plan is to have in hand. */
const CLEAR_OF_JOINT = inches(2.25);

/** How far a pan goes past the sides of what it lies behind, over tiles past a crown on both. */
export const pastSides = (context: Pick<BaseContext, 'surface' | 'rules' | 'plane'>, { x0, x1 }: Footprint): number => {
  const least = leastOf(context.rules, 'pan.past');
  return Math.max(reachOverCrown(context, x0, -1, least), reachOverCrown(context, x1, 1, least));
};

/** Wings of a pan or cricket lap over the last steps by this much at least. */
export const OVER_STEPS = inches(4);
