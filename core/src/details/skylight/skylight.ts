import {
  type Assembly,
  type Facet,
  type Fastener,
  type FlatPattern,
  HUNG_IN_WALL,
  type Piece,
  type Step,
  acrossAt,
  assemble,
  bead,
  cut,
  emptyAssembly,
  evenlyAlong,
  fastenersAt,
  inCourse,
  laid,
  piecesOf,
  standUp,
  topSeal,
} from '../../assembly/index.ts';
import { type ItemOf, chooseNail, sealantFor } from '../../catalog/index.ts';
import type { FeatureOf } from '../../document/index.ts';
import { type Outline, rectangle, tidyOutline } from '../../roof/index.ts';
import type { RuleKey } from '../../rules/index.ts';
import {
  type Footprint,
  type PlaneContext,
  BEFORE_SIDES,
  SILL_LEG,
  apronLegFor,
  cutFromStock,
  earRise,
  footprint,
  lastUnderApron,
  reachOverCrown,
  upBehind,
  onWall,
  wallFacetId,
  isOnTiles,
} from '../../slope/index.ts';
import { STARTER_MARK, courseMark, interfaceLines, lastCourseAtOrBelow } from '../../surface/index.ts';
import { inches } from '../../units/index.ts';
import { HEAD_DOWN, HEAD_UP, headLayers, headPast, kitFor } from './asks.ts';
import { findingsOf } from './findings.ts';
import { openingSteps } from './opening.ts';
import { panelOf } from './panel.ts';
import { planWrap } from './wrap.ts';

/** The head flashing's nails stand this far from a joint over them: farther than the creep a plan is to have in hand. */
const CLEAR_OF_JOINT = inches(2.5);

const keysOf = ({ surface }: PlaneContext): RuleKey[] => [
  'skylight.tape',
  ...(isOnTiles({ surface }) ? (['cover.roofLeg'] as const) : (['skylight.headCourse', 'fieldNails.fromWall'] as const)),
  'flashing.thickness',
];

/** Unit skylights: frame tape, perimeter band, sill, head and cladding; their steps are planned with the walls. */
export const planSkylights = (context: PlaneContext): Assembly =>
  assemble(context.features.flatMap((feature) => (feature.kind === 'skylight' ? [planOne(context, feature)] : [])));

function planOne(context: PlaneContext, skylight: FeatureOf<'skylight'>): Assembly {
  const { facet, rules } = context;
  const foot = footprint(skylight, context.plane);
  const { id, name, upstand } = skylight;
  const kit = skylight.flashing === 'kit' ? kitFor(context, skylight) : undefined;
  const [front, back] = [`${facet}/${id}F`, `${facet}/${id}B`];
  const face = (own: string, what: string): Facet =>
    standUp(facet, { id: own, detail: id, name: `${name}, ${what}`, outline: rectangle(foot.x0, 0, foot.x1, upstand) });
  const sill = sillOf(context, skylight, foot, kit);
  const head = headOf(context, skylight, foot, kit);
  const claddings = [front, back].map((own, i): Piece => ({
    mark: `${id}${i === 0 ? 'F' : 'B'}-CL`,
    detail: id,
    role: 'frame',
    covers: [{ facet: own, outline: rectangle(foot.x0, turnedUp(skylight) / 3, foot.x1, upstand), holds: HUNG_IN_WALL }],
    lay: topSeal(context, foot.x0, i),
    liesOn: [i === 0 ? sill.mark : head.mark],
    keys: [],
  }));
  const wrap = planWrap(context, skylight, foot, front, back);
  // nothing goes through a tile: the course over it holds it
  const nails = isOnTiles(context) ? [] : headNails(context, foot, head.mark);
  return {
    ...emptyAssembly,
    facets: [face(front, 'sill'), face(back, 'head')],
    joints: [acrossAt('front', facet, front, { ...foot, y: foot.from }), acrossAt('back', facet, back, { ...foot, y: foot.to })],
    pieces: [...wrap.pieces, sill, head, ...claddings],
    fasteners: nails,
    zones: [
      {
        facet,
        outline: rectangle(
          foot.x0 - headPast(context, foot),
          foot.to,
          foot.x1 + headPast(context, foot),
          foot.to + upRoof(context, foot) - inches(1),
        ),
        rule: isOnTiles(context) ? 'cover.roofLeg' : 'skylight.headCourse',
        against: ['head', 'course'],
        detail: id,
        piece: head.mark,
      },
    ],
    steps: [
      ...wrap.steps,
      ...openingSteps(context, skylight, kit, foot),
      sillStep(context, name, sill, kit),
      headStep(context, skylight, foot, head, nails.length),
      claddingStep(skylight, claddings),
    ],
    findings: findingsOf(context, skylight, foot, kit, rules),
    panels: [panelOf(context, skylight, foot, kit)],
  };
}

/** How far sill and head flashing are turned up the frame. */
const turnedUp = ({ upstand }: FeatureOf<'skylight'>): number => Math.min(upstand, inches(3));
/** How far the head flashing goes up the roof. */
const upRoof = ({ lines }: PlaneContext, foot: Footprint): number => upBehind(lines, foot, HEAD_UP);

type Kit = ItemOf<'skylightKit'> | undefined;

/** What is not of a kit is bent from flat stock. */
const madeOf = (context: PlaneContext, kit: Kit, flat: FlatPattern) => (kit ? {} : { ...cutFromStock(context, flat), flat });

/** A sill flashing's leg on the covering, and how far it goes past the frame's left and right side: over tiles past a crown. */
function sillReach(context: PlaneContext, { x0, x1 }: Footprint): { leg: number; left: number; right: number } {
  if (!isOnTiles(context)) return { leg: SILL_LEG, left: SILL_LEG, right: SILL_LEG };
  const leg = apronLegFor(context, SILL_LEG);
  return { leg, left: reachOverCrown(context, x0, -1, leg), right: reachOverCrown(context, x1, 1, leg) };
}

function sillOf(context: PlaneContext, skylight: FeatureOf<'skylight'>, foot: Footprint, kit: Kit): Piece {
  const { lines, facet } = context;
  const { id } = skylight;
  const turned = turnedUp(skylight);
  const reach = sillReach(context, foot);
  const { leg, left, right } = reach;
  const under = lastUnderApron(lines, foot.from, leg);
  // over tiles the cover flashings begin on it; under a course its ears run up to the corner pieces
  const onTiles = isOnTiles(context);
  const rise = onTiles ? 0 : earRise(lines, foot.from, leg);
  const ear = (x0: number, x1: number): Outline[] => (rise > 0 ? [rectangle(x0, foot.from, x1, foot.from + rise)] : []);
  return {
    mark: `${id}F-A1`,
    detail: id,
    role: 'sill',
    ...madeOf(context, kit, sillFlat(foot.x1 - foot.x0, reach, turned, rise)),
    course: under + 1,
    covers: [
      ...[
        rectangle(foot.x0 - left, foot.from - leg, foot.x1 + right, foot.from),
        ...ear(foot.x0 - left, foot.x0),
        ...ear(foot.x1, foot.x1 + right),
      ].map((outline) => ({ facet, outline, holds: ['open'] as const })),
      { facet: `${facet}/${id}F`, outline: rectangle(foot.x0, 0, foot.x1, turned), holds: ['open'] },
    ],
    lay: onTiles
      ? inCourse(context, lastCourseAtOrBelow(lines, foot.from), 'pastAll', BEFORE_SIDES)
      : inCourse(context, under + 1, 'across', foot.from - leg),
    liesOn: [under > 0 ? courseMark(under) : STARTER_MARK],
    keys: keysOf(context),
  };
}

function sillStep(context: PlaneContext, name: string, sill: Piece, kit: Kit): Step {
  const course = sill.course!;
  const onTiles = isOnTiles(context);
  return laid([sill], {
    course,
    stage: 'covering',
    action: [
      `${name}: slide sill flashing ${sill.mark} under the gasket, on course ${course - 1}, `,
      cut(onTiles ? apronLegFor(context, SILL_LEG) : SILL_LEG),
      onTiles ? ' on the tiles, and dress it to them past a crown on both sides.' : ' on the covering.',
    ],
    uses: kit ? [piecesOf(kit, 'flashing kit', 1)] : [],
    people: 1,
  });
}

function headOf(context: PlaneContext, skylight: FeatureOf<'skylight'>, foot: Footprint, kit: Kit): Piece {
  const { facet } = context;
  const { id } = skylight;
  const turned = turnedUp(skylight);
  const up = upRoof(context, foot);
  const past = headPast(context, foot);
  const { last } = interfaceLines(context.lines, foot.from, foot.to);
  return {
    mark: `${id}-HD`,
    detail: id,
    role: 'head',
    ...madeOf(context, kit, headFlat(foot.x1 - foot.x0, past, turned, up)),
    course: last + 1,
    covers: [
      ...[
        rectangle(foot.x0 - past, foot.to, foot.x1 + past, foot.to + up),
        rectangle(foot.x0 - past, foot.to - HEAD_DOWN, foot.x0, foot.to),
        rectangle(foot.x1, foot.to - HEAD_DOWN, foot.x1 + past, foot.to),
      ].map((outline) => ({ facet, outline, holds: ['open'] as const })),
      { facet: `${facet}/${id}B`, outline: rectangle(foot.x0, 0, foot.x1, turned), holds: ['open'] },
      // its arms are turned up the sides, over the last steps and their nails
      ...context.found.wallsOf(id).map((wall) => ({
        facet: wallFacetId(context, wall),
        outline: onWall(context, wall, Math.max(wall.from, wall.to - HEAD_DOWN), wall.to, 0, turned),
        holds: ['open'] as const,
      })),
    ],
    lay: inCourse(context, last + 1, 'backPiece', foot.to),
    liesOn: [courseMark(last)],
    keys: keysOf(context),
  };
}

/** Along the head flashing's upper edge, under the whole shingle of the head course and clear of its ends. */
function headNails(context: PlaneContext, foot: Footprint, piece: string): Fastener[] {
  const { catalog, covering, facet, surface } = context;
  const nail = chooseNail(catalog, 'roofing', covering.deckThickness + inches(1 / 8), covering.metal);
  const reach = Math.min(foot.x1 - foot.x0, surface.unit.width - 2 * CLEAR_OF_JOINT) / 2;
  const centre = (foot.x0 + foot.x1) / 2;
  const y = foot.to + upRoof(context, foot) - inches(0.5);
  const places = evenlyAlong(2 * reach, inches(10)).map((along) => [centre - reach + along, y] as const);
  return fastenersAt(nail, { piece, facet, keptDry: 'covered' }, places);
}

/** What goes over the head flashing next. */
const HEAD_COURSE = {
  1: ' One whole shingle of the next course goes over the middle, no joint above the unit.',
  2: ' The next course goes over it in two layers.',
};

function headStep(context: PlaneContext, skylight: FeatureOf<'skylight'>, foot: Footprint, head: Piece, nails: number): Step {
  const bedding = sealantFor(context.catalog, 'joint');
  const run = 2 * (foot.to - foot.from) + foot.x1 - foot.x0 + 2 * headPast(context, foot);
  const onTiles = isOnTiles(context);
  return laid([head], {
    course: head.course!,
    stage: 'covering',
    action: onTiles
      ? [`${skylight.name}: lay head flashing ${head.mark} over the cover flashings at the head, its arms turned up the sides.`]
      : [
          `${skylight.name}: cut the top steps off flush at the head, not folded round; lay head flashing ${head.mark} over them, its arms turned up the sides.`,
          HEAD_COURSE[headLayers(context, skylight)],
        ],
    fasteners: [
      onTiles
        ? `0 nails: course ${head.course!} lies over its upper edge and holds it, none across the pan`
        : `${nails} nails at its upper edge only, none across the pan`,
    ],
    uses: skylight.bedding === 'bedded' ? [bead(bedding, 'polyurethane sealant', run, bedding?.bead ?? inches(0.25))] : [],
    people: 1,
  });
}

function claddingStep({ id, name }: FeatureOf<'skylight'>, claddings: readonly Piece[]): Step {
  const line = laid(claddings, {
    stage: 'finish',
    action: [`${name}: put its cladding back by its maker’s order, sides tucked into their slots and screwed at the foot.`],
    people: 1,
  });
  return { ...line, pieces: [...line.pieces, `${id}L-CL`, `${id}R-CL`] };
}

const sillFlat = (width: number, { leg, left, right }: ReturnType<typeof sillReach>, up: number, rise: number) => ({
  outline: tidyOutline([
    [0, 0], [left + width + right, 0], [left + width + right, leg + rise], [left + width, leg + rise], [left + width, leg + up],
    [left, leg + up], [left, leg + rise], [0, leg + rise],
  ]), // prettier-ignore
  bends: [{ from: [left, leg] as const, to: [left + width, leg] as const, direction: 'up' as const, degrees: 90 }],
});

/** Its arms are turned up the sides as high as it goes up the back: what is cut out between them leaves a leg at each. */
function headFlat(width: number, past: number, up: number, roof: number) {
  const [inner, outer] = [past + width, 2 * past + width];
  const leg = Math.min(up, width / 2 - inches(1 / 8));
  const low = HEAD_DOWN - up;
  const between: Outline =
    low > 0 ? [[past + leg, 0], [past + leg, low], [inner - leg, low], [inner - leg, 0]] : [[past, 0], [past, low], [inner, low], [inner, 0]]; // prettier-ignore
  const up90 = { direction: 'up', degrees: 90 } as const;
  return {
    outline: [[0, 0], ...between, [outer, 0], [outer, HEAD_DOWN + roof], [0, HEAD_DOWN + roof]] as Outline,
    bends: [
      { from: [past, HEAD_DOWN] as const, to: [inner, HEAD_DOWN] as const, ...up90 },
      ...(low > 0 ? [past, inner].map((x) => ({ from: [x, 0] as const, to: [x, low] as const, ...up90 })) : []),
    ],
  };
}
