import {
  type Assembly,
  type Fastener,
  type Piece,
  type Step,
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
import type { RuleKey } from '../../rules/index.ts';
import type { PlaneContext } from '../../slope/index.ts';
import { STARTER_MARK, buttLine, courseMark } from '../../surface/index.ts';
import { inches, stepsToReach } from '../../units/index.ts';
import { type Leg, bootNeeds, legsOf } from './legs.ts';
import { legFindings } from './findings.ts';
import { gridPanel, legPanel } from './panel.ts';

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
    panels: [
      ...single.map((leg) => legPanel(context, leg)),
      ...grids.map(({ id, name }) =>
        gridPanel(
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
