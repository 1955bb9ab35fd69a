import { type Finding, type Words, cut, notInCatalog } from '../assembly/index.ts';
import {
  type ItemOf,
  type StepNeed,
  chooseStepFlashing,
  flatStockFor,
  itemById,
  itemsOf,
  smallest,
  stepShortfalls,
} from '../catalog/index.ts';
import { leastOf } from '../rules/index.ts';
import { buttLine, interfaceLines, lastCourseBelow, widestGauge } from '../surface/index.ts';
import { coverFor, isOnTiles, underCounter } from './cover.ts';
import type { PlacedWall, PlaneContext, SidePiece } from './model.ts';
import { stepMark } from './wallFacets.ts';

/** What choosing a step asks of the slope. */
export type ForSteps = Pick<PlaneContext, 'covering' | 'catalog' | 'rules' | 'lines' | 'surface' | 'plane'>;

/** What the steps at this wall must measure, by the rules that govern. */
export function stepNeed(context: ForSteps, wall: PlacedWall): StepNeed {
  const { rules, lines, covering } = context;
  const counter = wall.cladding === 'masonry' ? underCounter(context) : 0;
  return {
    metal: covering.metal,
    length: widestGauge(lines) + leastOf(rules, 'stepFlashing.headlap'),
    roofLeg: leastOf(rules, 'stepFlashing.roofLeg'),
    wallLeg: Math.max(leastOf(rules, 'stepFlashing.wallLeg'), counter),
    thickness: leastOf(rules, 'flashing.thickness'),
  };
}

const NEED_KEY = {
  length: 'stepFlashing.headlap',
  roofLeg: 'stepFlashing.roofLeg',
  wallLeg: 'stepFlashing.wallLeg',
  thickness: 'flashing.thickness',
} as const;

const SIDE_NAME = { length: 'length', roofLeg: 'roof leg', wallLeg: 'wall leg', thickness: 'thickness' } as const;

type ChosenStep = { item: SidePiece | undefined; findings: Finding[] };

const bought = ({ id, name, length, roofLeg, wallLeg }: ItemOf<'stepFlashing'>): SidePiece => ({
  product: id,
  name,
  length,
  roofLeg,
  wallLeg,
});

/** The step flashing for a wall: the one the job names, else the smallest that fits; without any, the longest there is and a finding. */
export function pickStep(context: ForSteps, wall: PlacedWall): ChosenStep {
  if (context.surface.sides === 'soakers') return soakerFor(context, wall);
  if (isOnTiles(context)) return { item: coverFor(context, wall), findings: [] };
  const need = stepNeed(context, wall);
  const first = stepMark(wall, 1);
  if (wall.stepFlashing !== null) {
    const item = itemById(context.catalog, 'stepFlashing', wall.stepFlashing);
    return {
      item: bought(item),
      findings: stepShortfalls(item, need).map((side) => shortFinding(wall, item, side, need, first)),
    };
  }
  const item = chooseStepFlashing(context.catalog, need);
  if (item) return { item: bought(item), findings: [] };
  const fallback = smallest(
    itemsOf(context.catalog, 'stepFlashing').filter((candidate) => candidate.metal === need.metal),
    (candidate) => -candidate.length,
    (candidate) => -(candidate.roofLeg + candidate.wallLeg),
  );
  const finding: Finding = {
    id: `${wall.id}.none-fits`,
    severity: 'breaks a rule',
    sentence: [
      `${wall.name}: no step flashing in the catalog fits in ${need.metal}. It needs `,
      cut(need.length),
      ' length (exposure and headlap), ',
      cut(need.roofLeg),
      ' on the roof and ',
      cut(need.wallLeg),
      ' up the wall.',
    ],
    fix: ['Have them bent to that size and add them to the catalog, or choose another metal.'],
    piece: first,
    key: 'stepFlashing.headlap',
  };
  return { item: fallback && bought(fallback), findings: [finding] };
}

/**
 * A soaker as it lies: under the covering and up the wall by the rules, from a tail line to the head of the course it lies on, where what is left of it is turned
 * down. 500 mm slates at 193.75: 306.25, cut 331.25 long with 25 turned (trade practice).
 */
function soakerFor(context: ForSteps, wall: PlacedWall): ChosenStep {
  const { catalog, covering, rules, lines } = context;
  const turned = leastOf(rules, 'soaker.turned');
  const piece = {
    name: 'Soaker',
    length: lines.reach - widestGauge(lines),
    roofLeg: leastOf(rules, 'soaker.under'),
    wallLeg: leastOf(rules, 'soaker.up'),
  };
  const blank = { width: piece.roofLeg + piece.wallLeg, length: piece.length + turned };
  const stock = flatStockFor(catalog, covering.metal, leastOf(rules, 'soaker.thickness'), blank);
  return {
    item: { ...(stock ? { product: stock.id } : {}), ...piece },
    findings: stock
      ? []
      : [
          notInCatalog(
            wall.name,
            [`flat ${covering.metal} sheet to cut soakers from, `, cut(blank.width), ' by ', cut(blank.length)],
            {
              id: `${wall.id}.none-fits`,
              severity: 'breaks a rule',
              fix: ['Add the sheet to the catalog, or choose another metal.'],
              piece: stepMark(wall, 1),
              key: 'soaker.thickness',
            },
          ),
        ],
  };
}

function shortFinding(
  wall: PlacedWall,
  item: ItemOf<'stepFlashing'>,
  side: keyof typeof NEED_KEY,
  need: StepNeed,
  piece: string,
): Finding {
  const figures: Words =
    side === 'thickness'
      ? [`${(item.thickness / 25.4).toFixed(3)}" where ${(need.thickness / 25.4).toFixed(3)}" is needed`]
      : [cut(item[side]), ' where ', cut(need[side]), ' is needed'];
  return {
    id: `${wall.id}.short-${side}`,
    severity: 'breaks a rule',
    sentence: [`${wall.name}: ${item.name} is too small, ${SIDE_NAME[side]} `, ...figures, '.'],
    fix: ['Let the plan choose, or pick a larger step flashing.'],
    piece,
    key: NEED_KEY[side],
  };
}

/** The corner piece's lower edge where an apron of roof leg a lies at the foot: max(y(n0), ya − a); and the course that covers it. */
export function cornerPiece(
  context: Pick<PlaneContext, 'lines'>,
  wall: Pick<PlacedWall, 'from' | 'to' | 'apronLeg'>,
): { lower: number; coveredBy: number; underApron: number } {
  const { lines } = context;
  const { first } = interfaceLines(lines, wall.from, wall.to);
  const underApron = lastCourseBelow(lines, wall.from - wall.apronLeg);
  return {
    lower: Math.max(buttLine(lines, first), wall.from - wall.apronLeg),
    coveredBy: Math.max(underApron + 1, first),
    underApron,
  };
}
