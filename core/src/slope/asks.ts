import type { Assembly, Finding } from '../assembly/index.ts';
import type { Catalog } from '../catalog/index.ts';
import type { Covering, Issue, Job } from '../document/index.ts';
import type { Outline } from '../roof/index.ts';
import type { Surface } from '../surface/index.ts';
import type { Block, Doubled, NailFree, PlaneContext } from './model.ts';

/** What is known of a slope before its covering is cut. */
export type BaseContext = Omit<
  PlaneContext,
  | 'blocksFor'
  | 'openingsAt'
  | 'pierced'
  | 'pipes'
  | 'slits'
  | 'metal'
  | 'metalAt'
  | 'nailFree'
  | 'nailFreeAt'
  | 'jointFree'
  | 'jointOff'
  | 'doubled'
>;

export type Slit = { readonly x0: number; readonly x1: number; readonly from: number };

/** What a detail asks of the covering round it. */
export type Asks = {
  blocksFor(course: number): readonly Block[];
  readonly openings: readonly Outline[];
  readonly metal: readonly Outline[];
  /** Holes in the deck that something round comes through. */
  readonly pierced: readonly Outline[];
  /** What comes through them. */
  readonly pipes: readonly Outline[];
  /** Where underlayment is slit: below `from` it lies under what wraps the thing there, beside it and above over it. */
  readonly slits: readonly Slit[];
  readonly nailFree: readonly NailFree[];
  jointFree(course: number): readonly { readonly x0: number; readonly x1: number }[];
  /** Where a course lies in two layers (over a skylight wider than one unit covers). */
  doubled(course: number): readonly Doubled[];
  /** Stretches where a course's joints must not stand (over a flange). */
  jointOff(course: number): readonly { readonly x0: number; readonly x1: number }[];
};

/** What is flashed on one slope: what it asks of all that is laid round it, and its part of the plan. */
export type DetailFamily = {
  readonly name: string;
  asks?(context: BaseContext): Partial<Asks>;
  plan(context: PlaneContext): Assembly;
};
/** Everything the details on a slope ask of its covering, together. */
export function asksOf(details: readonly DetailFamily[], context: BaseContext): Asks {
  const asked = details.flatMap((family) => family.asks?.(context) ?? []);
  return {
    blocksFor: (n) => asked.flatMap((one) => one.blocksFor?.(n) ?? []),
    openings: asked.flatMap(({ openings }) => openings ?? []),
    pierced: asked.flatMap(({ pierced }) => pierced ?? []),
    pipes: asked.flatMap(({ pipes }) => pipes ?? []),
    slits: asked.flatMap(({ slits }) => slits ?? []),
    metal: asked.flatMap(({ metal }) => metal ?? []),
    nailFree: asked.flatMap(({ nailFree }) => nailFree ?? []),
    jointOff: (n) => asked.flatMap((one) => one.jointOff?.(n) ?? []),
    doubled: (n) => asked.flatMap((one) => one.doubled?.(n) ?? []),
    jointFree: (n) => asked.flatMap((one) => one.jointFree?.(n) ?? []),
  };
}

/** What a covering is laid out from. */
export type ToLayOut = Pick<PlaneContext, 'covering' | 'plane' | 'catalog' | 'rules'> & {
  /** Leg of the apron that comes down from the wall along its top, where it has one. */
  readonly topApron?: number;
};

/** What is checked before it is: the same, with the paths of the covering, of the slope's part and of its record in the document. */
export type ToCheck = ToLayOut & {
  readonly job: Job;
  readonly path: string;
  readonly partPath: string;
  readonly recordPath: string;
};

/** A kind of covering: how it is laid out, planned and judged by itself. */
export type CoveringFamily = {
  /** The word by which rules name it. */
  word(covering: Covering, catalog: Catalog): string;
  /** Choices that cannot be laid on a slope, each with a sentence that names the field. */
  check(asked: ToCheck): Issue[];
  /** How far its first course hangs over the deck's edge. */
  overhang(covering: Covering): number;
  layOut(asked: ToLayOut): Surface;
  plan(context: PlaneContext): Assembly;
  findings(context: PlaneContext): Finding[];
};
