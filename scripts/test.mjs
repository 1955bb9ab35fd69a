// Everything ./ruvet test runs, in order; ends with "N passed, N failed" and a non-zero exit on any failure.
import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

let passed = 0;
let failed = 0;
const reports = mkdtempSync(join(tmpdir(), 'ruvet-test-'));
/** Many times as fast as the compiler the boundaries are checked with, and without the interface that reads sources by: both are installed. */
const TSC = 'node_modules/typescript-native/bin/tsc';
const env = { ...process.env, CI: 'true' };

/** A command that counts as one test; what it printed is shown when it is done. */
async function check(name, command, ...args) {
  const started = Date.now();
  const ok = await new Promise((done) => {
    const child = spawn(command, args, { stdio: ['ignore', 'pipe', 'pipe'], env });
    let said = '';
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (said += chunk));
    child.on('error', (error) => (said += error.message));
    child.on('close', (code) => {
      process.stdout.write(said);
      done(code === 0);
    });
  });
  if (ok) passed++;
  else failed++;
  console.log(`${ok ? 'ok  ' : 'FAIL'} ${name} (${((Date.now() - started) / 1000).toFixed(1)} s)`);
  return ok;
}

/** A Vitest run; its own count, and at least one failure when its exit code, a file or a hook says so. */
function vitest(name, ...args) {
  const report = join(reports, `${name}.json`);
  const command = ['run', '--reporter=default', '--reporter=json', `--outputFile.json=${report}`, ...args];
  const code = spawnSync('node_modules/.bin/vitest', command, { stdio: 'inherit', env }).status ?? 1;
  let result = { numPassedTests: 0, numFailedTests: 0, testResults: [] };
  try {
    result = JSON.parse(readFileSync(report, 'utf8'));
  } catch {
    console.log(`FAIL ${name} left no report`);
  }
  const brokenFiles = result.testResults.filter(
    (file) => file.status === 'failed' && !file.assertionResults.some((test) => test.status === 'failed'),
  ).length;
  const bad = result.numFailedTests + brokenFiles;
  passed += result.numPassedTests;
  failed += code === 0 && result.numPassedTests > 0 ? bad : Math.max(1, bad);
}

let built = false;
const compiled = check('types of core and server', 'node', TSC, '-b');
/** The longest first; each lane takes the next as it is done with one. */
const waiting = [
  async () => {
    built = (await compiled) && (await check('build', 'npm', 'run', 'build:web', '--silent'));
  },
  () => check('module boundaries', 'npm', 'run', 'boundaries', '--silent'),
  () => check('generated documents are current', 'npm', 'run', 'docs', '--silent', '--', '--check'),
  async () => {
    await compiled;
    await check('types of the tests and scripts', 'node', TSC, '-p', 'tsconfig.tests.json');
  },
  () => check('rules of components', 'npm', 'run', 'components', '--silent'),
  () => check('planted faults still apply', 'node', 'scripts/mutate.mjs', '--check'),
  () => check('lint', 'node_modules/.bin/oxlint'),
  () => check('format', 'node_modules/.bin/oxfmt', '--check'),
];
const lane = async () => {
  for (let next = waiting.shift(); next; next = waiting.shift()) await next();
};
await Promise.all([lane(), lane()]);
// what is not built cannot be looked at in a browser
vitest('tests', ...(built ? [] : ['--project', '!scenes']));
if (!built) failed++;

rmSync(reports, { recursive: true });
console.log(`${passed} passed, ${failed} failed`);
process.exitCode = failed === 0 ? 0 : 1;
