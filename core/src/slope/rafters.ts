import { inches, isOver, isUnder } from '../units/index.ts';

/** Rafters under a slope's deck: from one to the next, and the first from the slope's left end, centres. */
export type Rafters = { readonly spacing: number; readonly first: number };

/** Framing members are this thick. */
const MEMBER = inches(1.5);

/** Rafters (centres, from the slope's left end) that stand between `x0` and `x1`. */
export function raftersIn({ spacing, first }: Rafters, x0: number, x1: number): number[] {
  const found: number[] = [];
  for (let i = Math.floor((x0 - first - MEMBER) / spacing); isUnder(first + i * spacing - MEMBER / 2, x1); i++) {
    const at = first + i * spacing;
    if (i >= 0 && isOver(at + MEMBER / 2, x0)) found.push(at);
  }
  return found;
}

/** From face to face of the uncut rafters either side of an opening. */
export function betweenUncut(rafters: Rafters, x0: number, x1: number): number {
  return (raftersIn(rafters, x0, x1).length + 1) * rafters.spacing - MEMBER;
}

/** A shift along the eave, to the right when positive, and how many rafters stand in the way after it. */
export type Shift = { readonly by: number; readonly cut: number };

/** The least shift, in eighths of an inch, that spares a rafter; undefined when none within half a bay does. */
export function shiftSparing(rafters: Rafters, x0: number, x1: number): Shift | undefined {
  const now = raftersIn(rafters, x0, x1).length;
  const steps = Math.floor(rafters.spacing / 2 / inches(1 / 8));
  for (let i = 1; i <= steps; i++)
    for (const by of [i * inches(1 / 8), -i * inches(1 / 8)]) {
      const cut = raftersIn(rafters, x0 + by, x1 + by).length;
      if (cut < now) return { by, cut };
    }
  return undefined;
}
