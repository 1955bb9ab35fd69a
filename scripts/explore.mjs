// Runs every property with new random seeds until the time is up: npm run explore -- --minutes 20. Tells how many cases ran and every seed that
// failed; exits 1 on any. RUVET_SEED=SEED npx vitest run FILE repeats one.
import { spawnSync } from 'node:child_process';
import { randomInt } from 'node:crypto';
import { existsSync, mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';

const { values } = parseArgs({ options: { minutes: { type: 'string', default: '20' } } });
const minutes = Number(values.minutes);
if (!(minutes > 0)) {
  console.error('Minutes: write a number above 0, such as --minutes 20.');
  process.exit(1);
}
const end = Date.now() + minutes * 60_000;
const folder = mkdtempSync(join(tmpdir(), 'ruvet-explore-'));
const files = ['core/src', 'server/src', 'web/src'].flatMap((root) =>
  readdirSync(root, { recursive: true })
    .map((path) => join(root, path))
    .filter((path) => path.endsWith('.test.ts') && readFileSync(path, 'utf8').includes('fc.assert')),
);
let cases = 0;
let rounds = 0;
const failures = [];
while (Date.now() < end) {
  const seed = randomInt(1, 2 ** 31);
  const account = join(folder, `${rounds}.jsonl`);
  const { status, stdout, stderr } = spawnSync('node_modules/.bin/vitest', ['run', ...files], {
    env: { ...process.env, RUVET_EXPLORE: account, RUVET_SEED: String(seed) },
    encoding: 'utf8',
    timeout: Math.max(1000, end - Date.now()),
    killSignal: 'SIGKILL',
  });
  const ran = existsSync(account)
    ? readFileSync(account, 'utf8')
        .split('\n')
        .filter((line) => line.endsWith('}'))
        .map((line) => JSON.parse(line))
    : [];
  const failed = ran.filter((one) => one.failed);
  cases += ran.reduce((sum, one) => sum + one.cases, 0);
  rounds++;
  // a round cut off by the clock has failed only where a property said so
  if (failed.length > 0 || (status !== 0 && status !== null)) {
    failures.push(seed);
    console.log(`FAIL seed ${seed}${failed.map(({ path }) => `, path ${path}`).join('')}`);
    console.log(`${stdout}\n${stderr}`.split('\n').filter((line) => /FAIL|Error|Counterexample/.test(line)).map((line) => line.slice(0, 400)).join('\n')); // prettier-ignore
  }
  console.log(`round ${rounds}: ${ran.length} properties, ${cases} cases in all, ${failures.length} failing seeds`);
}
rmSync(folder, { recursive: true });
console.log(`${rounds} rounds, ${cases} cases${failures.length > 0 ? `, failing seeds: ${failures.join(' ')}` : ', no failure'}`);
process.exitCode = failures.length > 0 || cases === 0 ? 1 : 0;
