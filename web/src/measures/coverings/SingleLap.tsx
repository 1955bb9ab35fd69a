import type { CoveringForm } from './form.ts';

/** Tiles that lap once. */
export const SingleLapFields = ({ fields, options }: CoveringForm<'singleLap'>) => (
  <>
    {fields.choice('tile', 'Tile', options('tile'), { rule: 'tile.headlap' })}
    {fields.openChoice('tileAndHalf', 'Tile and a half', options('tile'), 'None to be had')}
    {fields.length('gauge', 'Gauge', { rule: 'tile.headlap', optional: 'By the courses that fill the slope' })}
    {fields.length('overhang', 'First tails past the eave', { rule: 'covering.firstButt' })}
    {fields.length('topBatten', 'Top batten’s upper edge below the top')}
    {fields.either('bearing', 'The sheet lies on', { rafters: 'rafters, no deck', deck: 'a solid deck' })}
    {fields.choice('batten', 'Battens', options('batten'))}
    {fields.choice('battenLay', 'Battens are set', {
      straight: 'Straight on the sheet',
      'drip gaps': 'In short lengths with drip gaps',
      'counter-battens': 'On counter-battens',
    })}
    {fields.either('ridgeSet', 'Ridge tiles', { dry: 'dry, clamped', bedded: 'in mortar' })}
    {fields.choice(
      'ridge',
      'Ridge',
      options('ridgeCap', (item) => item.for === 'tile'),
    )}
  </>
);
