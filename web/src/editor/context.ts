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
import { type Context, createContext, useContext } from 'react';
import type { Change, JobEditor } from './useJobEditor.ts';

/** The job as it is edited, with the library it is planned with. */
export type Editing = {
  readonly editor: JobEditor;
  /** The editor's, which stays the same: what only changes the job is not drawn anew with it. */
  readonly change: Change;
  readonly job: Job;
  readonly library: Library;
  readonly units: Units;
};

/** What was planned last, and what the water says of it. */
export type Planned = {
  readonly plan: Plan;
  /** The plan's findings and what the water found, worst first. */
  readonly findings: readonly Finding[];
  /** The plan is of this very job; while a change is being planned it is the plan before. */
  readonly planned: boolean;
  /** The plan is of this very job, and the water has judged it. */
  readonly judged: boolean;
  readonly pieces: ReadonlyMap<string, Piece>;
  /** First findings of the groups whose fix was tried on this plan and does what it says: of those that are shown. */
  readonly sound: readonly string[];
  /** Says whether the list of findings is open, and so shows all of them. */
  readonly openList: (open: boolean) => void;
};

/** The slope looked at. */
export type SlopeShown = {
  /** Its plan, its shape as planned, and the part of the roof it belongs to. */
  readonly plane: PlanePlan;
  readonly roof: Plane;
  /** The same slope as it is measured now, for the fields: ahead of the plan. */
  readonly measured: Plane;
  readonly part: Part;
  setPlane(id: string): void;
  /** The slope's record and its part in a draft of the job. */
  recordIn(draft: Job): PlaneRecord;
  partIn(draft: Job): Part;
  /** Its run-sheet lines in order, and the line that lays a piece (0 when none does). */
  readonly lines: readonly RunLine[];
  readonly lineOf: ReadonlyMap<string, number>;
  /** Puts a feature somewhere else; answers what is wrong with the place, or nothing. */
  place(feature: Feature['id'], x: number, y: number): string | undefined;
};

/** What is looked at on it. */
export type View = {
  /** How many of the slope's lines are laid. */
  readonly marker: number;
  setMarker(marker: number): void;
  readonly chosen: Piece | undefined;
  choose(mark: string | undefined): void;
  /** Chooses a finding's piece, moves the marker to it and brings it into view. */
  goTo(finding: Finding): void;
  /** Counts up when the drawing should bring the chosen piece into view. */
  readonly reveal: number;
  readonly asked: RuleKey | undefined;
  whoSays(key: RuleKey | undefined): void;
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
  /** An opening for air. */
  netFree(squareMm: number): string;
};

export const unitsFor = (system: UnitSystem): Units => ({
  system,
  length: (mm) => printLength(mm, system),
  cut: (mm) => printLength(mm, system, { inchesOnly: true }),
  words: (words) => printWords(words, system),
  flow: (flow) => printFlow(flow, system),
  area: (area) => printArea(area, system),
  netFree: (area) => printArea(area, system, 'opening'),
});

export const EditingContext = createContext<Editing | undefined>(undefined);
export const PlannedContext = createContext<Planned | undefined>(undefined);
export const SlopeContext = createContext<SlopeShown | undefined>(undefined);
export const ViewContext = createContext<View | undefined>(undefined);

function useWithinJob<Value>(context: Context<Value | undefined>): Value {
  const value = useContext(context);
  if (value === undefined) throw new Error('outside a job');
  return value;
}

/** A page takes what it needs: what only changes elsewhere does not draw it anew. */
export const useEditing = (): Editing => useWithinJob(EditingContext);
export const usePlanned = (): Planned => useWithinJob(PlannedContext);
export const useSlope = (): SlopeShown => useWithinJob(SlopeContext);
export const useView = (): View => useWithinJob(ViewContext);
