import {
  type Assembly,
  type Piece,
  type Step,
  assemble,
  cut,
  emptyAssembly,
  inCourse,
  laid,
  mm,
  notInCatalog,
  piecesOf,
  rightBefore,
} from '../../assembly/index.ts';
import { type Catalog, type ItemOf, itemsOf } from '../../catalog/index.ts';
import { rectangle } from '../../roof/index.ts';
import { type PlaneContext, type TileFault, channelAt, cutFromStock, isOnTiles, tileFaultsOn } from '../../slope/index.ts';
import { buttLine, courseMark } from '../../surface/index.ts';

/** The flashing begins this far uphill of the fault, and is left this far over the tile below (trade practice). */
const UPHILL = 75;
const OVER_TAIL = 50;
/** The plate under it is as much narrower a side. */
const PLATE_INSET = 15;

/** What a fault of a tile takes: a cracked one is changed; a side channel's water is led on, for a new tile would be broken again. */
export const planTileFaults = (context: PlaneContext): Assembly =>
  isOnTiles(context) ? assemble(tileFaultsOn(context).map((fault) => planFault(context, fault))) : emptyAssembly;

function planFault(context: PlaneContext, fault: TileFault): Assembly {
  const panel = panelOf(context, fault);
  if (fault.feature.fault === 'tile cracked') return { ...emptyAssembly, steps: [changeStep(context, fault)], panels: [panel] };
  const { id, name } = fault.feature;
  const flashing = flashingOf(context, fault);
  const plate = plateOf(context, fault);
  return {
    ...emptyAssembly,
    pieces: [flashing, plate],
    steps: [clearStep(context, fault, flashing), patchStep(context, fault, [flashing, plate])],
    findings: flashing.product
      ? []
      : [
          notInCatalog(name, ['adhesive flexible flashing'], {
            id: `${id}.flashing`,
            severity: 'breaks a rule',
            fix: ['Add it to the catalog.'],
            piece: flashing.mark,
          }),
        ],
    panels: [panel],
  };
}

/** Between which heights the flashing lies: from uphill of the fault to past the tail. */
const stretchOf = ({ lines }: PlaneContext, { course, y }: TileFault): readonly [number, number] => [
  buttLine(lines, course) - OVER_TAIL,
  Math.min(lines.end, y + UPHILL),
];

const rollIn = (catalog: Catalog): ItemOf<'tape'> | undefined =>
  itemsOf(catalog, 'tape').find(({ use }) => use === 'flexible flashing');

const halfWidth = (roll: ItemOf<'tape'> | undefined): number => (roll?.width ?? 100) / 2;

/** Flexible flashing stuck, adhesive up, to the tile's lower face; over what lies below, under its own course. */
function flashingOf(context: PlaneContext, fault: TileFault): Piece {
  const { facet, catalog } = context;
  const { feature, course } = fault;
  const [y0, y1] = stretchOf(context, fault);
  const roll = rollIn(catalog);
  const half = halfWidth(roll);
  const x = channelAt(context, fault);
  return {
    mark: `${feature.id}-F`,
    detail: feature.id,
    role: 'channelPatch',
    ...(roll ? { product: roll.id } : {}),
    course,
    covers: [{ facet, outline: rectangle(x - half, y0, x + half, y1), holds: ['open'] }],
    lay: inCourse(context, course, 'flashing', x + 1),
    liesOn: [`${feature.id}-P`],
    cutLength: y1 - y0,
    keys: [],
  };
}

/** A stiff plate under it that carries it all its length, ending short of the tail. */
function plateOf(context: PlaneContext, fault: TileFault): Piece {
  const { facet, catalog } = context;
  const { feature, course } = fault;
  const [y0, y1] = stretchOf(context, fault);
  const x = channelAt(context, fault);
  const half = halfWidth(rollIn(catalog)) - PLATE_INSET;
  const flat = { outline: rectangle(0, 0, 2 * half, y1 - y0 - OVER_TAIL), bends: [] };
  return {
    mark: `${feature.id}-P`,
    detail: feature.id,
    role: 'channelPatch',
    ...cutFromStock(context, flat),
    flat,
    course,
    covers: [{ facet, outline: rectangle(x - half, y0 + OVER_TAIL, x + half, y1), holds: ['open'] }],
    lay: inCourse(context, course, 'flashing', x),
    liesOn: course > 1 ? [courseMark(course - 1)] : [],
    keys: [],
  };
}

const KEPT_APART = {
  copper: ' The copper stays where it is: the flashing keeps the plate from touching it.',
  steel: ' The steel stays where it is, cleaned and coated under the flashing.',
  plastic: ' What lies there stays, eased so that no edge stands up in the channel.',
} as const;

function clearStep(context: PlaneContext, fault: TileFault, { lay }: Piece): Step {
  const { feature, course } = fault;
  const isBlocked = feature.fault === 'side channel blocked';
  return {
    lay: rightBefore(lay),
    detail: feature.id,
    course,
    stage: 'covering',
    action: [
      `${feature.name}: ${isBlocked ? 'rake the debris' : 'clear bits'} out of the side channel of course ${course}, `,
      mm(channelAt(context, fault)),
      ` from the left end${isBlocked ? ', and rinse it' : ''}.`,
      feature.crossedBy ? KEPT_APART[feature.crossedBy] : '',
    ],
    pieces: [],
    people: 1,
    caution: 'Whole foot on a tile’s lower edge, over the batten, never mid-tile.',
    keys: [],
  };
}

function patchStep(context: PlaneContext, fault: TileFault, [flashing, plate]: readonly [Piece, Piece]): Step {
  const [y0, y1] = stretchOf(context, fault);
  return laid([flashing, plate], {
    course: fault.course,
    stage: 'covering',
    action: [
      `${fault.feature.name}: stick flashing ${flashing.mark} adhesive up to the tile’s lower face, `,
      cut(y1 - y0),
      ' long: from ',
      cut(UPHILL),
      ' uphill of the fault to ',
      cut(OVER_TAIL),
      ` past its tail, over the tile below; plate ${plate.mark} under it all its length.`,
    ],
    people: 1,
    caution: 'Whole foot on a tile’s lower edge, over the batten, never mid-tile.',
    holdPoint: 'flashing stuck all along, its end over the tile below',
  });
}

function changeStep(context: PlaneContext, { feature, course, x }: TileFault): Step {
  return {
    lay: inCourse(context, course, 'flashing', x),
    detail: feature.id,
    course,
    stage: 'covering',
    action: [
      `${feature.name}: change the tile of course ${course}, `,
      mm(x),
      ' from the left end: prop the tails of the two above and the one beside that laps it on wedges, lift its nib off the batten, slide it out; the new one in the same way, into both its locks.',
    ],
    pieces: [],
    uses: [
      piecesOf(
        context.catalog.items.find(({ id }) => id === context.surface.product),
        'tile',
        1,
      ),
    ],
    people: 1,
    caution: 'Whole foot on a tile’s lower edge, over the batten, never mid-tile; a cracked one cuts: gloves.',
    holdPoint: 'new tile down in both its locks, wedges out',
    keys: [],
  };
}

function panelOf(context: PlaneContext, fault: TileFault): Assembly['panels'][number] {
  const { feature, course, x, y } = fault;
  const [y0, y1] = stretchOf(context, fault);
  const isCracked = feature.fault === 'tile cracked';
  return {
    detail: feature.id,
    title: `${feature.id} · ${feature.name}`,
    family: 'faulty tile',
    plane: context.facet,
    window: { x0: x - 600, x1: x + 600, y0: y - 500, y1: y + 400 },
    figures: [
      { label: 'What is wrong', value: [feature.fault] },
      { label: 'In course', value: [`${course}, tails on `, mm(buttLine(context.lines, course))] },
      ...(isCracked
        ? []
        : [
            { label: 'Side channel', value: [mm(channelAt(context, fault)), ' from the left end'] },
            {
              label: 'Shows inside',
              value: [
                ...(feature.crossedBy ? [`along the underside of the ${feature.crossedBy}, from `] : ['about ']),
                mm(fault.y),
                ` up the slope${feature.crossedBy ? ' downward' : ''}`,
              ],
            },
            { label: 'Flashing under it', value: [cut(y1 - y0), ' long, ', cut(OVER_TAIL), ' past the tail'] },
          ]),
    ],
  };
}
