import {
  type Assembly,
  type Piece,
  beforeAll,
  holdOf,
  inCourse,
  isSidePiece,
  rightAfter,
  slopeOf,
  upsideDown,
  wallFacets,
} from '../assembly/index.ts';
import { type Point, isWithin, rectangle, slopeToWall, wallToSlope } from '../roof/index.ts';

/** An edit of the assembly to see what the water makes of it; never of the job. Lengths in millimetres. */
export type WhatIf =
  | { readonly kind: 'leave-out'; readonly piece: string }
  | { readonly kind: 'swap'; readonly piece: string; readonly other: string }
  | { readonly kind: 'shift'; readonly piece: string; readonly across: number; readonly up: number }
  | { readonly kind: 'nail'; readonly piece: string; readonly facet: string; readonly at: readonly [number, number] }
  | { readonly kind: 'one-long-piece'; readonly wall: string }
  | { readonly kind: 'membrane-flush'; readonly wall: string }
  | { readonly kind: 'membrane-on-felt'; readonly wall: string }
  | { readonly kind: 'nailed-cover-strip'; readonly piece: string }
  | { readonly kind: 'strips-top-first' };

export type Edited = {
  readonly assembly: Assembly;
  /** What was ignored, one sentence each. */ readonly ignored: readonly string[];
};

/** Applies what-ifs one after another. One that makes no sense is ignored with a sentence. */
export function applyWhatIfs(assembly: Assembly, whatIfs: readonly WhatIf[]): Edited {
  const ignored: string[] = [];
  let edited = assembly;
  for (const whatIf of whatIfs) {
    const next = apply(edited, whatIf);
    if (typeof next === 'string') ignored.push(next);
    else edited = next;
  }
  return { assembly: edited, ignored };
}

function apply(assembly: Assembly, whatIf: WhatIf): Assembly | string {
  const find = (mark: string): Piece | undefined => assembly.pieces.find((piece) => piece.mark === mark);
  const change = (edit: (piece: Piece) => Piece): Assembly => ({ ...assembly, pieces: assembly.pieces.map(edit) });
  switch (whatIf.kind) {
    case 'leave-out':
      if (!find(whatIf.piece)) return `There is no piece ${whatIf.piece} to leave out.`;
      return without(assembly, ({ mark }) => mark === whatIf.piece);
    case 'swap': {
      const [first, second] = [find(whatIf.piece), find(whatIf.other)];
      if (!first || !second) return `There is no piece ${first ? whatIf.other : whatIf.piece} to swap.`;
      if (first === second) return `${whatIf.piece} cannot be swapped with itself.`;
      return change((piece) =>
        piece === first ? { ...piece, lay: second.lay } : piece === second ? { ...piece, lay: first.lay } : piece,
      );
    }
    case 'shift':
      if (!find(whatIf.piece)) return `There is no piece ${whatIf.piece} to shift.`;
      if (whatIf.across === 0 && whatIf.up === 0) return `${whatIf.piece} is shifted by nothing.`;
      return shifted(assembly, find(whatIf.piece)!, whatIf.across, whatIf.up);
    case 'nail': {
      const piece = find(whatIf.piece);
      if (!piece) return `There is no piece ${whatIf.piece} to nail.`;
      if (!piece.covers.some(({ facet, outline }) => facet === whatIf.facet && isWithin(outline, whatIf.at)))
        return `That place is not on ${whatIf.piece}, so no nail goes through it there.`;
      return {
        ...assembly,
        fasteners: [
          ...assembly.fasteners,
          { piece: piece.mark, facet: whatIf.facet, at: whatIf.at, product: '', keptDry: 'covered' },
        ],
      };
    }
    case 'one-long-piece':
      return oneLongPiece(assembly, whatIf.wall);
    case 'membrane-flush': {
      const walls = wallFacets(assembly);
      const named = wallsNamed(assembly, whatIf.wall);
      const flush = (piece: Piece): boolean => piece.role === 'wallMembrane' && stands(piece, named);
      if (!assembly.pieces.some(flush)) return `There is no membrane at ${whatIf.wall}.`;
      return change((piece) =>
        flush(piece) ? { ...piece, covers: piece.covers.filter(({ facet }) => !walls.has(facet)) } : piece,
      );
    }
    case 'membrane-on-felt':
      return onFelt(assembly, whatIf.wall);
    case 'nailed-cover-strip':
      return nailedStrip(assembly, whatIf.piece);
    case 'strips-top-first': {
      if (!assembly.pieces.some(({ role }) => role === 'iceBarrier'))
        return 'There are no ice barrier strips to lay in another order.';
      return change((piece) => (piece.role === 'iceBarrier' ? { ...piece, lay: upsideDown(piece.lay) } : piece));
    }
  }
}

function without(assembly: Assembly, gone: (piece: Piece) => boolean): Assembly {
  const marks = new Set(assembly.pieces.filter(gone).map(({ mark }) => mark));
  return {
    ...assembly,
    pieces: assembly.pieces.filter(({ mark }) => !marks.has(mark)),
    fasteners: assembly.fasteners.filter(({ piece }) => !marks.has(piece)),
  };
}

/** The walls a name stands for: one wall, or all of what a detail belongs to. */
const wallsNamed = ({ facets }: Assembly, name: string): string[] =>
  facets.flatMap(({ id, kind, on, detail }) => (kind === 'wall' && (detail === name || id === `${on}/${name}`) ? [id] : []));

const stands = ({ covers }: Piece, walls: readonly string[]): boolean => covers.some(({ facet }) => walls.includes(facet));

const pitchOf = (assembly: Assembly, facet: string): number =>
  Math.tan(assembly.facets.find(({ id }) => id === slopeOf(assembly, facet))!.angle);

/** A piece moved on its slope, with its joints and its own fasteners; its part on a face across the slope moves only sideways. */
function shifted(assembly: Assembly, piece: Piece, across: number, up: number): Assembly {
  const raking = new Set(assembly.joints.flatMap(({ kind, b }) => (kind === 'side' ? [b] : [])));
  const walls = wallFacets(assembly);
  const move = (facet: string, point: Point): Point => {
    if (!walls.has(facet)) return [point[0] + across, point[1] + up];
    if (!raking.has(facet)) return [point[0] + across, point[1]];
    const pitch = pitchOf(assembly, facet);
    const { s, u } = wallToSlope(point, pitch);
    return slopeToWall(s + up, u, pitch);
  };
  const moved: Piece = {
    ...piece,
    ...(piece.joints ? { joints: piece.joints.map((x) => x + across) } : {}),
    ...(piece.locks ? { locks: piece.locks.map((x) => x + across) } : {}),
    ...(piece.crowns ? { crowns: piece.crowns.map((x) => x + across) } : {}),
    covers: piece.covers.map((cover) => ({ ...cover, outline: cover.outline.map((point) => move(cover.facet, point)) })),
  };
  return {
    ...assembly,
    pieces: assembly.pieces.map((one) => (one === piece ? moved : one)),
    fasteners: assembly.fasteners.map((one) => (one.piece === piece.mark ? { ...one, at: move(one.facet, one.at) } : one)),
  };
}

/** All the steps of one wall as one piece, laid before the courses that lap on to it. Of what stands on a slope one side is named, or its first is meant. */
function oneLongPiece(assembly: Assembly, wall: string): Assembly | string {
  const walls = assembly.facets.filter(
    ({ id, kind, on, detail }) => kind === 'wall' && (detail === wall || id === `${on}/${wall}`),
  );
  const stepsOn = (facet: string): Piece[] =>
    assembly.pieces.filter(({ role, covers }) => isSidePiece(role) && covers.some((cover) => cover.facet === facet));
  const own = walls.find(({ id }) => stepsOn(id).length > 0);
  if (!own) return `There are no steps at ${wall}.`;
  const steps = stepsOn(own.id);
  const first = steps[0]!;
  const pitch = pitchOf(assembly, own.id);
  const covers = first.covers.flatMap((cover) => {
    if (cover.facet !== own.id && cover.facet !== own.on) return [];
    const all = steps.flatMap(({ covers: those }) =>
      those.filter(({ facet }) => facet === cover.facet).flatMap(({ outline }) => outline),
    );
    if (cover.facet !== own.id) return [{ ...cover, outline: boundsOf(all) }];
    const bounds = boundsOf(all.map((point) => wallToSlope(point, pitch)).map(({ s, u }) => [s, u] as const));
    return [{ ...cover, outline: bounds.map(([s, u]) => slopeToWall(s, u, pitch)) }];
  });
  const long: Piece = {
    ...first,
    mark: `${wall}-long`,
    covers,
    lay: inCourse({ orderAt: () => first.lay[1] }, 0, 'pastAll'),
    liesOn: [],
  };
  const left = without(assembly, (piece) => steps.includes(piece));
  return { ...left, pieces: [...left.pieces, long] };
}

function boundsOf(points: readonly (readonly [number, number])[]) {
  const xs = points.map(([x]) => x);
  const ys = points.map(([, y]) => y);
  return rectangle(Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys));
}

/** A strip laid over an apron's lower half and nailed through it, instead of adhered. */
function nailedStrip(assembly: Assembly, mark: string): Assembly | string {
  const apron = assembly.pieces.find((piece) => piece.mark === mark && (piece.role === 'apron' || piece.role === 'apronEnd'));
  if (!apron) return `${mark} is not an apron to lay a strip over.`;
  const cover = apron.covers[0]!;
  const [low, high] = [cover.outline[0]!, cover.outline[2]!];
  const top = (low[1] + high[1]) / 2;
  const strip: Piece = {
    mark: `${mark}-strip`,
    detail: apron.detail,
    role: apron.role,
    covers: [{ facet: cover.facet, outline: rectangle(low[0], low[1], high[0], top), holds: ['open'] }],
    lay: rightAfter(apron.lay, 0.5),
    liesOn: [mark],
    keys: [],
  };
  const nails = [0.25, 0.75].map((share) => ({
    piece: strip.mark,
    facet: cover.facet,
    at: [low[0] + (high[0] - low[0]) * share, (low[1] + top) / 2] as const,
    product: '',
    keptDry: 'covered' as const,
  }));
  return { ...assembly, pieces: [...assembly.pieces, strip], fasteners: [...assembly.fasteners, ...nails] };
}

/** Old felt left under the wall membrane: it sticks to the felt, and its upper edge is held by nothing. */
function onFelt(assembly: Assembly, wall: string): Assembly | string {
  const named = wallsNamed(assembly, wall);
  const membranes = assembly.pieces.filter((piece) => piece.role === 'wallMembrane' && stands(piece, named));
  if (membranes.length === 0) return `There is no membrane at ${wall}.`;
  const felts = membranes.map((piece): Piece => ({
    ...piece,
    mark: piece.mark.replace('-M', '-felt'),
    role: 'underlayment',
    sealsNails: false,
    // laid before everything else: it was there already
    lay: beforeAll(piece.lay[4], -1),
    liesOn: [],
    covers: piece.covers.map((cover) => ({
      ...cover,
      holds: cover.outline.map((_, i) => (holdOf(cover.holds, i) === 'letIn' ? ('letIn' as const) : ('open' as const))),
    })),
  }));
  const loose = assembly.pieces.map((piece) =>
    membranes.includes(piece)
      ? {
          ...piece,
          covers: piece.covers.map((cover) => ({
            ...cover,
            holds: cover.outline.map((_, i) => (holdOf(cover.holds, i) === 'letIn' ? ('open' as const) : holdOf(cover.holds, i))),
          })),
        }
      : piece,
  );
  return { ...assembly, pieces: [...felts, ...loose] };
}
