import { type Finding, type Step, type Use, type Words, cut, inStarter, lengths, mm } from '../../assembly/index.ts';
import { type ItemOf, itemById } from '../../catalog/index.ts';
import { type CoveringOf, coveringOfKind } from '../../document/index.ts';
import { type Outline, type Span, spansAcross } from '../../roof/index.ts';
import { type PlaneContext, sheetIsRoof } from '../../slope/index.ts';
import { gaugeAt } from '../../surface/index.ts';
import { LINE_TOLERANCE, inches, stepsToReach } from '../../units/index.ts';
import { battenStep } from '../rows.ts';
import { battensOn, tilesOf } from './tiles.ts';

/** Battens with drip gaps come in lengths of so much with so much between them (trade practice). */
const BETWEEN_GAPS = inches(48);
const GAP = inches(0.5);
/** Rafters are reckoned so far apart where nobody measured them (trade practice). */
const USUAL_RAFTERS = inches(16);

type TileCovering = Pick<CoveringOf<'singleLap'>, 'bearing' | 'battenLay'>;

/** Do its battens dam the sheet? Between rafters it sags under them; on a deck water needs gaps in them, or counter-battens that lift them off it. */
export const dams = ({ bearing, battenLay }: TileCovering): boolean => bearing === 'deck' && battenLay === 'straight';

/** How much of a run of batten is wood: 9025 in lengths of 1219.2 with gaps of 12.7 has 7 gaps, so 8936.1. */
export const withoutGaps = (run: number): number => run - GAP * (stepsToReach(run + GAP, BETWEEN_GAPS + GAP) - 1);

/** Where rafters stand under a slope: as they were measured, or reckoned. */
function raftersUnder({ plane: { rafters, eaveLength } }: PlaneContext): number[] {
  const { first, spacing } = rafters ?? { first: 0, spacing: USUAL_RAFTERS };
  return Array.from({ length: Math.floor((eaveLength - first) / spacing + LINE_TOLERANCE) + 1 }, (_, i) => first + i * spacing);
}

/** Where a straight line up the slope at `x` runs inside an outline. */
const spansUp = (outline: Outline, x: number): Span[] =>
  spansAcross(
    outline.map(([along, up]) => [up, along] as const),
    x,
  );

/** Counter-battens, set before the `battens`: one a rafter, as long as the slope is there. */
function counterBattens(context: PlaneContext, item: ItemOf<'batten'>, battens: Step): Step {
  const { outline, eaveLength, rafters } = context.plane;
  const inside = (x: number): number => Math.min(Math.max(x, LINE_TOLERANCE), eaveLength - LINE_TOLERANCE);
  const cuts = raftersUnder(context).flatMap((x) => spansUp(outline, inside(x)).map(([low, high]) => high - low));
  return {
    ...battens,
    lay: inStarter(context, -2),
    action: [
      `Nail ${cuts.length} counter-battens through the sheet, one up each rafter from the eave to the top (`,
      ...(rafters ? ['measured ', cut(rafters.spacing)] : ['not measured, reckoned ', cut(USUAL_RAFTERS)]),
      ' apart).',
    ],
    uses: [lengths(item, item.name, cuts)],
  };
}

/** How the battens are set on what is under them, in words that follow where their edges are. */
function setWords(context: PlaneContext): Words {
  const { battenLay } = coveringOfKind(context, 'singleLap');
  switch (battenLay) {
    case 'straight':
      return [
        context.surface.bearing === 'deck' ? '; nailed through the sheet into the deck' : '; joints staggered over the rafters',
      ];
    case 'drip gaps':
      return ['; in lengths of ', cut(BETWEEN_GAPS), ', ', cut(GAP), ' gaps, staggered'];
    case 'counter-battens':
      return ['; joints staggered on counter-battens'];
  }
}

/** One batten a course, as the school has it, on counter-battens where it has those. */
export function battensOf(context: PlaneContext): Step[] {
  const { catalog, lines, covering } = context;
  const { batten, battenLay } = coveringOfKind({ covering }, 'singleLap');
  const item = itemById(catalog, 'batten', batten);
  const { tile } = tilesOf(context);
  const edges = battensOn(lines, tile);
  const step = battenStep(context, item, edges, 'tile.headlap', [
    ', one a course, upper edges: the first ',
    mm(edges[0]!),
    ' up the slope, the next ',
    cut(gaugeAt(lines, 1)),
    ' apart, the last ',
    mm(lines.end - edges.at(-1)!),
    ' below the top',
    ...setWords(context),
    '. Fix a tilting fillet that lifts the first tails a tile, ',
    cut(tile.thickness),
    '.',
  ]);
  const gapped = (use: Use): Use => (use.cuts ? lengths(item, item.name, use.cuts.map(withoutGaps)) : use);
  return [
    ...(battenLay === 'counter-battens' ? [counterBattens(context, item, step)] : []),
    {
      ...step,
      uses: (step.uses ?? []).map(battenLay === 'drip gaps' ? gapped : (use) => use),
      caution: `${step.caution} On tile: whole foot on its lower edge, over the batten, never mid-tile.`,
    },
  ];
}

/** What gets under the tiles stands behind battens that lie unbroken on the sheet. */
export const damFindings = (context: PlaneContext): Finding[] =>
  context.surface.dams
    ? [
        {
          id: 'covering.dams',
          severity: sheetIsRoof(context) ? 'leaks' : 'worth a look',
          sentence: [
            `The battens lie unbroken on the sheet: what gets under the tiles ${sheetIsRoof(context) ? 'is to run down it, and ' : ''}stands behind each, at its nails.`,
          ],
          fix: ['Set them on counter-battens, or in short lengths with drip gaps, under Covering.'],
          piece: 'UL1-1',
          key: 'tile.headlap',
        },
      ]
    : [];
