import { type Assembly, assemble } from '../../assembly/index.ts';
import type { PlaneContext } from '../../slope/index.ts';
import { planBack } from './back.ts';

/** The back of every chimney: membrane, pan or cricket. Its front, sides and counterflashing are planned with the walls. */
export const planChimneys = (context: PlaneContext): Assembly =>
  assemble(context.features.flatMap((feature) => (feature.kind === 'chimney' ? [planBack(context, feature)] : [])));
