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
  notInCatalog,
} from '../../assembly/index.ts';
import { sealantFor } from '../../catalog/index.ts';
import { type Outline, rectangle } from '../../roof/index.ts';
import { type RuleKey, leastOf, mostOf } from '../../rules/index.ts';
import type { PlaneContext } from '../../slope/index.ts';
import { inches } from '../../units/index.ts';

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

export const MASONRY_CAUTION = 'Silica dust: wet cutting or extraction, mask; eyes and ears.';

/** The line that lets pieces into masonry, with sealant along so much of it. */
export const letIn = (
  context: PlaneContext,
  pieces: readonly Piece[],
  run: number,
  line: Pick<Step, 'action'> & Partial<Pick<Step, 'lay' | 'holdPoint'>>,
): Step => laid(pieces, { stage: 'finish', uses: [jointSealant(context, run)], people: 2, caution: MASONRY_CAUTION, ...line });

export const regletFlat = (length: number, depth: number, drop: number) => ({
  outline: rectangle(0, 0, length, depth + drop),
  bends: [{ from: [0, drop] as const, to: [length, drop] as const, direction: 'down' as const, degrees: 90 }],
});

export const regletWords = ({ rules }: PlaneContext, depth: number, count: number, lap: number): Words => [
  cut(depth),
  ` deep; ${count} ${count === 1 ? 'length' : 'lengths'} of counterflashing, upper over lower, laps `,
  cut(lap),
  ', lower edge ',
  cut(leastOf(rules, 'counterflashing.clearance')),
  ' clear of the covering, ',
];

export const wedgeWords = ({ rules }: PlaneContext): Words => [
  'wedges at most ',
  cut(mostOf(rules, 'counterflashing.wedges')),
  ' apart, then sealant. To the masonry only, never to the steps.',
];

export const STEPPED_KEYS: RuleKey[] = [...KEYS, 'counterflashing.stepSpacing', 'counterflashing.aboveBase'];
