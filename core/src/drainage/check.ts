import { type Assembly, ROLES, type Words, cut, mm } from '../assembly/index.ts';
import { type RuleKey, keyInfo } from '../rules/index.ts';
import { LINE_TOLERANCE, inches } from '../units/index.ts';
import { type MeshRequest, cutMesh } from './cut.ts';
import { runWater } from './flow.ts';
import { amountsOf } from './amount.ts';
import { type Mesh, borderX, cellAtPoint, chartAt, highAt, lowAt, topOf } from './mesh.ts';
import { type Cause, type Fault, type Harm, MOVES, ONE_PLACE, type Move, type Water, hasRun } from './water.ts';

export const VERDICTS = ['clean', 'relies on sealant', 'caught by the underlayer', 'slow leak', 'wet'] as const;
export type Verdict = (typeof VERDICTS)[number];

/** Where a hose is held; on a wall beside the slope: up the slope, and height above the roof line; on a face across it: along it, and height. */
export type Hose = { readonly facet: string; readonly x: number; readonly y: number };

/** A point on a facet, as a hose is held, and how far up the slope it is. */
export type Place = Hose & { readonly onWall: boolean; readonly up: number };

/** One thing the water found: what it does, why, at which piece, and the way it took. */
export type Problem = {
  readonly verdict: Exclude<Verdict, 'clean'>;
  readonly cause: Exclude<Cause, 'none'> | 'relies on sealant';
  /** The piece at fault, and where the water ends up (`deck` or `wall` when bare). */
  readonly piece: string;
  readonly onto: string;
  /** Where it first goes wrong, and the plan area whose rain passes there, square millimetres. */
  readonly at: Place;
  readonly amount: number;
  /** Caught, and led out nowhere. */
  readonly trapped: boolean;
  readonly path: readonly (Place & { readonly piece: string; readonly move: Move })[];
  readonly sentence: Words;
};

export type Reserve = {
  readonly distance: number;
  readonly problem: Problem;
  /** The head of water that climbs so far, millimetres; of a reserve of creep 0. */
  readonly head: number;
  /** Less than a plan is to have in hand, and the rules behind the piece that leaves no more. */
  readonly short: readonly RuleKey[] | undefined;
};

export type CheckResult = {
  readonly verdict: Verdict;
  /** Those that do the worst first; of those of one piece beside each other the highest, where it begins. */
  readonly problems: readonly Problem[];
  readonly cells: number;
  readonly states: number;
  /** States the water went through. */
  readonly visited: number;
};

export type CheckRequest = MeshRequest & {
  readonly plane: string;
  /** Before the covering is on, only the bare deck and wall count. */ readonly stage: 'finished' | 'dry-in';
};

const VERDICT_OF: Record<Harm, Exclude<Verdict, 'clean'>> = {
  bare: 'wet',
  eave: 'wet',
  'runs on': 'wet',
  rake: 'wet',
  fastener: 'slow leak',
  stands: 'slow leak',
  under: 'caught by the underlayer',
};

/** Lets rain run over an assembly, with sealed edges closed and again with them open: what only the second finds relies on sealant. */
export function checkDrainage(
  assembly: Assembly,
  request: CheckRequest,
  settings: { reach?: number; creep?: number } = {},
): CheckResult {
  const mesh = cutMesh(assembly, request.plane, request);
  const granted = { reach: settings.reach ?? 0, creep: settings.creep ?? 0 };
  const finished = request.stage === 'finished';
  const closed = runWater(mesh, { ...granted, sealedOpen: false }, finished);
  const problems = tell(closed);
  let visited = closed.visited;
  if (reliesOnSealant(mesh)) {
    const open = runWater(mesh, { ...granted, sealedOpen: true }, finished);
    visited += open.visited;
    const known = new Set(problems.map(keyOf));
    for (const problem of tell(open))
      if (!known.has(keyOf(problem))) problems.push({ ...problem, verdict: 'relies on sealant', cause: 'relies on sealant' });
  }
  return {
    verdict: worstOf(problems),
    problems,
    cells: mesh.cellCount,
    states: mesh.stateCount,
    visited,
  };
}

const worstOf = (problems: readonly Problem[]): Verdict =>
  problems.reduce<Verdict>(
    (worst, { verdict }) => (VERDICTS.indexOf(verdict) > VERDICTS.indexOf(worst) ? verdict : worst),
    'clean',
  );

const keyOf = ({ cause, piece, at }: Problem): string => `${cause} ${piece} ${at.facet}`;

/** Does any edge of what is laid keep water out by sealant alone? */
const reliesOnSealant = ({ edgeHold, sideEdges }: Mesh): boolean =>
  edgeHold.includes(3) || [...sideEdges.values()].some((edges) => edges.some(({ hold }) => hold === 'sealed'));

/** What a plan is to have in hand (trade practice). */
export const IN_HAND = { reach: inches(1), creep: inches(2) } as const;

/** Searched no further than this: beyond it a lap is not what fails. */
export const RESERVE_LIMIT = inches(12);

/**
 * How much the assembly has in hand: the least reach (at no creep) and the least creep (at no reach) at which something below the
 * covering gets wet, and where: its weakest lap. Undefined when nothing does within 12 in.
 */
export function measureReserve(
  assembly: Assembly,
  request: CheckRequest,
  onProgress: (share: number) => void = () => undefined,
): { reach: Reserve | undefined; creep: Reserve | undefined } {
  const mesh = cutMesh(assembly, request.plane, request);
  const search = (kind: 'reach' | 'creep'): Reserve | undefined => {
    const most = { reach: 0, creep: 0, sealedOpen: false, stopAtLeak: true, [kind]: RESERVE_LIMIT };
    const water = runWater(mesh, most, request.stage === 'finished');
    onProgress(kind === 'reach' ? 0.5 : 1);
    const [problem] = tell(water);
    if (!problem) return undefined;
    const distance = water.granted * RESERVE_LIMIT;
    const keys = assembly.pieces.find(({ mark }) => mark === problem.piece)?.keys ?? [];
    return {
      distance,
      problem,
      head: kind === 'reach' ? distance * mesh.charts[0]!.sine : 0,
      short: distance < IN_HAND[kind] - LINE_TOLERANCE ? keys : undefined,
    };
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
  const mesh = cutMesh(assembly, request.plane, request);
  const index = mesh.charts.findIndex(({ facet }) => facet === hose.facet);
  if (index < 0) return undefined;
  const source = cellAtPoint(mesh, index, ...onChart(mesh, index, hose));
  if (source < 0) return undefined;
  const granted = { reach: settings.reach ?? 0, creep: settings.creep ?? 0, sealedOpen: false };
  const [x, y] = onChart(mesh, index, hose);
  const water = runWater(mesh, { ...granted, source: { state: topOf(mesh, source), x, y } }, request.stage === 'finished');
  const [problem] = tell(water);
  if (problem) return { verdict: problem.verdict, problem, path: problem.path };
  let lowest = -1;
  for (let state = 0; state < mesh.stateCount; state++) {
    if (!hasRun(water, state)) continue;
    if (lowest < 0 || placeOf(water, 2 * state).up < placeOf(water, 2 * lowest).up - 1e-9) lowest = state;
  }
  return { verdict: 'clean', problem: undefined, path: lowest < 0 ? [] : pathTo(water, 2 * lowest) };
}

/** A hose's place on the chart of its facet. */
function onChart({ charts }: Mesh, index: number, { x, y }: Hose): [number, number] {
  const { raking } = charts[index]!;
  if (raking === undefined) return [x, y];
  const level = x / Math.hypot(1, raking);
  return [level, y + raking * level];
}

/** Faults this near to each other up the slope are at one height: then the one with more water counts more. */
const ONE_HEIGHT = inches(6);

/** What the water found: the worst first, of equals the highest, then that with the most water; but a chain as it begins. */
function tell(water: Water): Problem[] {
  const amount = amountsOf(water);
  const told = water.faults.flatMap((fault) =>
    fault.harm === undefined ? [] : [{ fault, problem: tellFault(water, fault, fault.harm, amountAt(water, fault, amount)) }],
  );
  const height = ({ at }: Problem): number => Math.round(at.up / ONE_HEIGHT);
  told.sort(
    (a, b) =>
      VERDICTS.indexOf(b.problem.verdict) - VERDICTS.indexOf(a.problem.verdict) ||
      height(b.problem) - height(a.problem) ||
      b.problem.amount - a.problem.amount ||
      b.problem.at.up - a.problem.at.up ||
      a.problem.at.x - b.problem.at.x ||
      a.fault.layer - b.fault.layer,
  );
  return inChains(told).map(({ fault, problem }, i) => (i < FOLLOWED && isTrapped(water, fault) ? trapped(problem) : problem));
}

type Told = { readonly fault: Fault; readonly problem: Problem };

/** What is wrong with one piece at one place is a chain: what is higher up comes before the worse that comes of it. */
function inChains(told: readonly Told[]): Told[] {
  const left = new Set(told);
  return told.flatMap((worst) => {
    if (!left.has(worst)) return [];
    const chain = [...left].filter((one) => one === worst || isBeside(one, worst));
    for (const one of chain) left.delete(one);
    return chain.sort((a, b) => b.problem.at.up - a.problem.at.up);
  });
}

const isBeside = (one: Told, other: Told): boolean =>
  one.fault.layer > 0 &&
  one.fault.layer === other.fault.layer &&
  one.problem.at.facet === other.problem.at.facet &&
  Math.abs(one.problem.at.x - other.problem.at.x) <= ONE_PLACE &&
  Math.abs(one.problem.at.y - other.problem.at.y) <= ONE_PLACE;

/** A nail meets the water of so wide a strip. */
const NAIL_STRIP = inches(0.5);

/** How much water passes where it goes wrong: what has run there, or for what crept, climbed or left over a side what runs where that came from. */
function amountAt(water: Water, { cause, origin }: Fault, amount: (state: number) => number): number {
  const { mesh, parent } = water;
  let node = origin;
  while (amount(node >> 1) === 0 && parent[node]! >= 0) node = parent[node]!;
  const cell = mesh.cellOf[node >> 1]!;
  const width = mesh.right[cell]! - mesh.left[cell]!;
  return amount(node >> 1) * (cause === 'fastener' ? Math.min(1, NAIL_STRIP / width) : 1);
}

/** Of so many what an underlayer catches is followed on, to tell whether it drains. */
const FOLLOWED = 12;

/** Water that an underlayer caught reaches no exit from there. */
function isTrapped(water: Water, { harm, node }: Fault): boolean {
  if (harm !== 'under') return false;
  const source = { state: node >> 1, x: water.atX[node]!, y: water.atY[node]! };
  return !runWater(water.mesh, { ...water.settings, reach: 0, creep: 0, stopAtLeak: false, source }, water.finished).drained;
}

const trapped = (problem: Problem): Problem => ({
  ...problem,
  trapped: true,
  sentence: [...problem.sentence, ' It stays there: no way leads it out.'],
});

function tellFault(water: Water, fault: Fault, harm: Harm, amount: number): Problem {
  const { mesh } = water;
  const path = pathTo(water, fault.node);
  const end = placeOf(water, fault.node);
  // where the way that is shown goes by it, if it does
  const at = placeOn(water, path, fault) ?? placeOf(water, fault.origin);
  const piece = mesh.pieces[fault.layer]!.mark;
  const onto = mesh.pieces[mesh.layerAt[fault.node >> 1]!]!.mark || (end.onWall ? 'wall' : 'deck');
  const cause = fault.cause as Exclude<Cause, 'none'>;
  return {
    verdict: VERDICT_OF[harm],
    cause,
    piece,
    onto,
    at,
    amount,
    trapped: false,
    path,
    sentence: sentenceOf(water, fault, harm, piece || onto, onto, at, end),
  };
}

/** Where rain that starts a way is shown to fall: so far above where it goes on. */
const RAIN_ABOVE = inches(3);

function pathTo(water: Water, last: number): Problem['path'] {
  const { mesh, parent, move } = water;
  const path: Waypoint[] = [];
  const cells: number[] = [];
  for (let node = last; node >= 0; node = parent[node]!) {
    const state = node >> 1;
    const moved = MOVES[move[node]!]!;
    const at = moved === 'rain' && path.length > 0 ? rainOver(water, node, path.at(-1)!) : placeOf(water, node);
    path.push({ ...at, piece: mesh.pieces[mesh.layerAt[state]!]!.mark, move: moved });
    cells.push(mesh.cellOf[state]!);
  }
  // back from where it ends: what ran all over a cell is shown where it goes on from
  for (let i = 1; i < path.length; i++) path[i] = straightOver(mesh, path[i]!, path[i - 1]!, cells[i]!);
  path.reverse();
  cells.reverse();
  for (let i = 1; i < path.length; i++) path[i] = straightDown(mesh, path[i - 1]!, path[i]!, cells[i]!);
  return path;
}

/** The place of a fault's origin on the way to the worst it does; undefined where another way leads there. */
function placeOn({ parent }: Water, path: Problem['path'], { origin, node }: Fault): Place | undefined {
  let back = 1;
  for (let one = node; one >= 0; one = parent[one]!, back++)
    if (one === origin) {
      const { facet, x, y, onWall, up } = path.at(-back)!;
      return { facet, x, y, onWall, up };
    }
  return undefined;
}

type Waypoint = Problem['path'][number];

/** What falls is shown right under where it came from, as far as its cell goes that way. */
const straightDown = (mesh: Mesh, from: Waypoint, to: Waypoint, cell: number): Waypoint =>
  isFalling(to) && from.facet === to.facet ? levelWith(mesh, to, cell, from.x, from.y) : to;

/** What falls, or falls as rain, is shown right over where it goes on by itself, as far as its cell goes that way. */
const straightOver = (mesh: Mesh, from: Waypoint, to: Waypoint, cell: number): Waypoint =>
  (isFalling(from) || from.move === 'rain') && (isFalling(to) || to.move === 'follows a fastener') && from.facet === to.facet
    ? levelWith(mesh, from, cell, to.x, from.y)
    : from;

const isFalling = ({ move }: Waypoint): boolean => move === 'falls' || move === 'goes under';

/** A place of a roof's cell moved along it. */
function levelWith(mesh: Mesh, one: Waypoint, cell: number, wantedX: number, wantedY: number): Waypoint {
  const { raking, kind } = chartAt(mesh, cell);
  if (kind === 'wall' || raking !== undefined) return one;
  const x = Math.max(borderX(mesh, cell, -1), Math.min(borderX(mesh, cell, 1), wantedX));
  const y = Math.max(lowAt(mesh, cell, x), Math.min(highAt(mesh, cell, x), wantedY));
  return { ...one, ...placeAt(mesh, cell, x, y) };
}

/** Rain wets all of a cell: shown is where it goes on from; off a wall, right over where it lands. */
function rainOver(water: Water, node: number, next: Place): Place {
  const { mesh } = water;
  const cell = mesh.cellOf[node >> 1]!;
  const { facet, raking } = chartAt(mesh, cell);
  const lands = facet !== next.facet && !next.onWall;
  if (facet !== next.facet && !lands) return placeOf(water, node);
  const k = raking === undefined ? 1 : Math.hypot(1, raking);
  const along = raking === undefined ? next.x : (lands ? next.y : next.x) / k;
  const x = Math.max(borderX(mesh, cell, -1), Math.min(borderX(mesh, cell, 1), along));
  const from = lands ? lowAt(mesh, cell, x) : raking === undefined ? next.y : next.y + raking * along;
  const y = Math.max(lowAt(mesh, cell, x), Math.min(highAt(mesh, cell, x), from + RAIN_ABOVE));
  return placeAt(mesh, cell, x, y);
}

const placeOf = ({ mesh, atX, atY }: Water, node: number): Place =>
  placeAt(mesh, mesh.cellOf[node >> 1]!, atX[node]!, atY[node]!);

function placeAt(mesh: Mesh, cell: number, x: number, y: number): Place {
  const { facet, kind, raking, stands } = chartAt(mesh, cell);
  if (raking === undefined) return { facet, x, y, onWall: kind === 'wall', up: stands ?? y };
  const up = x * Math.hypot(1, raking);
  return { facet, x: up, y: y - raking * x, onWall: true, up };
}

const WHY: Record<Cause, string> = {
  none: 'Runs',
  gap: 'Nothing covers it: water gets on to',
  'reverse lap': 'Goes under the upper edge of',
  'short headlap': 'Climbs over the top edge of',
  'short sidelap': 'Creeps past the side edge of',
  'side channel': 'Drips from a side channel of',
  fastener: 'Follows a nail through',
  overrun: 'Gathers on, and leaves over the side of',
};

function sentenceOf(water: Water, fault: Fault, harm: Harm, named: string, onto: string, at: Place, end: Place): Words {
  const { mesh } = water;
  const isEntered = MOVES[water.move[fault.origin]!] === 'goes under';
  const role = fault.layer > 0 ? `${ROLES[mesh.pieces[fault.layer]!.role].name} ` : '';
  const why = fault.cause === 'gap' && isEntered ? 'Nothing laps it: water gets in at the edge of' : WHY[fault.cause];
  const what: Words = [
    `${why} ${named === 'deck' || named === 'wall' ? `the bare ${named}` : `${role}${named}`}, `,
    mm(Math.max(0, at.up)),
    ' up the slope',
  ];
  switch (harm) {
    case 'fastener':
      return [...what, ': a slow leak.'];
    case 'stands':
      return [...what, `; it stands on ${onto} behind a batten, at its nails: a slow leak.`];
    case 'under':
      return [...what, `; ${onto} catches it.`];
    case 'eave':
      return [...what, ', and leaves behind the eave.'];
    case 'runs on':
      return [
        `No kick-out turns it out: water leaves the eave at ${named === 'deck' ? 'the bare deck' : `${role}${named}`} and runs on down the wall.`,
      ];
    case 'rake':
      return [...what, ', and leaves over a rake without metal: the deck’s edge gets wet.'];
    case 'bare':
      return [...what, `; the ${end.onWall ? 'wall' : 'deck'} gets wet.`];
  }
}

/** Wind whose pressure holds up a head of water: ½ρv² = ρw·g·h, air at 1.225 kg/m³, water at 1000; metres a second from millimetres. An estimate. */
export const windFor = (head: number): number => Math.sqrt((2 * 1000 * 9.81 * (head / 1000)) / 1.225);

const windWords = (head: number): string => {
  const wind = windFor(head);
  return ` By estimate that takes a wind of ${Math.round(wind * 2.23694)} mph (${Math.round(wind)} m/s).`;
};

/** A reserve in a sentence: how far water must get, where it then comes through, and if that is little, which rules leave no more. */
export const reserveWords = (kind: 'reach' | 'creep', reserve: Reserve | undefined): Words =>
  reserve
    ? [
        `Water must ${kind === 'reach' ? 'climb' : 'creep sideways'} more than `,
        cut(reserve.distance),
        ' under cover before anything below gets wet; first at ',
        reserve.problem.piece || reserve.problem.onto,
        '.',
        ...(kind === 'reach' ? [windWords(reserve.head)] : []),
        ...(reserve.short
          ? [
              ' That is less than the ',
              cut(IN_HAND[kind]),
              ' wanted in hand',
              ...(reserve.short.length > 0
                ? [`; its size follows ${reserve.short.map((key) => keyInfo(key).meaning).join('; ')}`]
                : []),
              '.',
            ]
          : []),
      ]
    : [`Water that ${kind === 'reach' ? 'climbs' : 'creeps'} `, cut(RESERVE_LIMIT), ' under cover still wets nothing below.'];
