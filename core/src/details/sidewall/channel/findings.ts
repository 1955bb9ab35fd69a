import { type Finding, type Words, cut, flow } from '../../../assembly/index.ts';
import { leastOf } from '../../../rules/index.ts';
import { type PlaneContext, takesWater } from '../../../slope/index.ts';
import { isUnder } from '../../../units/index.ts';
import { type Channel, type Slanted, waterIn } from './slanted.ts';

/** What is to be said of a wall at an angle: what drains it, how much, and what its battens bear on. */
export function channelFindings(context: PlaneContext, wall: Slanted, channel: Channel | undefined): Finding[] {
  const { surface, rules } = context;
  const { id, name, slant } = wall;
  const piece = channel ? `${id}-CH1` : `${id}-01`;
  const say = (what: string, severity: Finding['severity'], sentence: Words, fix: Words): Finding => ({
    id: `${id}.${what}`,
    severity,
    sentence,
    fix,
    piece,
  });
  const tiles = surface.crowns ? 'pans' : 'side channels';
  if (!channel)
    return takesWater(wall)
      ? [
          say(
            'drain',
            'leaks',
            [
              `${name} stands at an angle and the roof narrows downward at it: the ${tiles} run into the wall, and a cover flashing alone cannot drain them.`,
            ],
            ['Choose a channel under the tiles’ cut edges.'],
          ),
        ]
      : [];
  const { depth } = waterIn(context, wall, channel);
  const board = channel.depth - depth;
  return [
    ...(isUnder(board, leastOf(rules, 'channel.freeboard'))
      ? [
          {
            ...say(
              'full',
              'breaks a rule',
              [`${name}: water runs `, cut(depth), ' deep in its channel, ', cut(board), ' below its side.'],
              ['Take a wider or deeper channel.'],
            ),
            key: 'channel.freeboard' as const,
          },
        ]
      : []),
    ...(takesWater(wall)
      ? []
      : [
          say(
            'away',
            'worth a look',
            [
              `${name}: the roof narrows upward at it and its ${tiles} lead the water away; the channel carries only what runs down the wall.`,
            ],
            ['A cover flashing past a crown can do it alone.'],
          ),
        ]),
    ...(slant.rafter === 'no access'
      ? [
          say(
            'ends',
            'worth a look',
            [`${name}: the battens’ cut ends hang on the channel’s side board, for nothing else can be got at.`],
            ['Do it only where they are sound; else open the roof from outside and fix a support timber.'],
          ),
        ]
      : []),
    ...(slant.mortar
      ? [
          say(
            'mortar',
            'worth a look',
            [`${name}: mortar under the cut tiles crumbles into the channel and blocks it.`],
            ['Leave it out; clip the tiles. Where it stays, batten the channel from below for its weight.'],
          ),
        ]
      : []),
  ];
}

/** The channel's water in a figure: it is too shallow for a tape. */
export const waterWords = ({ flow: litres, depth }: { readonly flow: number; readonly depth: number }): Words => [
  flow(litres),
  `, ${depth.toFixed(1)} mm deep`,
];
