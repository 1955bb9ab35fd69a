import { type UnitSystem, printArea, printFlow, printLength, printMass } from '../units/index.ts';
import type { LayKey } from './lay.ts';
import type { Assembly, Crew, EdgeHold, Finding, Words } from './model.ts';

/** Compares two places in the order of laying; negative when `a` goes first. */
export function compareLay(a: LayKey, b: LayKey): number {
  for (let i = 0; i < a.length; i++) {
    const difference = a[i]! - b[i]!;
    if (difference !== 0) return difference;
  }
  return 0;
}

/** The order of laying; equal places by mark, so that it never depends on the order pieces come in. */
export const byLay = (a: { lay: LayKey; mark?: string }, b: { lay: LayKey; mark?: string }): number =>
  compareLay(a.lay, b.lay) || ((a.mark ?? '') < (b.mark ?? '') ? -1 : (a.mark ?? '') > (b.mark ?? '') ? 1 : 0);

/** Puts assemblies together, pieces and steps in the order of laying. Their marks must differ. */
export function assemble(parts: readonly Assembly[]): Assembly {
  // joined as whole lists: there are thousands of fasteners
  const all = <Key extends keyof Assembly>(key: Key) => ([] as Assembly[Key][number][]).concat(...parts.map((part) => part[key]));
  const pieces = all('pieces').sort(byLay);
  const seen = new Set<string>();
  for (const { mark } of pieces) {
    if (seen.has(mark)) throw new Error(`two pieces are marked ${mark}`);
    seen.add(mark);
  }
  return {
    facets: all('facets'),
    joints: all('joints'),
    pieces,
    fasteners: all('fasteners'),
    zones: all('zones'),
    steps: all('steps').sort(byLay),
    findings: all('findings'),
    panels: all('panels'),
    drifts: all('drifts'),
  };
}

/** Nothing that is laid, only something to be said of it. */
export const onlySaying = (finding: Finding): Assembly => ({ ...emptyAssembly, findings: [finding] });

/** The same, with its steps given to a crew. */
export const doneBy = (crew: Crew, assembly: Assembly): Assembly => ({
  ...assembly,
  steps: assembly.steps.map((step) => ({ ...step, crew })),
});

export const emptyAssembly: Assembly = {
  facets: [],
  joints: [],
  pieces: [],
  fasteners: [],
  zones: [],
  steps: [],
  findings: [],
  panels: [],
  drifts: [],
};

/** Drops references to pieces that were not made (a course wholly taken up by what stands on it, metal the catalog lacks): no link leads nowhere. */
export function withKnownMarks(assembly: Assembly): Assembly {
  const known = new Set(assembly.pieces.map(({ mark }) => mark));
  const isKnown = (mark: string): boolean => known.has(mark);
  return {
    ...assembly,
    pieces: assembly.pieces.map((piece) => ({ ...piece, liesOn: piece.liesOn.filter(isKnown) })),
    steps: assembly.steps.map((step) => ({ ...step, pieces: step.pieces.filter(isKnown) })),
    findings: assembly.findings.map(({ piece, ...finding }) =>
      piece !== undefined && isKnown(piece) ? { ...finding, piece } : finding,
    ),
  };
}

/** How edge `i` of a cover is held. */
export const holdOf = (holds: readonly EdgeHold[], i: number): EdgeHold => holds[i] ?? holds[0] ?? 'open';

/** Prints a sentence in the reader's units. */
export const printWords = (words: Words, system: UnitSystem): string =>
  words
    .map((part) => {
      if (typeof part === 'string') return part;
      if ('area' in part) return printArea(part.area, system, part.size);
      if ('kg' in part) return printMass(part.kg, system);
      return 'litres' in part
        ? printFlow(part.litres, system)
        : printLength(part.mm, system, part.inchesOnly ? { inchesOnly: true } : {});
    })
    .join('');

/** A flow in a sentence, from litres a minute. */
export const flow = (value: number): { litres: number } => ({ litres: value });

/** An opening for air in a sentence, square millimetres. */
export const netFree = (area: number): { area: number; size: 'opening' } => ({ area, size: 'opening' });

/** A figure in a sentence, printed in the reader's units. */
export const mm = (value: number): { mm: number } => ({ mm: value });

/** A figure in a sentence that stays in inches (strips, pieces, laps). */
export const cut = (value: number): { mm: number; inchesOnly: true } => ({ mm: value, inchesOnly: true });

/** Named in a row: `SK1`, `SK1 and SK2`, `SK1, SK2 and SK3`. */
export const listed = (names: readonly string[]): string =>
  names.length > 1 ? `${names.slice(0, -1).join(', ')} and ${names.at(-1)}` : names.join('');

/** In how many lengths a strip goes on: `1 length`, `3 lengths lapped 2"`. */
export const inLengths = (count: number, lap: number): Words =>
  count === 1 ? ['1 length'] : [`${count} lengths lapped `, cut(lap)];

/** The upright facets, by id. */
export const wallFacets = ({ facets }: Pick<Assembly, 'facets'>): ReadonlySet<string> =>
  new Set(facets.flatMap(({ id, kind }) => (kind === 'wall' ? [id] : [])));

/** The slope a facet is, or stands on. */
export const slopeOf = ({ facets }: Pick<Assembly, 'facets'>, facet: string): string =>
  facets.find(({ id }) => id === facet)?.on ?? facet;

/** The same, to be asked of many. */
export function slopesOf({ facets }: Pick<Assembly, 'facets'>): (facet: string) => string {
  const on = new Map(facets.map((facet) => [facet.id, facet.on]));
  return (facet) => on.get(facet) ?? facet;
}
