import { type Assembly, assemble, doneBy } from '../../assembly/index.ts';
import type { PlaneContext } from '../../slope/index.ts';
import { planChimneyBack } from './behind.ts';
import { planFront } from './level.ts';
import { planReglet } from './reglet.ts';
import { planStepped } from './stepped.ts';

/** What is let into masonry over base flashing, wall by wall: stepped in the joints, in a straight reglet, or the old one made good. */
export const planCounterflashing = (context: PlaneContext): Assembly =>
  doneBy(
    'masons',
    assemble([
      ...context.walls
        .filter(({ cladding }) => cladding === 'masonry')
        .map((wall) =>
          wall.counter === 'stepped' || wall.counter === 'trays' ? planStepped(context, wall) : planReglet(context, wall),
        ),
      ...context.fronts
        .filter(({ cladding, counter }) => cladding === 'masonry' && counter !== 'through-wall')
        .map((front) => planFront(context, front)),
      ...context.features.flatMap((feature) =>
        feature.kind === 'chimney' && feature.masonry ? [planChimneyBack(context, feature.id)] : [],
      ),
    ]),
  );
