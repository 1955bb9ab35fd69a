import type { CoveringForm } from './form.ts';

/** Split wood shakes. */
export const ShakeFields = ({ fields, options }: CoveringForm<'shake'>) => (
  <>
    {fields.choice('shake', 'Shake', options('shake'))}
    {fields.length('exposure', 'Exposure', { rule: 'covering.exposure', optional: 'The greatest allowed' })}
    {fields.length('firstButt', 'First butt past the deck edge', { rule: 'covering.firstButt' })}
    {fields.choice('interlay', 'Felt between the courses', options('interlay'))}
    {fields.choice(
      'ridgeCap',
      'Ridge units',
      options('ridgeCap', (item) => item.for === 'shake'),
    )}
    {fields.length('deckThickness', 'Deck sheathing')}
  </>
);
