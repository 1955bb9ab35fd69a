export * from './sidewall.ts';
export { channelAsks } from './channel/channel.ts';
