import type { Outline, Point } from './plane.ts';

/** A stretch along a level line. */
export type Span = readonly [from: number, to: number];

/** Most come in order already, and are looked at far too often to be copied each time. */
function inOrder(spans: readonly Span[]): readonly Span[] {
  for (let i = 1; i < spans.length; i++) if (spans[i]![0] < spans[i - 1]![0]) return spans.toSorted((a, b) => a[0] - b[0]);
  return spans;
}

/** Are they in order already, with more than a gap between them? */
function areApart(spans: readonly Span[], gap: number): boolean {
  for (let i = 1; i < spans.length; i++) if (spans[i]![0] <= spans[i - 1]![1] + gap) return false;
  return true;
}

/** Spans put in order, those that touch or overlap made one. `near` closes gaps up to that wide. */
export function mergeSpans(spans: readonly Span[], near = 0): readonly Span[] {
  if (areApart(spans, near)) return spans;
  const merged: [number, number][] = [];
  for (const span of inOrder(spans)) {
    const last = merged[merged.length - 1];
    if (last && span[0] <= last[1] + near) last[1] = Math.max(last[1], span[1]);
    else merged.push([span[0], span[1]]);
  }
  return merged;
}

/** What is left of spans in order once others are taken out. */
export function subtractSpans(spans: readonly Span[], taken: readonly Span[]): readonly Span[] {
  if (taken.length === 0) return spans;
  const off = mergeSpans(taken);
  const left: Span[] = [];
  for (const span of spans) {
    let from = span[0];
    const to = span[1];
    for (let i = firstPast(off, from); i < off.length && off[i]![0] < to; i++) {
      const one = off[i]!;
      if (one[0] > from) left.push([from, one[0]]);
      from = one[1];
    }
    if (from < to) left.push(from === span[0] ? span : [from, to]);
  }
  return left;
}

/** Which of spans in order, none over another, is the first that ends past a place. */
function firstPast(spans: readonly Span[], place: number): number {
  let low = 0;
  let high = spans.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (spans[middle]![1] > place) high = middle;
    else low = middle + 1;
  }
  return low;
}

/** The part of spans in order, none over another, between two places. */
export function clipSpans(spans: readonly Span[], from: number, to: number): readonly Span[] {
  if (spans.length === 1 && spans[0]![0] >= from && spans[0]![1] <= to) return spans;
  const clipped: Span[] = [];
  for (let i = firstPast(spans, from); i < spans.length && spans[i]![0] < to; i++) {
    const span = spans[i]!;
    clipped.push(span[0] >= from && span[1] <= to ? span : [Math.max(span[0], from), Math.min(span[1], to)]);
  }
  return clipped;
}

/** From the first to the last place of spans in order, none over another, between two places; 0 where none lies there. */
export function extentBetween(spans: readonly Span[], from: number, to: number): number {
  const first = firstPast(spans, from);
  if (first >= spans.length || spans[first]![0] >= to) return 0;
  let last = first;
  while (last + 1 < spans.length && spans[last + 1]![0] < to) last++;
  return Math.min(spans[last]![1], to) - Math.max(spans[first]![0], from);
}

/** Does a place lie in what of spans in order, none over another, is between two others? Their ends count. */
export function isWithinSpans(spans: readonly Span[], place: number, from: number, to: number): boolean {
  for (let i = firstPast(spans, Math.max(from, place - 1)); i < spans.length && spans[i]![0] < to; i++)
    if (place >= Math.max(spans[i]![0], from) && place <= Math.min(spans[i]![1], to)) return true;
  return false;
}

/** Where a level line at height `y` runs inside an outline of any shape, left to right. */
export function spansAcross(outline: Outline, y: number): Span[] {
  const xs: number[] = [];
  for (let i = 0, j = outline.length - 1; i < outline.length; j = i++) {
    const a = outline[i]!;
    const b = outline[j]!;
    if (a[1] > y !== b[1] > y) xs.push(a[0] + ((b[0] - a[0]) * (y - a[1])) / (b[1] - a[1]));
  }
  if (xs.length === 2) return xs[0]! <= xs[1]! ? [[xs[0]!, xs[1]!]] : [[xs[1]!, xs[0]!]];
  xs.sort((p, q) => p - q);
  const spans: Span[] = [];
  for (let i = 1; i < xs.length; i += 2) spans.push([xs[i - 1]!, xs[i]!]);
  return spans;
}

/** Where a level line comes within `distance` of a stretch of line, for any height `y` of it; undefined where it stays clear. */
export function spansNear(a: Point, b: Point, distance: number): (y: number) => Span | undefined {
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const [nx, ny] = length > 0 ? [(-(b[1] - a[1]) / length) * distance, ((b[0] - a[0]) / length) * distance] : [0, 0];
  const band: Outline = [[a[0] + nx, a[1] + ny], [a[0] - nx, a[1] - ny], [b[0] - nx, b[1] - ny], [b[0] + nx, b[1] + ny]]; // prettier-ignore
  return (y) => {
    let low = Number.POSITIVE_INFINITY;
    let high = Number.NEGATIVE_INFINITY;
    const round = (end: Point): void => {
      const off = Math.abs(y - end[1]);
      if (off >= distance) return;
      const half = Math.sqrt(distance * distance - off * off);
      low = Math.min(low, end[0] - half);
      high = Math.max(high, end[0] + half);
    };
    round(a);
    round(b);
    if (length > 0)
      for (const span of spansAcross(band, y)) {
        low = Math.min(low, span[0]);
        high = Math.max(high, span[1]);
      }
    return low > high ? undefined : [low, high];
  };
}

/** The same at one height. */
export const spanNear = (a: Point, b: Point, distance: number, y: number): Span | undefined => spansNear(a, b, distance)(y);

/** Left edges of `count` units `width` wide with equal gaps between two references; empty when they do not fit. */
export function spaceEvenly(from: number, to: number, count: number, width: number): number[] {
  const gap = (to - from - count * width) / (count + 1);
  return gap < 0 || count < 1 ? [] : Array.from({ length: count }, (_, i) => from + gap * (i + 1) + width * i);
}
