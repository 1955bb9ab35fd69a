import {
  type Assembly,
  type Fastener,
  type Piece,
  type Step,
  type Words,
  assemble,
  bead,
  cut,
  emptyAssembly,
  evenlyAlong,
  fastenersAt,
  inCourse,
  laid,
  mm,
  notInCatalog,
  onlySaying,
  rightAfter,
  wallFinish,
  wrap,
} from '../../assembly/index.ts';
import { type ItemOf, chooseNail, itemsOf, sealantFor } from '../../catalog/index.ts';
import { rectangle } from '../../roof/index.ts';
import type { RuleKey } from '../../rules/index.ts';
import { type PlaneContext, wrapSheet } from '../../slope/index.ts';
import { STARTER_MARK, buttLine, chalkLine, courseMark, lastCourseAtOrBelow, lastCourseBelow } from '../../surface/index.ts';
import { inches } from '../../units/index.ts';
import type { BootPlace, Lies } from './boot.ts';
import { gridFindings, legFindings } from './findings.ts';
import { type Leg, bootNeeds, legsOf } from './legs.ts';
import { gridPanel, legPanel } from './panel.ts';

/** Nails close together along a flange's top edge. */
const TOP_NAILS = inches(3);

/** Beads come from a tube: packages up to this many millilitres. */
const TUBE = 1000;

const keysOf = ({ reach }: Leg): RuleKey[] => [
  'pipe.showing',
  'pipe.cover',
  'pipe.gap',
  ...(reach ? [] : (['fieldNails.fromWall'] as const)),
];

/** Pipes, flues and standoff legs: membrane collar, boot between two courses, its fasteners, and which course goes over. */
export const planPipes = (context: PlaneContext): Assembly => {
  const legs = legsOf(context);
  const grids = context.features.filter(({ kind }) => kind === 'standoffs');
  const single = legs.filter(({ standoff }) => !standoff);
  const legsIn = (id: string): Leg[] => legs.filter(({ feature }) => feature === id);
  const planned = assemble(legs.map((leg) => planLeg(context, leg)));
  return {
    ...planned,
    findings: [...planned.findings, ...grids.flatMap(({ id, name }) => gridFindings(context, id, name, legsIn(id)))],
    panels: [
      ...single.map((leg) => legPanel(context, leg)),
      ...grids.map(({ id, name }) => gridPanel(context, id, name, legsIn(id))),
    ],
  };
};

/** A leg that has a boot, and its place among the courses. */
type Booted = {
  readonly context: PlaneContext;
  readonly leg: Leg;
  readonly boot: ItemOf<'boot'>;
  readonly lies: Lies;
  readonly place: BootPlace;
};

function planLeg(context: PlaneContext, leg: Leg): Assembly {
  const { boot, lies, place } = leg;
  if (!boot || !lies || !place)
    return onlySaying(
      notInCatalog(
        leg.name,
        [
          `${leg.hot ? 'flue base' : leg.standoff ? 'standoff base' : 'boot'} for `,
          cut(leg.diameter),
          ' outside, so nothing keeps the water out there',
        ],
        {
          id: `${leg.id}.boot`,
          severity: 'leaks',
          fix: ['Check the outside diameter, or add a base that takes it to the catalog.'],
          key: 'pipe.showing',
        },
      ),
    );
  const booted: Booted = { context, leg, boot, lies, place };
  const collars = leg.formed ? [] : collarsOf(booted);
  const piece = leg.formed ? formedBase(booted) : bootOf(booted);
  // through a tile nothing goes: the course over its head holds it
  const [nails, screws] = leg.reach ? [[], []] : [topNails(booted, piece.mark), cornerScrews(booted, piece.mark)];
  const [left, right] = sidesOf(booted);
  return {
    ...emptyAssembly,
    pieces: [...collars, piece],
    fasteners: [...nails, ...screws],
    zones: [
      {
        facet: context.facet,
        outline: rectangle(
          left,
          place.lower,
          right,
          Math.min(place.upper - inches(1), buttLine(context.lines, place.firstOver) + inches(2)),
        ),
        rule: 'pipe.showing',
        against: ['course'],
        detail: leg.feature,
        piece: piece.mark,
      },
    ],
    steps: [
      ...(leg.formed ? [] : [collarStep(booted, collars)]),
      leg.formed
        ? formedStep(booted, piece)
        : leg.reach
          ? tileBaseStep(booted, piece)
          : bootStep(booted, piece, nails.length, screws.length),
      ...cutSteps(booted),
      ...stormCollar(booted),
    ],
    findings: legFindings(context, leg),
  };
}

const sidesOf = ({ leg, lies }: Booted): [left: number, right: number] => [leg.x - lies.left, leg.x + lies.right];

/** Two collars round the leg, the upper one over the lower, wider than the boot that goes over them: stuck to a deck, or where there is none woven into its rows. */
function collarsOf(booted: Booted): Piece[] {
  const { context, leg, place } = booted;
  const { product, onDeck, seals } = wrapSheet(context);
  const [left, right] = sidesOf(booted);
  const reach = inches(6);
  return [
    { mark: `${leg.id}-M1`, y0: place.lower, y1: leg.y + leg.half },
    { mark: `${leg.id}-M2`, y0: leg.y - leg.half, y1: place.upper + reach / 2 },
  ].map(({ mark, y0, y1 }, i): Piece => ({
    mark,
    detail: leg.feature,
    role: 'collar',
    product: product.id,
    covers: [{ facet: context.facet, outline: rectangle(left - reach / 2, y0, right + reach / 2, y1), holds: [onDeck] }],
    lay: wrap(context, leg.y - leg.half, i === 0 ? 'first' : 'second', leg.x),
    liesOn: i === 0 ? [] : [`${leg.id}-M1`],
    cutLength: right - left + reach,
    sheetWidth: y1 - y0,
    ...seals,
    keys: keysOf(leg),
  }));
}

const collarStep = ({ context, leg }: Booted, collars: readonly Piece[]): Step =>
  laid(collars, {
    stage: 'dry-in',
    action: [
      `${leg.name}: ${wrapSheet(context).onDeck === 'bonded' ? 'stick' : 'set'} collar ${leg.id}-M1 below, then ${leg.id}-M2 above it, `,
      ...collarWords(context, leg),
    ],
    people: 1,
  });

function collarWords(context: PlaneContext, leg: Leg): Words {
  if (leg.clearance)
    return [
      'up to the hole round it, ',
      cut(leg.diameter + 2 * leg.clearance),
      ' across: deck and sheets stop ',
      cut(leg.clearance),
      ' clear of the flue, by its listing.',
    ];
  const tight = `tight to the ${leg.standoff ? 'leg' : 'pipe'}`;
  return wrapSheet(context).onDeck === 'bonded'
    ? [`${tight}, on bare deck.`]
    : [`${tight}, of the underlayment’s sheet: the row below goes under it, the row above over its head; by lap, no mastic.`];
}

function bootOf(booted: Booted): Piece {
  const { context, leg, boot, lies, place } = booted;
  const [left, right] = sidesOf(booted);
  const under = place.firstOver - 1;
  return {
    mark: `${leg.id}-B`,
    detail: leg.feature,
    role: 'boot',
    product: boot.id,
    course: place.firstOver,
    covers: [{ facet: context.facet, outline: rectangle(left, place.lower, right, place.upper), holds: ['open'] }],
    lay: inCourse(context, place.firstOver, 'flashing', place.lower),
    liesOn: [under >= 1 ? courseMark(under) : STARTER_MARK, `${leg.id}-M2`],
    flat: { outline: rectangle(0, 0, lies.baseWidth, lies.baseLength), bends: [] },
    keys: keysOf(leg),
  };
}

/** A soft base on the tile round a small pipe, its rim formed and stuck down to it all round: over the course it lies on. */
function formedBase(booted: Booted): Piece {
  const { context, leg, place } = booted;
  const on = place.firstOver - 1;
  const base = bootOf(booted);
  return {
    ...base,
    course: on,
    covers: base.covers.map((cover) => ({ ...cover, holds: ['sealed'] })),
    lay: inCourse(context, on, 'pastAll', leg.x),
    liesOn: [courseMark(on)],
  };
}

function formedStep({ context, leg, boot, place }: Booted, piece: Piece): Step {
  const sealant = sealantFor(context.catalog, 'joint');
  return laid([piece], {
    course: place.firstOver - 1,
    stage: 'covering',
    action: [
      `${leg.name}: put sealant on the tile, then set formed base ${piece.mark} on course ${place.firstOver - 1}, centre `,
      mm(leg.y),
      ' up the slope; form its rim to the tile all round and press it down.',
    ],
    uses: [bead(sealant, 'polyurethane sealant', 2 * (boot.baseWidth + boot.baseLength), sealant?.bead ?? inches(0.25))],
    people: 1,
    holdPoint: 'rim down on the tile all round',
    keys: ['pipe.gap'],
  });
}

function topNails(booted: Booted, piece: string): Fastener[] {
  const { context, lies, place } = booted;
  const { catalog, covering, facet } = context;
  const nail = chooseNail(catalog, 'roofing', covering.deckThickness + inches(1 / 8), covering.metal);
  const start = sidesOf(booted)[0] + inches(0.5);
  const places = evenlyAlong(lies.baseWidth - inches(1), TOP_NAILS).map(
    (along) => [start + along, place.upper - inches(0.5)] as const,
  );
  return fastenersAt(nail, { piece, facet, keptDry: 'covered' }, places);
}

/** Inboard and uphill of the rim: water drawn under the rim would meet a screw there. */
function cornerScrews(booted: Booted, piece: string): Fastener[] {
  const { context, place } = booted;
  const [left, right] = sidesOf(booted);
  const places = [left + inches(1.25), right - inches(1.25)].map((x) => [x, place.lower + inches(1.25)] as const);
  return fastenersAt(itemsOf(context.catalog, 'screw')[0], { piece, facet: context.facet, keptDry: 'cap' }, places);
}

/** How a course is cut round what comes through it: a course over the base is open to its butt below the pipe. */
function cutsRound({ context, leg, place }: Booted, n: number): string | undefined {
  const { gap } = bootNeeds(context, leg);
  const { lines } = context;
  const [low, high] = [leg.y - leg.half - gap, leg.y + leg.half + gap];
  const [butt, top] = [buttLine(lines, n), Math.min(chalkLine(lines, n), lines.end)];
  if (high <= butt) return undefined;
  if (n >= place.firstOver) return 'a U open below';
  if (low >= top) return undefined;
  if (high >= top) return 'notched at its top';
  return low <= butt ? 'a U open below' : 'a hole';
}

/** A line for every course that is cut, with how. */
function cutSteps(booted: Booted): Step[] {
  const { context, leg, place } = booted;
  const { gap } = bootNeeds(context, leg);
  const what = leg.clearance ? 'cone' : leg.standoff ? 'leg' : 'pipe';
  const { lines } = context;
  // from the first course that reaches up to its hole to the last that lies over it
  const from = Math.min(place.firstOver, lastCourseAtOrBelow(lines, leg.y - leg.half - gap - lines.reach));
  const to = Math.min(lines.count, lastCourseBelow(lines, leg.y + leg.half + gap));
  return Array.from({ length: Math.max(0, to - from + 1) }, (_, i) => from + i).flatMap((n): Step[] => {
    const how = cutsRound(booted, n);
    if (!how) return [];
    const over = n >= place.firstOver;
    if (leg.reach)
      return [
        {
          lay: rightAfter(inCourse(context, n, 'flashing', leg.y), leg.x / ALONG_EAVE),
          detail: leg.feature,
          course: n,
          stage: 'covering',
          action: [
            `${leg.name}: ${leg.formed ? 'drill' : 'cut'} the tile of course ${n} round the ${what}, a hole `,
            cut(gap),
            ' open, with a diamond bit, no hammer.',
          ],
          pieces: [],
          people: 1,
          caution: 'Silica dust: wet cutting or extraction, mask.',
          keys: ['pipe.gap'],
        },
      ];
    const bed = leg.hot ? '; dog-ear its upper corners, bed it on the base.' : '; bed it on the flange in a bead of cement.';
    return [
      {
        lay: rightAfter(inCourse(context, n, 'flashing', leg.y), leg.x / ALONG_EAVE),
        detail: leg.feature,
        course: n,
        stage: 'covering',
        action: [`${leg.name}: cut course ${n} round the ${what}, ${how}, `, cut(gap), ` open${over ? bed : '.'}`],
        pieces: [],
        people: 1,
        keys: ['pipe.gap'],
      },
    ];
  });
}

/** Places along an eave divided by this come between two heights. */
const ALONG_EAVE = 1e6;

/** The last of the detail: the collar that throws the rain off the cone. */
const stormCollar = ({ context, leg }: Booted): Step[] => {
  const sealant = sealantFor(context.catalog, 'joint');
  if (!leg.hot) return [];
  return [
    {
      lay: wallFinish(context, 'face', leg.x, leg.y),
      detail: leg.feature,
      stage: 'finish',
      action: [`${leg.name}: tighten the storm collar on the flue above the cone; seal its upper edge.`],
      uses: [bead(sealant, 'sealant', Math.PI * leg.diameter, sealant?.bead ?? inches(0.25))],
      pieces: [],
      people: 1,
      caution: 'Flues: licensed trade. The sealant must bear the flue’s heat.',
      keys: [],
    },
  ];
};

/** On tiles: dressed to them past the pipe and its crowns, held by the course over its head. */
function tileBaseStep({ context, leg, lies, place }: Booted, piece: Piece): Step {
  const { metal } = context.covering;
  return laid([piece], {
    course: place.firstOver,
    stage: 'covering',
    action: [
      `${leg.name}: set ${leg.hot ? 'flue base' : 'base'} ${piece.mark}${lies.turned ? `, turned a quarter with its head to the ${lies.turned},` : ''} on course ${place.firstOver - 1}, lower edge at `,
      mm(place.lower),
      ', ',
      cut(place.showing),
      ` of it showing below course ${place.firstOver}; dress it to the tiles, ${context.surface.crowns ? 'into the hollows and past a crown on both sides' : 'flat on both sides'}.`,
    ],
    fasteners: [`0 nails: course ${place.firstOver} lies over its head and holds it`],
    people: 1,
    ...(leg.hot
      ? { caution: 'Clearance to anything that burns: by the appliance’s listing. Flues: licensed trade.' }
      : metal === 'lead'
        ? { caution: 'Lead: gloves, wash before eating.' }
        : {}),
    holdPoint: context.surface.crowns ? 'base past a crown on both sides, no hollow dammed' : 'base flat and tight on both sides',
    keys: [context.surface.crowns ? 'cover.pastCrown' : 'pipe.besideOnTile'],
  });
}

function bootStep({ context, leg, boot, place }: Booted, piece: Piece, nails: number, screws: number): Step {
  const cement = sealantFor(context.catalog, 'cement', TUBE);
  // along the flange's two sides and its top, as far as covering lies on it
  const bedded = boot.baseWidth + 2 * (place.upper - buttLine(context.lines, place.firstOver));
  return laid([piece], {
    course: place.firstOver,
    stage: 'covering',
    action: [
      `${leg.name}: set ${leg.hot ? 'flue base' : 'boot'} ${piece.mark} on ${place.firstOver > 1 ? `course ${place.firstOver - 1}` : 'the starter'}, lower edge at `,
      mm(place.lower),
      ', ',
      cut(place.showing),
      ` of it showing below course ${place.firstOver}.`,
    ],
    fasteners: [
      `${nails} nails close along the top edge; ${screws} gasketed screws at the two lower corners, inboard of the rim`,
    ],
    uses: [bead(cement, 'asphalt cement', bedded, cement?.bead ?? inches(0.375))],
    people: 1,
    ...(leg.hot
      ? { caution: 'Clearance to anything that burns: by the appliance’s listing. Flues: licensed trade.' }
      : boot.material === 'plastic'
        ? { wait: 'paint dry, if the boot is painted to match' }
        : {}),
  });
}
