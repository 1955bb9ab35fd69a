import { type Assembly, ROLES, type Words, cut, mm } from '../assembly/index.ts';
import { inches } from '../units/index.ts';
import { type Cause, type Flow, type Leak, MOVES, type Move, runWater } from './flow.ts';
import { type Sheet, type SheetRequest, cellAt, cutSheet } from './sheet.ts';

export const VERDICTS = ['clean', 'relies on sealant', 'caught by the underlayer', 'slow leak', 'wet'] as const;
export type Verdict = (typeof VERDICTS)[number];

/**
 * A point on a facet's chart. On a wall beside the slope: up the slope, and height above the roof line; on a face across the slope: along
 * it, and height. `up` is how far up the slope it is, where the check says it.
 */
export type Place = { readonly facet: string; readonly x: number; readonly y: number; readonly up?: number };

/** One thing the water found: what it does, why, at which piece, and the way it took. */
export type Problem = {
  readonly verdict: Exclude<Verdict, 'clean'>;
  readonly cause: Cause | 'relies on sealant';
  /** The piece that lets it through, and where it ends up (`deck` or `wall` when bare). */
  readonly piece: string;
  readonly onto: string;
  readonly at: Place;
  readonly path: readonly (Place & { readonly piece: string; readonly move: Move })[];
  readonly sentence: Words;
};

export type Reserve = { readonly distance: number; readonly problem: Problem };

export type CheckResult = {
  readonly verdict: Verdict;
  /** Worst first. */
  readonly problems: readonly Problem[];
  readonly cells: number;
  readonly states: number;
};

/** Where a hose is held; on a wall: up the slope, and height above the roof line. */
export type Hose = Place;

export type CheckRequest = SheetRequest & {
  readonly plane: string;
  /** Before the covering is on, only the bare deck and wall count. */ readonly stage: 'finished' | 'dry-in';
};

const PROBLEM_RANK: Record<Leak['kind'], Exclude<Verdict, 'clean'>> = {
  bare: 'wet',
  exit: 'wet',
  fastener: 'slow leak',
  under: 'caught by the underlayer',
};

/** Lets rain run over an assembly, with sealed edges closed and again with them open: what only the second finds relies on sealant. */
export function checkDrainage(
  assembly: Assembly,
  request: CheckRequest,
  settings: { reach?: number; creep?: number } = {},
): CheckResult {
  const sheet = cutSheet(assembly, request.plane, request);
  const water = { reach: settings.reach ?? 0, creep: settings.creep ?? 0 };
  const run = (sealedOpen: boolean): Problem[] =>
    tell(sheet, runWater(sheet, { ...water, sealedOpen }, request.stage === 'finished')).problems;
  const problems = run(false);
  const known = new Set(problems.map(keyOf));
  const sealed = [...sheet.holds.values()].some((holds) => holds.includes('sealed'));
  for (const problem of sealed ? run(true) : [])
    if (!known.has(keyOf(problem))) problems.push({ ...problem, verdict: 'relies on sealant', cause: 'relies on sealant' });
  return { verdict: problems[0]?.verdict ?? 'clean', problems, cells: sheet.cellCount, states: sheet.stateCount };
}

const keyOf = ({ cause, piece, onto }: Problem): string => `${cause} ${piece} ${onto}`;

/** Searched no further than this: beyond it a lap is not what fails. */
export const RESERVE_LIMIT = inches(12);

/** To the finest mark of a tape. */
const RESERVE_STEP = inches(1 / 64);

/**
 * How much the assembly has in hand: the least reach (at no creep) and the least creep (at no reach) at which something below the
 * covering gets wet, and where: its weakest lap. Undefined when nothing does within 12 in.
 */
export function measureReserve(
  assembly: Assembly,
  request: CheckRequest,
  onProgress: (share: number) => void = () => undefined,
): { reach: Reserve | undefined; creep: Reserve | undefined } {
  // finer cells than the edges give cannot change a distance, only cost time
  const sheet = cutSheet(assembly, request.plane, { ...request, cellSize: Number.POSITIVE_INFINITY });
  const finished = request.stage === 'finished';
  const runs = 2 * (2 + Math.ceil(Math.log2(RESERVE_LIMIT / RESERVE_STEP)));
  let done = 0;
  const search = (kind: 'reach' | 'creep'): Reserve | undefined => {
    const flowAt = (distance: number, stopAtLeak: boolean): Flow => {
      onProgress(++done / runs);
      return runWater(sheet, { reach: 0, creep: 0, sealedOpen: false, stopAtLeak, [kind]: distance }, finished);
    };
    if (flowAt(RESERVE_LIMIT, true).leaks.length === 0) return undefined;
    let [low, high] = [0, RESERVE_LIMIT];
    while (high - low > RESERVE_STEP) {
      const middle = (low + high) / 2;
      if (flowAt(middle, true).leaks.length > 0) high = middle;
      else low = middle;
    }
    const flow = flowAt(high, false);
    return { distance: low, problem: tell(sheet, flow).problems[0]! };
  };
  return { reach: search('reach'), creep: search('creep') };
}

export type HoseResult = {
  readonly verdict: Verdict;
  readonly problem: Problem | undefined;
  /** The way the water takes: to the leak, or down to where it leaves. */ readonly path: Problem['path'];
};

/** Holds a hose at a place and follows the water: to the first leak, or as far down as it runs. Undefined where there is no surface. */
export function followHose(
  assembly: Assembly,
  request: CheckRequest,
  hose: Hose,
  settings: { reach?: number; creep?: number } = {},
): HoseResult | undefined {
  const sheet = cutSheet(assembly, request.plane, request);
  const chart = sheet.charts.find(({ facet }) => facet === hose.facet);
  if (!chart) return undefined;
  const [column, row] = [cellAt(chart.columns, hose.x), cellAt(chart.rows, hose.y)];
  if (
    column < 0 ||
    row < 0 ||
    column >= chart.columnCount ||
    row >= chart.rowCount ||
    chart.taken[row * chart.columnCount + column]
  )
    return undefined;
  const source = chart.first + row * chart.columnCount + column;
  const flow = runWater(
    sheet,
    { reach: settings.reach ?? 0, creep: settings.creep ?? 0, sealedOpen: false, sources: [source] },
    request.stage === 'finished',
  );
  const problem = tell(sheet, flow).problems[0];
  if (problem) return { verdict: problem.verdict, problem, path: problem.path };
  let lowest = -1;
  for (let state = 0; state < sheet.stateCount; state++) {
    if (!flow.wet[state]) continue;
    const place = placeOf(sheet, state);
    if (lowest < 0 || upSlope(place) < upSlope(placeOf(sheet, lowest)) - 1e-9) lowest = state;
  }
  return { verdict: 'clean', problem: undefined, path: lowest < 0 ? [] : pathTo(sheet, flow, 2 * lowest) };
}

/** How far up the slope a place is, on the roof or beside it on a wall. */
const upSlope = ({ facet, x, y, up }: Place): number => up ?? (facet.includes('/') ? x : y);

function tell(sheet: Sheet, flow: Flow): { verdict: Verdict; problems: Problem[] } {
  const problems = flow.leaks
    .map((leak) => tellLeak(sheet, flow, leak))
    .sort(
      (a, b) =>
        VERDICTS.indexOf(b.verdict) - VERDICTS.indexOf(a.verdict) ||
        a.at.y - b.at.y ||
        a.at.x - b.at.x ||
        (a.piece < b.piece ? -1 : 1),
    );
  return { verdict: problems[0]?.verdict ?? 'clean', problems };
}

function tellLeak(sheet: Sheet, flow: Flow, leak: Leak): Problem {
  const path = pathTo(sheet, flow, leak.node);
  const at = placeOf(sheet, leak.node >> 1);
  const piece = sheet.pieces[leak.layer]!.mark;
  const onto = sheet.pieces[sheet.layerAt[leak.node >> 1]!]!.mark || (at.facet.includes('/') ? 'wall' : 'deck');
  const verdict = PROBLEM_RANK[leak.kind];
  return { verdict, cause: leak.cause, piece, onto, at, path, sentence: sentenceOf(sheet, leak, piece, onto, at) };
}

function pathTo(sheet: Sheet, flow: Flow, last: number): Problem['path'] {
  const path: Problem['path'][number][] = [];
  for (let node = last; node >= 0; node = flow.parent[node]!) {
    const state = node >> 1;
    path.push({ ...placeOf(sheet, state), piece: sheet.pieces[sheet.layerAt[state]!]!.mark, move: MOVES[flow.move[node]!]! });
  }
  return path.reverse();
}

function placeOf(sheet: Sheet, state: number): Place {
  let low = 0;
  let high = sheet.cellCount;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sheet.stackStart[middle + 1]! <= state) low = middle + 1;
    else high = middle;
  }
  const chart = [...sheet.charts].reverse().find(({ first }) => first <= low)!;
  const local = low - chart.first;
  const row = Math.floor(local / chart.columnCount);
  const column = local - row * chart.columnCount;
  return {
    facet: chart.facet,
    x: (chart.columns[column]! + chart.columns[column + 1]!) / 2,
    y: (chart.rows[row]! + chart.rows[row + 1]!) / 2,
    ...(chart.stands === undefined ? {} : { up: chart.stands }),
  };
}

const WHY: Record<Cause, string> = {
  none: 'Runs',
  gap: 'Nothing covers it: water gets on to',
  'reverse lap': 'Goes under the upper edge of',
  'short headlap': 'Climbs over the top edge of',
  'short sidelap': 'Creeps past the side edge of',
  fastener: 'Follows a nail through',
  overrun: 'Gathers on, and leaves over the side of',
};

function sentenceOf(sheet: Sheet, leak: Leak, piece: string, onto: string, at: Place): Words {
  const up = upSlope(at);
  const named = piece || onto;
  const role = sheet.pieces[leak.layer]?.mark ? `${ROLES[sheet.pieces[leak.layer]!.role].name} ` : '';
  const what: Words = [
    `${WHY[leak.cause]} ${named === 'deck' || named === 'wall' ? `the bare ${named}` : `${role}${named}`}, `,
    mm(Math.max(0, up)),
    ' up the slope',
  ];
  switch (leak.kind) {
    case 'fastener':
      return [...what, ': a slow leak.'];
    case 'under':
      return [...what, `; ${onto} catches it.`];
    case 'exit':
      return [...what, ', and leaves behind the eave.'];
    case 'bare':
      return [...what, `; the ${at.facet.includes('/') ? 'wall' : 'deck'} gets wet.`];
  }
}

/** A reserve in a sentence: how far water must get, and where it then comes through. */
export const reserveWords = (kind: 'reach' | 'creep', reserve: Reserve | undefined): Words =>
  reserve
    ? [
        `Water must ${kind === 'reach' ? 'climb' : 'creep sideways'} more than `,
        cut(reserve.distance),
        ' under cover before anything below gets wet; first at ',
        reserve.problem.piece || reserve.problem.onto,
        '.',
      ]
    : [`Water that ${kind === 'reach' ? 'climbs' : 'creeps'} `, cut(RESERVE_LIMIT), ' under cover still wets nothing below.'];
