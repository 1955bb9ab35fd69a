import type { Span } from './spans.ts';

/** So few are looked through one by one: parting the slope costs more. */
const FEW = 8;

/**
 * Things that are asked for again and again by where they are, up the slope or along it: all that touch what lies from `low` to `high`, in the order they were given.
 * `extent` is from where to where a thing reaches; it may have no end (Infinity). What is asked of a short stretch looks at what is near
 * it alone, however much there is on the rest of the slope.
 */
export function byExtent<Thing>(
  things: readonly Thing[],
  extent: (thing: Thing) => Span,
): (low: number, high: number) => readonly Thing[] {
  if (things.length === 0) return () => [];
  const extents = things.map(extent);
  const touching = (near: readonly number[], low: number, high: number): Thing[] => {
    const found: Thing[] = [];
    for (const i of near) if (extents[i]![0] <= high && extents[i]![1] >= low) found.push(things[i]!);
    return found;
  };
  if (things.length <= FEW) {
    const all = [...things.keys()];
    return (low, high) => touching(all, low, high);
  }
  let [bottom, top] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const end of extents.flat())
    if (Number.isFinite(end)) {
      bottom = Math.min(bottom, end);
      top = Math.max(top, end);
    }
  const last = things.length - 1;
  const bandOf = (y: number): number =>
    y <= bottom ? 0 : Math.min(last, Math.floor(((y - bottom) / Math.max(top - bottom, 1)) * things.length));
  /** In each band of the slope, of which there are as many as things, the numbers of those that reach into it. */
  const bands = things.map((): number[] => []);
  for (const [i, [from, to]] of extents.entries()) {
    const end = bandOf(to);
    for (let band = bandOf(from); band <= end; band++) bands[band]!.push(i);
  }
  return (low, high) => {
    const [from, to] = [bandOf(low), bandOf(high)];
    if (from === to) return touching(bands[from]!, low, high);
    return touching(
      [...new Set(bands.slice(from, to + 1).flat())].sort((a, b) => a - b),
      low,
      high,
    );
  };
}
