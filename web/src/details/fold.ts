import { type FigurePanel, type Outline, type Plan, type Plane, wallToSlope } from '#core';

/** A place of one facet's chart on another drawing's, millimetres. */
export type Fold = (at: readonly [number, number]) => readonly [number, number];

/** How much of a wall is turned down flat. */
export const TURNED_DOWN = 12 * 25.4;

/** How a slope lies on the drawing of another: turned about the line of the valley they meet in. */
export function turnAcross(
  plan: Plan,
  { detail, family, plane }: FigurePanel,
): { readonly other: Plane; readonly matrix: readonly number[] } | undefined {
  const valley = family === 'valley' && plan.valleys.find(({ id }) => id === detail);
  const joint = valley && plan.joints.find(({ kind, a, b }) => kind === 'valley' && a === valley.a && b === valley.b);
  if (!valley || !joint) return undefined;
  const [own, theirs] = valley.a === plane ? [joint.onA, joint.onB] : [joint.onB, joint.onA];
  const other = plan.roof.find(({ id }) => id === (valley.a === plane ? valley.b : valley.a))!;
  const angle = ([[ax, ay], [bx, by]]: typeof own): number => Math.atan2(by - ay, bx - ax);
  const turn = angle(own) - angle(theirs);
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  const [x, y] = theirs[0];
  return { other, matrix: [cos, sin, -sin, cos, own[0][0] - x * cos + y * sin, own[0][1] - x * sin - y * cos] };
}

/** Every facet a detail's picture shows, folded on to the chart of its slope: its faces turned down flat inwards, across a valley the other slope. */
export function foldsOf(plan: Plan, panel: FigurePanel): ReadonlyMap<string, Fold> {
  const { pitch } = plan.planes.find(({ id }) => id === panel.plane)!;
  const folds = new Map<string, Fold>([[panel.plane, (at) => at]]);
  const across = turnAcross(plan, panel);
  if (across) {
    const [a, b, c, d, e, f] = across.matrix as [number, number, number, number, number, number];
    folds.set(across.other.id, ([x, y]) => [a * x + c * y + e, b * x + d * y + f]);
  }
  for (const { kind, a, b, side, onA } of plan.joints) {
    if (a !== panel.plane || plan.facets.find(({ id }) => id === b)?.detail !== panel.detail) continue;
    const [[x0, y0]] = onA;
    if (kind === 'front') folds.set(b, ([x, y]) => [x, y0 + Math.min(y, TURNED_DOWN)]);
    if (kind === 'back') folds.set(b, ([x, y]) => [x, y0 - Math.min(y, TURNED_DOWN)]);
    if (kind === 'side')
      folds.set(b, (at) => {
        const { s, u } = wallToSlope(at, pitch);
        return [x0 - side * Math.min(u, TURNED_DOWN), s];
      });
  }
  return folds;
}

/** What some covers show of once folded. */
export const folded = (folds: ReadonlyMap<string, Fold>, covers: Plan['pieces'][number]['covers']): Outline[] =>
  covers.flatMap(({ facet, outline }) => {
    const fold = folds.get(facet);
    return fold ? [outline.map(fold)] : [];
  });
