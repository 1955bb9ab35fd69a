import {
  type Cover,
  type Outline,
  type Piece,
  type PlacedWall,
  type Place,
  type Plan,
  type Plane,
  faceAt,
  placeWalls,
  wallToSlope,
} from '#core';

/** How much of a wall is unfolded beside its slope: enough for every piece that goes up it. */
export const UNFOLDED = 16 * 25.4;

/** Walls turned down flat beside the slope, so that what goes up them shows at its true size. */
export type Chart = { readonly facetOf: ReadonlyMap<string, PlacedWall>; readonly plane: Plane };

export function developPlane(plan: Plan, plane: Plane): Chart {
  const walls = placeWalls(plane.walls, plane.slope.length).map((wall) => [`${plane.id}/${wall.id}`, wall] as const);
  const known = new Set(plan.facets.map(({ id }) => id));
  return { facetOf: new Map(walls.filter(([id]) => known.has(id))), plane };
}

/** A point of a facet's chart on the drawing's chart: `x` along the eave, `y` up the slope, millimetres. */
export function toChart(chart: Chart, facet: string, [x, y]: readonly [number, number]): [number, number] {
  const wall = chart.facetOf.get(facet);
  if (!wall) return [x, y];
  const { s, u } = wallToSlope([x, y], chart.plane.pitch);
  return [faceAt(wall, s) - wall.side * Math.min(u, UNFOLDED), s];
}

export const developCover = (chart: Chart, cover: Cover): Outline =>
  cover.outline.map((point) => toChart(chart, cover.facet, point));

/** Where a place shows on the chart: what stands on the slope and is not turned down beside it shows at its foot. Undefined on another slope. */
export function placeOnChart(chart: Chart, plan: Plan, { facet, x, y, onWall, up }: Place): [number, number] | undefined {
  if (facet === chart.plane.id) return [x, onWall ? up : y];
  const wall = chart.facetOf.get(facet);
  const k = Math.hypot(1, chart.plane.pitch);
  if (wall) return [faceAt(wall, x) - wall.side * Math.min(y / k, UNFOLDED), x];
  const joint = plan.joints.find(({ a, b }) => a === chart.plane.id && b === facet);
  if (!joint || joint.kind === 'valley') return undefined;
  return joint.kind === 'side' ? [joint.onA[0][0], x] : [x, up];
}

/** The middle of a piece on the chart, or of the foot of what it goes up; undefined for a piece of another slope. */
export function middleOnChart(chart: Chart, plan: Plan, piece: Piece): [number, number] | undefined {
  const cover = coversOn(chart, piece)[0];
  const stands = piece.covers.find(({ facet }) => plan.joints.some(({ a, b }) => a === chart.plane.id && b === facet));
  if (cover) return middleOf(developCover(chart, cover));
  if (!stands) return undefined;
  const joint = plan.joints.find(({ a, b }) => a === chart.plane.id && b === stands.facet)!;
  const [x, y] = middleOf(stands.outline);
  if (joint.kind === 'side') return [joint.onA[0][0], wallToSlope([x, y], chart.plane.pitch).s];
  return [x, joint.onA[0][1]];
}

const middleOf = (outline: Outline): [number, number] => [
  outline.reduce((sum, [x]) => sum + x, 0) / outline.length,
  outline.reduce((sum, [, y]) => sum + y, 0) / outline.length,
];

/** SVG path of outlines on the chart, `y` up. */
export const pathOf = (outlines: readonly Outline[]): string =>
  outlines.map((outline) => `M${outline.map(([x, y]) => `${round(x)} ${round(y)}`).join('L')}Z`).join('');

/** What of a piece shows on this chart: on the slope itself and on the walls turned down beside it. */
export const coversOn = (chart: Chart, piece: Piece): Cover[] =>
  piece.covers.filter(({ facet }) => facet === chart.plane.id || chart.facetOf.has(facet));

export const piecePath = (chart: Chart, piece: Piece): string =>
  pathOf(coversOn(chart, piece).map((cover) => developCover(chart, cover)));

/** A hundredth of a millimetre is far below a pixel. */
export const round = (value: number): number => Math.round(value * 100) / 100;
