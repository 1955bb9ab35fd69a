import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { check, demoPath, file, ruvet } from '../fixtures/terminal.ts';

const DEMO = demoPath('ringing-house-north');

describe('./ruvet check', () => {
  it('tells the verdict at dry-in and finished, and what is in hand', async () => {
    const told = await check(DEMO);
    expect(told.code).toBe(0);
    expect(told.out).toContain('North plane, dry-in: clean');
    expect(told.out).toContain('North plane, finished: clean');
    expect(told.out).toContain('Water must climb more than 1 3/8" under cover');
  });

  it('says what gets wet, with its own exit', () => {
    const demo = readFileSync(DEMO, 'utf8');
    const told = ruvet('check', file('no-kick-out.json', demo.replace('"foot": "kick-out"', '"foot": "corner"')));
    expect(told.code).toBe(2);
    expect(told.out).toContain('finished: wet');
  });

  it('refuses a cell size of zero, or too fine, with the finest allowed', async () => {
    for (const size of ['0', '0.1mm']) {
      const refused = await check(DEMO, '--cell', size);
      expect(refused.code).toBe(1);
      expect(refused.err).toMatch(
        /Cell size: that needs more than the 400 MB a check may take; the finest allowed on this slope is \d+ mm\./,
      );
    }
    expect((await check(DEMO, '--cell', 'tiny')).err).toContain('Cell size: "tiny" cannot be read as a length');
  });
});
