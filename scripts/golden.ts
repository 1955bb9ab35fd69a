// npm run golden: which plans are no longer what they were, and for those whose text is kept what is different; with --record they are kept as they are.
import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { KEPT, goldenRoofs, hashOf, planText } from '../core/fixtures/golden.ts';

const folder = fileURLToPath(new URL('../core/fixtures/golden/', import.meta.url));
const texts = new Map(goldenRoofs().map((roof) => [roof.name, planText(roof)]));
const hashes = Object.fromEntries([...texts].map(([name, text]) => [name, hashOf(text)]));
const fileOf = (name: string): string => join(folder, `${name.replace(' ', '-')}.txt`);

if (process.argv.includes('--record')) {
  mkdirSync(folder, { recursive: true });
  writeFileSync(join(folder, 'hashes.json'), `${JSON.stringify(hashes, null, 2)}\n`);
  for (const name of KEPT) writeFileSync(fileOf(name), texts.get(name)!);
  console.log(`${texts.size} plans recorded`);
} else {
  const before = JSON.parse(readFileSync(join(folder, 'hashes.json'), 'utf8')) as Record<string, string>;
  const changed = Object.keys(hashes).filter((name) => hashes[name] !== before[name]);
  const now = mkdtempSync(join(tmpdir(), 'ruvet-golden-'));
  for (const name of KEPT) {
    const file = join(now, 'plan.txt');
    writeFileSync(file, texts.get(name)!);
    spawnSync('git', ['--no-pager', 'diff', '--no-index', '--unified=1', fileOf(name), file], { stdio: 'inherit' });
  }
  rmSync(now, { recursive: true });
  console.log(changed.length === 0 ? `${texts.size} plans are what they were` : `changed: ${changed.join(', ')}`);
  process.exitCode = changed.length === 0 ? 0 : 1;
}
