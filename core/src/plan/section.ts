import { type FigurePanel, type Joint, type Piece, compareLay, isSidePiece } from '../assembly/index.ts';
import { type Outline, type Point, type Span, bounds, clipSpans, mergeSpans, spansAcross, subtractSpans } from '../roof/index.ts';
import { LINE_TOLERANCE, NOISE, inches } from '../units/index.ts';
import type { Plan } from './planJob.ts';

/** A stretch of a piece that is cut, along its surface from `from` to `to`, so many pieces up from what it lies on. Lengths millimetres. */
export type SectionLayer = {
  readonly mark: string;
  /** Its place in the order of laying among all that this section cuts, from 1. */
  readonly number: number;
  readonly from: number;
  readonly to: number;
  readonly level: number;
  /** Its upper edge goes into the wall there: a joint raked out, a saw cut. */
  readonly letIn?: true;
};

/** One surface of a section: a straight line from `start` along `run` (a unit vector), all on the section's own plane, up is up. */
export type SectionSurface = {
  readonly facet: string;
  readonly kind: 'slope' | 'wall';
  readonly start: Point;
  readonly run: Point;
  /** The layers lie to the left (1) or to the right (−1) of the way it runs. */
  readonly outward: 1 | -1;
  /** The stretch worth drawing. */
  readonly shown: Span;
  /** Where there is deck or wall to lie on. */
  readonly ground: readonly Span[];
  /** What comes through it. */
  readonly pipes: readonly Span[];
  readonly layers: readonly SectionLayer[];
};

/** A cut through a detail and the roof round it. */
export type Section = {
  readonly title: 'up the slope' | 'across the slope' | 'square to the valley';
  readonly surfaces: readonly SectionSurface[];
  /** What is cut, in the order of laying: the first is number 1. */
  readonly marks: readonly string[];
};

/** How much of a wall is shown above the roof. */
const WALL_SHOWN = inches(20);
/** Of what is alike all the way along, a wall or a valley, so much is shown either way. */
const ALIKE_SHOWN = inches(18);

type Line = { readonly facet: string; readonly at: Point; readonly run: Point; readonly shown: Span };
type Placed = Line & Pick<SectionSurface, 'kind' | 'start' | 'outward'> & { readonly drawn: Point };

/**
 * The sections worth drawing of a detail: up the slope through its middle, across it where it has sides, and square to a valley. They are cut through
 * the pieces as planned: along each surface the true lengths, across it only the order.
 */
export function sectionsOf(plan: Plan, panel: FigurePanel): Section[] {
  const faces = new Set(
    plan.facets.flatMap(({ id, on, detail, cavity }) => (on === panel.plane && detail === panel.detail && !cavity ? [id] : [])),
  );
  const joints = plan.joints.filter(({ a, b }) => a === panel.plane && faces.has(b));
  const valley = panel.family === 'valley' && valleyJoint(plan, panel);
  if (valley) return [cutAlong(plan, 'square to the valley', squareTo(plan, panel, valley))];
  return [
    cutAlong(plan, 'up the slope', upThrough(plan, panel, joints)),
    ...acrossPlaces(plan, panel, joints).map((y) => cutAlong(plan, 'across the slope', acrossAt(panel, joints, y))),
  ];
}

const valleyJoint = (plan: Plan, { detail }: FigurePanel): Joint | undefined => {
  const valley = plan.valleys.find(({ id }) => id === detail);
  return valley && plan.joints.find(({ kind, a, b }) => kind === 'valley' && a === valley.a && b === valley.b);
};

const ownPieces = (plan: Plan, { detail, plane }: FigurePanel): readonly (readonly [Piece, ReturnType<typeof bounds>])[] =>
  plan.pieces.flatMap((piece) => {
    const here = piece.covers.filter(({ facet }) => facet === plane).flatMap(({ outline }) => outline);
    return piece.detail === detail && here.length > 0 ? [[piece, bounds(here)] as const] : [];
  });

const middle = (a: number, b: number): number => (a + b) / 2;

/** Up the slope through the middle of a face or a base; beside a wall that only runs up, through the legs of its steps. */
function upThrough(plan: Plan, panel: FigurePanel, joints: readonly Joint[]): Placed[] {
  const { plane, window } = panel;
  const angle = Math.atan(plan.planes.find(({ id }) => id === plane)!.pitch);
  const upright = joints.filter(({ kind }) => kind === 'front' || kind === 'back');
  const side = joints.find(({ kind }) => kind === 'side');
  const own = ownPieces(plan, panel);
  const [, box] = middleSide(own, panel) ?? own.find(([{ role }]) => role === 'boot') ?? own[0] ?? [undefined, undefined];
  const alike = upright.length === 0 && side !== undefined && box !== undefined;
  const shown: Span = alike
    ? [Math.max(window.y0, box.y0 - ALIKE_SHOWN), Math.min(window.y1, box.y1 + ALIKE_SHOWN)]
    : [window.y0, window.y1];
  const x = upright[0]
    ? middle(upright[0].onA[0][0], upright[0].onA[1][0])
    : box
      ? middle(box.x0, box.x1)
      : middle(side?.onA[0][0] ?? window.x0, window.x1);
  const slope: Point = [Math.cos(angle), Math.sin(angle)];
  return [
    {
      facet: plane,
      kind: 'slope',
      at: [x, 0],
      run: [0, 1],
      shown,
      start: [0, 0],
      drawn: slope,
      outward: 1,
    },
    ...upright.map(({ kind, onA, b }): Placed => {
      const y = onA[0][1];
      return {
        facet: b,
        kind: 'wall',
        at: [x, 0],
        run: [0, 1],
        shown: [0, WALL_SHOWN],
        start: [y * slope[0], y * slope[1]],
        drawn: [0, 1],
        outward: kind === 'front' ? 1 : -1,
      };
    }),
  ];
}

/** The step or soaker in the middle of what is drawn of a wall. */
function middleSide(own: ReturnType<typeof ownPieces>, { window }: FigurePanel): (typeof own)[number] | undefined {
  const whole = own.filter(([{ role }, { y0, y1 }]) => isSidePiece(role) && y0 > window.y0 && y1 < window.y1);
  return whole[Math.max(0, Math.floor((whole.length - 1) / 2))];
}

/** Where a cut across shows most: where two steps lap, or through a pipe. */
function acrossPlaces(plan: Plan, panel: FigurePanel, joints: readonly Joint[]): number[] {
  const { y0, y1 } = panel.window;
  const own = ownPieces(plan, panel);
  const boot = own.find(([{ role }]) => role === 'boot')?.[1];
  const step = middleSide(own, panel)?.[1];
  if (step) return [step.y1 - Math.min(inches(1), (step.y1 - step.y0) / 4)];
  if (boot) return [middle(boot.y0, boot.y1)];
  const sides = joints.filter(({ kind }) => kind === 'side');
  return sides.length > 0 ? [middle(Math.max(y0, sides[0]!.onA[0][1]), Math.min(y1, sides[0]!.onA[1][1]))] : [];
}

/** Level across the slope, plumb, seen looking up it; every side that stands there goes up from it. */
function acrossAt({ plane, window }: FigurePanel, joints: readonly Joint[], y: number): Placed[] {
  const walls = joints.flatMap(({ kind, side, onA, onB, b }): Placed[] => {
    const [[x, from], [, to]] = onA;
    if (kind !== 'side' || y < from - NOISE || y > to + NOISE) return [];
    const share = (y - from) / (to - from);
    const foot = onB[0].map((low, i) => low + (onB[1][i]! - low) * share) as [number, number];
    return [{ facet: b, kind: 'wall', at: foot, run: [0, 1], shown: [0, WALL_SHOWN], start: [x, 0], drawn: [0, 1], outward: side === 1 ? -1 : 1 }]; // prettier-ignore
  });
  return [
    {
      facet: plane,
      kind: 'slope',
      at: [0, y],
      run: [1, 0],
      shown: shownAcross(window, walls),
      start: [0, 0],
      drawn: [1, 0],
      outward: 1,
    },
    ...walls,
  ];
}

/** Beside a single wall as much of the roof as is worth it; between two all of it. */
const shownAcross = ({ x0, x1 }: FigurePanel['window'], walls: readonly Placed[]): Span =>
  walls.length === 1
    ? [Math.max(x0, walls[0]!.start[0] - 2 * ALIKE_SHOWN), Math.min(x1, walls[0]!.start[0] + 2 * ALIKE_SHOWN)]
    : [x0, x1];

/** Square to a valley half way up what is drawn of it: both slopes rise from it. */
function squareTo(plan: Plan, { plane, window, detail }: FigurePanel, joint: Joint): Placed[] {
  const own = joint.a === plane ? joint.onA : joint.onB;
  const wanted = (middle(window.y0, window.y1) - own[0][1]) / (own[1][1] - own[0][1]);
  const share = Math.max(0.1, Math.min(0.9, wanted));
  const reach = Math.min(2 * ALIKE_SHOWN, middle(window.x0, window.x1) - window.x0);
  return (
    [
      [joint.a, joint.onA],
      [joint.b, joint.onB],
    ] as const
  ).map(([facet, [low, high]], i): Placed => {
    const length = Math.hypot(high[0] - low[0], high[1] - low[1]);
    const square: Point = [(high[1] - low[1]) / length, -(high[0] - low[0]) / length];
    const at: Point = [low[0] + (high[0] - low[0]) * share, low[1] + (high[1] - low[1]) * share];
    const reached = plan.pieces
      .filter((piece) => piece.detail === detail)
      .flatMap(({ covers }) => covers.filter((cover) => cover.facet === facet).flatMap(({ outline }) => outline))
      .reduce((sum, [x, y]) => sum + (x - at[0]) * square[0] + (y - at[1]) * square[1], 0);
    const run: Point = reached >= 0 ? square : [-square[0], -square[1]];
    // how steeply the slope rises square to the line
    const rise = run[1] * Math.sin(Math.atan(plan.planes.find(({ id }) => id === facet)!.pitch));
    const level = Math.sqrt(1 - rise * rise);
    return { facet, kind: 'slope', at, run, shown: [0, reach], start: [0, 0], drawn: [i === 0 ? -level : level, rise], outward: i === 0 ? -1 : 1 }; // prettier-ignore
  });
}

/** An outline turned so that a line lies level at 0, with its start there. */
const turned = (outline: Outline, [x0, y0]: Point, [dx, dy]: Point): Outline =>
  outline.map(([x, y]): Point => [(x - x0) * dx + (y - y0) * dy, (y - y0) * dx - (x - x0) * dy]);

const cutBy = (outlines: readonly Outline[], { at, run, shown }: Line): readonly Span[] =>
  clipSpans(
    mergeSpans(outlines.flatMap((outline) => spansAcross(turned(outline, at, run), 0)).sort((a, b) => a[0] - b[0])),
    ...shown,
  );

/** What goes into a joint or saw cut by its upper edge; membranes and cladding are only held along theirs. */
const IN_A_JOINT: ReadonlySet<Piece['role']> = new Set(['counter', 'ledge', 'throughWall', 'capStrip']);

type Cut = { readonly piece: Piece; readonly lay: Piece['lay']; readonly span: Span; readonly letIn: boolean };

function cutAlong(plan: Plan, title: Section['title'], surfaces: readonly Placed[]): Section {
  const cuts = surfaces.map((surface) =>
    plan.pieces
      .flatMap((piece) =>
        piece.covers
          .filter(({ facet }) => facet === surface.facet)
          .flatMap(({ outline, lay, holds }): Cut[] =>
            cutBy([outline], surface)
              .filter(([from, to]) => to - from > LINE_TOLERANCE)
              .map((span) => ({
                piece,
                lay: lay ?? piece.lay,
                span,
                letIn: IN_A_JOINT.has(piece.role) && holds.includes('letIn'),
              })),
          ),
      )
      .sort((a, b) => compareLay(a.lay, b.lay)),
  );
  const order = cuts.flat().sort((a, b) => compareLay(a.piece.lay, b.piece.lay));
  const marks = [...new Set(order.map(({ piece }) => piece.mark))];
  const numbers = new Map(marks.map((mark, i) => [mark, i + 1]));
  return {
    title,
    marks,
    surfaces: surfaces.map((surface, i): SectionSurface => {
      const { facet, kind, start, drawn, outward, shown } = surface;
      const { outline, taken = [], pierced = [], pipes = [] } = plan.facets.find(({ id }) => id === facet)!;
      return {
        facet,
        kind,
        start,
        run: drawn,
        outward,
        shown,
        ground: subtractSpans(cutBy([outline], surface), [...cutBy(taken, surface), ...cutBy(pierced, surface)]),
        pipes: cutBy(pipes, surface),
        layers: layersOf(cuts[i]!, numbers),
      };
    }),
  };
}

/** Each cut piece in the stretches between which nothing under it changes. */
function layersOf(cuts: readonly Cut[], numbers: ReadonlyMap<string, number>): SectionLayer[] {
  const ends = mergeSpans(
    cuts.flatMap(({ span }) => span.map((end): Span => [end, end])).sort((a, b) => a[0] - b[0]),
    LINE_TOLERANCE,
  ).map(([end]) => end);
  const between = ends.slice(1).map((to, i) => ({ from: ends[i]!, to, at: middle(ends[i]!, to) }));
  const under = between.map(({ at }) => cuts.filter(({ span: [from, to] }) => from < at && to > at));
  return cuts.flatMap((cut) => {
    const layers: SectionLayer[] = [];
    between.forEach(({ from, to }, i) => {
      const level = under[i]!.indexOf(cut);
      if (level < 0) return;
      const before = layers.at(-1);
      if (before?.level === level && before.to === from) layers[layers.length - 1] = { ...before, to };
      else layers.push({ mark: cut.piece.mark, number: numbers.get(cut.piece.mark)!, from, to, level });
    });
    const last = layers.at(-1);
    if (cut.letIn && last) layers[layers.length - 1] = { ...last, letIn: true };
    return layers;
  });
}
