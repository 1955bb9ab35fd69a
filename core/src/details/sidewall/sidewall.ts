import {
  type Assembly,
  type Cover,
  type DetailSheet,
  type Finding,
  type Piece,
  type Step,
  assemble,
  cut,
  cutRun,
  doneBy,
  emptyAssembly,
  inCourse,
  mm,
  onlySaying,
  topSeal,
  upWall,
  wallFinish,
  wrap,
} from '../../assembly/index.ts';
import { type ItemOf, chooseLengthMetal, chooseTape, itemsOf, smallest } from '../../catalog/index.ts';
import { type Outline, rectangle, slopeToWall } from '../../roof/index.ts';
import { type RuleKey, isRequired, leastOf, mostOf } from '../../rules/index.ts';
import {
  type PlacedWall,
  type PlaneContext,
  type SidePiece,
  channelDepth,
  cornerPiece,
  detailOf,
  flowAlong,
  onWall,
  pickStep,
  stepMark,
  wallFacetId,
  wallOutline,
  wrapSheet,
} from '../../slope/index.ts';
import { STARTER_MARK, buttLine, courseMark } from '../../surface/index.ts';
import { inches, isAtLeast } from '../../units/index.ts';
import { sidewallSheet } from './sheet.ts';
import { besideWall } from './side.ts';
import { planSoakers } from './soakers.ts';
import { planSteps } from './steps.ts';

/** Stuck down all round, its upper edge behind the wall's own drainage layer: lower, right, upper, left edge. */
const BEHIND_DRAINAGE_LAYER = ['bonded', 'bonded', 'letIn', 'bonded'] as const;

/** Narrowest strip over the steps' top edges: 2 in on the metal and 2 in on the wall. */
const TOP_STRIP = inches(4);

/** Every sidewall of a plane: membrane, steps, foot, strip over the steps, counterflashing or cladding. */
export const planSidewalls = (context: PlaneContext): Assembly =>
  assemble(context.walls.map((wall) => planSidewall(context, wall)));

function planSidewall(context: PlaneContext, wall: PlacedWall): Assembly {
  const { item, findings } = pickStep(context, wall);
  const facet = wallFacet(context, wall);
  const base: Assembly = { ...emptyAssembly, ...facet, findings: [...findings, ...placeFindings(context, wall)] };
  if (!item) return assemble([base, planMembrane(context, wall)]);
  const foot = planFoot(context, wall, item);
  const planSide = context.surface.sides === 'soakers' ? planSoakers : planSteps;
  const side = planSide(context, wall, item, foot.pieces.at(-1)?.mark ?? (wall.partOf && `${wall.partOf}F-A1`));
  return assemble([
    base,
    planMembrane(context, wall),
    foot,
    side,
    planTopSeal(context, wall, item),
    planFinish(context, wall, item),
    // a face of a chimney, dormer or frame is told on its own sheet
    wall.face ? emptyAssembly : { ...emptyAssembly, sheets: [tellOf(context, wall, item)] },
  ]);
}

function tellOf(context: PlaneContext, wall: PlacedWall, item: SidePiece): DetailSheet {
  const kickOut = wall.from === 0 && wall.foot === 'kick-out' ? kickOutFor(context, wall, item) : undefined;
  return sidewallSheet(context, wall, item, kickOut && kickOutNeed(context, wall, item.roofLeg));
}

function wallFacet(context: PlaneContext, wall: PlacedWall): Pick<Assembly, 'facets' | 'joints'> {
  const pitch = context.plane.pitch;
  const id = wallFacetId(context, wall);
  return {
    facets: [
      {
        id,
        kind: 'wall',
        on: context.facet,
        detail: detailOf(wall),
        name: wall.name,
        outline: plumbOutline(context, wall),
        fall: [0, -1],
        angle: Math.PI / 2,
      },
    ],
    joints: [
      {
        kind: 'side',
        a: context.facet,
        b: id,
        side: wall.side,
        runsOn: wall.from === 0 && wall.runsPastEave,
        onA: [
          [wall.x, wall.from],
          [wall.x, wall.to],
        ],
        onB: [slopeToWall(wall.from, 0, pitch), slopeToWall(wall.to, 0, pitch)],
      },
    ],
  };
}

/** A wall as it stands: plumb ends on the raking roof line. */
function plumbOutline({ plane, slopeFactor: k }: PlaneContext, { from, to, height }: PlacedWall): Outline {
  const [x0, x1] = [from / k, to / k];
  const at = (x: number, up: number): readonly [number, number] => [x, x * plane.pitch + up];
  return [at(x0, 0), at(x1, 0), at(x1, height), at(x0, height)];
}

function planMembrane(context: PlaneContext, wall: PlacedWall): Assembly {
  const { rules, covering } = context;
  const sheet = wrapSheet(context);
  const { product } = sheet;
  const deck = leastOf(rules, 'wallMembrane.deck');
  const up = leastOf(rules, 'wallMembrane.up');
  // on masonry the sheet must end under the counterflashing; behind a drainage layer it may go as high as half a roll reaches
  const half = product.width / 2;
  const width = wall.cladding === 'masonry' || wall.cladding === 'frame' ? deck + up : half >= deck + up ? half : product.width;
  const turned = Math.min(width - deck, wall.height);
  // round a frame the side strips lap on to the bottom one and run past the top, where the top strip goes over them
  const start = wall.partOf ? Math.max(0, wall.from - deck) : wall.from > 0 ? Math.max(0, wall.from - wall.apronLeg) : 0;
  const end = wall.partOf ? Math.min(wall.to + deck, context.lines.end) : wall.to;
  const endLap = leastOf(rules, 'iceBarrier.endLap');
  const keys: RuleKey[] = ['wallMembrane.up', 'wallMembrane.deck', 'iceBarrier.endLap'];
  const pieces = cutRun(
    end - start,
    Math.min(covering.underlayers.longestStrip ?? product.rollLength, product.rollLength),
    endLap,
  ).map((stretch, i): Piece => {
    const [y0, y1] = [start + stretch.from, start + stretch.to];
    return {
      mark: `${wall.id}-M${i + 1}`,
      detail: detailOf(wall),
      role: 'wallMembrane',
      product: product.id,
      covers: [
        { facet: context.facet, outline: besideWall(wall, deck, y0, y1), holds: [sheet.onDeck] },
        {
          facet: wallFacetId(context, wall),
          outline: onWall(context, wall, Math.max(y0, wall.from), Math.min(y1, wall.to), 0, turned),
          holds: sheet.onWall,
        },
      ],
      // a frame's upper strip comes after its lower one, and before what goes over both
      lay: wall.partOf ? wrap(context, wall.from, 'sides', wall.x + i / 1000) : upWall(context, wall.x, y0),
      liesOn: i === 0 ? ['IB1-1'] : [`${wall.id}-M${i}`],
      cutLength: stretch.to - stretch.from,
      sheetWidth: width,
      ...sheet.seals,
      keys,
    };
  });
  const step: Step = {
    lay: wall.partOf ? wrap(context, wall.from, 'sides', wall.x) : upWall(context, wall.x, 0),
    detail: detailOf(wall),
    stage: 'dry-in',
    action: [
      `${wall.name}: ${sheet.name} ${wall.partOf ? 'over the bottom one' : 'from the eave up'}, ${width === half ? 'half a roll wide (' : width === product.width ? 'a full roll wide (' : 'cut to width ('}`,
      cut(width),
      '), ',
      cut(deck),
      sheet.onDeck === 'bonded' ? ' on to the deck and ' : ' on to the slope and ',
      cut(turned),
      ` up the wall; ${pieces.length} ${pieces.length === 1 ? 'piece' : 'pieces, upper over lower, end laps '}`,
      ...(pieces.length === 1 ? [] : [cut(endLap)]),
      `. ${sheet.laid}`,
    ],
    pieces: pieces.map(({ mark }) => mark),
    people: end - start > inches(180) ? 2 : 1,
    ...(sheet.onDeck === 'bonded' ? { caution: 'Release paper is slick: off the roof at once.' } : {}),
    holdPoint: `${sheet.onDeck === 'bonded' ? 'Membrane turned up the wall and stuck' : 'Sheet turned up the wall'}, seen before the ${context.surface.sides}`,
    keys,
  };
  return { ...emptyAssembly, pieces, steps: [step] };
}

function planFoot(context: PlaneContext, wall: PlacedWall, item: SidePiece): Assembly {
  // an apron along the front turns its corners itself
  if (wall.face || context.fronts.some(({ id }) => id === `${wall.partOf}F`)) return emptyAssembly;
  if (wall.from > 0) return planApronEnd(context, wall, item);
  return wall.foot === 'kick-out' ? planKickOut(context, wall, item) : emptyAssembly;
}

/** Least height of the kick-out: the ruled one, or twice the depth of the water that runs there, if more. */
export function kickOutNeed(context: PlaneContext, wall: PlacedWall, roofLeg: number): number {
  const atFoot = flowAlong(context, wall, roofLeg)[0]?.collected ?? 0;
  return Math.max(leastOf(context.rules, 'kickOut.height'), 2 * channelDepth(atFoot, roofLeg, context.angle));
}

/** The smallest kick-out that is high enough. */
function kickOutFor(context: PlaneContext, wall: PlacedWall, step: SidePiece): ItemOf<'kickOut'> | undefined {
  const need = kickOutNeed(context, wall, step.roofLeg);
  const high = itemsOf(context.catalog, 'kickOut').filter(
    (item) =>
      item.metal === context.covering.metal &&
      isAtLeast(item.height, need) &&
      item.angleDegrees >= leastOf(context.rules, 'kickOut.angle') &&
      item.angleDegrees <= mostOf(context.rules, 'kickOut.angle'),
  );
  // as wide on the roof as the steps that empty into it, or what runs down their outer edge passes it by
  const wide = high.filter((item) => isAtLeast(item.roofLeg, step.roofLeg));
  return smallest(
    wide.length > 0 ? wide : high,
    (item) => item.height,
    (item) => item.length,
  );
}

/** How far its diverter may be turned, by the rules. */
const turnedWords = ({ rules }: PlaneContext): string => {
  const most = mostOf(rules, 'kickOut.angle');
  return `${leastOf(rules, 'kickOut.angle')}°${most === Number.POSITIVE_INFINITY ? ' or more' : ` to ${most}°`}`;
};

function planKickOut(context: PlaneContext, wall: PlacedWall, step: SidePiece): Assembly {
  const need = kickOutNeed(context, wall, step.roofLeg);
  const product = kickOutFor(context, wall, step);
  if (!product) {
    return onlySaying({
      id: `${wall.id}.kick-out`,
      severity: 'leaks',
      sentence: [
        `${wall.name}: the catalog has no ${context.covering.metal} kick-out `,
        cut(need),
        ` high, its diverter turned ${turnedWords(context)}, so the foot of the wall has none and water runs behind the cladding there.`,
      ],
      fix: ['Add a kick-out to the catalog, or choose another metal.'],
      piece: stepMark(wall, 1),
      key: 'kickOut.height',
    });
  }
  const mark = `${wall.id}-K`;
  const y0 = buttLine(context.lines, 1);
  const keys: RuleKey[] = ['kickOut.required', 'kickOut.height', 'kickOut.angle', 'flashing.thickness'];
  return {
    ...emptyAssembly,
    pieces: [
      {
        mark,
        detail: detailOf(wall),
        role: 'kickOut',
        product: product.id,
        course: 0,
        covers: [
          { facet: context.facet, outline: besideWall(wall, product.roofLeg, y0, y0 + product.length), holds: ['open'] },
          {
            facet: wallFacetId(context, wall),
            outline: wallOutline(context, 0, y0 + product.length, 0, product.height),
            holds: ['open'],
          },
        ],
        lay: inCourse(context, 0, 'kickOut', wall.x),
        liesOn: [STARTER_MARK, `${wall.id}-M1`],
        keys,
      },
    ],
    steps: [
      {
        lay: inCourse(context, 0, 'kickOut', wall.x),
        detail: detailOf(wall),
        course: 0,
        stage: 'covering',
        action: [
          `${wall.name}: kick-out ${mark} on the starter, tight to the wall, diverter (${product.angleDegrees}°, `,
          cut(product.height),
          ' high) emptying into the gutter. The first step laps over it. Seam soldered, welded or moulded, never only sealant.',
        ],
        pieces: [mark],
        people: 1,
        holdPoint: 'Kick-out seen emptying into the gutter',
        keys,
      },
    ],
  };
}

function planApronEnd(context: PlaneContext, wall: PlacedWall, item: SidePiece): Assembly {
  const { rules, catalog, covering } = context;
  const end = leastOf(rules, 'apron.end');
  // the ear may not be wider than the corner piece's roof leg that lies over it
  const ear = Math.min(end, item.roofLeg);
  const stock = chooseLengthMetal(catalog, 'apron', covering.metal, {
    first: wall.apronLeg,
    thickness: leastOf(rules, 'flashing.thickness'),
  });
  if (!stock) {
    return onlySaying({
      id: `${wall.id}.apron`,
      severity: 'breaks a rule',
      sentence: [
        `${wall.name}: the catalog has no ${covering.metal} apron stock with a roof leg of `,
        cut(wall.apronLeg),
        ' for the corner at the foot.',
      ],
      fix: ['Choose a shorter apron leg, another metal, or add the stock to the catalog.'],
      piece: stepMark(wall, 1),
      key: 'apron.end',
    });
  }
  const mark = `${wall.id}-A`;
  const corner = cornerPiece(context, wall);
  const y0 = Math.max(0, wall.from - wall.apronLeg);
  const keys: RuleKey[] = ['apron.end', 'flashing.thickness'];
  const covers: Cover[] = [
    { facet: context.facet, outline: rectangle(wall.x - ear, y0, wall.x + ear, wall.from), holds: ['open'] },
  ];
  return {
    ...emptyAssembly,
    pieces: [
      {
        mark,
        detail: detailOf(wall),
        role: 'apronEnd',
        product: stock.id,
        course: corner.coveredBy,
        covers,
        lay: inCourse(context, corner.coveredBy, 'flashing', Math.min(y0, corner.lower) - 1),
        liesOn: [corner.underApron > 0 ? courseMark(corner.underApron) : STARTER_MARK],
        cutLength: end + ear,
        keys,
      },
    ],
    steps: [
      {
        lay: inCourse(context, corner.coveredBy, 'flashing', Math.min(y0, corner.lower) - 1),
        detail: detailOf(wall),
        course: corner.coveredBy,
        stage: 'covering',
        action: [
          `${wall.name}: apron end ${mark} on course ${corner.underApron}, `,
          cut(ear),
          ' past the corner, cut on the corner line and the ear turned up the side.',
        ],
        pieces: [mark],
        people: 1,
        keys,
      },
    ],
  };
}

function planTopSeal(context: PlaneContext, wall: PlacedWall, item: SidePiece): Assembly {
  if (wall.cladding === 'masonry' || wall.cladding === 'frame' || !isRequired(context.rules, 'stepFlashing.topSealed'))
    return emptyAssembly;
  const tape = chooseTape(context.catalog, TOP_STRIP);
  if (!tape) return emptyAssembly;
  const lap = leastOf(context.rules, 'iceBarrier.sideLap');
  const u0 = item.wallLeg - tape.width / 2;
  const pieces = cutRun(wall.to - wall.from, tape.rollLength, lap).map((stretch, i): Piece => ({
    mark: `${wall.id}-T${i + 1}`,
    detail: detailOf(wall),
    role: 'topSeal',
    product: tape.id,
    covers: [
      {
        facet: wallFacetId(context, wall),
        outline: onWall(context, wall, wall.from + stretch.from, wall.from + stretch.to, u0, u0 + tape.width),
        holds: BEHIND_DRAINAGE_LAYER,
      },
    ],
    lay: topSeal(context, wall.x, wall.from + stretch.from),
    liesOn: i === 0 ? [stepMark(wall, 1)] : [`${wall.id}-T${i}`],
    cutLength: stretch.to - stretch.from,
    keys: ['stepFlashing.topSealed'],
  }));
  return {
    ...emptyAssembly,
    pieces,
    steps: [
      {
        lay: topSeal(context, wall.x, 0),
        detail: detailOf(wall),
        stage: 'finish',
        action: [
          `${wall.name}: self-adhered strip `,
          cut(tape.width),
          ' wide over the steps’ top edges, half on the metal and half on the wall, from the eave up.',
        ],
        pieces: pieces.map(({ mark }) => mark),
        people: 1,
        holdPoint: 'Strip seen over every step before the cladding closes it',
        keys: ['stepFlashing.topSealed'],
      },
    ],
  };
}

function planFinish(context: PlaneContext, wall: PlacedWall, item: SidePiece): Assembly {
  switch (wall.cladding) {
    case 'masonry':
      // let into the wall by the counterflashing family
      return emptyAssembly;
    case 'frame':
      return planFrameCladding(context, wall, item);
    default:
      return doneBy('cladders', planCladding(context, wall));
  }
}

/** Existing or new cladding: not ours to order, but what covers the steps' wall legs, so the plan shows it. */
function planCladding(context: PlaneContext, wall: PlacedWall): Assembly {
  const clear = leastOf(context.rules, 'cladding.clearance') + context.surface.thickness;
  const mark = `${wall.id}-CL`;
  const what = wall.cladding === 'boards' ? 'lapped boards over the drainage layer' : 'render over the drainage layer';
  return {
    ...emptyAssembly,
    pieces: [
      {
        mark,
        detail: detailOf(wall),
        role: 'cladding',
        covers: [
          {
            facet: wallFacetId(context, wall),
            outline: onWall(context, wall, wall.from, wall.to, clear, wall.height),
            holds: ['open'],
          },
        ],
        lay: wallFinish(context, 'face', wall.x, 0),
        liesOn: [`${wall.id}-T1`],
        keys: ['cladding.clearance'],
      },
    ],
    steps: [
      {
        lay: wallFinish(context, 'face', wall.x, 0),
        detail: detailOf(wall),
        stage: 'finish',
        action: [
          `${wall.name}: close with ${what}, which laps over the wall legs; lower edge `,
          cut(leastOf(context.rules, 'cladding.clearance')),
          ' clear of the covering.',
        ],
        pieces: [mark],
        people: 2,
        keys: ['cladding.clearance'],
      },
    ],
  };
}

/** A skylight's own cladding over the steps, from the kit: there to be screwed on, not cut. */
function planFrameCladding(context: PlaneContext, wall: PlacedWall, item: SidePiece): Assembly {
  const mark = `${wall.id}-CL`;
  const low = Math.min(item.wallLeg, wall.height) / 3;
  return {
    ...emptyAssembly,
    pieces: [
      {
        mark,
        detail: detailOf(wall),
        role: 'frame',
        covers: [
          {
            facet: wallFacetId(context, wall),
            outline: onWall(context, wall, wall.from, wall.to, low, wall.height),
            holds: ['open', 'open', 'letIn', 'open'],
          },
        ],
        lay: topSeal(context, wall.x, 0),
        liesOn: [stepMark(wall, 1)],
        keys: [],
      },
    ],
  };
}

/** What the wall's place on the slope leaves open. */
function placeFindings(context: PlaneContext, wall: PlacedWall): Finding[] {
  const findings: Finding[] = [];
  const { rules, lines } = context;
  const first = stepMark(wall, 1);
  if (wall.from === 0 && wall.runsPastEave && wall.foot !== 'kick-out' && isRequired(rules, 'kickOut.required')) {
    findings.push({
      id: `${wall.id}.kick-out`,
      severity: 'leaks',
      sentence: [
        `${wall.name} runs on past the eave without a kick-out: what runs down the steps goes behind the cladding at the foot.`,
      ],
      fix: ['Set the foot of the wall to a kick-out.'],
      piece: first,
      key: 'kickOut.required',
    });
  }
  if (wall.face) return findings;
  // a gable's side wall ends where its valley begins, and the valley's own pieces lie over the last step
  const underValley = context.valleys.some(({ low }) => Math.abs(low[0] - wall.x) < 1 && Math.abs(low[1] - wall.to) < 1);
  if (wall.to < lines.end - 1 && !underValley) {
    findings.push({
      id: `${wall.id}.head`,
      severity: 'worth a look',
      sentence: [
        `${wall.name} ends `,
        mm(wall.to),
        ' up the slope: what turns the water round its upper end is not in this plan.',
      ],
      fix: ['Enter what stands there as a chimney, framed or masonry, or as a dormer: they bring their own back and front.'],
      piece: first,
    });
  }
  return findings;
}
