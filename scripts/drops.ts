// npm run drops: pieces left out or shifted at random, one at a time, and which of them the water notices. Harmless ones are left out by what they do to
// the geometry, a rule fixed beforehand and never by name: see `isFault`.
import {
  type Assembly,
  type CheckRequest,
  type Piece,
  type Plan,
  ROLES,
  type WhatIf,
  applyWhatIfs,
  bounds,
  byLay,
  checkDrainage,
  dryInMarks,
  inches,
  intersectOutlines,
  isWithin,
  outlineArea,
  planJob,
  slopesOf,
  subtractOutlines,
} from '#core';
import { changed, demoHouse, demoLibrary, slopeRecord } from '../core/fixtures/demo.ts';
import { VALLEYS, crossed, dormered, slopeWith, valleyOf } from '../core/fixtures/roofs.ts';

const TRIES = 240;
const plans: [string, Plan][] = (
  [
    ['house', demoHouse()],
    ['chimney', slopeWith(['chimney'])],
    ['pipe', slopeWith(['pipe'])],
    ['skylight', slopeWith(['skylight'])],
    ['headwall', slopeWith(['headwall'])],
    ['open valleys', crossed((job) => VALLEYS.forEach((key) => (job.valleys[key] = valleyOf('open'))))],
    ['closed valleys', crossed()],
    ['dormer', dormered()],
    [
      'wall’s corner',
      changed((job) => {
        Object.assign(slopeRecord(job).walls[0]!, { x: inches(120), from: inches(61), foot: 'corner', runsPastEave: false });
      }),
    ],
  ] as const
).map(([name, job]) => [name, planJob(job, demoLibrary)]);

/** A small seeded generator (Lehmer): the same tries on every run. */
let seed = 20261128;
const random = (): number => {
  seed = (seed * 48271) % 2147483647;
  return seed / 2147483647;
};
const pick = <T>(all: readonly T[]): T => all[Math.floor(random() * all.length)]!;

const isSheet = ({ role }: Piece): boolean => ROLES[role].surface === 'sheet';

type Part = { readonly piece: Piece; readonly facet: string; readonly outline: Piece['covers'][number]['outline'] };
const partsOf = ({ pieces }: Assembly): Part[] =>
  pieces.flatMap((piece) => piece.covers.map(({ facet, outline }) => ({ piece, facet, outline })));

/** Of the same kind (sheets, or what lies over them) and touching, other than itself. */
const othersBy = (parts: readonly Part[], part: Part): Part[] => {
  const own = bounds(part.outline);
  return parts.filter(({ piece, facet, outline }) => {
    if (facet !== part.facet || piece.mark === part.piece.mark || isSheet(piece) !== isSheet(part.piece)) return false;
    const { x0, x1, y0, y1 } = bounds(outline);
    return x0 < own.x1 && x1 > own.x0 && y0 < own.y1 && y1 > own.y0;
  });
};

/** A square inch left to one layer less is no more than a nick. */
const NICK = inches(1) ** 2;
/** What is left of a lap: up the slope as much as a plan is to have of reach, sideways as much as of creep. */
const [HEADLAP, SIDELAP] = [inches(1), inches(2)];

/** What a roofer would call a fault: somewhere the piece was the only one of its kind and is no more; or a lap with what it lies on or under is left too short; or a nail bare. */
function isFault(before: Assembly, after: Assembly, mark: string): boolean {
  const [old, now] = [partsOf(before), partsOf(after)];
  for (const part of old.filter(({ piece }) => piece.mark === mark)) {
    const others = othersBy(old, part);
    const alone = subtractOutlines(part.outline, others.map(({ outline }) => outline)); // prettier-ignore
    const still = now.filter(({ piece, facet }) => piece.mark === mark && facet === part.facet).map(({ outline }) => outline);
    const bare = alone.flatMap((outline) => subtractOutlines(outline, still));
    if (bare.reduce((sum, outline) => sum + Math.abs(outlineArea(outline)), 0) > NICK) return true;
    if (still.length === 0) continue;
    for (const other of others) {
      const lap = lapOf([part.outline], other);
      const rest = lapOf(still, other);
      const [low, high] = [part, other].toSorted((a, b) => byLay(a.piece, b.piece)) as [Part, Part];
      const thirds = others.filter(({ piece }) => piece.mark !== other.piece.mark);
      // a piece that lies between the two all along their lap keeps them apart; one over both all along it keeps water from coming aside
      const between = thirds.filter(({ piece }) => byLay(low.piece, piece) < 0 && byLay(piece, high.piece) < 0);
      const over = thirds.filter(({ piece }) => byLay(high.piece, piece) < 0);
      if (lap.y >= HEADLAP && lap.x > 2 * lap.y && rest.y < HEADLAP - 1 && !isHidden(part, other, between)) return true;
      if (lap.x >= SIDELAP && lap.y > 2 * lap.x && rest.x < SIDELAP - 1 && !isHidden(part, other, [...between, ...over]))
        return true;
    }
  }
  const pieces = after.pieces.toSorted(byLay);
  return after.fasteners
    .filter(({ piece, keptDry }) => piece === mark && keptDry === 'covered')
    .some(({ at, facet }) => {
      const own = pieces.findIndex((piece) => piece.mark === mark);
      return !pieces
        .slice(own + 1)
        .some(({ covers }) => covers.some((cover) => cover.facet === facet && isWithin(cover.outline, at)));
    });
}

/** Is what two parts share covered by others but for a nick? */
function isHidden({ outline }: Part, other: Part, by: readonly Part[]): boolean {
  const left = intersectOutlines(outline, other.outline).flatMap(
    (shared) =>
    subtractOutlines(shared, by.map((one) => one.outline)), // prettier-ignore
  );
  return left.reduce((sum, one) => sum + Math.abs(outlineArea(one)), 0) <= NICK;
}

/** How wide and how high what two outlines share is. */
function lapOf(outlines: readonly Part['outline'][], { outline: other }: Part): { x: number; y: number } {
  const shared = outlines.flatMap((outline) => intersectOutlines(outline, other));
  if (shared.length === 0) return { x: 0, y: 0 };
  const boxes = shared.map(bounds);
  return { x: Math.max(...boxes.map(({ x0, x1 }) => x1 - x0)), y: Math.max(...boxes.map(({ y0, y1 }) => y1 - y0)) };
}

const SETTINGS = [{}, { reach: HEADLAP - 1 }, { creep: SIDELAP - 1 }] as const;

/** What the water finds on a slope, finished and at dry-in, with and without the reserve a plan is to have. */
function found(assembly: Assembly, plan: Plan, plane: string): Map<string, number> {
  const keys = new Map<string, number>();
  const requests: CheckRequest[] = [
    { plane, stage: 'finished' },
    { plane, stage: 'dry-in', laid: dryInMarks(plan) },
  ];
  for (const request of requests)
    for (const settings of SETTINGS)
      for (const { cause, piece, onto, at } of checkDrainage(assembly, request, settings).problems) {
        const key = `${request.stage} ${JSON.stringify(settings)} ${cause} ${piece} ${onto}`;
        keys.set(key, Math.max(keys.get(key) ?? -1, at.up));
      }
  return keys;
}

const counts = { tried: 0, harmless: 0, faults: 0, noticed: 0 };
const missed: string[] = [];
const base = new Map<string, Map<string, number>>();
while (counts.tried < TRIES) {
  const [name, plan] = pick(plans);
  const roles = [...new Set(plan.pieces.filter(({ product }) => product !== undefined).map(({ role }) => role))];
  const role = pick(roles);
  const piece = pick(plan.pieces.filter((one) => one.role === role && one.product !== undefined));
  const far = (): number => Math.round((random() < 0.5 ? -1 : 1) * (1 + random() * 5) * 4) / 4;
  const [across, up] = pick([[far(), 0], [0, far()], [far(), far()]] as const); // prettier-ignore
  const whatIf: WhatIf =
    random() < 0.5
      ? { kind: 'leave-out', piece: piece.mark }
      : { kind: 'shift', piece: piece.mark, across: inches(across), up: inches(up) };
  counts.tried++;
  const { assembly } = applyWhatIfs(plan, [whatIf]);
  if (!isFault(plan, assembly, piece.mark)) {
    counts.harmless++;
    continue;
  }
  counts.faults++;
  const slopeOf = slopesOf(plan);
  const planes = new Set(piece.covers.map(({ facet }) => slopeOf(facet)));
  const isNoticed = [...planes].some((plane) => {
    const key = `${name} ${plane}`;
    const before = base.get(key) ?? found(plan, plan, plane);
    base.set(key, before);
    return [...found(assembly, plan, plane).keys()].some((one) => !before.has(one));
  });
  if (isNoticed) counts.noticed++;
  else
    missed.push(
      `${name}: ${piece.mark} (${ROLES[role].name}) ${whatIf.kind === 'shift' ? `shifted ${across} in across, ${up} in up` : 'left out'}`,
    );
}
console.log(`${counts.tried} tried, ${counts.harmless} harmless by the rule, ${counts.faults} faults, ${counts.noticed} noticed`);
console.log(`${((100 * counts.noticed) / counts.faults).toFixed(1)} %; not noticed:`);
for (const line of missed) console.log(`  ${line}`);
