import {
  type Assembly,
  type CheckRequest,
  type CheckResult,
  type HoseResult,
  type Hose,
  type Reserve,
  checkDrainage,
  followHose,
  measureReserve,
} from '#core';

export type Ask = { readonly assembly: Assembly } & (
  | { readonly what: 'check'; readonly requests: readonly CheckRequest[] }
  | { readonly what: 'reserve'; readonly request: CheckRequest }
  | { readonly what: 'hose'; readonly request: CheckRequest; readonly hose: Hose }
);

export type Answer =
  | { readonly what: 'check'; readonly results: readonly CheckResult[] }
  | { readonly what: 'reserve'; readonly reach: Reserve | undefined; readonly creep: Reserve | undefined }
  | { readonly what: 'hose'; readonly result: HoseResult | undefined }
  | { readonly what: 'progress'; readonly share: number };

const tell = (answer: Answer): void => postMessage(answer);

addEventListener('message', ({ data }: MessageEvent<Ask>) => {
  switch (data.what) {
    case 'check':
      return tell({ what: 'check', results: data.requests.map((request) => checkDrainage(data.assembly, request)) });
    case 'reserve':
      return tell({
        what: 'reserve',
        ...measureReserve(data.assembly, data.request, (share) => tell({ what: 'progress', share })),
      });
    case 'hose':
      return tell({ what: 'hose', result: followHose(data.assembly, data.request, data.hose) });
  }
});
