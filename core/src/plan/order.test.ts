import { describe, expect, it } from 'vitest';
import { demoHouse, demoJob } from '../../fixtures/demo.ts';
import { VALLEYS, crossed, dormered, valleyOf } from '../../fixtures/roofs.ts';
import { planFor } from '../../fixtures/planned.ts';
import { type Plan } from './index.ts';

/** Where a piece comes in the order of laying. */
const placeOf = ({ pieces }: Plan, mark: string): number => {
  const place = pieces.findIndex((piece) => piece.mark === mark);
  if (place < 0) throw new Error(`no ${mark} among ${pieces.map((piece) => piece.mark).join()}`);
  return place;
};
const coursesOf = (made: Plan, prefix: string): number[] =>
  made.pieces.flatMap(({ mark, role }, i) => (role === 'course' && mark.startsWith(prefix) ? [i] : []));
const first = (places: readonly number[]): number => Math.min(...places);
const last = (places: readonly number[]): number => Math.max(...places);
const prefix = (made: Plan, id: string): string => made.planes.find((plane) => plane.id === id)!.mark;

describe('slopes that share a valley', () => {
  const cross = (through: string | null, style: Parameters<typeof valleyOf>[0] = 'closed cut'): Plan =>
    planFor(crossed((job) => VALLEYS.forEach((key) => void (job.valleys[key] = valleyOf(style, through)))));

  it('the one whose shingles run through is laid whole before the one that is cut over it, whichever it is', () => {
    const main = cross('south');
    expect(last(coursesOf(main, prefix(main, 'south')))).toBeLessThan(first(coursesOf(main, prefix(main, 'cross-west'))));
    expect(last(coursesOf(main, prefix(main, 'south')))).toBeLessThan(first(coursesOf(main, prefix(main, 'cross-east'))));
    const gable = planFor(
      crossed((job) => {
        job.valleys[VALLEYS[0]] = valleyOf('closed cut', 'cross-west');
        job.valleys[VALLEYS[1]] = valleyOf('closed cut', 'cross-east');
      }),
    );
    for (const side of ['cross-west', 'cross-east'])
      expect(last(coursesOf(gable, prefix(gable, side)))).toBeLessThan(first(coursesOf(gable, prefix(gable, 'south'))));
  });

  it('woven, their courses take turns as they come by height', () => {
    const made = cross(null, 'woven');
    const [south, west] = [coursesOf(made, prefix(made, 'south')), coursesOf(made, prefix(made, 'cross-west'))];
    expect(first(south)).toBeLessThan(last(west));
    expect(first(west)).toBeLessThan(last(south));
    // eaves level, pitch and exposure alike: course n of the one right beside course n of the other
    const order = made.pieces
      .filter(
        ({ role, mark }) =>
          role === 'course' && (mark.startsWith(prefix(made, 'south')) || mark.startsWith(prefix(made, 'cross-west'))),
      )
      .map(({ course }) => course!);
    const shared = order.slice(0, 2 * coursesOf(made, prefix(made, 'cross-west')).length - 4);
    for (let i = 1; i < shared.length; i++) expect(Math.abs(shared[i]! - shared[i - 1]!)).toBeLessThanOrEqual(1);
  });

  it('open, both may be laid in the order of the document, over a lining that is there before either', () => {
    const made = cross(null, 'open');
    const lining = placeOf(made, 'V1-L1');
    expect(lining).toBeLessThan(first(coursesOf(made, prefix(made, 'south'))));
    expect(lining).toBeLessThan(first(coursesOf(made, prefix(made, 'cross-west'))));
  });

  it('sheets lie in every valley before any covering', () => {
    for (const style of ['closed cut', 'open', 'woven'] as const) {
      const made = cross(null, style);
      const covering = first(made.pieces.flatMap(({ role }, i) => (role === 'course' ? [i] : [])));
      for (const valley of ['V1', 'V2']) expect(placeOf(made, `${valley}-S1`), style).toBeLessThan(covering);
    }
  });
});

describe('a dormer', () => {
  const made = planFor(dormered());
  const host = made.planes[0]!.mark;

  it('comes after the courses below its eave and before those that run on beside it', () => {
    const own = made.pieces.flatMap(({ role, mark }, i) =>
      role === 'course' && !mark.startsWith(host) && mark.startsWith('D') ? [i] : [],
    );
    const below = coursesOf(made, host);
    expect(own.length).toBeGreaterThan(0);
    expect(first(below)).toBeLessThan(first(own));
    expect(last(below)).toBeGreaterThan(first(own));
    // what its valleys empty on to lies before its own first course
    const dormer = made.pieces[first(own)]!;
    for (const mark of dormer.liesOn) expect(placeOf(made, mark), mark).toBeLessThan(first(own));
  });

  it('its front and cheeks have their membrane before the underlayment of the slope above it', () => {
    const membranes = made.pieces.flatMap(({ role, mark }, i) => (role === 'wallMembrane' && mark.startsWith('D1') ? [i] : []));
    const steps = made.pieces.flatMap(({ role, mark }, i) => (role === 'step' && mark.startsWith('D1') ? [i] : []));
    expect(membranes.length).toBeGreaterThan(2);
    expect(last(membranes)).toBeLessThan(first(steps));
  });
});

describe('marks', () => {
  it('one slope has none of its own before its courses; several have one each, and no piece has another’s', () => {
    expect(planFor(demoJob()).planes.map(({ mark }) => mark)).toEqual(['']);
    const house = planFor(demoHouse());
    const marks = house.planes.map(({ mark }) => mark);
    expect(new Set(marks).size).toBe(marks.length);
    for (const mark of marks) expect(mark).toMatch(/^[A-Z0-9]+-$/);
    expect(new Set(house.pieces.map(({ mark }) => mark)).size).toBe(house.pieces.length);
    for (const plane of house.planes)
      for (const { mark } of house.pieces.filter(({ role, covers }) => role === 'course' && covers[0]?.facet === plane.id))
        expect(mark.startsWith(plane.mark), mark).toBe(true);
  });

  it('slopes whose ids have the same initials are told apart by a number', () => {
    const made = planFor(
      crossed((job) => {
        const other = job.parts[0]!.planes.find(({ id }) => id !== 'south')!;
        other.id = 'crest-wing';
      }),
    );
    const marks = made.planes.map(({ mark }) => mark).filter((mark) => mark.startsWith('CW'));
    expect(marks.toSorted()).toEqual(['CW-', 'CW2-']);
  });
});

describe('stages', () => {
  it('on every slope of the house: all that dries it in comes before any covering, the finish after all of it', () => {
    const house = planFor(demoHouse());
    const stages = house.steps.map(({ stage }) => stage);
    expect(stages.lastIndexOf('dry-in')).toBeLessThan(stages.indexOf('covering'));
    expect(stages.lastIndexOf('covering')).toBeLessThan(stages.indexOf('finish'));
  });
});
