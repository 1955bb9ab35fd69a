import { type FigurePanel, type Piece, type Plan, ROLES, type RunLine, distanceToStretch, isSidePiece, shortMarks } from '#core';
import { type Fold, folded } from './fold.ts';

/** One picture of how a detail is built up: the lines of the run sheet it shows done, and what is new in it. */
export type Frame = { readonly lines: readonly RunLine[]; readonly fresh: readonly Piece[]; readonly words: string };

/** Of what comes course after course so many are shown one by one, and the rest in one picture. */
const ONE_BY_ONE = 3;

/** How near a valley's centre a course belongs to it. */
const IN_VALLEY = 75;

/** The pictures of a detail, in the order of laying: what is laid at it, one line after another, as far as its drawing goes. */
export function framesOf(plan: Plan, panel: FigurePanel, folds: ReadonlyMap<string, Fold>): Frame[] {
  const { x0, x1, y0, y1 } = panel.window;
  const isSeen = (piece: Piece): boolean =>
    folded(folds, piece.covers).some((outline) => outline.some(([x, y]) => x > x0 && x < x1 && y > y0 && y < y1));
  const valley = plan.valleys.find(({ id }) => panel.family === 'valley' && id === panel.detail);
  const line = valley && plan.joints.find(({ kind, a, b }) => kind === 'valley' && a === valley.a && b === valley.b);
  // the courses that meet in a valley are its work as much as the sheet in it
  const meets = ({ role, covers }: Piece): boolean =>
    line !== undefined &&
    role === 'course' &&
    (covers[0]!.facet === line.a || covers[0]!.facet === line.b) &&
    covers.some(({ facet, outline }) => {
      const on = facet === line.a ? line.onA : facet === line.b ? line.onB : undefined;
      return on !== undefined && outline.some((at) => distanceToStretch(at, ...on) < IN_VALLEY);
    });
  const own = new Map(
    plan.pieces
      .filter((piece) => (piece.detail === panel.detail || meets(piece)) && isSeen(piece))
      .map((piece) => [piece.mark, piece]),
  );
  const frames: { lines: RunLine[]; fresh: Piece[]; kind: string }[] = [];
  for (const one of plan.runSheet.flatMap(({ lines }) => lines)) {
    const fresh = one.pieces.flatMap((mark) => own.get(mark) ?? []);
    if (fresh.length === 0) continue;
    const repeats = fresh.every(({ role }) => isSidePiece(role) || role === 'counter' || role === 'course');
    const kind = repeats ? `${one.plane} ${fresh[0]!.role}` : '';
    const alike = frames.filter((frame) => kind !== '' && frame.kind === kind);
    const last = alike.at(-1);
    if (last && alike.length > ONE_BY_ONE) {
      // shown where the last of them is laid
      frames.splice(frames.indexOf(last), 1);
      frames.push({ lines: [...last.lines, one], fresh: [...last.fresh, ...fresh], kind });
    } else frames.push({ lines: [one], fresh, kind });
  }
  return frames.map(({ lines, fresh }) => ({ lines, fresh, words: wordsOf(fresh) }));
}

/** `apron CH1F-A1`, `step flashing CH1L-04 to 06 and CH1R-04 to 06`. */
function wordsOf(fresh: readonly Piece[]): string {
  const roles = [...new Set(fresh.map(({ role }) => ROLES[role].name))];
  return roles
    .map((name) => `${name} ${shortMarks(fresh.filter(({ role }) => ROLES[role].name === name).map(({ mark }) => mark))}`)
    .join(', ');
}
