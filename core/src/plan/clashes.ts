import { type Assembly, type Finding, type Role, ROLES, cut, isSheddingMetal } from '../assembly/index.ts';
import { type Outline, bounds, intersectOutlines, rectangle, subtractOutlines } from '../roof/index.ts';
import { type PlaneContext, footprint } from '../slope/index.ts';
import { inches } from '../units/index.ts';

/** Less than this is what a pair of snips takes off. */
const SNIP = inches(1 / 4);

type Part = { readonly mark: string; readonly role: Role; readonly outline: Outline };

/** What stands on a slope, by its own name: its metal, and the ground it takes up. */
type Thing = { readonly id: string; readonly name: string; readonly metal: Part[]; readonly ground: Outline[] };

/**
 * What two things on a slope leave no room for: metal of the one over the ground or over the metal of the other, and metal that runs off the slope.
 * Read from the outlines in the plan, whatever brought them there.
 */
export function clashFindings(context: PlaneContext, assembly: Assembly): Finding[] {
  const things = thingsOn(context, assembly);
  return [
    ...nearPairs(things).flatMap(([one, other]) => between(context, one, other)),
    ...things.flatMap((one) => offSlope(context, one)),
  ];
}

type Box = ReturnType<typeof bounds>;

const touch = (a: Box, b: Box): boolean => a.x0 <= b.x1 && b.x0 <= a.x1 && a.y0 <= b.y1 && b.y0 <= a.y1;

/** Pairs of things whose outlines come near each other at all, in the order of the things. Most of a large roof's lie far apart. */
function nearPairs(things: readonly Thing[]): [Thing, Thing][] {
  const boxes = things.map(({ metal, ground }) => bounds([...metal.map(({ outline }) => outline), ...ground].flat()));
  const byHeight = boxes.map((box, i) => ({ box, i })).sort((a, b) => a.box.y0 - b.box.y0);
  const pairs: [number, number][] = [];
  let open: typeof byHeight = [];
  for (const one of byHeight) {
    open = open.filter(({ box }) => box.y1 >= one.box.y0);
    for (const other of open) if (touch(one.box, other.box)) pairs.push(one.i < other.i ? [one.i, other.i] : [other.i, one.i]);
    open.push(one);
  }
  return pairs.sort((a, b) => a[0] - b[0] || a[1] - b[1]).map(([i, j]) => [things[i]!, things[j]!]);
}

function thingsOn(context: PlaneContext, { pieces }: Assembly): Thing[] {
  const { facet, features, walls, fronts, frames, plane } = context;
  const things = new Map<string, Thing>();
  const add = (id: string, name: string, ground: Outline[] = []): Thing => {
    const thing = things.get(id) ?? { id, name, metal: [], ground: [] };
    thing.ground.push(...ground);
    things.set(id, thing);
    return thing;
  };
  for (const feature of features) {
    if (feature.kind === 'headwall') add(feature.id, feature.name);
    // every leg of a grid is a thing by itself
    else if (feature.kind !== 'standoffs') {
      const { x0, x1, from, to } = footprint(feature, plane);
      add(feature.id, feature.name, [rectangle(x0, from, x1, to)]);
    }
  }
  for (const { id, x0, x1, from, to } of frames) if (!things.has(id)) add(id, id, [rectangle(x0, from, x1, to)]);
  for (const wall of walls) if (wall.partOf === undefined) add(wall.id, wall.name);
  const ownerOf = new Map<string, string>([
    ...walls.flatMap(({ id, partOf }) => (partOf === undefined ? [] : [[id, partOf] as const])),
    ...fronts.map(({ id }) => [id, id.replace(/F$/, '')] as const),
  ]);
  for (const { mark, role, detail, covers } of pieces) {
    if (!isSheddingMetal(role)) continue;
    const own = covers.filter((cover) => cover.facet === facet);
    if (own.length === 0) continue;
    const leg = role === 'boot' ? mark.replace(/-B$/, '') : detail;
    const id = ownerOf.get(leg) ?? ownerOf.get(detail) ?? (things.has(leg) ? leg : role === 'boot' ? leg : detail);
    const thing = things.get(id) ?? add(id, id);
    for (const { outline } of own) thing.metal.push({ mark, role, outline });
  }
  return [...things.values()];
}

/** Two things that are made to meet: a wall and the headwall it runs into, a valley and what its roof stands on. */
function meet({ found, valleys }: PlaneContext, a: Thing, b: Thing): boolean {
  const touches = (one: Thing, other: Thing): boolean => {
    const front = found.front(one.id);
    const wall = found.wall(other.id);
    if (front)
      return wall !== undefined && wall.to > front.y - 1 && (Math.abs(wall.x - front.x0) < 1 || Math.abs(wall.x - front.x1) < 1);
    const valley = valleys.find(({ id }) => id === one.id);
    if (!valley) return false;
    if (valleys.some(({ id }) => id === other.id)) return true;
    return [wall, found.frame(other.id)].some((one) => one !== undefined && Math.abs(one.to - valley.low[1]) < 1);
  };
  return touches(a, b) || touches(b, a);
}

function between(context: PlaneContext, a: Thing, b: Thing): Finding[] {
  if (meet(context, a, b)) return [];
  for (const [one, other] of [
    [a, b],
    [b, a],
  ] as const)
    // prettier-ignore
    for (const { mark, role, outline } of one.metal) {
      const into = largest(other.ground.flatMap((ground) => intersectOutlines(outline, ground)));
      if (into)
        return [
          {
            id: `${one.id}.into.${other.id}`,
            severity: 'leaks',
            sentence: [`${one.name}: its ${ROLES[role].name} ${mark} runs into ${other.name}, `, cut(into.across), ' × ', cut(into.up), ' of it: there it cannot lie.'],
            fix: ['Move one of them, or make one flashing for both.'],
            piece: mark,
          },
        ];
    }
  let worst: { mark: string; role: Role; with: Part; across: number; up: number } | undefined;
  for (const { mark, role, outline } of a.metal)
    for (const part of b.metal) {
      const over = largest(intersectOutlines(outline, part.outline));
      if (over && (!worst || over.across * over.up > worst.across * worst.up)) worst = { mark, role, with: part, ...over };
    }
  if (!worst) return [];
  return [
    {
      id: `${a.id}.over.${b.id}`,
      severity: 'breaks a rule',
      sentence: [
        `${a.name} and ${b.name} stand so near that their flashings overlap: ${ROLES[worst.role].name} ${worst.mark} and ${ROLES[worst.with.role].name} ${worst.with.mark} by `,
        cut(worst.across),
        ' × ',
        cut(worst.up),
        '.',
      ],
      fix: ['Move one of them, or make one flashing for both.'],
      piece: worst.mark,
    },
  ];
}

function largest(outlines: readonly Outline[]): { across: number; up: number } | undefined {
  let found: { across: number; up: number } | undefined;
  for (const outline of outlines) {
    const { x0, x1, y0, y1 } = bounds(outline);
    const size = { across: x1 - x0, up: y1 - y0 };
    if (Math.min(size.across, size.up) > SNIP && (!found || size.across * size.up > found.across * found.up)) found = size;
  }
  return found;
}

/** Metal of what stands on the slope that has no roof under it: past the ridge, the eave or an end. Walls and valleys belong to the edges themselves. */
function offSlope({ plane, lines, found, valleys }: PlaneContext, thing: Thing): Finding[] {
  // a wall at the slope's very end turns its corner beside the roof
  const frame = found.frame(thing.id);
  const wall = found.wall(thing.id);
  const front = found.front(thing.id);
  if (
    (frame && frame.x1 - frame.x0 < 1) ||
    (wall && wall.partOf === undefined) ||
    (front && front.y > lines.end - 1) ||
    valleys.some(({ id }) => id === thing.id)
  )
    return [];
  const ground = [plane.outline];
  for (const { mark, role, outline } of thing.metal) {
    const off = subtractOutlines(outline, ground).map(bounds);
    // the first butt hangs over the eave anyway
    const past = off.find(({ x0, x1, y0, y1 }) => x1 - x0 > SNIP && y1 - y0 > SNIP && (y0 < lines.first - SNIP || y1 > 0));
    if (!past) continue;
    const [where, by] =
      past.y1 > lines.end + SNIP
        ? ['the top of the slope', past.y1 - lines.end]
        : past.y0 < lines.first - SNIP
          ? ['the eave', -past.y0]
          : ['the edge of the slope', Math.min(past.x1 - past.x0, past.y1 - past.y0)];
    return [
      {
        id: `${thing.id}.past`,
        severity: 'breaks a rule',
        sentence: [
          `${thing.name}: its ${ROLES[role].name} ${mark} runs `,
          cut(by),
          ` past ${where}: there is no roof there to carry it.`,
        ],
        fix: ['Move it away from the edge, or have that edge detailed together with it.'],
        piece: mark,
      },
    ];
  }
  return [];
}
