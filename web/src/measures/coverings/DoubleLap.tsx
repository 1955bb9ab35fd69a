import type { CoveringForm } from './form.ts';

/** Slates and plain tiles. */
export const DoubleLapFields = ({ covering, fields, options }: CoveringForm<'doubleLap'>) => (
  <>
    {fields.choice('slate', 'Slate', options('slate'), { rule: 'covering.headlap' })}
    {fields.openChoice('slateAndHalf', 'Slate and a half', options('slate'), 'None to be had')}
    {fields.length('gauge', 'Gauge', { rule: 'covering.headlap', optional: 'By the courses that fill the slope' })}
    {fields.length('overhang', 'First tails past the eave', { rule: 'covering.firstButt' })}
    {fields.openChoice('batten', 'Battens', options('batten'), 'Nailed to the deck')}
    {fields.choice(
      'ridge',
      'Ridge',
      options('ridgeCap', (item) => item.for === 'slate'),
    )}
    {covering.batten === null && fields.length('deckThickness', 'Deck sheathing')}
  </>
);
