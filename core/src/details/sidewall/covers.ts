import { type Assembly, emptyAssembly, laid } from '../../assembly/index.ts';
import {
  type PlacedWall,
  type PlaneContext,
  type SidePiece,
  claddingWords,
  clipsAlong,
  coverPieces,
  coverWords,
} from '../../slope/index.ts';

/** Cover flashing over the tiles beside a wall, in lengths, its other leg straight up the wall, where cladding or counterflashing goes over it. */
export function planCovers(context: PlaneContext, wall: PlacedWall, item: SidePiece): Assembly {
  const pieces = coverPieces(context, wall, item);
  const clips = clipsAlong(context, Math.min(wall.to, context.lines.end) - wall.from);
  const over =
    wall.cladding === 'masonry'
      ? 'counterflashing'
      : wall.cladding === 'frame'
        ? 'the frame’s own cladding'
        : claddingWords(context, wall.cladding);
  return {
    ...emptyAssembly,
    pieces,
    steps: [
      laid(pieces, {
        ...(wall.to >= context.lines.end - 1 ? { course: context.lines.count } : {}),
        stage: 'covering',
        action: [
          `${wall.name}: dress cover flashing`,
          ...coverWords(context, wall, item, pieces),
          `; its upstand goes behind ${over}.`,
        ],
        ...clips,
        people: 1,
        ...(context.covering.metal === 'lead' ? { caution: 'Lead: gloves, wash before eating.' } : {}),
        holdPoint: context.surface.crowns ? 'free edge past a crown all the way up' : 'free edge tight to the tiles',
        keys: ['cover.roofLeg', 'cover.clips'],
      }),
    ],
  };
}
