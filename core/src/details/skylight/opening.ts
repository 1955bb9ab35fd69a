import { LINE_TOLERANCE, NOISE, inches, isOver } from '../../units/index.ts';
import { type Step, cut, lengths, mm, opening, piecesOf } from '../../assembly/index.ts';
import { type ItemOf, chooseTape, itemsOf, smallest } from '../../catalog/index.ts';
import type { FeatureOf } from '../../document/index.ts';
import { leastOf } from '../../rules/index.ts';
import {
  type Footprint,
  type PlaneContext,
  type Rafters,
  type Shift,
  betweenUncut,
  raftersIn,
  shiftSparing,
} from '../../slope/index.ts';

/** The ceiling cut is this much larger than the rough opening: double headers at the ends, flush lining at the sides. */
const CEILING_MORE = inches(6);
/** Headers are cut from timber deeper than this. */
const STUD = inches(3.5);

export type OpeningLayout = {
  readonly roughWidth: number;
  readonly roughHeight: number;
  readonly diagonal: number;
  readonly ceilingWidth: number;
  readonly ceilingHeight: number;
  /** Half the opening by half, laid to the snapped centre lines. */
  readonly blockWidth: number;
  readonly blockHeight: number;
  /** Rafters (centres, from the slope's left end) the opening cuts. */
  readonly cutRafters: readonly number[];
  readonly nudge: Shift | undefined;
  /** Between the faces of the uncut rafters each side, or as wide as the opening where rafters were not measured. */
  readonly headers: number;
};

/** The opening from inside: sizes, marking block, rafters cut, and the nudge that would cut fewer. */
export function layOutOpening(centre: number, roughWidth: number, roughHeight: number, rafters: Rafters | null): OpeningLayout {
  const [x0, x1] = [centre - roughWidth / 2, centre + roughWidth / 2];
  const cutRafters = rafters ? raftersIn(rafters, x0, x1) : [];
  const nudge = rafters && shiftSparing(rafters, x0, x1);
  return {
    roughWidth,
    roughHeight,
    diagonal: Math.hypot(roughWidth, roughHeight),
    ceilingWidth: roughWidth + CEILING_MORE,
    ceilingHeight: roughHeight + CEILING_MORE,
    blockWidth: roughWidth / 2,
    blockHeight: roughHeight / 2,
    cutRafters,
    nudge: nudge ?? undefined,
    headers: rafters ? betweenUncut(rafters, x0, x1) : roughWidth,
  };
}

/** The opening a skylight on a slope asks. */
export const openingOf = (
  { plane }: PlaneContext,
  { width, height }: FeatureOf<'skylight'>,
  foot: Footprint,
  kit: ItemOf<'skylightKit'> | undefined,
): OpeningLayout => layOutOpening((foot.x0 + foot.x1) / 2, kit?.roughWidth ?? width, kit?.roughHeight ?? height, plane.rafters);

export type StripOff = {
  readonly width: number;
  readonly height: number;
  /** Whole shingles to lay again or anew, breakage included. */
  readonly shingles: number;
};

/** Breakage when old shingles come off, as a share. */
const BREAKAGE = 0.1;

/**
 * What comes off round a unit that is replaced. Renewing: 2 ft each side, 1 1/2 ft above and below. Re-using: to the next whole shingle
 * each side, a course below and two above.
 */
export function stripOff(
  school: 'renewing' | 're-using',
  unit: { readonly width: number; readonly height: number },
  shingle: { readonly width: number; readonly exposure: number },
): StripOff {
  const width = unit.width + (school === 'renewing' ? inches(48) : 2 * shingle.width);
  const height = unit.height + (school === 'renewing' ? inches(36) : 3 * shingle.exposure);
  const area = width * height - unit.width * unit.height;
  return { width, height, shingles: Math.ceil((area / (shingle.width * shingle.exposure)) * (1 + BREAKAGE) - NOISE) };
}

/** Taking the old unit out, or cutting the opening; then the unit in it: one opening at a time, taped the same day. */
export function openingSteps(
  context: PlaneContext,
  skylight: FeatureOf<'skylight'>,
  kit: ItemOf<'skylightKit'> | undefined,
  foot: Footprint,
): Step[] {
  const { id, name } = skylight;
  const clad: Line = {
    action: [`${name}: take its cladding off and the film off the inner glass; store the cladding flat, it goes back last.`],
  };
  const unit: Line = {
    action: [
      `${name}: set the unit square in its opening. Fix it through every flange hole with the maker’s ring-shank fasteners, side to side, then opposite corners.`,
    ],
    uses: [piecesOf(unitFor(context, skylight), 'skylight unit', 1)],
    people: 2,
    holdPoint: 'equal diagonals, a fastener in every flange hole',
  };
  // re-flashed, the old unit stays where it is
  const stays = context.job.work.kind === 'repair' && context.job.work.what === 'skylight re-flash';
  const opened = skylight.work === 'replacement' ? takeOut(context, skylight) : [cutOpening(context, skylight, foot, kit)];
  const lines: Line[] = [
    ...(stays
      ? [{ action: [`${name}: take its cladding off whole, tapes first; store it flat, it goes back last.`] }]
      : [...opened, unit, clad]),
    tapeLine(context, skylight, foot),
  ];
  return lines.map((line, i): Step => ({
    lay: opening(context, foot.x0, i),
    detail: id,
    stage: 'dry-in',
    pieces: [],
    people: 1,
    crew: 'carpenters',
    keys: [],
    ...line,
  }));
}

/** The unit of a frame's size. */
const unitFor = (
  { catalog }: PlaneContext,
  { width, height, mount }: FeatureOf<'skylight'>,
): ItemOf<'skylightUnit'> | undefined =>
  itemsOf(catalog, 'skylightUnit').find(
    (unit) =>
      unit.mount === mount && Math.abs(unit.width - width) < LINE_TOLERANCE && Math.abs(unit.height - height) < LINE_TOLERANCE,
  );

type Line = Pick<Step, 'action'> & Partial<Step>;

function takeOut({ surface, lines, job }: PlaneContext, skylight: FeatureOf<'skylight'>): Line[] {
  const { name } = skylight;
  const off = stripOff(skylight.strip, skylight, { width: surface.unit.width, exposure: lines.gauge });
  const kept = skylight.strip === 're-using';
  return [
    {
      action: [`${name}: take the old cladding and glass off; shut the room below.`],
      people: 2,
      caution: 'Opening: cover fixed and marked; a skylight is a hole.',
    },
    // a repair tells how far it strips by the course
    ...(job.work.kind === 'repair'
      ? []
      : ([
          {
            action: [
              `${name}: strip `,
              mm(off.width),
              ' × ',
              mm(off.height),
              ` round the old unit, about ${off.shingles} ${surface.sides === 'steps' ? 'shingles' : 'pieces'} with breakage${kept ? '; stack them by course, a pile a side' : ''}. Old ${surface.sides === 'covers' ? 'flashings' : surface.sides} and membrane go with them.`,
            ],
            people: 2,
          },
        ] satisfies Line[])),
    {
      action: [
        surface.bearing === 'rafters'
          ? `${name}: lift the old unit out. Cut out soft battens and headers and mend them.`
          : `${name}: lift the old unit out. Cut out soft deck to the rafter centres and mend it; cover old nail holes.`,
      ],
      people: 2,
      holdPoint:
        surface.bearing === 'rafters'
          ? 'battens and headers round the opening sound'
          : 'deck round the opening sound, old nail holes covered',
    },
  ];
}

function cutOpening(
  context: PlaneContext,
  skylight: FeatureOf<'skylight'>,
  foot: Footprint,
  kit: ItemOf<'skylightKit'> | undefined,
): Line {
  const { roughWidth, roughHeight, headers } = openingOf(context, skylight, foot, kit);
  // as deep as rafters usually are: the smallest that is deeper than a stud
  const timber = smallest(
    itemsOf(context.catalog, 'timber').filter(({ depth }) => isOver(depth, STUD)),
    ({ depth }) => depth,
  );
  return {
    action: [
      `${skylight.name}: cut and frame the opening, rough `,
      cut(roughWidth),
      ' × ',
      cut(roughHeight),
      '; headers of two members above and below, ',
      cut(headers),
      ' long to the next uncut rafter each side, as deep as the rafters.',
    ],
    uses: [lengths(timber, 'header timber', [headers, headers, headers, headers])],
    people: 2,
    caution:
      'Rafters and trusses: licensed people; never cut a truss. Opening: cover fixed and marked. Eyes, ears, mask overhead.',
    holdPoint: 'equal diagonals',
  };
}

/** The frame tape is the last barrier: deck to frame, under the gasket, before any sheet of the roof comes near. */
function tapeLine({ catalog, rules, surface }: PlaneContext, { name }: FeatureOf<'skylight'>, foot: Footprint): Line {
  const on = leastOf(rules, 'skylight.tape');
  const tape = chooseTape(catalog, on) ?? chooseTape(catalog, 0);
  // each end goes on past the frame's corner, by what the tape reaches on to the deck
  const [across, along] = [foot.x1 - foot.x0 + 2 * on, foot.to - foot.from + 2 * on];
  const patch = 2 * on;
  return {
    action: [
      `${name}: tape the frame to the ${surface.bearing === 'rafters' ? 'rafters and headers' : 'deck'} under the gasket, ${tape?.name ?? 'frame tape'}: sill `,
      cut(across),
      ', then sides ',
      cut(along),
      ' over it, head ',
      cut(across),
      ' last, a patch ',
      cut(patch),
      ' at each corner.',
    ],
    uses: [lengths(tape, 'frame tape', [across, along, along, across, patch, patch, patch, patch])],
    crew: 'roofers',
    holdPoint: 'frame tape whole at all four corners',
    keys: ['skylight.tape'],
  };
}
