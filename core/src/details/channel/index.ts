export { slantFigures } from './figures.ts';
export { channelAsks, planChannels } from './channel.ts';
