import {
  type Assembly,
  type Finding,
  type LayKey,
  type Piece,
  cut,
  emptyAssembly,
  laid,
  mm,
  valleySheet,
  wrap,
} from '../../assembly/index.ts';
import { itemById } from '../../catalog/index.ts';
import { type RuleKey, leastOf } from '../../rules/index.ts';
import { inches, isUnder } from '../../units/index.ts';
import { type One, hostOf } from './one.ts';
import { cutAlong, stripCovers } from './strip.ts';

/** How far the sheet goes down beside the wall where the valley begins up the slope, and the metal at most. */
const SHEET_TAIL = inches(8);

export function planSheet(one: One): Assembly {
  const { valley, rules, covering, catalog, contexts } = one;
  const product = itemById(catalog, 'iceBarrier', covering.underlayers.iceBarrier);
  const endLap = leastOf(rules, 'iceBarrier.endLap');
  const keys: RuleKey[] = ['valley.sheet', 'iceBarrier.endLap'];
  const stock = Math.min(covering.underlayers.longestStrip ?? product.rollLength, product.rollLength);
  const host = hostOf(one);
  const layOf = (rank: number, along: number): LayKey =>
    host
      ? wrap(host.context, host.side.low[1], 'valleySheet', along)
      : valleySheet({ order: Math.max(one.a.order, one.b.order) }, rank, along);
  const pieces = cutAlong(one, stock, endLap, SHEET_TAIL).map(({ stretch, cutLength }, i): Piece => ({
    mark: `${valley.id}-S${i + 1}`,
    detail: valley.id,
    role: 'valleySheet',
    product: product.id,
    covers: stripCovers(one, product.width / 2, stretch.from, stretch.to, ['bonded'], () => SHEET_TAIL),
    lay: layOf(contexts.length, stretch.from),
    liesOn: i === 0 ? [] : [`${valley.id}-S${i}`],
    cutLength,
    sealsNails: product.sealsNails,
    keys,
  }));
  const narrow: Finding[] = isUnder(product.width, leastOf(rules, 'valley.sheet'))
    ? [
        {
          id: `${valley.id}.sheet`,
          severity: 'breaks a rule',
          sentence: [
            `${valley.name}: ${product.name} is `,
            cut(product.width),
            ' wide where the valley wants ',
            cut(leastOf(rules, 'valley.sheet')),
            '.',
          ],
          fix: ['Choose a wider sheet.'],
          piece: pieces[0]!.mark,
          key: 'valley.sheet',
        },
      ]
    : [];
  return {
    ...emptyAssembly,
    pieces,
    findings: narrow,
    steps: [
      laid(pieces, {
        plane: valley.a,
        stage: 'dry-in',
        action: [
          `${valley.id}: press self-adhered sheet `,
          cut(product.width),
          ' wide, centred, ',
          mm(valley.line.trueLength),
          ` long, ${pieces.length} ${pieces.length === 1 ? 'strip' : 'strips, upper over lower, end laps '}`,
          ...(pieces.length === 1 ? [] : [cut(endLap)]),
          one.a.surface.bearing === 'rafters' || one.b.surface.bearing === 'rafters'
            ? ' on the valley boards, into the trough, no bridging.'
            : ' into the trough, no bridging.',
          ...(host ? [' Lap its lower end on the underlayment below, ', cut(SHEET_TAIL), ' down beside the wall.'] : []),
        ],
        people: 2,
        caution: 'Release paper is slick: off the roof at once.',
        holdPoint: 'valley sheet tight in the trough',
        keys,
      }),
    ],
  };
}
