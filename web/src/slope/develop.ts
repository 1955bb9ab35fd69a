import { type Cover, type Outline, type Piece, type Place, type Plan, type Plane, wallToSlope } from '#core';

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

/** Where a place shows on the sheet: what stands on the slope and is not turned down beside it shows at its foot. Undefined on another slope. */
export function placeOnSheet(sheet: Sheet, plan: Plan, { facet, x, y, onWall, up }: Place): [number, number] | undefined {
  if (facet === sheet.plane.id) return [x, onWall ? up : y];
  const wall = sheet.facetOf.get(facet);
  const k = Math.hypot(1, sheet.plane.pitch);
  if (wall) return [wall.x - wall.side * Math.min(y / k, UNFOLDED), x];
  const joint = plan.joints.find(({ a, b }) => a === sheet.plane.id && b === facet);
  if (!joint || joint.kind === 'valley') return undefined;
  return joint.kind === 'side' ? [joint.onA[0][0], x] : [x, up];
}

/** The middle of a piece on the sheet, or of the foot of what it goes up; undefined for a piece of another slope. */
export function middleOnSheet(sheet: Sheet, plan: Plan, piece: Piece): [number, number] | undefined {
  const cover = coversOn(sheet, piece)[0];
  const stands = piece.covers.find(({ facet }) => plan.joints.some(({ a, b }) => a === sheet.plane.id && b === facet));
  if (cover) return middleOf(developCover(sheet, cover));
  if (!stands) return undefined;
  const joint = plan.joints.find(({ a, b }) => a === sheet.plane.id && b === stands.facet)!;
  const [x, y] = middleOf(stands.outline);
  if (joint.kind === 'side') return [joint.onA[0][0], wallToSlope([x, y], sheet.plane.pitch).s];
  return [x, joint.onA[0][1]];
}

const middleOf = (outline: Outline): [number, number] => [
  outline.reduce((sum, [x]) => sum + x, 0) / outline.length,
  outline.reduce((sum, [, y]) => sum + y, 0) / outline.length,
];

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
