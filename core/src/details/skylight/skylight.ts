import {
  type Assembly,
  type Fastener,
  type FlatPattern,
  type Piece,
  type Step,
  assemble,
  bead,
  cut,
  emptyAssembly,
  inCourse,
  piecesOf,
  topSeal,
} from '../../assembly/index.ts';
import { chooseNail, sealantFor } from '../../catalog/index.ts';
import type { FeatureOf } from '../../document/index.ts';
import { type Outline, rectangle, tidyOutline } from '../../roof/index.ts';
import type { RuleKey } from '../../rules/index.ts';
import { type PlaneContext, SILL_LEG, cutFromStock, earRise, footprint, lastUnderApron, upBehind } from '../../slope/index.ts';
import { STARTER_MARK, courseMark, interfaceLines } from '../../surface/index.ts';
import { inches, stepsToReach } from '../../units/index.ts';
import { HEAD_DOWN, HEAD_PAST, HEAD_UP, kitFor } from './asks.ts';
import { openingSteps } from './opening.ts';
import { planWrap } from './wrap.ts';
import { findingsOf } from './findings.ts';
import { panelOf } from './panel.ts';

/** The head flashing's nails stand this far from a joint over them: farther than the creep a plan is to have in hand. */
const CLEAR_OF_JOINT = inches(2.5);

const KEYS: RuleKey[] = ['skylight.tape', 'skylight.headCourse', 'fieldNails.fromWall', 'flashing.thickness'];

/** Unit skylights: frame tape, perimeter band, sill, head and cladding; their steps are planned with the walls. */
export const planSkylights = (context: PlaneContext): Assembly =>
  assemble(context.features.flatMap((feature) => (feature.kind === 'skylight' ? [planOne(context, feature)] : [])));

function planOne(context: PlaneContext, skylight: FeatureOf<'skylight'>): Assembly {
  const { lines, catalog, covering, facet, rules } = context;
  const foot = footprint(skylight, context.plane);
  const { id, name, upstand } = skylight;
  const kit = skylight.flashing === 'kit' ? kitFor(context, skylight) : undefined;
  const bent = (flat: FlatPattern) => ({ ...cutFromStock(context, flat), flat });
  const met = interfaceLines(lines, foot.from, foot.to);
  const under = lastUnderApron(lines, foot.from, SILL_LEG);
  const turned = Math.min(upstand, inches(3));
  const rise = earRise(lines, foot.from, SILL_LEG);
  const ear = (x0: number, x1: number): Outline[] => (rise > 0 ? [rectangle(x0, foot.from, x1, foot.from + rise)] : []);
  const up = upBehind(lines, foot, HEAD_UP);
  const front = `${facet}/${id}F`;
  const back = `${facet}/${id}B`;
  const level = (y: number, b: string, kind: 'front' | 'back'): Assembly['joints'][number] => ({
    kind,
    side: 1,
    runsOn: false,
    a: facet,
    b,
    onA: [[foot.x0, y], [foot.x1, y]], // prettier-ignore
    onB: [[foot.x0, 0], [foot.x1, 0]], // prettier-ignore
  });
  const wallFacet = (b: string, what: string): Assembly['facets'][number] => ({
    id: b,
    kind: 'wall',
    on: facet,
    detail: id,
    name: `${name}, ${what}`,
    outline: rectangle(foot.x0, 0, foot.x1, upstand),
    fall: [0, -1],
    angle: Math.PI / 2,
  });
  const headOutlines: Outline[] = [
    rectangle(foot.x0 - HEAD_PAST, foot.to, foot.x1 + HEAD_PAST, foot.to + up),
    rectangle(foot.x0 - HEAD_PAST, foot.to - HEAD_DOWN, foot.x0, foot.to),
    rectangle(foot.x1, foot.to - HEAD_DOWN, foot.x1 + HEAD_PAST, foot.to),
  ];
  const sill: Piece = {
    mark: `${id}F-A1`,
    detail: id,
    role: 'sill',
    ...(kit ? {} : bent(sillFlat(foot.x1 - foot.x0, turned, rise))),
    course: under + 1,
    covers: [
      { facet, outline: rectangle(foot.x0 - SILL_LEG, foot.from - SILL_LEG, foot.x1 + SILL_LEG, foot.from), holds: ['open'] },
      ...[...ear(foot.x0 - SILL_LEG, foot.x0), ...ear(foot.x1, foot.x1 + SILL_LEG)].map((outline) => ({
        facet,
        outline,
        holds: ['open'] as const,
      })),
      { facet: front, outline: rectangle(foot.x0, 0, foot.x1, turned), holds: ['open'] },
    ],
    lay: inCourse(context, under + 1, 'across', foot.from - SILL_LEG),
    liesOn: [under > 0 ? courseMark(under) : STARTER_MARK],
    keys: KEYS,
  };
  const head: Piece = {
    mark: `${id}-HD`,
    detail: id,
    role: 'head',
    ...(kit ? {} : bent(headFlat(foot.x1 - foot.x0, turned, up))),
    course: met.last + 1,
    covers: [
      ...headOutlines.map((outline) => ({ facet, outline, holds: ['open'] as const })),
      { facet: back, outline: rectangle(foot.x0, 0, foot.x1, turned), holds: ['open'] },
    ],
    lay: inCourse(context, met.last + 1, 'backPiece', foot.to),
    liesOn: [courseMark(met.last)],
    keys: KEYS,
  };
  const claddings = [front, back].map((own, i): Piece => ({
    mark: `${id}${i === 0 ? 'F' : 'B'}-CL`,
    detail: id,
    role: 'frame',
    covers: [{ facet: own, outline: rectangle(foot.x0, turned / 3, foot.x1, upstand), holds: ['open', 'open', 'letIn', 'open'] }],
    lay: topSeal(context, foot.x0, i),
    liesOn: [i === 0 ? sill.mark : head.mark],
    keys: [],
  }));
  const wrap = planWrap(context, skylight, foot, front, back);
  const bedding = sealantFor(catalog, 'joint');
  const nail = chooseNail(catalog, 'roofing', covering.deckThickness + inches(1 / 8), covering.metal);
  // under the whole shingle of the head course, clear of its ends
  const reach = Math.min(foot.x1 - foot.x0, context.surface.unit.width - 2 * CLEAR_OF_JOINT) / 2;
  const centre = (foot.x0 + foot.x1) / 2;
  const gaps = Math.max(1, stepsToReach(2 * reach, inches(10)));
  const nails = nail
    ? Array.from({ length: gaps + 1 }, (_, i): Fastener => ({
        piece: head.mark,
        facet,
        at: [centre - reach + (2 * reach * i) / gaps, foot.to + up - inches(0.5)],
        product: nail.id,
        keptDry: 'covered',
      }))
    : [];
  const steps: Step[] = [
    ...openingSteps(context, skylight, kit),
    {
      lay: sill.lay,
      detail: id,
      course: under + 1,
      stage: 'covering',
      action: [`${name}: sill flashing ${sill.mark} under the gasket, on course ${under}, `, cut(SILL_LEG), ' on the covering.'],
      pieces: [sill.mark],
      uses: kit ? [piecesOf(kit, 'flashing kit', 1)] : [],
      people: 1,
      keys: KEYS,
    },
    {
      lay: head.lay,
      detail: id,
      course: met.last + 1,
      stage: 'covering',
      action: [
        `${name}: head flashing ${head.mark} over the top steps, which are cut off flush at the head; then the head course, one whole shingle over the middle of the unit, no joint above it.`,
      ],
      pieces: [head.mark],
      fasteners: [`${nails.length} nails at its upper edge only, none across the pan`],
      uses:
        skylight.bedding === 'bedded'
          ? [
              bead(
                bedding,
                'polyurethane sealant',
                2 * (foot.to - foot.from) + foot.x1 - foot.x0 + 2 * HEAD_PAST,
                bedding?.bead ?? inches(0.25),
              ),
            ]
          : [],
      people: 1,
      keys: KEYS,
    },
    {
      lay: topSeal(context, foot.x0, 0),
      detail: id,
      stage: 'finish',
      action: [
        `${name}: cladding by its maker’s order, sides tucked into their slots and screwed at the foot; film off the inner glass face.`,
      ],
      pieces: [...claddings.map(({ mark }) => mark), `${id}L-CL`, `${id}R-CL`],
      people: 1,
      keys: [],
    },
  ];
  return {
    ...emptyAssembly,
    facets: [wallFacet(front, 'sill'), wallFacet(back, 'head')],
    joints: [level(foot.from, front, 'front'), level(foot.to, back, 'back')],
    pieces: [...wrap.pieces, sill, head, ...claddings],
    fasteners: nails,
    zones: [
      {
        facet,
        outline: rectangle(foot.x0 - HEAD_PAST, foot.to, foot.x1 + HEAD_PAST, foot.to + up - inches(1)),
        rule: 'skylight.headCourse',
        against: ['head', 'course'],
        detail: id,
        piece: head.mark,
      },
    ],
    steps: [...wrap.steps, ...steps],
    findings: findingsOf(context, skylight, foot, kit, rules),
    panels: [panelOf(context, skylight, foot, kit)],
  };
}

const sillFlat = (width: number, up: number, rise: number) => ({
  outline: tidyOutline([
    [0, 0], [width + 2 * SILL_LEG, 0], [width + 2 * SILL_LEG, SILL_LEG + rise], [width + SILL_LEG, SILL_LEG + rise], [width + SILL_LEG, SILL_LEG + up],
    [SILL_LEG, SILL_LEG + up], [SILL_LEG, SILL_LEG + rise], [0, SILL_LEG + rise],
  ]), // prettier-ignore
  bends: [
    { from: [SILL_LEG, SILL_LEG] as const, to: [width + SILL_LEG, SILL_LEG] as const, direction: 'up' as const, degrees: 90 },
  ],
});

const headFlat = (width: number, up: number, roof: number) => ({
  outline: [
    [0, 0], [HEAD_PAST, 0], [HEAD_PAST, HEAD_DOWN - up], [HEAD_PAST + width, HEAD_DOWN - up], [HEAD_PAST + width, 0], [2 * HEAD_PAST + width, 0],
    [2 * HEAD_PAST + width, HEAD_DOWN + roof], [0, HEAD_DOWN + roof],
  ] as Outline, // prettier-ignore
  bends: [
    { from: [HEAD_PAST, HEAD_DOWN] as const, to: [HEAD_PAST + width, HEAD_DOWN] as const, direction: 'up' as const, degrees: 90 },
  ],
});
