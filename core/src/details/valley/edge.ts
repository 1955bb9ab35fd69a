import { type Assembly, cut, emptyAssembly, inCourse } from '../../assembly/index.ts';
import type { Outline } from '../../roof/index.ts';
import { type PlaneContext, type ValleySide, besideValley, onPlane } from '../../slope/index.ts';
import { buttLine, courseMark } from '../../surface/index.ts';
import { inches, stepsToReach } from '../../units/index.ts';
import { type One, sideOf } from './one.ts';

/** A row of shingles laid lengthwise on the chalk line, over the courses that run through; the other side is cut to its edge. */
export function planEdge(one: One): Assembly {
  const { valley, marks } = one;
  const cutPlane = valley.through === valley.a ? one.b : one.a;
  const through = valley.through === valley.a ? one.a : one.b;
  const { surface } = cutPlane;
  const side = sideOf(valley, cutPlane.plane.id);
  const trim = side.clearLow - inches(2);
  const band = (width: number): Outline => besideValley(side, width, width);
  const outlines = onPlane(cutPlane.plane, band(trim + surface.unit.height)).flatMap((outline) =>
    onPlane({ ...cutPlane.plane, holes: [] }, outline, [band(trim)]),
  );
  const count = stepsToReach(valley.line.trueLength, surface.unit.width - inches(2));
  const lastThrough = lastCourseAt(through, sideOf(valley, through.plane.id));
  const mark = `${valley.id}-E`;
  return {
    ...emptyAssembly,
    pieces: [
      {
        mark,
        detail: valley.id,
        role: 'valleyEdge',
        product: surface.product,
        covers: outlines.map((outline) => ({ facet: cutPlane.plane.id, outline, holds: ['open'] })),
        lay: inCourse(cutPlane, 0, 'backPiece'),
        liesOn: lastThrough > 0 ? [`${marks.get(through.plane.id)!}${courseMark(lastThrough)}`] : [],
        units: { whole: count, parts: [] },
        keys: ['valley.longEdge', 'valley.trim'],
      },
    ],
    steps: [
      {
        lay: inCourse(cutPlane, 0, 'backPiece'),
        detail: valley.id,
        plane: cutPlane.plane.id,
        course: 0,
        stage: 'covering',
        action: [
          `${valley.id}: lay ${count} shingles lengthwise along the chalk line, `,
          cut(trim),
          ' from the centre, from the eave up, each over the one below; the courses stop at their edge, ',
          cut(inches(2)),
          ' off the line.',
        ],
        pieces: [mark],
        people: 1,
        keys: ['valley.longEdge', 'valley.trim'],
      },
    ],
  };
}

const lastCourseAt = (context: PlaneContext, { high }: ValleySide): number => {
  let n = context.lines.count;
  while (n > 0 && buttLine(context.lines, n) >= high[1]) n--;
  return n;
};
