import type { Valley } from '../details/index.ts';
import type { Plane } from '../document/index.ts';

/** A slope's place in the order of laying: of its sheets and metal, and of its courses from a course on. */
export type Order = {
  readonly sheets: number;
  readonly courses: readonly { readonly above: number; readonly place: number; readonly woven: boolean }[];
};

/**
 * The order in which slopes are laid. Sheets: the lower slope first where a valley begins up on it (under a dormer's eave). Covering: where
 * one slope runs its shingles through a valley it goes before the one that is cut over it; slopes woven together share a place, so that
 * their courses take turns as they come by height; a slope with a dormer goes as far as the course the dormer's valleys empty on to, then the dormer, then the
 * rest. Otherwise the order of the document.
 */
export function orderOfPlanes(planes: readonly Plane[], valleys: readonly Valley[]): Map<string, Order> {
  const sides = valleys.flatMap((valley) => valley.sides.map(({ plane, side }) => ({ valley, plane, side })));
  const breaks = new Map(
    planes.map(({ id }) => {
      const feet = sides.filter(({ plane, side }) => plane === id && side.footOn > 0).map(({ side }) => side.footOn);
      return [id, [...new Set([0, ...feet])].sort((p, q) => p - q)] as const;
    }),
  );
  // a stretch of courses of one slope, by the course it begins above
  const stretch = (plane: string, above: number): string => `${plane}>${above}`;
  const first = (plane: string): string => stretch(plane, 0);
  const last = (plane: string): string => stretch(plane, breaks.get(plane)!.at(-1)!);
  const before: (readonly [string, string])[] = [...breaks].flatMap(([plane, all]) =>
    all.slice(1).map((above, i) => [stretch(plane, all[i]!), stretch(plane, above)] as const),
  );
  const together: (readonly [string, string])[] = [];
  for (const { a, b, through, style, sides: both } of valleys) {
    const host = both.find(({ side }) => side.footOn > 0);
    if (host) {
      const stands = host.plane === a ? b : a;
      const upper = stretch(host.plane, host.side.footOn);
      const lower = stretch(
        host.plane,
        breaks.get(host.plane)!.findLast((above) => above < host.side.footOn)!,
      );
      before.push([lower, first(stands)]);
      if (style === 'woven') together.push([upper, first(stands)]);
      else before.push(through === host.plane ? [last(host.plane), first(stands)] : [last(stands), upper]);
    } else if (style === 'woven') together.push([last(a), last(b)]);
    else if (style !== 'open') before.push([last(through ?? a), first(through === b ? a : b)]);
  }
  const places = placesOf(
    [...breaks].flatMap(([plane, all]) => all.map((above) => stretch(plane, above))),
    before,
    together,
  );
  const sheets = placesOf(
    planes.map(({ id }) => id),
    sides.filter(({ side }) => side.footOn > 0).map(({ plane, side }) => [plane, side.other] as const),
    [],
  );
  return new Map(
    [...breaks].map(([plane, all]) => [
      plane,
      {
        sheets: sheets.get(plane)!,
        courses: all.map((above) => {
          const name = stretch(plane, above);
          return { above, place: places.get(name)!, woven: together.some((pair) => pair.includes(name)) };
        }),
      },
    ]),
  );
}

/** Numbers names in their order, later where another has to come before; names that go together share a number. */
function placesOf(
  names: readonly string[],
  before: readonly (readonly [string, string])[],
  together: readonly (readonly [string, string])[],
): Map<string, number> {
  const groups = names.map((name) => new Set([name]));
  const groupOf = (name: string): Set<string> => groups.find((group) => group.has(name))!;
  for (const [p, q] of together) {
    const [into, from] = [groupOf(p), groupOf(q)];
    if (into === from) continue;
    for (const name of from) into.add(name);
    groups.splice(groups.indexOf(from), 1);
  }
  const places = new Map<string, number>();
  for (let place = 0; groups.length > 0; place++) {
    const waits = (group: Set<string>): boolean => before.some(([p, q]) => group.has(q) && !group.has(p) && !places.has(p));
    // a ring of demands (three valleys round one slope can ask for it) is cut at the first in the document
    const next = groups.find((group) => !waits(group)) ?? groups[0]!;
    for (const name of next) places.set(name, place);
    groups.splice(groups.indexOf(next), 1);
  }
  return places;
}
