import type { Covering, CoveringKind } from '../document/index.ts';
import type { CoveringFamily } from '../slope/index.ts';
import { doubleLap } from './doubleLap/index.ts';
import { shake } from './shake/index.ts';
import { strip } from './strip/index.ts';
import { singleLap } from './tile/index.ts';

/** Every kind of covering; a new one is a folder beside these and a line here. */
const COVERINGS: Record<CoveringKind, CoveringFamily> = { strip, doubleLap, shake, singleLap };

/** The family that lays a covering. */
export const familyOf = ({ kind }: Pick<Covering, 'kind'>): CoveringFamily => COVERINGS[kind];
