import {
  type Feature,
  type Finding,
  type Job,
  type Library,
  type Part,
  type Plane,
  type PlaneRecord,
  type Piece,
  type Plan,
  type PlanePlan,
  type RuleKey,
  type RunLine,
  type UnitSystem,
  type Words,
  printArea,
  printFlow,
  printLength,
  printWords,
} from '#core';
import { createContext, useContext } from 'react';
import type { JobEditor } from './useJobEditor.ts';

/** Everything the views of one job share. */
export type Workbench = {
  readonly editor: JobEditor;
  readonly job: Job;
  readonly library: Library;
  readonly plan: Plan;
  /** The plan's findings and what the water found, worst first. */
  readonly findings: readonly Finding[];
  /** The plan is of this very job; while a change is being planned it is the plan before. */
  readonly planned: boolean;
  /** The plan is of this very job, and the water has judged it. */
  readonly judged: boolean;
  /** The slope looked at: its plan, its shape as planned, and the part of the roof it belongs to. */
  readonly plane: PlanePlan;
  readonly roof: Plane;
  /** The same slope as it is measured now, for the fields: ahead of the plan. */
  readonly measured: Plane;
  readonly part: Part;
  setPlane(id: string): void;
  /** The slope's record and its part in a draft of the job. */
  recordIn(draft: Job): PlaneRecord;
  partIn(draft: Job): Part;
  /** Run-sheet lines in order; `marker` counts how many of them are laid. */
  readonly lines: readonly RunLine[];
  readonly marker: number;
  setMarker(marker: number): void;
  /** The line that lays a piece (0 when none does). */
  readonly lineOf: ReadonlyMap<string, number>;
  readonly pieces: ReadonlyMap<string, Piece>;
  readonly chosen: Piece | undefined;
  choose(mark: string | undefined): void;
  /** Puts a feature somewhere else; answers what is wrong with the place, or nothing. */
  place(feature: Feature['id'], x: number, y: number): string | undefined;
  /** Chooses a finding's piece, moves the marker to it and brings it into view. */
  goTo(finding: Finding): void;
  /** Counts up when the drawing should bring the chosen piece into view. */
  readonly reveal: number;
  readonly asked: RuleKey | undefined;
  whoSays(key: RuleKey | undefined): void;
  readonly units: Units;
};

/** Printing in the reader's units. */
export type Units = {
  readonly system: UnitSystem;
  length(mm: number): string;
  /** Inches without feet, as pieces are cut. */
  cut(mm: number): string;
  words(words: Words): string;
  flow(litresPerMinute: number): string;
  area(squareMm: number): string;
};

export const unitsFor = (system: UnitSystem): Units => ({
  system,
  length: (mm) => printLength(mm, system),
  cut: (mm) => printLength(mm, system, { inchesOnly: true }),
  words: (words) => printWords(words, system),
  flow: (flow) => printFlow(flow, system),
  area: (area) => printArea(area, system),
});

export const WorkbenchContext = createContext<Workbench | undefined>(undefined);

export function useWorkbench(): Workbench {
  const bench = useContext(WorkbenchContext);
  if (!bench) throw new Error('outside a job');
  return bench;
}
