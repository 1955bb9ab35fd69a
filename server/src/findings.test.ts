import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Database } from './database.ts';
import { Findings } from './findings.ts';

const asked: string[] = [];
/** A job that is gone by the time it is looked at: that it was looked for tells that its turn came. */
const store = {
  getJob: (id: string) => {
    asked.push(id);
    return Promise.resolve(undefined);
  },
  shelfAnew: () => Promise.reject(new Error('nothing is planned here')),
};
const job = { id: 'barn', hash: 'as it was saved' };

describe('the jobs of a list', () => {
  let findings: Findings;
  beforeEach(() => {
    vi.useFakeTimers({ toFake: ['performance'] });
    findings = new Findings({} as Database);
    asked.length = 0;
  });
  afterEach(() => vi.useRealTimers());
  /** Asks for the job so many milliseconds after one another. */
  const askAfter = (...pauses: number[]): void => {
    findings.want(store, job);
    for (const pause of pauses) {
      vi.advanceTimersByTime(pause);
      findings.want(store, job);
    }
  };

  it('are looked at while the list stays', () => {
    askAfter(1500);
    expect(asked).toEqual(['barn']);
  });

  it('are not on the way through it, however often', () => {
    askAfter(500, 4000, 4000, 900);
    expect(asked).toEqual([]);
  });

  it('are looked at once, however many ask meanwhile', () => {
    askAfter(1500, 1, 1, 1500, 1);
    expect(asked).toEqual(['barn']);
  });
});
