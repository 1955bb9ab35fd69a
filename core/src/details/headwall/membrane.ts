import {
  type Assembly,
  type LayKey,
  type Piece,
  cut,
  cutRun,
  emptyAssembly,
  laid,
  masonryAbove,
  mm,
  wrap,
  wrapAtTop,
} from '../../assembly/index.ts';
import { rectangle } from '../../roof/index.ts';
import { leastOf } from '../../rules/index.ts';
import { type Front, type PlaneContext, foldedRound, frontFacet, wrapSheet } from '../../slope/index.ts';

/** What a front belongs to: a chimney's or dormer's front carries its mark and an F. */
export const ownerOf = (front: Front): string => front.id.replace(/F$/, '');

/** The outside corners that piece `i` of `count` along a front reaches. */
const cornersOf = ({ left, right }: Front, i: number, count: number): (1 | -1)[] => [
  ...(left === 'corner' && i === 0 ? ([-1] as const) : []),
  ...(right === 'corner' && i === count - 1 ? ([1] as const) : []),
];

/** Among the lines of an opened wall, after its backup wall is coated. */
const AFTER_OPENING = 2;

export function planMembrane(context: PlaneContext, front: Front): Assembly {
  const { rules, covering } = context;
  const sheet = wrapSheet(context);
  const { product } = sheet;
  const deck = leastOf(rules, 'wallMembrane.deck');
  const up = Math.min(leastOf(rules, 'wallMembrane.up'), front.height);
  const past = (end: Front['left']): number => (end === 'corner' ? deck : 0);
  const [x0, x1] = [front.x0 - past(front.left), front.x1 + past(front.right)];
  const endLap = leastOf(rules, 'iceBarrier.endLap');
  const stock = Math.min(covering.underlayers.longestStrip ?? product.rollLength, product.rollLength);
  // under the wall at a slope's top it goes over all the underlayment; where the masonry is opened first, after that
  const isAtTop = front.y > context.lines.end - 1;
  const told = context.found.feature(front.id);
  const isOpened = told?.kind === 'headwall' && told.counter === 'through-wall';
  const layOf = (i: number): LayKey => {
    if (isOpened) return masonryAbove(context, front.x0, AFTER_OPENING + i);
    return isAtTop ? wrapAtTop(context, front.x0 + i) : wrap(context, front.y, 'bottom', front.x0 + i);
  };
  const pieces = cutRun(x1 - x0, stock, endLap).map((stretch, i, all): Piece => ({
    mark: `${front.id}-M${i + 1}`,
    detail: ownerOf(front),
    role: 'wallMembrane',
    product: product.id,
    covers: [
      {
        facet: context.facet,
        outline: rectangle(x0 + stretch.from, front.y - deck, x0 + stretch.to, front.y),
        holds: [sheet.onDeck],
      },
      {
        facet: frontFacet(context, front),
        outline: rectangle(Math.max(front.x0, x0 + stretch.from), 0, Math.min(front.x1, x0 + stretch.to), up),
        holds: sheet.onWall,
      },
      ...foldedRound(context, {
        owner: ownerOf(front),
        end: 'front',
        sides: cornersOf(front, i, all.length),
        reach: deck,
        low: 0,
        high: up,
        holds: sheet.onWall,
      }),
    ],
    lay: layOf(i / 1000),
    liesOn: i === 0 ? [] : [`${front.id}-M${i}`],
    cutLength: stretch.to - stretch.from,
    sheetWidth: deck + up,
    ...sheet.seals,
    keys: ['wallMembrane.up', 'wallMembrane.deck'],
  }));
  return {
    ...emptyAssembly,
    pieces,
    steps: [
      laid(pieces, {
        stage: 'dry-in',
        action: [
          `${front.name}: ${sheet.onDeck === 'bonded' ? 'stick the membrane, ' : `turn up ${sheet.name}, `}`,
          ...(front.left === 'corner' ? ['bottom strip first, '] : []),
          cut(deck),
          sheet.onDeck === 'bonded' ? ' on to the deck and ' : ' on to the slope and ',
          cut(up),
          ' up the wall, ',
          mm(x1 - x0),
          ' long',
          ...(front.left === 'corner' ? [', corners folded, no cut into the corner itself.'] : ['.']),
        ],
        people: 1,
        // what is wrapped all round is seen whole, when its top is on
        ...(front.left === 'corner'
          ? {}
          : {
              holdPoint: sheet.onDeck === 'bonded' ? 'membrane turned up the wall and stuck' : 'sheet turned up the wall',
            }),
        keys: ['wallMembrane.up', 'wallMembrane.deck'],
      }),
    ],
  };
}
