import type { Asks, BaseContext } from '../../slope/index.ts';
import { channelAsks } from './channel/channel.ts';
import { panAsks } from './pans.ts';

export * from './sidewall.ts';

/** What lies under the tiles beside walls asks of them. */
export const sidewallAsks = (context: BaseContext): Partial<Asks> => {
  const [channels, pans] = [channelAsks(context), panAsks(context)];
  return { openings: channels.openings ?? [], metal: [...(channels.metal ?? []), ...(pans.metal ?? [])] };
};
