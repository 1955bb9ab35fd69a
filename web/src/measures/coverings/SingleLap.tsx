import { andHalfFor, isTileAndHalf, itemsOf } from '#core';
import { ChoiceField } from '../fields.tsx';
import type { CoveringForm } from './form.ts';
import { halves } from './halves.ts';

const offered = ({ tile, tileAndHalf }: CoveringForm<'singleLap'>['covering']) => halves(tile, tileAndHalf, isTileAndHalf);

/** Tiles that lap once. */
export const SingleLapFields = ({ covering, at, catalog, fields, options }: CoveringForm<'singleLap'>) => (
  <>
    <ChoiceField
      label="Tile"
      rule="tile.headlap"
      value={covering.tile}
      options={options('tile', offered(covering).unit)}
      set={(draft, tile) =>
        void Object.assign(at(draft), { tile, tileAndHalf: andHalfFor(itemsOf(catalog, 'tile'), tile, isTileAndHalf) })
      }
    />
    {fields.openChoice('tileAndHalf', 'Tile and a half', options('tile', offered(covering).andHalf), 'None to be had')}
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
