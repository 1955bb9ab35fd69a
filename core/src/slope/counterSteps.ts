import { type FigurePanel, type Words, cut } from '../assembly/index.ts';
import { slopeFactor } from '../roof/index.ts';
import { type Requirements, leastOf } from '../rules/index.ts';
import { stepsToReach } from '../units/index.ts';
import type { PlacedWall, PlaneContext } from './model.ts';
import { isOnTiles } from './cover.ts';
import { pickStep } from './steps.ts';

export type CounterInput = {
  /** Rise over run of the line the counterflashing climbs. */
  readonly pitch: number;
  /** From masonry joint to joint. */
  readonly joint: number;
  /** Base flashing up the wall, square to the slope. */
  readonly baseLeg: number;
  /** Level run of the wall. */
  readonly run: number;
  readonly rules: Requirements;
};

export type CounterSteps = {
  /** Joints a step climbs. */
  readonly joints: number;
  /** Lowest joint usable at the uphill end of its step, above the roof line, plumb. */
  readonly lowest: number;
  /** Level, from step to step. */
  readonly spacing: number;
  readonly pieces: number;
  readonly length: number;
  readonly lap: number;
  /** Height of a piece's downhill end above the roof line. */
  readonly tallEnd: number;
};

/**
 * Counterflashing stepped in masonry joints: the joint used stands U / cos θ + 1/2 in above the roof line at the uphill end of its step;
 * steps are c·b / m apart, with the fewest joints a step that makes that 4 in or more; the laps run downhill over the piece below.
 * b 2 2/3 in, 6/12, U 4 in: 4.97 in, 5 1/3 in, tall end 9.14 in, 150 in level: 29 pieces of 8 1/3 in. 12/12 takes 2 joints a step.
 */
export function counterSteps({ pitch, joint, baseLeg, run, rules }: CounterInput): CounterSteps {
  const lap = leastOf(rules, 'counterflashing.endLap');
  const least = leastOf(rules, 'counterflashing.stepSpacing');
  const lowest = baseLeg * slopeFactor(pitch) + leastOf(rules, 'counterflashing.aboveBase');
  const joints = Math.max(1, stepsToReach(least, joint / pitch));
  const spacing = (joints * joint) / pitch;
  return {
    joints,
    lowest,
    spacing,
    pieces: Math.max(1, stepsToReach(run, spacing)),
    length: spacing + lap,
    lap,
    tallEnd: lowest + joints * joint + lap * pitch,
  };
}

/** The lowest joint, and what it has to stand above: the steps' wall leg or the membrane behind it, whichever goes higher. */
export function lowestJointWords(
  { rules, surface }: Pick<PlaneContext, 'rules' | 'surface'>,
  wallLeg: number,
  lowest: number,
): Words {
  const [base, its] = isOnTiles({ surface }) ? ['the cover flashing', 'the cover flashing’s'] : ['the steps', 'the steps’'];
  const up = leastOf(rules, 'wallMembrane.up');
  const over: Words = up > wallLeg ? [`the membrane behind ${base}, `, cut(up)] : [`${its} wall leg, `, cut(wallLeg)];
  return [cut(lowest), ', plumb; it must clear ', ...over, ' up the wall'];
}

/** The lowest joint as a figure of a detail’s sheet; `lowest`: above the roof line, plumb, millimetres. */
export const lowestJoint = (context: PlaneContext, wall: PlacedWall, lowest: number): FigurePanel['figures'][number] => ({
  label: 'Lowest joint above the roof line',
  value: lowestJointWords(context, pickStep(context, wall).item?.wallLeg ?? 0, lowest),
  key: 'counterflashing.aboveBase',
});

/** The steps of a wall's counterflashing, and of trays over it. */
export const stepsOf = (context: PlaneContext, wall: PlacedWall, wallLeg: number): CounterSteps =>
  counterSteps({
    pitch: context.plane.pitch,
    joint: wall.jointSpacing,
    baseLeg: behind(context, wallLeg),
    run: (wall.to - wall.from) / context.slopeFactor,
    rules: context.rules,
  });

/** The joint or reglet must stand above the base flashing and above the membrane behind it. */
export const behind = (context: PlaneContext, wallLeg: number): number =>
  Math.max(wallLeg, leastOf(context.rules, 'wallMembrane.up'));
