import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoHouse, stripOf } from '../../../fixtures/demo.ts';
import { anyJob } from '../../../fixtures/jobs.ts';
import { anyCrossed, anyDormered, anyFeatured, slopeWith } from '../../../fixtures/roofs.ts';
import { cases } from '../../../fixtures/seeds.ts';
import { planFor } from '../../../fixtures/planned.ts';
import { type Fastener, type Piece, printWords } from '../../assembly/index.ts';
import { type Plan } from '../../plan/index.ts';
import {
  type Outline,
  bounds,
  distanceToStretch,
  intersectOutlines,
  isWithin,
  rectangle,
  unionOutlines,
} from '../../roof/index.ts';
import { inches } from '../../units/index.ts';

const courses = ({ pieces }: Plan): Piece[] => pieces.filter(({ role }) => role === 'course');
const nailsOf = ({ fasteners }: Plan, mark: string): Fastener[] => fasteners.filter(({ piece }) => piece === mark);

/** The separate pieces of covering of a course on its own slope: its shapes parted at its joints. */
function piecesOf({ covers, joints = [] }: Piece): Outline[] {
  const own = covers.filter(({ facet }) => facet === covers[0]!.facet).map(({ outline }) => outline);
  const edges = [-1e6, ...joints, 1e6];
  return edges.slice(1).flatMap((to, i) =>
    unionOutlines(
      own.flatMap((outline) => {
        const { x0, x1, y0, y1 } = bounds(outline);
        return x1 <= edges[i]! || x0 >= to ? [] : intersectOutlines(outline, rectangle(edges[i]!, y0 - 1, to, y1 + 1));
      }),
    ),
  );
}

const CAPS = inches(6.25);
/** Wholly under the caps of a ridge or hip, which hold it. */
const underCaps = (made: Plan, facet: string, piece: Outline): boolean => {
  const { edges, top } = made.roof.find(({ id }) => id === facet)!;
  const capped = edges.filter(({ kind }) => kind === 'ridge' || kind === 'hip' || (kind === 'top' && top === 'ridge'));
  return piece.every((corner) => capped.some(({ from, to }) => distanceToStretch(corner, from, to) <= CAPS));
};

const anyRoof = fc.oneof(anyJob, anyFeatured, anyCrossed, anyDormered);
const told = (made: Plan): boolean => made.findings.some(({ id }) => id.startsWith('covering.held'));

describe('every piece of covering is held', () => {
  it('by at least two nails, none narrower than 8 in, or the plan says so; what crosses a valley by two in its far end', () => {
    fc.assert(
      fc.property(anyRoof, (job) => {
        const made = planFor(job);
        if (told(made)) return;
        for (const course of courses(made)) {
          const nails = nailsOf(made, course.mark);
          const own = course.covers[0]!.facet;
          const beyond = course.covers.filter(({ facet }) => facet !== own);
          for (const piece of piecesOf(course)) {
            if (underCaps(made, own, piece)) continue;
            const { x0, x1 } = bounds(piece);
            const held = nails.filter(({ facet, at }) => facet === own && isWithin(piece, at)).length;
            const far = beyond.length > 0 ? nails.filter(({ facet }) => facet !== own).length : 0;
            expect(held + far, `${course.mark} from ${x0} to ${x1}`).toBeGreaterThanOrEqual(2);
            if (beyond.length === 0) expect(x1 - x0, `${course.mark} at ${x0}`).toBeGreaterThanOrEqual(inches(8) - 0.4);
          }
        }
      }),
      { ...cases(25), endOnFailure: true },
    );
  });

  it('and no two nails stand within 3/4 in, none off its piece, and the line says how many are driven', () => {
    fc.assert(
      fc.property(anyRoof, (job) => {
        const made = planFor(job);
        const byMark = new Map(made.pieces.map((piece) => [piece.mark, piece]));
        const off: string[] = [];
        for (const { piece, facet, at, inHeadlap } of made.fasteners) {
          const corners = [[0, 0], [0.5, 0.5], [-0.5, 0.5], [0.5, -0.5], [-0.5, -0.5]] as const; // prettier-ignore
          const on = byMark
            .get(piece)!
            .covers.some(
              (cover) => cover.facet === facet && corners.some(([dx, dy]) => isWithin(cover.outline, [at[0] + dx, at[1] + dy])),
            );
          if (!on || (inHeadlap && byMark.get(piece)!.role !== 'course'))
            off.push(`a fastener of ${piece} at ${at.join()} on ${facet}`);
        }
        expect(off).toEqual([]);
        for (const { mark } of courses(made)) {
          const nails = nailsOf(made, mark);
          const apart = nails.flatMap(({ facet, at: [x, y] }, i) =>
            nails
              .slice(0, i)
              .flatMap((other) =>
                facet === other.facet && Math.abs(other.at[0] - x) < inches(1)
                  ? [Math.hypot(other.at[0] - x, other.at[1] - y)]
                  : [],
              ),
          );
          expect(Math.min(...apart, inches(1)), mark).toBeGreaterThanOrEqual(inches(0.75) - 1e-6);
          const line = made.steps.find(({ pieces }) => pieces.includes(mark))!;
          if (nails.length > 0)
            expect(printWords(line.fasteners!, 'imperial'), mark).toMatch(new RegExp(`^${nails.length} nails?\\b`));
        }
      }),
      { ...cases(25), endOnFailure: true },
    );
  });

  it('joints keep the maker’s distance from those of the course below', () => {
    fc.assert(
      fc.property(anyRoof, (job) => {
        const made = planFor(job);
        if (told(made)) return;
        const apart = stripOf(job).shingle === 'thrupley-moorland' ? inches(5) : inches(4);
        const all = courses(made);
        for (const course of all) {
          const below = all.find(
            ({ course: n, covers }) => n === course.course! - 1 && covers[0]!.facet === course.covers[0]!.facet,
          );
          const gaps = (course.joints ?? []).flatMap((x) => (below?.joints ?? []).map((y) => Math.abs(x - y)));
          expect(Math.min(...gaps, apart), course.mark).toBeGreaterThanOrEqual(apart - 0.4);
        }
      }),
      { ...cases(15), endOnFailure: true },
    );
  });
});

describe('on the demo house', () => {
  const house = planFor(demoHouse());
  const whole = (mark: string): number[] => {
    const course = house.pieces.find((piece) => piece.mark === mark)!;
    const nails = nailsOf(house, mark);
    return piecesOf(course)
      .filter((piece) => bounds(piece).x1 - bounds(piece).x0 >= inches(39.375) - 0.4)
      .map((piece) => nails.filter(({ facet, at }) => facet === course.covers[0]!.facet && isWithin(piece, at)).length);
  };

  it('a valley takes nails as far as it goes: above its head every whole shingle has six, as its maker asks in the wind', () => {
    // valleys end at 152 in; courses 29 to 37 begin at 157 in
    for (let n = 29; n <= 37; n++) for (const count of whole(`S-C${n}`)) expect(count, `course ${n}`).toBe(6);
  });

  it('head shingles over the skylights are nailed above the head metal, the strip under the chimney front under its apron', () => {
    const [skylight, chimney] = ['SK1-HD', 'CH1F-A1'].map((mark) =>
      bounds(house.pieces.find((piece) => piece.mark === mark)!.covers[0]!.outline),
    );
    const head = house.pieces.find(({ mark }) => mark === 'SK1-HD')!.course!;
    const over = nailsOf(house, `S-C${head}`).filter(({ at: [x] }) => x > skylight!.x0 && x < skylight!.x1);
    expect(over.length).toBeGreaterThanOrEqual(4);
    for (const { at } of over) expect(at[1]).toBeGreaterThan(skylight!.y1);
    const front = nailsOf(house, 'N-C17').filter(({ at: [x] }) => x > chimney!.x0 + inches(5) && x < chimney!.x1 - inches(5));
    expect(front.length).toBeGreaterThanOrEqual(2);
    for (const { at } of front) {
      expect(at[1]).toBeGreaterThan(chimney!.y0);
      expect(at[1]).toBeLessThan(chimney!.y1);
    }
  });
});

it('two skylights 2 in apart leave a strip that cannot be held: the plan says so, once for all its courses', () => {
  const made = planFor(
    slopeWith(
      ['skylight', 'skylight'],
      (features) =>
        features.forEach((one, i) => {
          if (one.kind === 'skylight')
            Object.assign(one, { width: inches(22.5), across: { from: 'left', distance: inches(50 + i * 24.5) } });
        }),
      { eave: 240, up: 200 },
    ),
  );
  const strips = made.findings.filter(({ id }) => id.startsWith('covering.held'));
  expect(strips).toHaveLength(1);
  expect(strips[0]!.severity).toBe('breaks a rule');
  expect(printWords(strips[0]!.sentence, 'imperial')).toMatch(
    /courses 13 to 2\d, 6'-0 \d.* a piece of covering 1 1\/4" wide has no room for 2 nails/,
  );
});
