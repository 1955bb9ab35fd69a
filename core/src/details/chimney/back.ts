import {
  type Assembly,
  type Cover,
  type Fastener,
  type Piece,
  type Step,
  type Use,
  type Words,
  acrossAt,
  cut,
  emptyAssembly,
  evenlyAlong,
  inCourse,
  layRows,
  lengths,
  piecesOf,
  standUp,
  wallFinish,
  wrap,
  rightBefore,
} from '../../assembly/index.ts';
import { chooseNail, itemsOf, seamOf, sheathingFor, smallest } from '../../catalog/index.ts';
import type { FeatureOf } from '../../document/index.ts';
import {
  type Cricket,
  type Outline,
  cricketOutline,
  cutShapes,
  intersectOutlines,
  rectangle,
  runoff,
  valleyWater,
} from '../../roof/index.ts';
import { leastOf } from '../../rules/index.ts';
import {
  type Footprint,
  type PlaneContext,
  TROUGH,
  backFacet,
  cricketBehind,
  cutFromStock,
  foldedRound,
  footprint,
  partsWords,
  stockFor,
  takesCricket,
  upBehind,
  wrapSheet,
  isOnTiles,
} from '../../slope/index.ts';
import { courseMark, interfaceLines } from '../../surface/index.ts';
import { inches } from '../../units/index.ts';
import { OVER_STEPS, pastSides } from './asks.ts';
import { cricketFlat } from './cricket.ts';
import { findingsOf } from './findings.ts';
import { panelOf } from './panel.ts';

/** A seam over the ridge of a cricket made of two halves. */
const RIDGE_SEAM = inches(1);

export function planBack(context: PlaneContext, chimney: FeatureOf<'chimney'>): Assembly {
  const { rules, lines, catalog, covering, facet } = context;
  const foot = footprint(chimney, context.plane);
  const cricket = cricketBehind(context, chimney);
  const own: Own = {
    chimney,
    foot,
    cricket,
    face: backFacet(facet, chimney.id),
    last: interfaceLines(lines, foot.from, foot.to).last,
    upstand: leastOf(rules, cricket ? 'cricket.upstand' : 'pan.upstand'),
    past: pastSides(context, foot),
    up: cricket ? cricket.up : upBehind(lines, foot, leastOf(rules, 'pan.up')),
    flange: cricket ? leastOf(rules, 'cricket.flange') : 0,
  };
  const membranes = membranesOf(context, own);
  const { piece, main, parts } = metalOf(context, own, membranes.at(-1)!.mark);
  const cladding = chimney.masonry ? [] : [claddingBehind(context, chimney, foot, own.face, cricket, piece.mark)];
  const nail = chooseNail(catalog, 'roofing', covering.deckThickness + inches(1 / 8), covering.metal);
  // nothing goes through a tile: the course over it holds it
  const nails = nail && !isOnTiles(context) ? topNails(facet, piece.mark, main, cricket, foot, nail.id) : [];
  return {
    ...emptyAssembly,
    facets: [
      standUp(facet, {
        id: own.face,
        detail: chimney.id,
        name: `${chimney.name}, back`,
        outline: faceAbove(foot, chimney.height, cricket),
      }),
    ],
    joints: [acrossAt('back', facet, own.face, { ...foot, y: foot.to })],
    pieces: [...membranes, piece, ...cladding],
    drifts: cricket ? driftsOf(cricket, facet, foot.x0, foot.to, cricketSpread(context, cricket, foot.to)) : [],
    fasteners: nails,
    zones: [
      {
        facet,
        outline: cricket
          ? cricketOutline(cricket, foot.x0, foot.to, TROUGH)
          : rectangle(foot.x0 - own.past, foot.to, foot.x1 + own.past, foot.to + own.up - inches(1)),
        rule: cricket ? 'cricket.flange' : 'pan.up',
        against: ['course', 'step', 'pan', 'cricket'],
        detail: chimney.id,
        piece: piece.mark,
      },
    ],
    steps: backStep(context, {
      ...own,
      mark: piece.mark,
      membrane: membranes.map(({ mark }) => mark),
      parts: cricket ? 2 * (parts - 1) + 1 : parts,
      nails: nails.length,
      over: OVER_SIDES[context.surface.sides],
    }),
    findings: findingsOf(context, chimney, cricket, piece.product !== undefined),
    panels: [panelOf(context, chimney, cricket)],
  };
}

/** A chimney, where it stands, and the sizes of what goes behind it. */
type Own = {
  readonly chimney: FeatureOf<'chimney'>;
  readonly foot: Footprint;
  readonly cricket: Cricket | undefined;
  /** Facet of its back. */
  readonly face: string;
  /** The last course its steps stand beside. */
  readonly last: number;
  readonly upstand: number;
  readonly past: number;
  readonly up: number;
  readonly flange: number;
};

/** Up the back face and on to the deck as far as one roll reaches; what is left goes in rows above, each over the one below. */
function membranesOf(context: PlaneContext, { chimney, foot, cricket, face, up, flange }: Own): Piece[] {
  const { rules, facet } = context;
  const { product: sheet, onDeck, onWall, seals } = wrapSheet(context);
  const turned = Math.min(leastOf(rules, 'wallMembrane.up'), chimney.height);
  const end = up + flange + inches(6);
  const onFace: Cover = {
    facet: face,
    outline: gabled(foot, turned, cricket),
    holds: cricket ? [onWall[0], onWall[1], 'letIn', 'letIn', onWall[3]] : onWall,
  };
  return layRows(-turned, end, sheet.width, leastOf(rules, 'iceBarrier.sideLap')).map((row, i): Piece => {
    const top = Math.min(row.to, end);
    return {
      mark: `${chimney.id}-M${4 + i}`,
      detail: chimney.id,
      role: 'wallMembrane',
      product: sheet.id,
      covers: [
        {
          facet,
          outline: rectangle(foot.x0 - inches(6), foot.to + Math.max(0, row.from), foot.x1 + inches(6), foot.to + top),
          holds: [onDeck],
        },
        ...(i > 0
          ? []
          : [
              onFace,
              ...foldedRound(context, { owner: chimney.id, end: 'back', sides: [-1, 1], reach: inches(6), low: -inches(6), high: turned, holds: onWall }), // prettier-ignore
            ]),
      ],
      lay: wrap(context, foot.from, 'top', foot.x0 + i / 1000),
      liesOn: i === 0 ? [`${chimney.id}L-M1`, `${chimney.id}R-M1`] : [`${chimney.id}-M${3 + i}`],
      cutLength: foot.x1 - foot.x0 + inches(12),
      sheetWidth: top - row.from,
      ...seals,
      keys: ['wallMembrane.up', 'wallMembrane.deck'],
    };
  });
}

/** The pan or cricket itself, what of it lies on the roof behind the chimney, and in how many parts its pattern is cut. */
function metalOf(context: PlaneContext, own: Own, membrane: string): { piece: Piece; main: Outline; parts: number } {
  const { facet } = context;
  const { chimney, foot, cricket, upstand, past, up, flange, last } = own;
  const body: Outline = cricket
    ? cricketOutline(cricket, foot.x0, foot.to, flange)
    : rectangle(foot.x0 - past, foot.to, foot.x1 + past, foot.to + up);
  // wings reach down over the last steps, on both sides of the back corners
  const wing = (x0: number, x1: number): Outline => rectangle(x0, foot.to - OVER_STEPS, x1, foot.to + TROUGH);
  const main = cricket
    ? intersectOutlines(body, rectangle(foot.x0 - past, foot.to, foot.x1 + past, foot.to + up + 1000))
    : [body];
  const wings = [wing(foot.x0 - past, foot.x0), wing(foot.x1, foot.x1 + past)];
  const onRoof = [...main, ...wings.flatMap((one) => cutShapes(one, main).map(({ outline }) => outline))];
  // two halves where there is a cricket, each cut from flat stock as its own pattern
  const flat = cricket ? cricketFlat(cricket, upstand, flange, RIDGE_SEAM) : panFlat(foot.x1 - foot.x0, upstand, up, past);
  return {
    main: main[0]!,
    parts: stockFor(context, flat).parts,
    piece: {
      mark: `${chimney.id}-${cricket ? 'CK' : 'P'}`,
      detail: chimney.id,
      role: cricket ? 'cricket' : 'pan',
      ...cutFromStock(context, flat),
      course: last + 1,
      covers: [
        ...onRoof.map((outline): Cover => ({ facet, outline, holds: ['open'] })),
        { facet: own.face, outline: gabled(foot, upstand, cricket), holds: ['open'] },
      ],
      lay: inCourse(context, last + 1, 'backPiece', foot.to),
      liesOn: [courseMark(last), membrane],
      flat,
      ...(cricket ? { halves: 2 as const } : {}),
      keys: [
        'pan.up',
        'pan.past',
        cricket ? 'cricket.upstand' : 'pan.upstand',
        ...(takesCricket(context) ? (['cricket.flange', 'chimney.cricketOver'] as const) : []),
        'flashing.thickness',
      ],
    },
  };
}

/** A framed chimney's own cladding over the upstand, clear of the metal it sheds on to. */
function claddingBehind(
  context: PlaneContext,
  { id, height }: FeatureOf<'chimney'>,
  { x0, x1, to }: { x0: number; x1: number; to: number },
  facet: string,
  cricket: Cricket | undefined,
  on: string,
): Piece {
  const clear = leastOf(context.rules, 'cladding.clearance');
  const top = Math.max(height, clear + (cricket?.height ?? 0) + 1);
  const outline: Outline = cricket
    ? [[x0, clear], [(x0 + x1) / 2, clear + cricket.height], [x1, clear], [x1, top], [x0, top]] // prettier-ignore
    : rectangle(x0, clear, x1, top);
  return {
    mark: `${id}B-CL`,
    detail: id,
    role: 'cladding',
    covers: [{ facet, outline, holds: ['open'] }],
    lay: wallFinish(context, 'face', x0, to),
    liesOn: [on],
    keys: ['cladding.clearance'],
  };
}

/** A strip up the back face: level, or following the cricket up to its ridge and down again. */
const gabled = ({ x0, x1 }: { x0: number; x1: number }, up: number, cricket: Cricket | undefined): Outline =>
  cricket ? [[x0, 0], [x1, 0], [x1, up], [(x0 + x1) / 2, up + cricket.height], [x0, up]] : rectangle(x0, 0, x1, up); // prettier-ignore

/** The back face as far as it shows: above the slope, or above the cricket's two sides. */
const faceAbove = ({ x0, x1 }: { x0: number; x1: number }, height: number, cricket: Cricket | undefined): Outline =>
  cricket ? [[x0, 0], [(x0 + x1) / 2, cricket.height], [x1, 0], [x1, height], [x0, height]] : rectangle(x0, 0, x1, height); // prettier-ignore

const driftsOf = (cricket: Cricket, facet: string, x0: number, y: number, spread: number): Assembly['drifts'] => {
  const [a, b, apex] = cricketOutline(cricket, x0, y) as [Outline[number], Outline[number], Outline[number]];
  const middle = [(a[0] + b[0]) / 2, y] as const;
  return [
    { facet, outline: [a, middle, apex], towards: -1, valley: [a, apex], spread },
    { facet, outline: [middle, b, apex], towards: 1, valley: [b, apex], spread },
  ];
};

/**
 * How wide the water of a cricket's valley runs on the slope, along the course, where it is most: at its lower end, with all that comes down the slope
 * over half the cricket. A steady-flow estimate, as in any valley.
 */
function cricketSpread({ job, lines, plane, slopeFactor: k }: PlaneContext, cricket: Cricket, from: number): number {
  const half = cricket.width / 2;
  const above = Math.max(0, lines.end - from) / k;
  const level = Math.hypot(half, cricket.ridge);
  // how steeply each side falls square to the valley's line in plan
  const [acrossSlope, acrossSide] = [(plane.pitch * half) / level, (cricket.sidePitch * cricket.ridge) / level];
  const { spreadA } = valleyWater(runoff(job.site.rainPerHour, half * above), {
    zA: 1 / acrossSlope,
    zB: 1 / acrossSide,
    sine: cricket.height / cricket.valley,
  });
  return spreadA / (cricket.up / Math.hypot(half, cricket.up));
}

/** Nails at the metal's outer edge on the roof only, an inch in, never in its trough. */
function topNails(
  facet: string,
  piece: string,
  main: Outline,
  cricket: Cricket | undefined,
  foot: { x0: number; x1: number; to: number },
  product: string,
): Fastener[] {
  const at = (x: number, y: number): Fastener => ({ piece, facet, at: [x, y], product, keptDry: 'covered' });
  const xs = main.map(([x]) => x);
  const top = Math.max(...main.map(([, y]) => y));
  if (!cricket) {
    const [x0, x1] = [Math.min(...xs) + inches(1), Math.max(...xs) - inches(1)];
    return evenlyAlong(x1 - x0, inches(8)).map((along) => at(x0 + along, top - inches(0.5)));
  }
  // along each flange's outer edge, from a third of the way up to near the apex
  const centre = (foot.x0 + foot.x1) / 2;
  const outer = cricketOutline(cricket, foot.x0, foot.to, inches(5.5));
  return [0.45, 0.6, 0.75, 0.9].flatMap((share) =>
    ([0, 1] as const).map((i) =>
      at(outer[i]![0] + (centre - outer[i]![0]) * share, outer[i]![1] + (outer[2]![1] - outer[i]![1]) * share),
    ),
  );
}

/** A pan bent once along the back face, its wings cut free at the corners. */
const panFlat = (width: number, upstand: number, up: number, past: number) => ({
  outline: [
    [0, 0], [past, 0], [past, OVER_STEPS], [past, OVER_STEPS - upstand], [past + width, OVER_STEPS - upstand], [past + width, OVER_STEPS],
    [past + width, 0], [2 * past + width, 0], [2 * past + width, OVER_STEPS + up], [0, OVER_STEPS + up],
  ] as Outline, // prettier-ignore
  bends: [{ from: [past, OVER_STEPS] as const, to: [past + width, OVER_STEPS] as const, direction: 'up' as const, degrees: 90 }],
});

type Back = Own & {
  readonly mark: string;
  readonly membrane: readonly string[];
  readonly parts: number;
  readonly nails: number;
  readonly over: string;
};

/** What its wings lie over at the sides. */
const OVER_SIDES = { steps: 'last steps', soakers: 'last soakers', covers: 'cover flashings' } as const;

function backStep(context: PlaneContext, back: Back): Step[] {
  const { chimney, cricket, foot } = back;
  const action: Words = cricket
    ? [
        `${chimney.name}: lay cricket ${back.mark} on its deck, `,
        cut(back.upstand),
        ' up the chimney, flange ',
        cut(back.flange),
        ` past the valley lines (`,
        cut(cricket.valley),
        ` long), wings over the ${back.over} and course ${back.last}. Stop the courses behind `,
        cut(TROUGH),
        ' short of its valleys.',
      ]
    : [
        `${chimney.name}: lay back pan ${back.mark}, `,
        cut(back.upstand),
        ' up the chimney, ',
        cut(back.up),
        ' up the roof, ',
        cut(back.past),
        ` past the sides over the ${back.over} and course ${back.last}. Stop the first course behind `,
        cut(TROUGH),
        ' short.',
      ];
  return [
    ...(cricket
      ? [
          {
            lay: rightBefore(wrap(context, foot.from, 'top', 0)),
            detail: chimney.id,
            stage: 'dry-in' as const,
            action: [
              `${chimney.name}: frame the cricket `,
              cut(cricket.height),
              ' high, its ridge ',
              cut(cricket.ridge),
              ' level, and deck both faces.',
            ],
            pieces: [],
            uses: cricketTimber(context, cricket),
            people: 1 as const,
            crew: 'carpenters' as const,
            caution: 'Keep wood clear of the chimney by the code’s distance. Flues and appliances: licensed trade.',
            keys: [],
          },
        ]
      : []),
    {
      lay: wrap(context, foot.from, 'top', 0),
      detail: chimney.id,
      stage: 'dry-in',
      action: [
        `${chimney.name}: ${wrapSheet(context).onDeck === 'bonded' ? 'stick' : 'turn up'} top strip ${back.membrane.join(', then ')} over both side strips, ${cricket ? 'over the cricket and' : 'behind the chimney and'} up it`,
        ...(back.membrane.length > 1
          ? [', each row over the one below, laps ', cut(leastOf(context.rules, 'iceBarrier.sideLap')), '.']
          : ['.']),
      ],
      pieces: back.membrane,
      people: 1,
      holdPoint: 'the wrap whole: bottom, sides over it, top over the sides',
      keys: ['wallMembrane.up'],
    },
    {
      lay: inCourse(context, back.last + 1, 'backPiece', foot.to),
      detail: chimney.id,
      course: back.last + 1,
      stage: 'covering',
      action: [...action, ...partsWords(back.parts)],
      pieces: [back.mark],
      fasteners: [
        isOnTiles(context)
          ? `0 nails: course ${back.last + 1} lies over its upper edge and holds it; none in the trough, none into the chimney`
          : `${back.nails} nails at its outer edge on the roof only; none in the trough, none into the chimney`,
      ],
      people: 2,
      caution: 'Sharp metal: gloves.',
      holdPoint: `trough open, seams ${seamOf(context.covering.metal)}`,
      keys: [back.cricket ? 'cricket.upstand' : 'pan.upstand', 'pan.up', 'pan.past'],
    },
  ];
}

/** Ridge, two valley boards and the post under the ridge's end, and deck sheets for both faces. */
function cricketTimber({ catalog, covering }: PlaneContext, cricket: Cricket): Use[] {
  const timber = smallest(itemsOf(catalog, 'timber'), ({ depth }) => depth);
  const sheet = sheathingFor(catalog, covering.deckThickness);
  return [
    lengths(timber, 'framing timber', [cricket.ridge, cricket.valley, cricket.valley, cricket.height]),
    // the two faces are cut from one rectangle, ridge long and slant wide
    piecesOf(sheet, 'deck sheet', sheet ? Math.ceil((2 * cricket.sideArea) / (sheet.length * sheet.width)) : 1),
  ];
}
