import {
  type Finding,
  type Piece,
  type Step,
  type Use,
  type Words,
  bead,
  beforeAll,
  cut,
  laid,
  piecesOf,
  notInCatalog,
  inLengths,
  rightAfter,
  rightBefore,
  type LayKey,
} from '../../assembly/index.ts';
import { itemsOf, sealantFor } from '../../catalog/index.ts';
import { type Outline, rectangle } from '../../roof/index.ts';
import { type RuleKey, leastOf, mostOf } from '../../rules/index.ts';
import type { PlaneContext } from '../../slope/index.ts';
import { inches, stepsToReach } from '../../units/index.ts';

export const KEYS: RuleKey[] = [
  'counterflashing.cover',
  'counterflashing.clearance',
  'counterflashing.endLap',
  'counterflashing.reglet',
  'counterflashing.wedges',
  'flashing.thickness',
];

export const lowEdge = ({ rules, surface }: PlaneContext): number =>
  leastOf(rules, 'counterflashing.clearance') + surface.thickness;

/** The masonry's own face: there before the job, it sheds on to the counterflashing. */
export const face = (facet: string, detail: string, mark: string, outline: Outline): Piece => ({
  mark,
  detail,
  role: 'cladding',
  covers: [{ facet, outline, holds: ['open'] }],
  lay: beforeAll(),
  liesOn: [],
  keys: [],
});

export const noStock = (id: string, name: string, metal: string, depth: number, drop: number, piece: string): Finding =>
  notInCatalog(
    name,
    [
      `${metal} counterflashing that goes `,
      cut(depth),
      ' into the reglet and down ',
      cut(drop),
      ', so nothing covers the base flashing’s top edge',
    ],
    {
      id: `${id}.counter`,
      severity: 'leaks',
      fix: ['Add the stock to the catalog, or choose another metal.'],
      piece,
      key: 'counterflashing.cover',
    },
  );

/** Sealant along what is let into masonry. */
export function jointSealant({ catalog }: PlaneContext, run: number): Use {
  const sealant = sealantFor(catalog, 'joint');
  return bead(sealant, 'polyurethane sealant', run, sealant?.bead ?? inches(0.25));
}

/** One at each end of every piece, and as many between as keep them near enough. */
const wedges = ({ catalog, rules }: PlaneContext, run: number, count: number): Use =>
  piecesOf(itemsOf(catalog, 'wedge')[0], 'wedge', stepsToReach(run, mostOf(rules, 'counterflashing.wedges')) + count);

export const MASONRY_CAUTION = 'Silica dust: wet cutting or extraction, mask; eyes and ears.';

/** The lines that let pieces into masonry, with sealant along so much of it: first what is cut for them, then they, then what holds and closes them. */
export function letIn(
  context: PlaneContext,
  pieces: readonly Piece[],
  run: number,
  {
    name,
    cutting,
    hanging,
    lay = pieces[0]!.lay,
  }: { readonly name: string; readonly cutting: Words; readonly hanging: Words; readonly lay?: LayKey },
): Step[] {
  const { detail } = pieces[0]!;
  return [
    {
      lay: rightBefore(lay),
      detail,
      stage: 'finish',
      action: [`${name}: `, ...cutting],
      pieces: [],
      people: 1,
      caution: MASONRY_CAUTION,
      holdPoint: 'joints clean, bare and deep enough',
      keys: ['counterflashing.reglet'],
    },
    laid(pieces, { lay, stage: 'finish', action: [`${name}: `, ...hanging], people: 2, keys: KEYS }),
    {
      lay: rightAfter(lay, pieces.length),
      detail,
      stage: 'finish',
      action: [
        `${name}: wedge it at most `,
        cut(mostOf(context.rules, 'counterflashing.wedges')),
        ' apart, then point it with sealant. Fix it to the masonry only, never to what it hangs over.',
      ],
      pieces: [],
      uses: [wedges(context, run, pieces.length), jointSealant(context, run)],
      people: 1,
      keys: ['counterflashing.wedges'],
    },
  ];
}

export const regletFlat = (length: number, depth: number, drop: number) => ({
  outline: rectangle(0, 0, length, depth + drop),
  bends: [{ from: [0, drop] as const, to: [length, drop] as const, direction: 'down' as const, degrees: 90 }],
});

/** Lengths hung one after another along a joint, their lower edge so far clear of the covering. */
export const hungWords = ({ rules }: PlaneContext, pieces: readonly Piece[], lap: number): Words => [
  `hang ${pieces.length > 1 ? `${pieces[0]!.mark} to ${pieces.at(-1)!.mark}, ` : `${pieces[0]!.mark}, `}`,
  ...inLengths(pieces.length, lap),
  ...(pieces.length > 1 ? [', upper over lower'] : []),
  ', lower edge ',
  cut(leastOf(rules, 'counterflashing.clearance')),
  ' clear of the covering',
];

export const STEPPED_KEYS: RuleKey[] = [...KEYS, 'counterflashing.stepSpacing', 'counterflashing.aboveBase'];
