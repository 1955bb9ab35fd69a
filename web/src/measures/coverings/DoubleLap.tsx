import { andHalfFor, isSlateAndHalf, itemsOf } from '#core';
import { ChoiceField } from '../fields.tsx';
import type { CoveringForm } from './form.ts';
import { halves } from './halves.ts';

const offered = ({ slate, slateAndHalf }: CoveringForm<'doubleLap'>['covering']) => halves(slate, slateAndHalf, isSlateAndHalf);

/** Slates and plain tiles. */
export const DoubleLapFields = ({ covering, at, catalog, fields, options }: CoveringForm<'doubleLap'>) => (
  <>
    <ChoiceField
      label="Slate"
      rule="covering.headlap"
      value={covering.slate}
      options={options('slate', offered(covering).unit)}
      set={(draft, slate) =>
        void Object.assign(at(draft), { slate, slateAndHalf: andHalfFor(itemsOf(catalog, 'slate'), slate, isSlateAndHalf) })
      }
    />
    {fields.openChoice('slateAndHalf', 'Slate and a half', options('slate', offered(covering).andHalf), 'None to be had')}
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
