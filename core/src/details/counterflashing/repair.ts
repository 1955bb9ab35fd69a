import { type Step, coat, cut, lengths, piecesOf, rightAfter } from '../../assembly/index.ts';
import { chooseNail, coatingFor, itemsOf } from '../../catalog/index.ts';
import type { PlaneContext } from '../../slope/index.ts';
import { inches, stepsToReach } from '../../units/index.ts';
import { MASONRY_CAUTION, jointSealant } from './masonry.ts';

/** Masonry fasteners stand no further apart, and reach so far into it (trade practice). */
const MASONRY_APART = inches(12);
const INTO_MASONRY = inches(1);

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
  const fastener = chooseNail(context.catalog, 'masonry', INTO_MASONRY + inches(1 / 8));
  const count = stepsToReach(run, MASONRY_APART) + 1;
  const at = (rank: number): Step['lay'] => rightAfter(lay, rank / 100);
  return [
    {
      lay: at(0),
      detail,
      stage: 'finish',
      action: [
        `${name}: grind paint and old silicone off the existing counterflashing and the wall above it, to bare mineral surface; nothing holds over them.`,
      ],
      pieces: marks,
      people: 1,
      caution: MASONRY_CAUTION,
      holdPoint: 'bare, clean mineral surface',
      keys: ['counterflashing.cover'],
    },
    {
      lay: at(1),
      detail,
      stage: 'finish',
      action: [`${name}: refix it where it stands, tight to the wall.`],
      pieces: [],
      fasteners: [
        `${count} masonry fasteners along its upper edge, at most `,
        cut(MASONRY_APART),
        ' apart, ',
        cut(INTO_MASONRY),
        ' into the masonry',
      ],
      uses: [piecesOf(fastener, 'masonry fastener', count)],
      people: 1,
      keys: [],
    },
    {
      lay: at(2),
      detail,
      stage: 'finish',
      action: [`${name}: work polyurethane into the joint with a gloved finger, off the band the coating must grip.`],
      pieces: [],
      uses: [jointSealant(context, run)],
      people: 1,
      holdPoint: 'joint filled, the band above it clean',
      keys: ['counterflashing.wedges'],
    },
    {
      lay: at(3),
      detail,
      stage: 'finish',
      action: [
        `${name}: brush on the liquid membrane, bed the fabric wet, coat it again; paint only when cured. On a damp wall use a coating rated for damp, a short strip first.`,
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
