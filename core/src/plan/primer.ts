import { type Assembly, type Piece, type Step, byLay, coat, isThere, rightBefore, slopesOf } from '../assembly/index.ts';
import { coatingFor, findItem } from '../catalog/index.ts';
import type { Library } from '../document/index.ts';
import { outlineArea } from '../roof/index.ts';
import type { PlaneContext } from '../slope/index.ts';

/**
 * Masonry is primed where self-adhered sheet turns up it, as the sheet's maker asks: one line for all faces of a chimney or wall, before the first
 * strip that goes up it.
 */
export function primerSteps(assembly: Assembly, contexts: readonly PlaneContext[], { catalog }: Library): Step[] {
  const masonry = new Set(
    assembly.pieces.filter(({ lay }) => isThere(lay)).flatMap(({ covers }) => covers.map(({ facet }) => facet)),
  );
  const names = new Map(
    contexts.flatMap(({ features, walls, fronts }) =>
      [...fronts, ...walls, ...features].map(({ id, name }) => [id, name] as const),
    ),
  );
  const up = new Map<string, { first: Piece; facet: string; area: number }>();
  for (const piece of [...assembly.pieces].sort(byLay)) {
    if (piece.product === undefined || !findItem(catalog, 'iceBarrier', piece.product)) continue;
    for (const { facet, outline } of piece.covers) {
      if (!masonry.has(facet)) continue;
      const known = up.get(piece.detail) ?? { first: piece, facet, area: 0 };
      up.set(piece.detail, { ...known, area: known.area + Math.abs(outlineArea(outline)) });
    }
  }
  const slopeOn = slopesOf(assembly);
  const primer = coatingFor(catalog, 'primer');
  return [...up].map(([detail, { first, facet, area }]): Step => {
    const sheet = findItem(catalog, 'iceBarrier', first.product!)!;
    return {
      lay: rightBefore(first.lay),
      plane: slopeOn(facet),
      detail,
      stage: 'dry-in',
      action: [
        `${names.get(detail) ?? detail}: brush the masonry clean where the membrane turns up it, `,
        { area },
        `, and prime it. ${sheet.name}: ${sheet.primer}.`,
      ],
      pieces: [],
      uses: [coat(primer, 'membrane primer', area)],
      wait: 'primer dry to the touch, by its label',
      people: 1,
      caution: 'Solvent: gloves, air, no flame.',
      holdPoint: 'masonry bare, dry and primed as high as the membrane goes',
      keys: [],
    };
  });
}
