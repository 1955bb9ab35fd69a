import { NOISE, inches, isOver } from '../../units/index.ts';
import { type Step, cut, framing, mm } from '../../assembly/index.ts';
import type { ItemOf } from '../../catalog/index.ts';
import type { FeatureOf } from '../../document/index.ts';
import type { PlaneContext } from '../../slope/index.ts';

/** Framing members are this thick. */
const MEMBER = inches(1.5);
/** The ceiling cut is this much larger than the rough opening: double headers at the ends, flush lining at the sides. */
const CEILING_MORE = inches(6);

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
  /** The least shift, to the right when positive, that cuts fewer; undefined when none within half a bay does. */
  readonly nudge: { readonly by: number; readonly cut: number } | undefined;
};

export type Rafters = { readonly spacing: number; readonly first: number };

/** Rafters that stand in an opening between `x0` and `x1`. */
export function raftersCut({ spacing, first }: Rafters, x0: number, x1: number): number[] {
  const cut: number[] = [];
  for (let i = Math.floor((x0 - first - MEMBER) / spacing); first + i * spacing - MEMBER / 2 < x1; i++) {
    const at = first + i * spacing;
    if (i >= 0 && isOver(at + MEMBER / 2, x0)) cut.push(at);
  }
  return cut;
}

/** The opening from inside: sizes, marking block, rafters cut, and the nudge that would cut fewer. */
export function layOutOpening(centre: number, roughWidth: number, roughHeight: number, rafters: Rafters | null): OpeningLayout {
  const cutAt = (shift: number): number[] =>
    rafters ? raftersCut(rafters, centre + shift - roughWidth / 2, centre + shift + roughWidth / 2) : [];
  const cutRafters = cutAt(0);
  const steps = rafters ? Math.floor(rafters.spacing / 2 / inches(1 / 8)) : 0;
  let nudge: OpeningLayout['nudge'];
  for (let i = 1; i <= steps && !nudge; i++)
    for (const by of [i * inches(1 / 8), -i * inches(1 / 8)])
      if (!nudge && cutAt(by).length < cutRafters.length) nudge = { by, cut: cutAt(by).length };
  return {
    roughWidth,
    roughHeight,
    diagonal: Math.hypot(roughWidth, roughHeight),
    ceilingWidth: roughWidth + CEILING_MORE,
    ceilingHeight: roughHeight + CEILING_MORE,
    blockWidth: roughWidth / 2,
    blockHeight: roughHeight / 2,
    cutRafters,
    nudge,
  };
}

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

/** The opening, or taking the old unit out, before anything else on the slope. */
export function openingSteps(
  context: PlaneContext,
  skylight: FeatureOf<'skylight'>,
  kit: ItemOf<'skylightKit'> | undefined,
): Step[] {
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
