import {
  type Assembly,
  type DetailSheet,
  type Fastener,
  type Finding,
  type Piece,
  type Step,
  type Words,
  assemble,
  bead,
  cut,
  emptyAssembly,
  inCourse,
  mm,
  onlySaying,
  wrap,
} from '../../assembly/index.ts';
import { chooseNail, itemById, itemsOf, sealantFor } from '../../catalog/index.ts';
import { rectangle } from '../../roof/index.ts';
import { type RuleKey, leastOf } from '../../rules/index.ts';
import { type PlaneContext, fromValleyLine } from '../../slope/index.ts';
import { STARTER_MARK, buttLine, courseMark } from '../../surface/index.ts';
import { inches, isAtLeast, isAtMost, isOver, isUnder, stepsToReach } from '../../units/index.ts';
import { type Leg, bootNeeds, legsOf } from './legs.ts';

/** Nails close together along a flange's top edge. */
const TOP_NAILS = inches(3);

/** Beads come from a tube: packages up to this many millilitres. */
const TUBE = 1000;

const KEYS: RuleKey[] = ['pipe.showing', 'pipe.cover', 'pipe.gap', 'fieldNails.fromWall'];

/** Pipes, flues and standoff legs: membrane collar, boot between two courses, its fasteners, and which course goes over. */
export const planPipes = (context: PlaneContext): Assembly => {
  const legs = legsOf(context);
  const grids = context.features.filter(({ kind }) => kind === 'standoffs');
  const single = legs.filter(({ standoff }) => !standoff);
  return {
    ...assemble(legs.map((leg) => planLeg(context, leg))),
    sheets: [
      ...single.map((leg) => legSheet(context, leg)),
      ...grids.map(({ id, name }) =>
        gridSheet(
          context,
          id,
          name,
          legs.filter(({ feature }) => feature === id),
        ),
      ),
    ],
  };
};

function planLeg(context: PlaneContext, leg: Leg): Assembly {
  const { covering, catalog } = context;
  const { boot, place } = leg;
  if (!boot || !place)
    return onlySaying({
      id: `${leg.id}.boot`,
      severity: 'leaks',
      sentence: [
        `${leg.name}: the catalog has no ${leg.hot ? 'flue base' : leg.standoff ? 'standoff base' : 'boot'} for `,
        cut(leg.diameter),
        ' outside, so nothing keeps the water out there.',
      ],
      fix: ['Check the outside diameter, or add a base that takes it to the catalog.'],
      key: 'pipe.showing',
    });
  const sheet = itemById(catalog, 'iceBarrier', covering.underlayers.iceBarrier);
  const left = leg.x - boot.baseWidth / 2;
  const right = leg.x + boot.baseWidth / 2;
  const reach = inches(6);
  const mark = `${leg.id}-B`;
  const onCourse = place.firstOver - 1;
  const collars = [
    { mark: `${leg.id}-M1`, y0: place.lower, y1: leg.y + leg.half },
    { mark: `${leg.id}-M2`, y0: leg.y - leg.half, y1: place.upper + reach / 2 },
  ].map(({ mark: own, y0, y1 }, i): Piece => ({
    mark: own,
    detail: leg.feature,
    role: 'collar',
    product: sheet.id,
    covers: [{ facet: context.facet, outline: rectangle(left - reach / 2, y0, right + reach / 2, y1), holds: ['bonded'] }],
    lay: wrap(context, leg.y - leg.half, i === 0 ? 'first' : 'second', leg.x),
    liesOn: i === 0 ? [] : [`${leg.id}-M1`],
    cutLength: right - left + reach,
    sheetWidth: y1 - y0,
    sealsNails: sheet.sealsNails,
    keys: KEYS,
  }));
  const piece: Piece = {
    mark,
    detail: leg.feature,
    role: 'boot',
    product: boot.id,
    course: place.firstOver,
    covers: [{ facet: context.facet, outline: rectangle(left, place.lower, right, place.upper), holds: ['open'] }],
    lay: inCourse(context, place.firstOver, 'flashing', place.lower),
    liesOn: [onCourse >= 1 ? courseMark(onCourse) : STARTER_MARK, `${leg.id}-M2`],
    flat: { outline: rectangle(0, 0, boot.baseWidth, boot.baseLength), bends: [] },
    keys: KEYS,
  };
  const nail = chooseNail(catalog, 'roofing', covering.deckThickness + inches(1 / 8), covering.metal);
  const screw = itemsOf(catalog, 'screw')[0];
  const gaps = Math.max(1, stepsToReach(boot.baseWidth - inches(1), TOP_NAILS));
  const nails = nail
    ? Array.from({ length: gaps + 1 }, (_, i): Fastener => ({
        piece: mark,
        facet: context.facet,
        at: [left + inches(0.5) + ((boot.baseWidth - inches(1)) * i) / gaps, place.upper - inches(0.5)],
        product: nail.id,
        keptDry: 'covered',
      }))
    : [];
  // inboard and uphill of the rim: water drawn under the rim would meet a screw there
  const screws = screw
    ? [left + inches(1.25), right - inches(1.25)].map((x): Fastener => ({
        piece: mark,
        facet: context.facet,
        at: [x, place.lower + inches(1.25)],
        product: screw.id,
        keptDry: 'cap',
      }))
    : [];
  const gap = bootNeeds(context, leg.hot).gap;
  const cement = sealantFor(catalog, 'cement', TUBE);
  const steps: Step[] = [
    {
      lay: wrap(context, leg.y - leg.half, 'first', leg.x),
      detail: leg.feature,
      stage: 'dry-in',
      action: [
        `${leg.name}: membrane collar ${leg.id}-M1 below, then ${leg.id}-M2 above it, `,
        ...(leg.clearance
          ? [
              'up to the hole round it, ',
              cut(leg.diameter + 2 * leg.clearance),
              ' across: deck and sheets stop ',
              cut(leg.clearance),
              ' clear of the flue, by its listing.',
            ]
          : [`tight to the ${leg.standoff ? 'leg' : 'pipe'}, on bare deck.`]),
      ],
      pieces: collars.map(({ mark: own }) => own),
      people: 1,
      keys: KEYS,
    },
    {
      lay: inCourse(context, place.firstOver, 'flashing', place.lower),
      detail: leg.feature,
      course: place.firstOver,
      stage: 'covering',
      action: [
        `${leg.name}: ${leg.hot ? 'flue base' : 'boot'} ${mark} over course ${onCourse}, lower edge at `,
        mm(place.lower),
        `; course ${place.firstOver} is the first over it, `,
        cut(place.showing),
        leg.clearance
          ? ' of the base showing. Cut that course and the next as a U round the cone, '
          : ' of the base showing. Cut that course and the next as a U round the pipe, ',
        cut(gap),
        ` open, ${leg.hot ? 'corners dog-eared at the upper end, each shingle bedded on the base' : 'a bead of cement on the flange under it'}.`,
      ],
      pieces: [mark],
      fasteners: [
        `${nails.length} nails close along the top edge; ${screws.length} gasketed screws at the two lower corners, inboard of the rim`,
      ],
      // along the flange's two sides and its top, as far as covering lies on it
      uses: [
        bead(
          cement,
          'asphalt cement',
          boot.baseWidth + 2 * (place.upper - buttLine(context.lines, place.firstOver)),
          cement?.bead ?? inches(0.375),
        ),
      ],
      people: 1,
      ...(leg.hot
        ? { caution: 'Clearance to anything that burns: by the appliance’s listing. Flues: licensed trade.' }
        : boot.material === 'plastic'
          ? { holdPoint: 'Boot painted to match, if it is to be, before it goes on', wait: 'paint dry, if it is painted' }
          : {}),
      keys: KEYS,
    },
  ];
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
        piece: mark,
      },
    ],
    steps,
    findings: legFindings(context, leg),
  };
}

function legFindings(context: PlaneContext, leg: Leg): Finding[] {
  const { rules, plane, walls } = context;
  const { boot, place } = leg;
  if (!boot || !place) return [];
  const findings: Finding[] = [];
  const { cover } = bootNeeds(context, leg.hot);
  const piece = `${leg.id}-B`;
  if (leg.clearance === undefined)
    findings.push({
      id: `${leg.id}.clearance`,
      severity: 'breaks a rule',
      sentence: [
        `${leg.name} gets hot, and its clearance to what burns is not told: deck, sheets and courses are planned right up to it.`,
      ],
      fix: ['Read the clearance on the flue’s listing and enter it; where it cannot be read, stop and ask.'],
      piece,
      key: 'pipe.gap',
    });
  if (isUnder(place.flangeAbove, cover))
    findings.push({
      id: `${leg.id}.flange`,
      severity: 'leaks',
      sentence: [
        `${leg.name}: ${boot.name} ends `,
        cut(Math.max(0, place.flangeAbove)),
        ' above the cut-out, where ',
        cut(cover),
        ' is needed: wind drives water over its top.',
      ],
      fix: ['Choose a taller base.'],
      piece,
      key: 'pipe.cover',
    });
  if (leg.chosen && (isUnder(leg.diameter, boot.least) || isOver(leg.diameter, boot.most) || (leg.hot && !boot.hot)))
    findings.push({
      id: `${leg.id}.size`,
      severity: 'breaks a rule',
      sentence: [
        `${leg.name}: ${boot.name} takes `,
        cut(boot.least),
        ' to ',
        cut(boot.most),
        `${leg.hot && !boot.hot ? ' and is not for a hot flue' : ''}; this one is `,
        cut(leg.diameter),
        '.',
      ],
      fix: ['Let the plan choose, or pick a base that takes it.'],
      piece,
      key: 'pipe.showing',
    });
  const least = leastOf(rules, 'pipe.fromValley');
  const [left, right] = [leg.x - boot.baseWidth / 2, leg.x + boot.baseWidth / 2];
  const tooNear = (what: string, distance: number): void => {
    if (isAtLeast(distance, least)) return;
    findings.push({
      id: `${leg.id}.near.${what}`,
      severity: 'worth a look',
      sentence: [
        `${leg.name}: its flange comes within `,
        cut(Math.max(0, distance)),
        ` of ${what}, where `,
        cut(least),
        ' leaves both room for their own laps.',
      ],
      fix: ['Move the pipe with an offset below the deck, or lap the two by hand: lower one under the upper.'],
      piece,
      key: 'pipe.fromValley',
    });
  };
  for (const valley of context.valleys)
    tooNear(
      `the centre of ${valley.id}`,
      // from the flange's corners and sides to the line as far as it goes
      Math.min(
        ...[left, leg.x, right].flatMap((x) => [place.lower, leg.y, place.upper].map((y) => fromValleyLine(valley, [x, y]))),
      ),
    );
  for (const wall of walls)
    if (place.upper > wall.from && place.lower < wall.to)
      tooNear(wall.name, wall.side === 1 ? (right > wall.x ? left - wall.x : least) : left < wall.x ? wall.x - right : least);
  if (left < 0 || right > plane.eaveLength)
    findings.push({
      id: `${leg.id}.edge`,
      severity: 'breaks a rule',
      sentence: [`${leg.name}: its flange runs past the end of the slope.`],
      fix: ['Move the pipe, or choose a narrower base.'],
      piece,
    });
  return findings;
}

const windowRound = (x0: number, x1: number, y0: number, y1: number, by = inches(20)) => ({
  x0: x0 - by,
  x1: x1 + by,
  y0: y0 - by,
  y1: y1 + by,
});

function legSheet(context: PlaneContext, leg: Leg): DetailSheet {
  const { boot, place } = leg;
  const needs = bootNeeds(context, leg.hot);
  const showing: Words = place ? [`course ${place.firstOver}, butt `, mm(buttLine(context.lines, place.firstOver))] : ['none'];
  return {
    detail: leg.feature,
    title: `${leg.id} · ${leg.name}`,
    family: leg.hot ? 'flue' : 'pipe',
    plane: context.facet,
    window: boot
      ? windowRound(
          leg.x - boot.baseWidth / 2,
          leg.x + boot.baseWidth / 2,
          leg.y - boot.centre,
          leg.y + boot.baseLength - boot.centre,
        )
      : windowRound(leg.x, leg.x, leg.y, leg.y),
    figures: [
      {
        label: 'Base',
        value: boot ? [boot.name, ', ', cut(boot.baseWidth), ' × ', cut(boot.baseLength)] : ['none in the catalog'],
      },
      { label: 'Outside diameter', value: [cut(leg.diameter)] },
      ...(leg.hot
        ? [
            {
              label: 'Clearance, by its listing',
              value: (leg.clearance === undefined
                ? ['not told']
                : [cut(leg.clearance), ', hole ', cut(leg.diameter + 2 * leg.clearance), ' across']) as Words,
            },
          ]
        : []),
      ...(place
        ? [
            { label: 'Flange lower edge', value: [mm(place.lower)] },
            { label: 'First course over it', value: showing },
            {
              label: 'Base showing below',
              value: [cut(place.showing), ', at least ', cut(needs.showing)],
              key: (leg.hot ? 'pipe.flueShowing' : 'pipe.showing') as RuleKey,
            },
            { label: 'Top of the cut-out', value: [mm(place.cutTop)] },
            {
              label: 'Flange above the cut-out',
              value: [cut(place.flangeAbove), ', at least ', cut(needs.cover)],
              key: 'pipe.cover' as const,
            },
          ]
        : []),
      { label: 'Gap round the pipe', value: [cut(needs.gap), ' to ', cut(inches(3 / 8))], key: 'pipe.gap' },
      ...(boot
        ? [
            { label: 'Made of', value: [boot.metal ?? boot.material] },
            { label: 'Expected life of the base', value: [`${boot.years} years`] },
          ]
        : []),
    ],
    tables: [
      {
        title: 'Bases that take it',
        columns: ['Base', 'First course over', 'Above the cut-out'],
        rows: itemsOf(context.catalog, 'boot')
          .filter(
            (item) =>
              item.hot === leg.hot &&
              item.standoff === leg.standoff &&
              isAtLeast(leg.diameter, item.least) &&
              isAtMost(leg.diameter, item.most),
          )
          .map((item) => {
            const its = legsOf({
              ...context,
              features: context.features
                .filter(({ id }) => id === leg.feature)
                .map((feature) => (feature.kind === 'pipe' ? { ...feature, boot: item.id } : feature)),
            }).find(({ id }) => id === leg.id)!.place!;
            return [[item.name], [`${its.firstOver}`], [cut(its.flangeAbove)]];
          }),
      },
    ],
  };
}

/** Every leg of a grid against the courses and what stands near it. */
function gridSheet(context: PlaneContext, id: string, name: string, legs: readonly Leg[]): DetailSheet {
  const xs = legs.map(({ x }) => x);
  const ys = legs.map(({ y }) => y);
  const { rafters } = context.plane;
  const offRafter = (x: number): Words => {
    if (!rafters) return ['rafters not measured'];
    const nearestRafter = rafters.first + Math.round((x - rafters.first) / rafters.spacing) * rafters.spacing;
    const off = Math.abs(x - nearestRafter);
    return off < inches(0.75) ? ['on a rafter'] : [cut(off), ' off the rafter'];
  };
  return {
    detail: id,
    title: `${id} · ${name}`,
    family: 'standoffs',
    plane: context.facet,
    window: windowRound(Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys), inches(24)),
    figures: [
      { label: 'Legs', value: [`${legs.length}`] },
      { label: 'Base', value: [legs[0]?.boot?.name ?? 'none in the catalog'] },
    ],
    tables: [
      {
        title: 'Leg by leg',
        columns: ['Leg', 'From the left', 'Up the slope', 'First course over', 'Rafter'],
        rows: legs.map((leg) => [
          [leg.id],
          [mm(leg.x)],
          [mm(leg.y)],
          [leg.place ? `${leg.place.firstOver}` : 'none'],
          offRafter(leg.x),
        ]),
      },
    ],
  };
}
