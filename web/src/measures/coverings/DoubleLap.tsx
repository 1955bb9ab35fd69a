import { isSlateAndHalf, slateAndHalfFor } from '#core';
import { ChoiceField } from '../fields.tsx';
import type { CoveringForm } from './form.ts';

/** Slates and plain tiles. */
export const DoubleLapFields = ({ covering, at, catalog, fields, options }: CoveringForm<'doubleLap'>) => (
  <>
    <ChoiceField
      label="Slate"
      rule="covering.headlap"
      value={covering.slate}
      options={options('slate', (item, _, all) => item.id === covering.slate || !all.some((one) => isSlateAndHalf(one, item)))}
      set={(draft, slate) => void Object.assign(at(draft), { slate, slateAndHalf: slateAndHalfFor(catalog, slate) })}
    />
    {fields.openChoice(
      'slateAndHalf',
      'Slate and a half',
      options(
        'slate',
        (item, _, all) =>
          item.id === covering.slateAndHalf || all.some((one) => one.id === covering.slate && isSlateAndHalf(one, item)),
      ),
      'None to be had',
    )}
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
