import { type Assembly, type Cover, standUp } from '../../assembly/index.ts';
import { rectangle } from '../../roof/index.ts';
import { inches } from '../../units/index.ts';

/** A tray or flashing through a cavity: from where to where it runs, the joint it comes out at, and how far up the backup wall it goes. */
export type Tray = { readonly from: number; readonly to: number; readonly joint: number; readonly rise: number };

/** So much of the wall is looked at beyond a tray's ends, where a missing end dam would spill, below it and above it. */
const BEYOND = inches(6);
const DEEP = inches(12);
/** The bed a tray lies on. */
const FLOOR = inches(0.25);

const cavityId = (face: string): string => `${face}/cavity`;

/**
 * The backup wall behind a face: bare and wet above the trays, sheltered behind them; each tray stands on its floor, off which water comes only over the
 * tray below, through the weeps of the lowest, or past an end without a dam. Trays from the lowest up.
 */
export function cavityBehind(
  { face, slope, detail, name }: { face: string; slope: string; detail: string; name: string },
  trays: readonly Tray[],
): Pick<Assembly, 'facets' | 'joints'> {
  const [first, last] = [trays[0]!, trays.at(-1)!];
  const [x0, x1] = [first.from - BEYOND, last.to + BEYOND];
  const [bottom, top] = [first.joint - DEEP, last.joint + last.rise + DEEP];
  const from = (i: number): number => trays[i - 1]?.to ?? first.from;
  return {
    facets: [
      standUp(slope, {
        id: cavityId(face),
        cavity: true,
        detail,
        name: `Cavity of ${name}`,
        outline: rectangle(x0, bottom, x1, top),
        taken: trays.map(({ to, joint }, i) => rectangle(from(i), joint - FLOOR, to, joint)),
        sheltered: [
          ...trays.map(({ from: a, to, joint, rise }) => rectangle(a, joint, to, joint + rise)),
          ...trays.map(({ to, joint }, i) => rectangle(from(i), bottom, to, joint)),
          rectangle(x0, bottom, first.from, top),
          rectangle(last.to, bottom, x1, top),
        ],
      }),
    ],
    joints: [
      {
        kind: 'cavity',
        side: 1,
        runsOn: false,
        a: face,
        b: cavityId(face),
        onA: [[first.from, first.joint], [first.to, first.joint]], // prettier-ignore
        onB: [[first.from, first.joint], [first.to, first.joint]], // prettier-ignore
      },
    ],
  };
}

/** What a tray, or one length of it, covers in the cavity: stuck to the backup wall, its ends dammed, or bedded on the next length or the tray below. */
export const inCavity = (face: string, { from, to, joint, rise }: Tray): Cover => ({
  facet: cavityId(face),
  outline: rectangle(from, joint, to, joint + rise),
  holds: ['open', 'letIn', 'letIn', 'letIn'],
});
