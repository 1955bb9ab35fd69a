import { NOISE, inches, isOver } from '../../units/index.ts';

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
