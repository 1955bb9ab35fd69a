import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { KEPT, goldenRoofs, hashOf, planText } from '../../fixtures/golden.ts';

const kept = (file: string): string => readFileSync(new URL(`../../fixtures/golden/${file}`, import.meta.url), 'utf8');

// a change that is meant is recorded: npm run golden shows it, npm run golden -- --record keeps it
it('plans of thirty roofs and the demo jobs are what they were, to a hundredth of a millimetre', () => {
  const hashes = JSON.parse(kept('hashes.json')) as Record<string, string>;
  const roofs = goldenRoofs();
  expect(roofs.map(({ name }) => name)).toEqual(Object.keys(hashes));
  for (const roof of roofs) {
    const text = planText(roof);
    if ((KEPT as readonly string[]).includes(roof.name)) expect(text, roof.name).toBe(kept(`${roof.name.replace(' ', '-')}.txt`));
    expect(hashOf(text), roof.name).toBe(hashes[roof.name]);
  }
});
