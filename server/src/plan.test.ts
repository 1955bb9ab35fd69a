import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { RUVET, check, demoPath, file, plan, ruvet } from '../fixtures/terminal.ts';

const DEMO = demoPath('ringing-house-north');

const house = () => JSON.parse(readFileSync(demoPath('ringing-house'), 'utf8')) as { features: { kind: string }[] };

describe('./ruvet plan', () => {
  it('prints the run sheet as text, JSON and CSV', async () => {
    const text = ruvet('plan', DEMO);
    expect(text.code).toBe(0);
    expect(text.out).toContain('North plane: 37 courses at 5 5/8"');
    expect(text.out).toContain('Ice barrier: 51 7/16" needed along the slope, 2 rows');
    expect(text.out).toContain('Hide tower, west wall: 37 step flashings');
    expect(JSON.parse((await plan(DEMO, '--json')).out).planes[0].lines.count).toBe(37);
    expect((await plan(DEMO, '--csv')).out.split('\r\n')[0]).toContain('Butt line');
    expect((await plan(DEMO, '--order-csv')).out).toContain('Step flashing 4 × 4 × 8 in, aluminium');
  });

  it('ends quietly when its reader has seen enough', () => {
    const all = spawnSync('bash', ['-c', `set -o pipefail; "$0" plan "$1" --json | head -c 20`, RUVET, DEMO], {
      encoding: 'utf8',
    });
    expect([all.status, all.stderr, all.stdout.length]).toEqual([0, '', 20]);
  });

  it('reads a file with a byte order mark', async () => {
    const bom = await plan(file('bom.json', `\uFEFF${readFileSync(DEMO, 'utf8')}`));
    expect([bom.code, bom.out.split('\n')[0]]).toEqual([0, 'Ringing House: north plane and tower wall']);
  });

  it('lets no control character of a file through to the terminal', async () => {
    const demo = JSON.parse(readFileSync(DEMO, 'utf8')) as {
      name: string;
      coverings: { shingle: string }[];
      parts: { planes: { name: string }[] }[];
    };
    demo.name = 'Barn \u001b[2J\u0007\u009b31m';
    demo.parts[0]!.planes[0]!.name = 'North\rplane\u001b]0;x\u0007';
    const rude = file('rude.json', JSON.stringify(demo));
    const control = /(?![\n\t])\p{Cc}/u;
    const [text, json] = [await plan(rude), await plan(rude, '--json')];
    for (const { code, out } of [text, json]) expect([code, out]).toEqual([0, expect.not.stringMatching(control)]);
    expect(text.out).toContain('Barn ·[2J··31m');
    expect((JSON.parse(json.out) as { planes: { name: string }[] }).planes[0]!.name).toBe(demo.parts[0]!.planes[0]!.name);
    for (const flag of ['--csv', '--order-csv'])
      expect((await plan(rude, flag)).out.replaceAll('\r\n', '\n')).not.toMatch(/(?![\n\t\r])\p{Cc}/u);
    demo.coverings[0]!.shingle = 'no\u001b[31msuch';
    const told = await plan(file('rude2.json', JSON.stringify(demo)));
    expect([told.code, told.out]).toEqual([0, expect.not.stringMatching(control)]);
    expect(told.out).toContain('the catalog has no such item as "no·[31msuch"');
    expect((await check(rude)).out).not.toMatch(control);
  });

  it('plans a slope of 700 by 300 ft, and says what is too much in a file of 5,000 features', async () => {
    const demo = JSON.parse(readFileSync(DEMO, 'utf8')) as {
      parts: { eaveLength: number; slope: { length: number } }[];
      features: object[];
    };
    demo.parts[0]!.eaveLength = 700 * 304.8;
    demo.parts[0]!.slope.length = 300 * 304.8;
    const large = await plan(file('large.json', JSON.stringify(demo)));
    expect([large.code, large.err]).toEqual([0, '']);
    expect(large.out).toContain('Hide tower, west wall: 716 step flashings');
    const pipe = { ...(house().features.find((one) => one.kind === 'pipe') as object), plane: 'north' };
    demo.features = Array.from({ length: 5000 }, (_, i) => ({ ...pipe, id: `P${i}` }));
    const many = await plan(file('many.json', JSON.stringify(demo)));
    expect([many.code, many.err.split('\n')[0]]).toEqual([1, 'Features must be at most 300.']);
  });

  it('refuses with one sentence and a non-zero exit', async () => {
    const demo = readFileSync(DEMO, 'utf8');
    const cases: [string, string][] = [
      [file('version.json', demo.replace(/"version": \d+/, '"version": 99')), 'it is version 99 of the format'],
      [file('cut.json', demo.slice(0, 700)), 'cut off or is not JSON'],
      [file('huge.json', ' '.repeat(20 * 1024 * 1024)), 'it is 20 MB'],
      ['missing.json', 'there is no file missing.json'],
    ];
    for (const [name, sentence] of cases) {
      const refused = await plan(name);
      expect(refused.code).toBe(1);
      expect(refused.out).toBe('');
      expect(refused.err.trim().split('\n').at(-1)).toContain(sentence);
    }
    const told = ruvet('plan', 'missing.json');
    expect([told.code, told.out, told.err]).toEqual([1, '', 'Job file: there is no file missing.json.\n']);
  });
});
