import { type Finding, type Words, cut, mm } from '../../assembly/index.ts';
import { type ItemOf, itemsOf } from '../../catalog/index.ts';
import { leastOf } from '../../rules/index.ts';
import { type PlaneContext, fromValleyLine, raftersIn, shiftSparing } from '../../slope/index.ts';
import { buttLine, clearPlaces } from '../../surface/index.ts';
import { isAtLeast, isOver, isUnder } from '../../units/index.ts';
import { type Leg, bootNeeds, withBoot, reachesBeside, takes } from './legs.ts';
import { CROWN_WIDE, centredWidth, crownOff } from './tileBase.ts';

export function legFindings(context: PlaneContext, leg: Leg): Finding[] {
  const { rules, plane, walls } = context;
  const { boot, lies, place } = leg;
  if (!boot || !lies || !place) return [];
  const findings: Finding[] = [];
  const { cover } = bootNeeds(context, leg);
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
  findings.push(...nearRafter(context, leg), ...lifeOf(context, leg), ...onTiles(context, leg));
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
  const [left, right] = [leg.x - lies.left, leg.x + lies.right];
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

/** On profiled tile: the legs of a grid that come through where water runs, all in one. */
export function gridFindings({ surface: { crowns } }: PlaneContext, id: string, name: string, legs: readonly Leg[]): Finding[] {
  const off = crowns ? legs.filter(({ x }) => isOver(crownOff(crowns, x), CROWN_WIDE)) : [];
  const first = off[0];
  if (!crowns || !first) return [];
  return [
    {
      id: `${id}.crowns`,
      severity: 'worth a look',
      sentence: [
        `${name}: ${off.length} of its ${legs.length} legs come through beside a crown, ${first.id} `,
        cut(crownOff(crowns, first.x)),
        ' off; through the crown a hole is driest.',
      ],
      fix: ['Set its first leg on a crown and its legs apart by whole tiles, where the rafters allow.'],
      piece: `${first.id}-B`,
      key: 'cover.pastCrown',
    },
  ];
}

/** On tiles: a base that ends in the pan it should reach past, one that cannot be dressed into it, a pipe that stands where two tiles lie. */
function onTiles(context: PlaneContext, leg: Leg): Finding[] {
  const { lines, surface } = context;
  const { id, feature, name, y, half, boot, lies, reach, standoff, formed } = leg;
  if (!boot || !lies || !reach) return [];
  const piece = `${id}-B`;
  const past: Words = surface.crowns ? ['past the crown beside it'] : ['past the pipe'];
  const places = clearPlaces(lines, y, 2 * half);
  return [
    ...(formed ? formedFindings(context, leg, boot) : []),
    ...(formed || reachesBeside(lies, reach)
      ? []
      : [
          {
            id: `${id}.beside`,
            severity: 'leaks',
            sentence: [
              `${name}: ${boot.name} reaches `,
              cut(lies.baseWidth / 2),
              ' to either side, where ',
              cut(Math.max(reach.left, reach.right)),
              ' gets it ',
              ...past,
              ': water in the pan comes in under it.',
            ],
            fix: ['Take one ', cut(centredWidth(reach)), ' wide, or form flexible flashing to the tiles that far.'],
            piece,
            key: surface.crowns ? 'cover.pastCrown' : 'pipe.besideOnTile',
          } satisfies Finding,
        ]),
    ...(surface.crowns && !formed && boot.metal !== 'lead'
      ? [
          {
            id: `${id}.dam`,
            severity: 'leaks',
            sentence: [
              `${name}: ${boot.name} is flat and cannot be dressed into the pan it lies across: it dams what runs there.`,
            ],
            fix: ['Take a base of lead, or form flexible flashing to the tiles past the crowns on both sides.'],
            piece,
            key: 'cover.pastCrown',
          } satisfies Finding,
        ]
      : []),
    ...(places.length === 1 && places[0] === y
      ? []
      : [
          {
            id: `${id}.lap`,
            severity: 'worth a look',
            sentence: [
              `${name} stands where one course laps another: its hole goes through two tiles`,
              ...(places.length > 0 ? [', clear of the lap it stands at ', ...inRow(places)] : []),
              '.',
            ],
            fix: [
              standoff
                ? 'Set the row there.'
                : `Move ${feature} there with an offset below; where it cannot be moved, cut both tiles alike.`,
            ],
            piece,
            key: 'tile.headlap',
          } satisfies Finding,
        ]),
  ];
}

/** What is to be said of one base on the tile in the place of two: what keeps the water out, that it lies on one tile, and where its hole is driest. */
function formedFindings({ lines, surface: { crowns } }: PlaneContext, leg: Leg, boot: ItemOf<'boot'>): Finding[] {
  const { id, name, x, place } = leg;
  const piece = `${id}-B`;
  const tail = buttLine(lines, place!.firstOver - 1);
  const below = tail - place!.lower;
  const off = crowns && crownOff(crowns, x);
  return [
    {
      id: `${id}.formed`,
      severity: 'relies on sealant',
      sentence: [`${name}: one base formed to the tile, none at the sheet: its stuck rim alone keeps the water out.`],
      fix: ['Take two levels, a base in the sheet and one among the tiles; else look at its rim every year.'],
      piece,
      key: 'pipe.gap',
    },
    ...(isOver(below, 0)
      ? [
          {
            id: `${id}.oneTile`,
            severity: 'leaks',
            sentence: [
              `${name}: the rim of ${boot.name} reaches `,
              cut(below),
              ` past the tail of course ${place!.firstOver - 1}: it does not lie on one tile.`,
            ],
            fix: ['Move the pipe, or take two levels.'],
            piece,
            key: 'tile.headlap',
          } satisfies Finding,
        ]
      : []),
    ...(off !== undefined && isOver(off, CROWN_WIDE)
      ? [
          {
            id: `${id}.crown`,
            severity: 'worth a look',
            sentence: [`${name}: its hole is `, cut(off), ' off a crown, where water runs; on the crown it is driest.'],
            fix: ['Bring it up through a crown where it can be moved.'],
            piece,
            key: 'cover.pastCrown',
          } satisfies Finding,
        ]
      : []),
  ];
}

const inRow = (places: readonly number[]): Words => places.flatMap((at, i): Words => (i > 0 ? [' or ', mm(at)] : [mm(at)]));

/** A flue whose clearance a rafter stands in. */
function nearRafter({ plane: { rafters } }: PlaneContext, { id, feature, name, x, diameter, clearance }: Leg): Finding[] {
  if (!clearance || !rafters) return [];
  const [x0, x1] = [x - diameter / 2 - clearance, x + diameter / 2 + clearance];
  const count = raftersIn(rafters, x0, x1).length;
  if (count === 0) return [];
  const shift = shiftSparing(rafters, x0, x1);
  return [
    {
      id: `${id}.framing`,
      severity: 'breaks a rule',
      sentence: [`${name}: ${count === 1 ? 'a rafter stands' : `${count} rafters stand`} within the `, cut(clearance), ' its listing keeps clear of what burns.'],
      fix: ['Move it between two rafters, or have them headed off by those who may.'],
      ...(shift?.cut === 0
        ? { remedy: { does: 'move', feature, by: shift.by, so: 'clear of rafters' } as const }
        : {}),
      piece: `${id}-B`,
    },
  ]; // prettier-ignore
}

/** A base that fails before the covering it stands in does, and one that lasts as long and fits, where there is one. */
function lifeOf(context: PlaneContext, leg: Leg): Finding[] {
  const { years } = context.surface;
  const { boot, id, name, feature } = leg;
  if (!boot || leg.standoff || years === undefined || isAtLeast(boot.years, years)) return [];
  const lasting = itemsOf(context.catalog, 'boot')
    .filter((item) => item.years > boot.years && takes(item, leg) && fits(context, leg, item))
    .sort((a, b) => Math.min(b.years, years) - Math.min(a.years, years) || a.years - b.years || (a.id < b.id ? -1 : 1))[0];
  return [
    {
      id: `${id}.life`,
      severity: 'worth a look',
      sentence: [`${name}: ${boot.name} lasts about ${boot.years} years, the covering round it ${years}.`],
      fix: [lasting ? `Take ${lasting.name}, about ${lasting.years} years.` : 'Write its renewal into the hand-over.'],
      ...(lasting ? { remedy: { does: 'set base', feature, product: lasting.id, name: lasting.name } as const } : {}),
      lasts: boot.years,
      piece: `${id}-B`,
    },
  ];
}

/** Would another base reach far enough above the cut-out? */
function fits(context: PlaneContext, leg: Leg, item: ItemOf<'boot'>): boolean {
  const { place } = withBoot(context, leg, item);
  return place !== undefined && isAtLeast(place.flangeAbove, bootNeeds(context, leg).cover);
}
