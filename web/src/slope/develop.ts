import { type Cover, type Outline, type Piece, type Plan, type Plane, wallToSlope } from '@ruvet/core';

/** How much of a wall is unfolded beside its slope: enough for every piece that goes up it. */
export const UNFOLDED = 16 * 25.4;

/** Walls turned down flat beside the slope, so that what goes up them shows at its true size. */
export type Sheet = { readonly facetOf: ReadonlyMap<string, { x: number; side: 1 | -1 }>; readonly plane: Plane };

export function developPlane(plan: Plan, plane: Plane): Sheet {
  const walls = plane.walls.map(
    (wall) => [`${plane.id}/${wall.id}`, { x: wall.x, side: wall.stands === 'left' ? (1 as const) : (-1 as const) }] as const,
  );
  const known = new Set(plan.facets.map(({ id }) => id));
  return { facetOf: new Map(walls.filter(([id]) => known.has(id))), plane };
}

/** A point of a facet's chart on the drawing's sheet: `x` along the eave, `y` up the slope, millimetres. */
export function toSheet(sheet: Sheet, facet: string, [x, y]: readonly [number, number]): [number, number] {
  const wall = sheet.facetOf.get(facet);
  if (!wall) return [x, y];
  const { s, u } = wallToSlope([x, y], sheet.plane.pitch);
  return [wall.x - wall.side * Math.min(u, UNFOLDED), s];
}

export const developCover = (sheet: Sheet, cover: Cover): Outline =>
  cover.outline.map((point) => toSheet(sheet, cover.facet, point));

/** SVG path of outlines on the sheet, `y` up. */
export const pathOf = (outlines: readonly Outline[]): string =>
  outlines.map((outline) => `M${outline.map(([x, y]) => `${round(x)} ${round(y)}`).join('L')}Z`).join('');

/** What of a piece shows on this sheet: on the slope itself and on the walls turned down beside it. */
export const coversOn = (sheet: Sheet, piece: Piece): Cover[] =>
  piece.covers.filter(({ facet }) => facet === sheet.plane.id || sheet.facetOf.has(facet));

export const piecePath = (sheet: Sheet, piece: Piece): string =>
  pathOf(coversOn(sheet, piece).map((cover) => developCover(sheet, cover)));

/** A hundredth of a millimetre is far below a pixel. */
export const round = (value: number): number => Math.round(value * 100) / 100;
