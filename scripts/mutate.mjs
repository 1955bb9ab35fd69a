// Plants each fault of scripts/faults/faults.mjs by itself in a copy of the tree and runs the fast tests of core on it. The plans held by hash are left
// out: they notice every change and say of none whether it is wrong. `npm run mutate -- NAME` runs those whose name has NAME in it; `--check` only
// sees whether each still applies.
import { spawnSync } from 'node:child_process';
import { cpSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { FAULTS } from './faults/faults.mjs';

/** At least so many have to be noticed. */
const WANTED = 34 / 40;
/** Tests that take long; faults of drainage are for drainage's own. */
const SLOW = ['plan/golden', 'plan/kept', 'plan/findings', 'strip/held', 'drainage/**'];

const root = fileURLToPath(new URL('..', import.meta.url));
const sought = process.argv.slice(2).filter((word) => word !== '--check');
const wanted = FAULTS.filter(([name]) => sought.every((word) => name.includes(word)));

const textOf = (file) => readFileSync(join(root, 'core/src', file), 'utf8');
const stale = FAULTS.filter(([, file, from, to]) => textOf(file).split(from).length !== 2 || from === to);
for (const [name, file] of stale) console.log(`no longer applies: ${name} (core/src/${file})`);
if (stale.length > 0 || process.argv.includes('--check')) {
  console.log(`${FAULTS.length - stale.length} of ${FAULTS.length} faults apply`);
  process.exit(stale.length > 0 ? 1 : 0);
}

const copy = mkdtempSync(join(tmpdir(), 'ruvet-mutate-'));
const copied = (path) =>
  cpSync(join(root, path), join(copy, path), { recursive: true, filter: (one) => !/\/(node_modules|dist)(\/|$)/.test(one) });
for (const path of ['core', 'demo', 'scripts', 'package.json', 'tsconfig.base.json', 'vitest.config.ts']) copied(path);
symlinkSync(join(root, 'node_modules'), join(copy, 'node_modules'));

const excluded = SLOW.flatMap((one) => ['--exclude', `core/src/**/${one.endsWith('**') ? one : `${one}.test.ts`}`]);

/** Does a run of these tests fail? The first that fails ends it. */
function fails(folder, ...more) {
  const args = ['vitest', 'run', folder, '--bail', '1', '--passWithNoTests', ...more];
  return spawnSync('npx', args, { cwd: copy, stdio: 'ignore', timeout: 300_000 }).status !== 0;
}

/** Do the tests notice it? Those beside the file are asked first: they most often do, and are few. */
function isNoticed(file) {
  if (file.startsWith('drainage/')) return fails('core/src/drainage');
  return fails(`core/src/${dirname(file)}/`, ...excluded) || fails('core', ...excluded);
}

const started = Date.now();
if (!process.env['SKIP_CLEAN'] && (isNoticed('plan/') || isNoticed('drainage/'))) {
  console.log('The tests fail without any fault.');
  process.exitCode = 1;
} else {
  const lived = [];
  for (const [name, file, from, to] of wanted) {
    const text = textOf(file);
    const place = join(copy, 'core/src', file);
    writeFileSync(
      place,
      text.replace(from, () => to),
    );
    const noticed = isNoticed(file);
    writeFileSync(place, text);
    if (!noticed) lived.push(name);
    console.log(`${noticed ? 'noticed' : 'LIVED  '}  ${name}`);
  }
  console.log(`${wanted.length - lived.length} of ${wanted.length} noticed in ${Math.round((Date.now() - started) / 1000)} s`);
  process.exitCode = wanted.length - lived.length >= WANTED * wanted.length ? 0 : 1;
}
rmSync(copy, { recursive: true, force: true });
