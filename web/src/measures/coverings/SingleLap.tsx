import { isTileAndHalf, tileAndHalfFor } from '#core';
import { ChoiceField } from '../fields.tsx';
import type { CoveringForm } from './form.ts';

/** Tiles that lap once. */
export const SingleLapFields = ({ covering, at, catalog, fields, options }: CoveringForm<'singleLap'>) => (
  <>
    <ChoiceField
      label="Tile"
      rule="tile.headlap"
      value={covering.tile}
      options={options('tile', (item, _, all) => item.id === covering.tile || !all.some((one) => isTileAndHalf(one, item)))}
      set={(draft, tile) => void Object.assign(at(draft), { tile, tileAndHalf: tileAndHalfFor(catalog, tile) })}
    />
    {fields.openChoice(
      'tileAndHalf',
      'Tile and a half',
      options(
        'tile',
        (item, _, all) =>
          item.id === covering.tileAndHalf || all.some((one) => one.id === covering.tile && isTileAndHalf(one, item)),
      ),
      'None to be had',
    )}
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
