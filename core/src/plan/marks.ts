import type { Assembly } from '../assembly/index.ts';
import type { Plane } from '../document/index.ts';

/** Short marks of slopes, put before the marks of what is laid on them where a roof has several: `N-C14`. */
export function planeMarks(planes: readonly Plane[]): Map<string, string> {
  if (planes.length === 1) return new Map([[planes[0]!.id, '']]);
  const used = new Set<string>();
  return new Map(
    planes.map(({ id }) => {
      const initials = id
        .split('-')
        .map((part) => part[0]!.toUpperCase())
        .join('');
      let mark = initials;
      for (let i = 2; used.has(mark); i++) mark = `${initials}${i}`;
      used.add(mark);
      return [id, `${mark}-`];
    }),
  );
}

/** Marks of courses and underlayers are alike on every slope until they get their slope's mark. */
export function markedFor(assembly: Assembly, plane: string, mark: string): Assembly {
  if (mark === '') return { ...assembly, steps: assembly.steps.map((step) => ({ ...step, plane })) };
  const own = new Map(
    assembly.pieces
      .filter(({ detail }) => detail === 'covering' || detail === 'underlayers')
      .map(({ mark: name }) => [name, `${mark}${name}`]),
  );
  const named = (name: string): string => own.get(name) ?? name;
  const zone = (one: Assembly['zones'][number]) => (one.piece === undefined ? one : { ...one, piece: named(one.piece) });
  return {
    ...assembly,
    pieces: assembly.pieces.map((piece) => ({ ...piece, mark: named(piece.mark), liesOn: piece.liesOn.map(named) })),
    fasteners: assembly.fasteners.map((one) => ({ ...one, piece: named(one.piece) })),
    zones: assembly.zones.map(zone),
    steps: assembly.steps.map((step) => ({ ...step, plane, pieces: step.pieces.map(named) })),
    findings: assembly.findings.map((one) => (one.piece === undefined ? one : { ...one, piece: named(one.piece) })),
  };
}
