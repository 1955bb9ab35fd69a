import { type Assembly, type Piece, type Step, cut, emptyAssembly, laid, upWall, wrap, wrapAtTop } from '../../assembly/index.ts';
import { type RuleKey, leastOf } from '../../rules/index.ts';
import { isSlanted } from '../../document/index.ts';
import {
  type PlacedWall,
  type PlaneContext,
  alongWall,
  cutBeside,
  detailOf,
  setAgainst,
  onWall,
  wallFacetId,
  wrapSheet,
  takesWater,
} from '../../slope/index.ts';
import { inches } from '../../units/index.ts';
import { besideWall } from './side.ts';

export function planMembrane(context: PlaneContext, wall: PlacedWall): Assembly {
  const { rules, covering } = context;
  const sheet = wrapSheet(context);
  const { product } = sheet;
  const deck = leastOf(rules, 'wallMembrane.deck');
  const up = leastOf(rules, 'wallMembrane.up');
  // on masonry the sheet must end under the counterflashing; behind a drainage layer it may go as high as half a roll reaches
  const half = product.width / 2;
  const width = wall.cladding === 'masonry' || wall.cladding === 'frame' ? deck + up : half >= deck + up ? half : product.width;
  const turned = Math.min(width - deck, wall.height);
  // round a frame the side strips lap on to the bottom one and run past the top, where the top strip goes over them
  const start = wall.partOf ? Math.max(0, wall.from - deck) : wall.from > 0 ? Math.max(0, wall.from - wall.apronLeg) : 0;
  const end = wall.partOf ? Math.min(wall.to + deck, context.lines.end) : wall.to;
  const endLap = leastOf(rules, 'iceBarrier.endLap');
  const keys: RuleKey[] = ['wallMembrane.up', 'wallMembrane.deck', 'iceBarrier.endLap'];
  // where a wall at an angle leads water away from it the strip goes over the rows: what runs down the wall would leave it under them
  const overRows = isSlanted(wall) && !takesWater(wall);
  const longest = Math.min(covering.underlayers.longestStrip ?? product.rollLength, product.rollLength);
  const pieces = cutBeside(wall, end - start, longest, endLap).map((stretch, i): Piece => {
    const [y0, y1] = [start + stretch.from, start + stretch.to];
    return {
      mark: `${wall.id}-M${i + 1}`,
      detail: detailOf(wall),
      role: 'wallMembrane',
      product: product.id,
      covers: [
        { facet: context.facet, outline: besideWall(wall, deck, y0, y1), holds: [sheet.onDeck] },
        {
          facet: wallFacetId(context, wall),
          outline: onWall(context, wall, Math.max(y0, wall.from), Math.min(y1, wall.to), 0, turned),
          holds: sheet.onWall,
        },
      ],
      // a frame's upper strip comes after its lower one, and before what goes over both
      lay: wall.partOf
        ? wrap(context, wall.from, 'sides', wall.x + i / 1000)
        : overRows
          ? wrapAtTop(context, wall.x + i / 1000)
          : upWall(context, wall.x, y0),
      liesOn: i === 0 ? ['IB1-1'] : [`${wall.id}-M${i}`],
      cutLength: (stretch.to - stretch.from) * alongWall(wall),
      sheetWidth: width,
      ...sheet.seals,
      keys,
    };
  });
  const against = setAgainst(wall);
  const step: Step = laid(pieces, {
    stage: 'dry-in',
    action: [
      `${wall.name}: ${sheet.onDeck === 'bonded' ? 'stick' : 'turn up'} ${sheet.name} ${wall.partOf ? 'over the bottom one' : 'from the eave up'}, ${width === half ? 'half a roll wide (' : width === product.width ? 'a full roll wide (' : 'cut to width ('}`,
      cut(width),
      '), ',
      cut(deck),
      sheet.onDeck === 'bonded' ? ' on to the deck and ' : ' on to the slope and ',
      cut(turned),
      ...(pieces.length === 1
        ? [` up the ${against}; 1 piece `, cut(end - start), ' long']
        : [` up the ${against}; ${pieces.length} pieces, upper over lower, end laps `, cut(endLap)]),
      `. ${sheet.laid}`,
    ],
    people: end - start > inches(180) ? 2 : 1,
    ...(sheet.onDeck === 'bonded' ? { caution: 'Release paper is slick: off the roof at once.' } : {}),
    holdPoint: sheet.onDeck === 'bonded' ? `membrane turned up the ${against} and stuck` : `sheet turned up the ${against}`,
    keys,
  });
  return { ...emptyAssembly, pieces, steps: [step] };
}
