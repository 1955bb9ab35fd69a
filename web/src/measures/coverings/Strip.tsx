import type { CoveringForm } from './form.ts';

/** Shingles in strips. */
export const StripFields = ({ fields, options }: CoveringForm<'strip'>) => (
  <>
    {fields.choice('shingle', 'Shingle', options('shingle'))}
    {fields.length('exposure', 'Exposure', { rule: 'covering.exposure', optional: 'The greatest allowed' })}
    {fields.length('firstButt', 'First butt past the deck edge', { rule: 'covering.firstButt' })}
    {fields.choice('starter', 'Starter', options('starter'))}
    {fields.choice(
      'ridgeCap',
      'Ridge cap',
      options('ridgeCap', (item) => item.for === 'shingle'),
    )}
    {fields.length('deckThickness', 'Deck sheathing')}
  </>
);
