import { type Step, coat, lengths, rightAfter } from '../../assembly/index.ts';
import { coatingFor, itemsOf } from '../../catalog/index.ts';
import type { PlaneContext } from '../../slope/index.ts';
import { inches } from '../../units/index.ts';
import { MASONRY_CAUTION, jointSealant } from './masonry.ts';

/** An existing loose counterflashing: bare mineral surface, refixed, sealant kept off the band the coating must grip, coated twice. */
export function repairSteps(
  context: PlaneContext,
  name: string,
  detail: string,
  marks: readonly string[],
  run: number,
  lay: Step['lay'],
): Step[] {
  const cloth = itemsOf(context.catalog, 'fabric')[0];
  const width = cloth?.width ?? inches(6);
  const at = (rank: number): Step['lay'] => rightAfter(lay, rank / 100);
  return [
    {
      lay: at(0),
      detail,
      stage: 'finish',
      action: [
        `${name}: paint and old silicone off the existing counterflashing and the wall above it, ground to bare mineral surface; nothing holds over paint or silicone.`,
      ],
      pieces: marks,
      people: 1,
      caution: MASONRY_CAUTION,
      holdPoint: 'Bare, clean mineral surface seen',
      keys: ['counterflashing.cover'],
    },
    {
      lay: at(1),
      detail,
      stage: 'finish',
      action: [
        `${name}: refix it with masonry fasteners at intervals; polyurethane worked into the joint with a gloved finger, kept off the band the coating must grip.`,
      ],
      pieces: [],
      uses: [jointSealant(context, run)],
      people: 1,
      holdPoint: 'Joint filled, the band above it clean',
      keys: ['counterflashing.wedges'],
    },
    {
      lay: at(2),
      detail,
      stage: 'finish',
      action: [
        `${name}: liquid membrane brushed on, fabric bedded wet, coated again; paint only when cured. A damp wall needs a coating rated for damp: try a short strip first.`,
      ],
      pieces: [],
      // two coats
      uses: [
        coat(coatingFor(context.catalog, 'liquid membrane'), 'liquid membrane', 2 * run * width),
        lengths(cloth, 'membrane fabric', [run]),
      ],
      wait: 'membrane cured before it is painted',
      people: 1,
      caution: 'Solvent: gloves, air, no flame. If the wall above is wet, this will not cure the leak.',
      keys: [],
    },
  ];
}
