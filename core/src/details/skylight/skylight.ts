import {
  type Assembly,
  type DetailSheet,
  type Fastener,
  type Finding,
  type FlatPattern,
  type Piece,
  type Step,
  type Words,
  assemble,
  bead,
  cut,
  emptyAssembly,
  framing,
  inCourse,
  lengths,
  mm,
  piecesOf,
  topSeal,
  wrap,
} from '../../assembly/index.ts';
import { type ItemOf, chooseNail, chooseTape, itemById, itemsOf, sealantFor } from '../../catalog/index.ts';
import type { FeatureOf } from '../../document/index.ts';
import { type Outline, rectangle, tidyOutline } from '../../roof/index.ts';
import { type RuleKey, leastOf } from '../../rules/index.ts';
import {
  type Footprint,
  type PlaneContext,
  SILL_LEG,
  cutFromSheet,
  earRise,
  foldedRound,
  footprint,
  lastUnderApron,
  upBehind,
} from '../../slope/index.ts';
import { STARTER_MARK, buttLine, courseMark, interfaceLines } from '../../surface/index.ts';
import { inches, isOver, isUnder, stepsToReach } from '../../units/index.ts';
import { HEAD_DOWN, HEAD_PAST, HEAD_UP } from './asks.ts';
import { layOutOpening, stripOff } from './opening.ts';

/** A butt line this near a sill flashing's lower edge leaves it without a full exposure to lie on. */
const NEAR_SILL = inches(2);

/** The head flashing's nails stand this far from a joint over them: farther than the creep a plan is to have in hand. */
const CLEAR_OF_JOINT = inches(2.5);

const KEYS: RuleKey[] = ['skylight.tape', 'skylight.headCourse', 'fieldNails.fromWall', 'flashing.thickness'];

/** Unit skylights: frame tape, perimeter band, sill, head and cladding; their steps are planned with the walls. */
export const planSkylights = (context: PlaneContext): Assembly =>
  assemble(context.features.flatMap((feature) => (feature.kind === 'skylight' ? [planOne(context, feature)] : [])));

export const kitFor = (
  context: Pick<PlaneContext, 'catalog'>,
  skylight: FeatureOf<'skylight'>,
): ItemOf<'skylightKit'> | undefined =>
  itemsOf(context.catalog, 'skylightKit').find(
    ({ width, height, mount }) =>
      mount === skylight.mount &&
      Math.abs(width - skylight.width) < inches(1 / 8) &&
      Math.abs(height - skylight.height) < inches(1 / 8),
  );

function planOne(context: PlaneContext, skylight: FeatureOf<'skylight'>): Assembly {
  const { lines, catalog, covering, facet, rules } = context;
  const foot = footprint(skylight, context.plane);
  const { id, name, upstand } = skylight;
  const kit = skylight.flashing === 'kit' ? kitFor(context, skylight) : undefined;
  const bent = (flat: FlatPattern) => ({ ...cutFromSheet(context, flat), flat });
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
    sheets: [sheetOf(context, skylight, foot, kit)],
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

/** Frame tape: sill, sides over sill (with the walls' own strips), head over sides; it is the last barrier, before the band and courses. */
function planWrap(
  context: PlaneContext,
  { id, name, upstand }: FeatureOf<'skylight'>,
  foot: Footprint,
  front: string,
  back: string,
): Assembly {
  const { catalog, covering, facet, rules } = context;
  const tape = chooseTape(catalog, leastOf(rules, 'skylight.tape')) ?? itemsOf(catalog, 'tape')[0];
  const sheet = itemById(catalog, 'iceBarrier', covering.underlayers.iceBarrier);
  const on = inches(6);
  const up = Math.min(upstand, inches(6));
  // each end goes on past the frame's corner, by what the tape reaches on to the deck
  const past = 2 * leastOf(rules, 'skylight.tape');
  const [across, along] = [foot.x1 - foot.x0 + past, foot.to - foot.from + past];
  const tapeCuts = [across, along, along, across];
  const strip = (
    mark: string,
    y0: number,
    y1: number,
    end: 'front' | 'back',
    turn: 'bottom' | 'top',
    liesOn: string[],
  ): Piece => ({
    mark,
    detail: id,
    role: 'frameTape',
    product: sheet.id,
    covers: [
      { facet, outline: rectangle(foot.x0 - on, y0, foot.x1 + on, y1), holds: ['bonded'] },
      {
        facet: end === 'front' ? front : back,
        outline: rectangle(foot.x0, 0, foot.x1, up),
        holds: ['bonded', 'bonded', 'letIn', 'bonded'],
      },
      ...foldedRound(context, {
        owner: id,
        end,
        sides: [-1, 1],
        reach: on,
        low: -on,
        high: up,
        holds: ['bonded', 'bonded', 'letIn', 'bonded'],
      }),
    ],
    lay: wrap(context, foot.from, turn, foot.x0),
    liesOn,
    cutLength: foot.x1 - foot.x0 + 2 * on,
    sheetWidth: y1 - y0 + up,
    sealsNails: true,
    keys: ['skylight.tape'],
  });
  const sill = strip(`${id}-T1`, foot.from - on, foot.from, 'front', 'bottom', []);
  const head = strip(`${id}-T4`, foot.to, foot.to + on + upBehind(context.lines, foot, HEAD_UP), 'back', 'top', [
    `${id}L-M1`,
    `${id}R-M1`,
  ]);
  return {
    ...emptyAssembly,
    pieces: [sill, head],
    steps: [
      {
        lay: wrap(context, foot.from, 'bottom', foot.x0),
        detail: id,
        stage: 'dry-in',
        action: [
          `${name}: frame tape ${tape ? `(${tape.name}) ` : ''}under the gasket, sill first, sides over sill, head over sides: `,
          ...tapeCuts.flatMap((length, i): Words => [...(i > 0 ? [', '] : []), cut(length)]),
          '; then the perimeter band on bare deck in the same order, up the frame, corners folded.',
        ],
        pieces: [sill.mark],
        uses: [lengths(tape, 'frame tape', tapeCuts)],
        people: 1,
        holdPoint: 'Frame tape and band whole at all four corners, seen before the courses',
        keys: ['skylight.tape'],
      },
      {
        lay: wrap(context, foot.from, 'top', foot.x0),
        detail: id,
        stage: 'dry-in',
        action: [`${name}: head strip ${head.mark} last, over both side strips.`],
        pieces: [head.mark],
        people: 1,
        keys: ['skylight.tape'],
      },
    ],
  };
}

/** The opening, or taking the old unit out, before anything else on the slope. */
function openingSteps(context: PlaneContext, skylight: FeatureOf<'skylight'>, kit: ItemOf<'skylightKit'> | undefined): Step[] {
  const { surface, lines } = context;
  const lay = framing(context);
  if (skylight.work === 'replacement') {
    const off = stripOff(skylight.strip, skylight, { width: surface.unit.width, exposure: lines.gauge });
    return [
      {
        lay,
        detail: skylight.id,
        stage: 'dry-in',
        action: [
          `${skylight.name}: strip `,
          mm(off.width),
          ' × ',
          mm(off.height),
          ` round the old unit (${skylight.strip}), about ${off.shingles} shingles with breakage${skylight.strip === 're-using' ? ', stacked by course, a pile a side' : ''}; look at the deck under the old membrane, replace what is soft.`,
        ],
        pieces: [],
        people: 2,
        crew: 'carpenters',
        caution: 'Opening: cover fixed and marked; a skylight is a hole.',
        holdPoint: 'Deck round the opening sound, old nail holes covered',
        keys: [],
      },
    ];
  }
  return [
    {
      lay,
      detail: skylight.id,
      stage: 'dry-in',
      action: [
        `${skylight.name}: cut and frame the opening, rough `,
        cut(kit?.roughWidth ?? skylight.width),
        ' × ',
        cut(kit?.roughHeight ?? skylight.height),
        ', equal diagonals; unit square in it, fixed through every flange hole with the maker’s ring-shank fasteners, side to side, then opposite corners.',
      ],
      pieces: [],
      people: 2,
      crew: 'carpenters',
      caution:
        'Rafters and trusses: licensed people; never cut a truss. Opening: cover fixed and marked. Eyes, ears, mask overhead.',
      holdPoint: 'Equal diagonals, every flange hole filled',
      keys: [],
    },
  ];
}

function findingsOf(
  context: PlaneContext,
  skylight: FeatureOf<'skylight'>,
  foot: Footprint,
  kit: ItemOf<'skylightKit'> | undefined,
  rules: PlaneContext['rules'],
): Finding[] {
  const { lines, surface } = context;
  const { id, name } = skylight;
  const findings: Finding[] = [];
  const say = (what: string, severity: Finding['severity'], sentence: Words, fix: Words, key?: RuleKey): void =>
    void findings.push({ id: `${id}.${what}`, severity, sentence, fix, piece: `${id}F-A1`, ...(key ? { key } : {}) });
  if (skylight.flashing === 'kit' && !kit)
    say('kit', 'breaks a rule', [`${name}: the catalog has no flashing kit for a ${skylight.mount}-mounted frame `, cut(skylight.width), ' × ', cut(skylight.height), '.'], ['Measure the frame’s outside again, or have the metal bent on site.']); // prettier-ignore
  const head = leastOf(rules, 'skylight.headCourse');
  const reaches = (surface.unit.width - skylight.width) / 2;
  if (isUnder(reaches, head))
    say('head', 'worth a look', [`${name}: one shingle over its head reaches `, cut(Math.max(0, reaches)), ' past each side, where ', cut(head), ' is wanted: ', cut(skylight.width + 2 * head), ' without a joint is longer than a ', cut(surface.unit.width), ' shingle.'], ['The whole shingle is centred over the unit; seal its ends, or use a wider head flashing.'], 'skylight.headCourse'); // prettier-ignore
  const lower = foot.from - SILL_LEG;
  const near = Array.from({ length: lines.count }, (_, i) => i + 1).find((n) =>
    isUnder(Math.abs(buttLine(lines, n) - lower), NEAR_SILL),
  );
  if (near !== undefined)
    say('sill', 'worth a look', [`${name}: the butt of course ${near} lies `, cut(Math.abs(buttLine(lines, near) - lower)), ' from the sill flashing’s lower edge, so the flashing has no full exposure to lie on.'], ['Shift the layout, or cut a filler course below it.'], 'skylight.headCourse'); // prettier-ignore
  if (skylight.bedding === 'bedded')
    say('bedded', 'relies on sealant', [`${name} is set in sealant under steps and head course, which its maker’s parts do not ask for.`], ['Lay it dry with all its maker’s parts.']); // prettier-ignore
  if (skylight.mount === 'curb' && isOver(skylight.width, inches(30)) && skylight.flashing === 'site-bent')
    say('curb', 'breaks a rule', [`${name}: a site-built curb wider than 30 in wants a cricket behind it; only unit skylights by their maker’s instructions are excepted.`], ['Use the maker’s kit, or frame a cricket.'], 'chimney.cricketOver'); // prettier-ignore
  if (kit && skylight.work === 'replacement' && skylight.age > 0)
    say('life', 'worth a look', [`${name}: the old unit is ${skylight.age} of about ${kit.years} years old; kept through a re-roof it fails within the new covering’s life, and sealing round its edge hides a rotten deck.`], ['Renew it with the covering.']); // prettier-ignore
  return findings;
}

function sheetOf(
  context: PlaneContext,
  skylight: FeatureOf<'skylight'>,
  foot: Footprint,
  kit: ItemOf<'skylightKit'> | undefined,
): DetailSheet {
  const { lines, rules, plane, surface } = context;
  const met = interfaceLines(lines, foot.from, foot.to);
  const opening = layOutOpening(
    (foot.x0 + foot.x1) / 2,
    kit?.roughWidth ?? skylight.width,
    kit?.roughHeight ?? skylight.height,
    plane.rafters,
  );
  const off =
    skylight.work === 'replacement'
      ? stripOff(skylight.strip, skylight, { width: surface.unit.width, exposure: lines.gauge })
      : undefined;
  const rafters: Words = !plane.rafters
    ? ['not measured']
    : opening.cutRafters.length === 0
      ? ['none cut']
      : [
          `${opening.cutRafters.length} cut, at `,
          ...opening.cutRafters.flatMap((at, i): Words => [...(i > 0 ? [', '] : []), mm(at)]),
          ...(opening.nudge
            ? [
                '; moved ',
                cut(Math.abs(opening.nudge.by)),
                ` to the ${opening.nudge.by > 0 ? 'right' : 'left'} it cuts ${opening.nudge.cut}`,
              ]
            : []),
        ];
  return {
    detail: skylight.id,
    title: `${skylight.id} · ${skylight.name}`,
    family: 'skylight',
    plane: context.facet,
    window: { x0: foot.x0 - inches(24), x1: foot.x1 + inches(24), y0: foot.from - inches(18), y1: foot.to + inches(24) },
    figures: [
      { label: 'Frame outside', value: [cut(skylight.width), ' × ', cut(skylight.height)] },
      { label: 'Sill up the slope', value: [mm(foot.from)] },
      { label: 'Steps a side', value: [`${met.last - met.first + 1}, courses ${met.first} to ${met.last}`] },
      {
        label: 'Head course without a joint',
        value: [cut(skylight.width + 2 * leastOf(rules, 'skylight.headCourse')), ' wanted'],
        key: 'skylight.headCourse',
      },
      { label: 'Kit', value: [kit ? kit.name : skylight.flashing === 'kit' ? 'none in the catalog' : 'bent on site'] },
      ...(off
        ? [
            {
              label: 'Strip off',
              value: [mm(off.width), ' × ', mm(off.height), `, ${off.shingles} shingles with breakage`] as Words,
            },
          ]
        : [
            {
              label: 'Rough opening',
              value: [cut(opening.roughWidth), ' × ', cut(opening.roughHeight), ', diagonal ', cut(opening.diagonal)] as Words,
            },
            { label: 'Ceiling cut', value: [cut(opening.ceilingWidth), ' × ', cut(opening.ceilingHeight)] as Words },
            { label: 'Marking block', value: [cut(opening.blockWidth), ' × ', cut(opening.blockHeight)] as Words },
            { label: 'Rafters', value: rafters },
          ]),
    ],
  };
}
