import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, describe, expect, it } from 'vitest';

const ROOT = fileURLToPath(new URL('../../', import.meta.url));
const DEMO = join(ROOT, 'demo/jobs/ringing-house-north.ruvet.json');
const folder = mkdtempSync(join(tmpdir(), 'ruvet-plan-'));
afterAll(() => rmSync(folder, { recursive: true }));

function plan(...args: string[]): Outcome {
  return ruvet('plan', ...args);
}

type Outcome = { code: number; out: string; err: string };

function ruvet(...args: string[]): { code: number; out: string; err: string } {
  try {
    return {
      code: 0,
      out: execFileSync(join(ROOT, 'ruvet'), args, {
        encoding: 'utf8',
        stdio: ['ignore', 'pipe', 'pipe'],
        cwd: folder,
      }),
      err: '',
    };
  } catch (error) {
    const { status, stdout, stderr } = error as { status: number; stdout: string; stderr: string };
    return { code: status, out: stdout, err: stderr };
  }
}

function file(name: string, text: string): string {
  writeFileSync(join(folder, name), text);
  return name;
}

describe('./ruvet plan', () => {
  it('prints the run sheet as text, JSON and CSV', () => {
    const text = plan(DEMO);
    expect(text.code).toBe(0);
    expect(text.out).toContain('North plane: 37 courses at 5 5/8"');
    expect(text.out).toContain('Ice barrier: 51 7/16" needed along the slope, 2 rows');
    expect(text.out).toContain('Hide tower, west wall: 37 step flashings');
    expect(JSON.parse(plan(DEMO, '--json').out).planes[0].courses).toBe(37);
    expect(plan(DEMO, '--csv').out.split('\r\n')[0]).toContain('Butt line');
    expect(plan(DEMO, '--order-csv').out).toContain('Step flashing 4 × 4 × 8 in, aluminium');
  });

  it('refuses with one sentence and a non-zero exit', () => {
    const demo = readFileSync(DEMO, 'utf8');
    const cases: [string, string][] = [
      [file('version.json', demo.replace('"version": 4', '"version": 9')), 'it is version 9 of the format'],
      [file('cut.json', demo.slice(0, 700)), 'cut off or is not JSON'],
      [file('huge.json', ' '.repeat(20 * 1024 * 1024)), 'it is 20 MB'],
      [file('unknown.json', demo.replace('"note":', '"tint": 1, "note":')), 'an entry Ruvet does not know: "tint"'],
      [file('item.json', demo.replace('marrowgate-laminated', 'nothing-such')), 'the catalog has no such item as "nothing-such"'],
      ['missing.json', 'there is no file missing.json'],
    ];
    for (const [name, sentence] of cases) {
      const refused = plan(name);
      expect(refused.code).toBe(1);
      expect(refused.out).toBe('');
      expect(refused.err.trim().split('\n').at(-1)).toContain(sentence);
    }
    expect(plan().code).toBe(1);
  });
});

describe('./ruvet check', () => {
  it('tells the verdict at dry-in and finished, and what is in hand', () => {
    const told = ruvet('check', DEMO);
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

  it('refuses a cell size of zero, or too fine, with the finest allowed', () => {
    for (const size of ['0', '0.1mm']) {
      const refused = ruvet('check', DEMO, '--cell', size);
      expect(refused.code).toBe(1);
      expect(refused.err).toMatch(
        /Cell size: that needs more than the 400 MB a check may take; the finest allowed on this slope is \d+ mm\./,
      );
    }
    expect(ruvet('check', DEMO, '--cell', 'tiny').err).toContain('Cell size: "tiny" cannot be read as a length');
  });
});
