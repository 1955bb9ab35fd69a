import { isSlateAndHalf, itemById } from '../../catalog/index.ts';
import { type Issue, coveringOfKind } from '../../document/index.ts';
import { leastOf } from '../../rules/index.ts';
import type { ToCheck, ToLayOut } from '../../slope/index.ts';
import { type Lines, type Surface, evenLines, fittedLines } from '../../surface/index.ts';
import { printLength, stepsToReach } from '../../units/index.ts';
import { tooFarApart, tooFlat } from '../check.ts';
import { slatesOf } from './slate.ts';

/** Largest gauge: (H − least headlap) / 2. 500 with 90: 205. */
export const largestGauge = (height: number, headlap: number): number => (height - headlap) / 2;

/**
 * Courses that fill a slope: N = ⌈(slope + o − e) / largest gauge⌉, each (slope + o − e) / N apart; `covered`: what the ridge unit or an apron covers,
 * down from the top. 3200 with o 50, e 150 and 205: 16 courses of 193.75. 4000, o 50, e 75, 100: 40 of 99.375.
 */
export function fillSlope(
  slope: number,
  overhang: number,
  covered: number,
  largest: number,
): { readonly courses: number; readonly gauge: number } {
  const run = slope + overhang - covered;
  const courses = Math.max(1, stepsToReach(run, largest));
  return { courses, gauge: run / courses };
}

/** A slope in slates or plain tiles: the fewest courses that fill it without opening the least headlap. */
export function layOut(asked: ToLayOut): Surface {
  const { plane, rules, catalog, topApron } = asked;
  const covering = coveringOfKind(asked, 'doubleLap');
  const { slate } = slatesOf(asked);
  const underRidge = itemById(catalog, 'ridgeCap', covering.ridge).halfWidth;
  const covered = topApron ?? (plane.top === 'ridge' ? underRidge : 0);
  const filled = fillSlope(
    plane.slope.length,
    covering.overhang,
    covered,
    largestGauge(slate.height, leastOf(rules, 'covering.headlap')),
  );
  const given = plane.exposure ?? covering.gauge;
  const even: Lines = {
    ...evenLines(-covering.overhang, given ?? filled.gauge, slate.height, plane.slope.length),
    ...(given === null ? { count: filled.courses } : {}),
  };
  return {
    product: slate.id,
    name: slate.name,
    maker: slate.maker,
    lines: plane.measuredButts?.length ? fittedLines(even, plane.measuredButts) : even,
    unit: { width: slate.width, height: slate.height },
    wholeOverHead: false,
    thickness: slate.thickness,
    underRidge,
    sides: 'soakers',
    valleys: 'open',
    bearing: covering.batten === null ? 'deck' : 'rafters',
  };
}

/** A pitch under the least, a gauge that opens the headlap, a slate and a half of another height. */
export function check(asked: ToCheck): Issue[] {
  const { job, rules, catalog, path } = asked;
  const covering = coveringOfKind(asked, 'doubleLap');
  const { slate, wide } = slatesOf(asked);
  const ridge = itemById(catalog, 'ridgeCap', covering.ridge);
  const headlap = leastOf(rules, 'covering.headlap');
  const lap = printLength(headlap, job.units);
  return [
    ...tooFlat(asked, slate.name, 'degrees'),
    ...tooFarApart(
      asked,
      { field: 'gauge', name: 'gauge', given: covering.gauge },
      largestGauge(slate.height, headlap),
      (print) => `the ${print} that leaves ${slate.name} a headlap of ${lap}`,
    ),
    ...(wide && !isSlateAndHalf(slate, wide)
      ? [
          {
            path: `${path}.slateAndHalf`,
            message: `Slate and a half: ${wide.name} is not ${slate.name} half as wide again.`,
          },
        ]
      : []),
    ...(ridge.for === 'slate'
      ? []
      : [{ path: `${path}.ridge`, message: `Ridge: ${ridge.name} is not made for slates or plain tiles.` }]),
  ];
}
