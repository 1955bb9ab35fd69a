import { type Piece, type Step, cut, inStarter, laid, piecesOf } from '../../assembly/index.ts';
import { type ItemOf, itemById } from '../../catalog/index.ts';
import { coveringOfKind } from '../../document/index.ts';
import { rectangle } from '../../roof/index.ts';
import { leastOf } from '../../rules/index.ts';
import { type Patch, type PlaneContext, onPlane, patchesRound, rakeStretches, spansOf } from '../../slope/index.ts';
import { STARTER_MARK, buttLine } from '../../surface/index.ts';
import { LINE_TOLERANCE } from '../../units/index.ts';

export function planStarter(context: PlaneContext, gap: number): Piece[] {
  const { catalog, plane, lines } = context;
  const starter = itemById(catalog, 'starter', coveringOfKind(context, 'strip').starter);
  const y0 = buttLine(lines, 1);
  const eaves = plane.edges.filter(({ kind }) => kind === 'eave');
  const eave = eaves.flatMap(({ from, to }) =>
    patchesRound({ x0: from[0], x1: to[0], y0, y1: Math.min(y0 + starter.height, lines.end) }, context.blocks, gap),
  );
  const piece = (mark: string, patches: readonly Patch[], run: number, rank: number, liesOn: string[]): Piece => {
    const whole = Math.floor((run + LINE_TOLERANCE) / starter.width);
    const rest = run - whole * starter.width;
    return {
      mark,
      detail: 'covering',
      role: 'starter',
      product: starter.id,
      course: 0,
      covers: patches
        .flatMap((patch) => onPlane(plane, rectangle(patch.x0, patch.y0, patch.x1, patch.y1), context.openingsAt(0)))
        .map((outline) => ({ facet: context.facet, outline, holds: ['open'] })),
      lay: inStarter(context, rank),
      liesOn,
      units: { whole, parts: rest > LINE_TOLERANCE ? [rest] : [] },
      keys: [],
    };
  };
  const pieces: Piece[] = [];
  if (eave.length > 0)
    pieces.push(
      piece(
        STARTER_MARK,
        eave,
        spansOf(eave).reduce((sum, [a, b]) => sum + b - a, 0),
        0,
        [],
      ),
    );
  for (const side of ['left', 'right'] as const) {
    const stretches = rakeStretches(context, side);
    if (stretches.length === 0) continue;
    const patches = stretches
      .map(({ x, from, to }) => ({
        x0: side === 'left' ? x : Math.max(0, x - starter.height),
        x1: side === 'left' ? Math.min(plane.eaveLength, x + starter.height) : x,
        y0: eave.length > 0 ? Math.max(from, y0 + starter.height) : from,
        y1: to,
      }))
      .filter((patch) => patch.y1 > patch.y0);
    if (patches.length > 0)
      pieces.push(
        piece(
          `${STARTER_MARK}-${side === 'left' ? 'L' : 'R'}`,
          patches,
          patches.reduce((sum, { y0, y1 }) => sum + y1 - y0, 0),
          0.5,
          [STARTER_MARK],
        ),
      );
  }
  return pieces;
}

export function starterStep(context: PlaneContext, starters: readonly Piece[], nail: ItemOf<'nail'> | undefined): Step {
  const each = leastOf(context.rules, 'starter.nails');
  const count = each * starters.reduce((sum, { units }) => sum + (units?.whole ?? 0) + (units?.parts.length ?? 0), 0);
  const alongEave = starters.some(({ mark }) => mark === STARTER_MARK);
  return laid(starters, {
    course: 0,
    stage: 'covering',
    action: alongEave
      ? [
          'Lay the starter along the eave and the rakes, sealing strip outwards, ',
          cut(-context.lines.first),
          ' past the deck edge; joints off those of course 1.',
        ]
      : ['Lay the starter along the rake, sealing strip outwards.'],
    fasteners: [
      `${count} nails, ${each} to a starter, just above the ${alongEave ? 'eave edge where course 1 covers' : 'rake edge where the courses cover'} them`,
    ],
    uses: [piecesOf(nail, 'roofing nail', count)],
    people: 1,
    caution: 'Tie off; nothing loose above the ladder.',
    keys: ['covering.firstButt', 'starter.nails'],
  });
}
