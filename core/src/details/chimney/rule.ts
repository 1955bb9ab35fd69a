import { type Requirements, mostOf } from '../../rules/index.ts';

/** Does the code ask for a cricket behind something this wide across the slope? Over 30 in; exactly 30 in does not. */
export const isRequiredCricket = (rules: Requirements, width: number): boolean =>
  width > mostOf(rules, 'chimney.cricketOver') + 1e-6;
