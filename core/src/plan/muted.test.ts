import { describe, expect, it } from 'vitest';
import { demoHouse, demoLibrary } from '../../fixtures/demo.ts';
import { planFor } from '../../fixtures/planned.ts';
import type { Library } from '../document/index.ts';
import { packSchema } from '../rules/index.ts';
import { HOUSE_MUTED, canBeMuted, houseMuted, kindOf, mutedKinds, mutingPack, planJob, told } from './index.ts';

describe('muting a kind of finding', () => {
  it.each([
    ['SK1.rafters', 'rafters'],
    ['SK2.rafters#2', 'rafters'],
    ['ST1-1.1.life', 'life'],
    ['P1.near.V1', 'near'],
    ['covering.ridge', 'covering.ridge'],
    ['covering.measured.12', 'covering.measured'],
  ])('%s is of the kind %s', (id, kind) => {
    expect(kindOf({ id })).toBe(kind);
  });

  it('hides every one of its kind, keeps it with its reason, and nothing else', () => {
    const job = demoHouse();
    const before = planFor(job).findings;
    const ridge = before.filter((one) => kindOf(one) === 'covering.ridge');
    expect(ridge.length).toBe(2);
    job.muted = { 'covering.ridge': 'the caps cover it' };
    const after = planFor(job).findings;
    expect(told(after)).toEqual(before.filter((one) => kindOf(one) !== 'covering.ridge'));
    expect(mutedKinds(after)).toEqual([{ kind: 'covering.ridge', count: 2, reason: 'the caps cover it' }]);
  });

  it('never hides what is graver than worth a look', () => {
    const job = demoHouse();
    job.site.wind = { from: 0, exposed: true };
    job.deviations = [];
    job.muted = { 'covering.wind': 'we always drive four' };
    const wind = planFor(job).findings.filter((one) => kindOf(one) === 'covering.wind');
    expect(wind.length).toBeGreaterThan(0);
    expect(wind.filter(({ muted }) => muted !== undefined)).toEqual([]);
    expect(wind.some(canBeMuted)).toBe(false);
  });

  it('is done for every job that uses a house’s pack, and says which house', () => {
    const muting: Library = {
      ...demoLibrary,
      packs: demoLibrary.packs.map((pack) =>
        pack.source === 'house' ? { ...pack, muted: { 'covering.ridge': 'caps are 12 in wide here' } } : pack,
      ),
    };
    expect(mutedKinds(planJob(demoHouse(), muting).findings)).toEqual([
      { kind: 'covering.ridge', count: 2, reason: 'Larkmoor house standard: caps are 12 in wide here' },
    ]);
  });

  it('a house says its first version, and each change of mind is the next one, over a job that names it', () => {
    expect(houseMuted(demoLibrary.packs)).toEqual({ version: 0, muted: {} });
    const first = mutingPack(1, { 'covering.ridge': 'the caps cover it' });
    const second = mutingPack(2, {});
    expect(packSchema.safeParse(first).success && packSchema.safeParse(second).success).toBe(true);
    const library: Library = { ...demoLibrary, packs: [...demoLibrary.packs, second, first] };
    expect(houseMuted(library.packs)).toEqual({ version: 2, muted: {} });
    const job = demoHouse();
    const ridge = (version?: number): number => {
      const packs = version === undefined ? job.packs : [...job.packs, { id: HOUSE_MUTED, version }];
      return told(planJob({ ...job, packs }, library).findings).filter((one) => kindOf(one) === 'covering.ridge').length;
    };
    expect([ridge(), ridge(1), ridge(2)]).toEqual([2, 0, 2]);
    // it says nothing but what is muted: no piece, no other finding changes
    const plain = planJob(job, library);
    const quiet = planJob({ ...job, packs: [...job.packs, { id: HOUSE_MUTED, version: 1 }] }, library);
    expect(quiet.pieces).toEqual(plain.pieces);
    expect(mutedKinds(quiet.findings)).toEqual([
      { kind: 'covering.ridge', count: 2, reason: 'Not told in this house: the caps cover it' },
    ]);
  });
});
