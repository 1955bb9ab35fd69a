import { type Outline, type Point, type Span, mergeSpans, spansAcross } from '../roof/index.ts';
import { LINE_TOLERANCE, inches, stepsToReach } from '../units/index.ts';
import type { EdgeHold, Facet, Fastener, Finding, Joint, Piece, Step, Words } from './model.ts';

/** How the lower, right, upper and left edge of a piece is held. */
export type FourEdges = readonly [EdgeHold, EdgeHold, EdgeHold, EdgeHold];

/** Of what is turned up a wall and stuck to it, its upper edge sealed by what covers it. */
export const STUCK_TO_WALL: FourEdges = ['bonded', 'bonded', 'letIn', 'bonded'];
/** Of what hangs from a joint or a reglet it is let into. */
export const HUNG_IN_WALL: FourEdges = ['open', 'open', 'letIn', 'open'];

/** A face that stands upright on a slope; water runs straight down it. */
export const standUp = (
  on: string,
  face: Pick<Facet, 'id' | 'name' | 'outline'> & { readonly detail: string } & Partial<Facet>,
): Facet => ({ kind: 'wall', on, fall: [0, -1], angle: Math.PI / 2, ...face });

/** Where a face across the slope, seen from below (`front`) or from above (`back`), stands on it: level at the height `y`, from `x0` to `x1` along the eave. */
export const acrossAt = (
  kind: 'front' | 'back',
  a: string,
  b: string,
  { x0, x1, y }: { x0: number; x1: number; y: number },
): Joint => ({
  kind,
  side: 1,
  runsOn: false,
  a,
  b,
  onA: [[x0, y], [x1, y]], // prettier-ignore
  onB: [[x0, 0], [x1, 0]], // prettier-ignore
});

/**
 * Distances along a run from its start, both its ends among them, evenly and at most `spacing` apart (all millimetres). 30 in, at most 12 in apart: 0, 10, 20
 * and 30 in.
 */
export function evenlyAlong(run: number, spacing: number): number[] {
  const gaps = Math.max(1, stepsToReach(run, spacing));
  return Array.from({ length: gaps + 1 }, (_, i) => (run * i) / gaps);
}

/** A line on a slope's chart: level at a height, or up the slope at a distance along the eave. */
export type RowLine = { readonly y: number } | { readonly x: number };

const flipped = (outline: Outline): Outline => outline.map(([x, y]): Point => [y, x]);

/** Places on a line across shapes, evenly between the ends of every stretch of it on them, an inch in and at most `spacing` apart. */
export function evenlyOn(outlines: readonly Outline[], line: RowLine, spacing: number): Point[] {
  const level = 'y' in line;
  const at = level ? line.y : line.x;
  const spans = mergeSpans(
    outlines.flatMap((outline): readonly Span[] => spansAcross(level ? outline : flipped(outline), at)),
    LINE_TOLERANCE,
  );
  return spans.flatMap(([from, to]) => {
    const inset = Math.min(inches(1), (to - from) / 4);
    const start = from + inset;
    return evenlyAlong(to - from - 2 * inset, spacing).map((along): Point => (level ? [start + along, at] : [at, start + along]));
  });
}

/** Fasteners of one piece and one kind at places on a facet; none where there is nothing to fasten with. */
export const fastenersAt = (
  product: { readonly id: string } | undefined,
  { piece, facet, keptDry }: Pick<Fastener, 'piece' | 'facet' | 'keptDry'>,
  places: readonly Point[],
): Fastener[] => (product ? places.map((at): Fastener => ({ piece, facet, at, product: product.id, keptDry })) : []);

/**
 * Pieces, and the line of the run sheet that lays them: at the place of the first, of its detail and for its rules, unless the line says otherwise. There
 * must be a piece.
 */
export function laid(
  pieces: readonly Piece[],
  line: Omit<Step, 'lay' | 'detail' | 'pieces' | 'keys'> & Partial<Pick<Step, 'lay' | 'detail' | 'keys'>>,
): Step {
  const { lay, detail, keys } = pieces[0]!;
  return { lay, detail, keys, ...line, pieces: pieces.map(({ mark }) => mark) };
}

/** Said where the catalog has nothing that will do: `Chimney: the catalog has no …`. */
export const notInCatalog = (name: string, what: Words, finding: Omit<Finding, 'sentence'>): Finding => ({
  ...finding,
  sentence: [`${name}: the catalog has no `, ...what, '.'],
});
