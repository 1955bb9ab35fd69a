import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoFile, demoHouse, demoLibrary } from '../../fixtures/demo.ts';
import { anyCrossed, anyDormered, anyFeatured } from '../../fixtures/roofs.ts';
import { cases } from '../../fixtures/seeds.ts';
import { withSkylight } from '../../fixtures/tiles.ts';
import { planFor } from '../../fixtures/planned.ts';
import { findItem } from '../catalog/index.ts';
import { bounds, distanceToStretch } from '../roof/index.ts';
import { inches } from '../units/index.ts';
import { type Dimension, type Plan, DRAWN_OF_WALL, dimensionsOf, lengthOf } from './index.ts';

const house = planFor(demoHouse());
const of = (plan: Plan, detail: string): Dimension[] =>
  dimensionsOf(
    plan,
    plan.panels.find((panel) => panel.detail === detail)!,
  );
const length = (plan: Plan, detail: string, what: string, piece?: string): number =>
  lengthOf(of(plan, detail).find((one) => one.what === what && (piece === undefined || one.piece === piece))!);
const pieceOf = (plan: Plan, mark: string) => plan.pieces.find((piece) => piece.mark === mark)!;

describe('what the tape meets on a drawing is what the plan says in words', () => {
  it('of a chimney: the apron’s legs as asked, its ears by the rule, the steps as bought', () => {
    const chimney = demoHouse().features.find(({ id }) => id === 'CH1')!;
    expect(length(house, 'CH1', 'on the roof')).toBeCloseTo('apronLeg' in chimney ? chimney.apronLeg : 0, 6);
    const end = house.planes.find(({ id }) => id === 'north')!.requirements.find(({ key }) => key === 'apron.end')!;
    expect(length(house, 'CH1', 'past the corner')).toBeCloseTo(end.least!, 6);
    expect(length(house, 'CH1', 'leg on the roof')).toBeCloseTo(inches(4), 6);
    expect(length(house, 'CH1', 'up the roof')).toBeGreaterThan(inches(20));
  });

  it('of a wall: the step’s length and headlap as its summary has them', () => {
    const { step } = house.planes.flatMap(({ walls }) => walls).find(({ id }) => id === 'SW1')!;
    expect(length(house, 'SW1', 'headlap')).toBeCloseTo(step!.headlap, 6);
    expect(length(house, 'SW1', 'long')).toBeCloseTo(step!.length, 6);
  });

  it('of a pipe: its base as the catalog has it, and as much of it showing as its line says', () => {
    const piece = pieceOf(house, 'P1-B');
    const boot = findItem(demoLibrary.catalog, 'boot', piece.product!)!;
    expect([length(house, 'P1', 'wide'), length(house, 'P1', 'long')]).toEqual([boot.baseWidth, boot.baseLength].map((v) => expect.closeTo(v, 6))); // prettier-ignore
    const line = house.runSheet.flatMap(({ lines }) => lines).find(({ pieces }) => pieces.includes('P1-B'))!;
    const cuts = line.action.flatMap((part) => (typeof part === 'object' && 'mm' in part ? [part.mm] : []));
    expect(cuts.some((cut) => Math.abs(cut - length(house, 'P1', 'showing')) < 0.01)).toBe(true);
  });

  it('of soakers as they lie: 100 under the slates, 306.25 long (25 of 331.25 is turned down), lapped 112.5', () => {
    const porch = planFor(demoFile('keepers-cottage-porch'));
    expect(length(porch, 'SW1', 'leg on the roof')).toBeCloseTo(100, 6);
    expect(length(porch, 'SW1', 'long')).toBeCloseTo(306.25, 6);
    expect(length(porch, 'SW1', 'headlap')).toBeCloseTo(112.5, 6);
  });

  it('of a valley: half the sheet each side', () => {
    const piece = house.pieces.find(({ detail, role }) => detail === 'V1' && role === 'valleySheet')!;
    const sheet = findItem(demoLibrary.catalog, 'iceBarrier', piece.product!)!;
    expect(length(house, 'V1', 'sheet from the centre')).toBeCloseTo(sheet.width / 2, 1);
  });
});

describe('what the tape meets on a face is what governs it', () => {
  const requirement = (plane: string, key: string): number =>
    house.planes.find(({ id }) => id === plane)!.requirements.find((one) => one.key === key)!.least!;

  it('of a chimney’s front: the apron’s leg as asked, the counterflashing an inch and a course off the roof and laps the rest', () => {
    const chimney = demoHouse().features.find(({ id }) => id === 'CH1')!;
    const leg = length(house, 'CH1', 'up the face');
    expect(leg).toBeCloseTo('apronWallLeg' in chimney ? Number(chimney.apronWallLeg) : inches(5), 6);
    const off = length(house, 'CH1', 'off the roof', 'CH1F-R1');
    expect(off).toBeGreaterThanOrEqual(inches(1) - 1e-6);
    expect(off + length(house, 'CH1', 'over the leg', 'CH1F-R1')).toBeCloseTo(leg, 6);
    expect(length(house, 'CH1', 'over the leg', 'CH1F-R1')).toBeGreaterThanOrEqual(
      requirement('north', 'counterflashing.cover') - 1e-6,
    );
  });

  it('of its sides: the figures of its page, tall end, spacing and lap', () => {
    const figure = (label: string): number => {
      const value = house.panels
        .find(({ detail }) => detail === 'CH1')!
        .figures.find((one) => one.label.startsWith(label))!.value;
      return value.flatMap((part) => (typeof part === 'object' && 'mm' in part ? [part.mm] : []))[0]!;
    };
    expect(length(house, 'CH1', 'tall end, from the roof')).toBeCloseTo(figure('Tall end of a step'), 3);
    const [level, lap] = [length(house, 'CH1', 'level'), length(house, 'CH1', 'lap')];
    expect(lap).toBeCloseTo(inches(3), 6);
    // 2 2/3 in brickwork, 6/12: a joint a step, 5 1/3 in level from one to the next
    expect(level - lap).toBeCloseTo(inches(16 / 3), 3);
    expect(length(house, 'CH1', 'up the wall')).toBeCloseTo(inches(4), 6);
  });

  it('of cladding and frames: off the roof and over the steps make the leg; covering stops 3/8 in from wall and pipe', () => {
    for (const [detail, up] of [
      ['SW1', 'up the wall'],
      ['SK1', 'up the frame'],
    ] as const) {
      const leg = length(house, detail, up);
      expect(length(house, detail, 'off the roof') + length(house, detail, 'over the steps')).toBeCloseTo(leg, 6);
    }
    expect(length(house, 'SW1', 'gap')).toBeCloseTo(requirement('north', 'covering.gapAtWall'), 6);
    expect(length(house, 'P1', 'gap')).toBeCloseTo(inches(3 / 8), 2);
  });

  it('of a closed valley: what crosses goes at least 12 in past the centre, what is cut stays 2 in back', () => {
    expect(length(house, 'V1', 'past the centre')).toBeGreaterThanOrEqual(requirement('south', 'valley.cross') - 1e-6);
    expect(length(house, 'V1', 'back from the centre')).toBeCloseTo(inches(2), 1);
  });

  it('of an open valley on tiles: half the open width, 125 at the top and 155 at the foot, whatever breaks the courses above its head', () => {
    const job = demoFile('keepers-cottage-back');
    withSkylight(job, 1500, 2000);
    const plane = job.features.find(({ kind }) => kind === 'chimney')!.plane;
    job.features.at(-1)!.plane = plane;
    const plan = planFor(job);
    for (const valley of ['V1', 'V2']) {
      expect(length(plan, valley, 'back from the centre')).toBeGreaterThan(125 / 2);
      expect(length(plan, valley, 'back from the centre')).toBeLessThan(155 / 2);
    }
  });
});

it('of a long wall nothing is measured above its foot, which is all that is drawn: the slate porch', () => {
  const plan = planFor(demoFile('keepers-cottage-porch'));
  const face = plan.facets.find(({ on, detail, cavity }) => on !== undefined && detail === 'SW1' && !cavity)!;
  const foot = bounds(face.outline).x0;
  const all = dimensionsOf(
    plan,
    plan.panels.find(({ detail }) => detail === 'SW1')!,
  ).filter(({ facet }) => facet === face.id);
  expect(all.map(({ what }) => what)).toContain('off the roof, plumb');
  for (const { what, from, to } of all) expect(Math.max(from[0], to[0]) - foot, what).toBeLessThanOrEqual(DRAWN_OF_WALL);
});

it('on any roof: every dimension has a length, stands once on its drawing, and ends on the piece it is of', () => {
  fc.assert(
    fc.property(fc.oneof(anyFeatured, anyDormered, anyCrossed), (job) => {
      const plan = planFor(job);
      for (const panel of plan.panels) {
        const all = dimensionsOf(plan, panel);
        expect(new Set(all.map(({ what, piece, facet }) => `${facet} ${piece} ${what}`)).size).toBe(all.length);
        for (const one of all) {
          expect(lengthOf(one)).toBeGreaterThan(1);
          const outlines = pieceOf(plan, one.piece).covers.flatMap(({ facet, outline }) =>
            facet === one.facet ? [outline] : [],
          );
          const box = bounds(outlines.flat());
          // legs are measured to an edge of the piece, or to an edge of the box round one whose corners are cut off
          const corners = [[box.x0, box.y0], [box.x1, box.y0], [box.x1, box.y1], [box.x0, box.y1]] as const; // prettier-ignore
          const edges = [...outlines, corners].flatMap((outline) => outline.map((a, i) => [a, outline[(i + 1) % outline.length]!] as const)); // prettier-ignore
          const off = (at: Dimension['from']): number => Math.min(...edges.map(([a, b]) => distanceToStretch(at, a, b)));
          expect(Math.min(off(one.from), off(one.to)), `${panel.title}: ${one.what} of ${one.piece}`).toBeLessThan(1);
        }
      }
    }),
    cases(25),
  );
});
