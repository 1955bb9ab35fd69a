import { type Figure, cut, mm } from '../../../assembly/index.ts';
import { leastOf } from '../../../rules/index.ts';
import { type PlacedWall, type PlaneContext, takesWater } from '../../../slope/index.ts';
import { isSlanted } from '../../../document/index.ts';
import { waterWords } from './findings.ts';
import { type Slanted, channelOf, channelStart, offLine, waterIn } from './slanted.ts';
import { channelLengths, driftACourse } from './soaker.ts';

/** What a wall at an angle tells of itself: how far it drifts, its cut tiles and its channel; nothing where it is square. */
export function slantFigures(context: PlaneContext, wall: PlacedWall): Figure[] {
  if (!isSlanted(wall)) return [];
  const { lines, rules } = context;
  const angle = offLine(wall);
  const channel = channelOf(context, wall);
  return [
    {
      label: 'Off the line of the tiles',
      value: [
        `${Math.round((angle * 1800) / Math.PI) / 10}°, `,
        cut(driftACourse(angle, lines.gauge)),
        ` a course, the roof narrows ${takesWater(wall) ? 'downward: its pans run into the wall' : 'upward: its pans lead away'}`,
      ],
    },
    { label: 'Cut tiles along it', value: [`${lines.count}, one a course`] },
    ...(channel
      ? channelFigures(context, wall, channel)
      : [
          {
            label: 'Drained by',
            value: ['the cover flashing alone, ', cut(leastOf(rules, 'cover.roofLeg')), ' at least'],
          } satisfies Figure,
        ]),
  ];
}

function channelFigures(context: PlaneContext, wall: Slanted, channel: NonNullable<ReturnType<typeof channelOf>>): Figure[] {
  const { lines, rules } = context;
  const run = lines.end - channelStart(context, wall);
  const { length, pieces } = channelLengths(run, offLine(wall), channel.longest, leastOf(rules, 'channel.lap'));
  const water = waterIn(context, wall, channel);
  return [
    {
      label: channel.made === 'moulded' ? 'Moulded channel' : 'Channel of folded metal',
      value: [
        cut(channel.width),
        ' wide, ',
        cut(channel.depth),
        ' deep, ',
        mm(length),
        ` long: ${pieces} ${pieces === 1 ? 'length' : 'lengths'}, laps `,
        cut(leastOf(rules, 'channel.lap')),
      ],
      key: 'channel.lap',
    },
    {
      label: 'Channel ends',
      value:
        wall.slant.channelFrom === 0
          ? ['in the gutter']
          : [mm(wall.slant.channelFrom), ' up the slope, on a foot of soft metal over the tiles'],
    },
    {
      label: 'Water at its foot',
      value: [...waterWords(water), ', ', cut(channel.depth - water.depth), ' of its side to spare'],
      key: 'channel.freeboard',
    },
  ];
}
