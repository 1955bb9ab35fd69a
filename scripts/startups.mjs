// npm run startups: starts Ruvet in a copy of this checkout under every trouble a start has met, and tells what it saw. Takes a few minutes.
import { execFileSync, spawn } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir, userInfo } from 'node:os';
import { join } from 'node:path';

const ROOT = new URL('..', import.meta.url).pathname;
const scratch = mkdtempSync(join(tmpdir(), 'ruvet-startups-'));
execFileSync('chmod', ['755', scratch]);
let failed = 0;

const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
const processes = () => execFileSync('ps', ['axww', '-o', 'pid=,args='], { encoding: 'utf8' }).split('\n');
/** PostgreSQL servers whose data lies under a folder, or under what stands in for it. */
const databases = (folder) =>
  processes().filter((line) => /postgres(ql)?\S* -D /.test(line) && (line.includes(folder) || line.includes(standIn(folder))));
const standIn = (folder) =>
  `ruvet-${userInfo().username}-${execFileSync('cksum', { input: folder, encoding: 'utf8' }).split(' ')[0]}`;
const dataOf = (folder) => join(folder, '.ruvet', `postgres-${userInfo().username}`);

/** A copy of the checkout with its packages and build, in a folder of this name. */
function copy(name) {
  const folder = join(scratch, name);
  execFileSync('git', ['clone', '-q', ROOT, folder]);
  for (const file of execFileSync('git', ['ls-files', '-mo', '--exclude-standard'], { cwd: ROOT, encoding: 'utf8' })
    .trim()
    .split('\n'))
    if (file && existsSync(join(ROOT, file))) execFileSync('cp', ['--parents', file, folder], { cwd: ROOT });
  execFileSync('cp', ['-al', join(ROOT, 'node_modules'), join(folder, 'node_modules')]);
  return folder;
}

/** Starts Ruvet as a terminal does, in a session of its own. */
function start(folder, environment = {}) {
  const inherited = { ...process.env };
  delete inherited.DATABASE_URL;
  const child = spawn(join(folder, 'ruvet'), ['start'], {
    cwd: folder,
    detached: true,
    env: { ...inherited, PORT: '4880', ...environment },
  });
  let text = '';
  child.stdout.on('data', (data) => (text += data));
  child.stderr.on('data', (data) => (text += data));
  const ended = new Promise((resolve) => child.once('exit', (code, signal) => resolve(signal ?? code)));
  const up = async (seconds = 120) => {
    for (let i = 0; i < seconds * 5; i++) {
      const found = /http:\/\/localhost:\d+/.exec(text);
      if (found) return found[0];
      if (child.exitCode !== null) throw new Error(`ended: ${text.trim()}`);
      await wait(200);
    }
    throw new Error(`not up: ${text.trim()}`);
  };
  /** To every process of the terminal, as Ctrl-C goes. */
  const signal = (name) => {
    try {
      process.kill(-child.pid, name);
    } catch {
      // it is gone already
    }
  };
  return { up, signal, ended, said: () => text, child };
}

async function answers(url) {
  const response = await fetch(`${url}/api/jobs`);
  if (response.status !== 200) throw new Error(`${url} answers ${response.status}`);
  return (await response.json()).jobs.length;
}

async function stopped(run, folder, signal = 'SIGINT') {
  run.signal(signal);
  await Promise.race([run.ended, wait(25_000)]);
  await wait(300);
  if (databases(folder).length > 0) throw new Error(`the database still runs after ${signal}`);
}

async function trial(name, body) {
  const started = Date.now();
  try {
    const saw = await body();
    console.log(`ok   ${name}${saw ? `: ${saw}` : ''} (${((Date.now() - started) / 1000).toFixed(1)} s)`);
  } catch (error) {
    failed++;
    console.log(`FAIL ${name}: ${error.message}`);
  }
}

const must = (right, otherwise) => {
  if (!right) throw new Error(otherwise);
};

const folder = copy('plain');

await trial('a first start', async () => {
  const run = start(folder);
  const jobs = await answers(await run.up(300));
  const data = dataOf(folder);
  const passwords = ['ruvet-password', 'app-password'].map((file) => readFileSync(join(data, file), 'utf8'));
  must(
    !processes().some((line) => passwords.some((password) => line.includes(password))),
    'a password stands in the list of processes',
  );
  must(
    !readdirSync(tmpdir()).some((file) => {
      try {
        return passwords.includes(readFileSync(join(tmpdir(), file), 'utf8'));
      } catch {
        return false;
      }
    }),
    'a password was left in a temporary file',
  );
  const port = readFileSync(join(data, 'postmaster.pid'), 'utf8').split('\n')[3];
  const role = execFileSync(
    'psql',
    [
      '-h',
      '127.0.0.1',
      '-p',
      port,
      '-U',
      'ruvet_app',
      '-d',
      'postgres',
      '-Atc',
      'SELECT rolsuper FROM pg_roles WHERE rolname = current_user',
    ],
    {
      env: { ...process.env, PGPASSWORD: passwords[1] },
      encoding: 'utf8',
    },
  ).trim();
  must(role === 'f', 'its role is a superuser');
  await stopped(run, folder);
  return `${jobs} jobs, its role no superuser, no password to be seen`;
});

await trial('a second start builds and installs nothing', async () => {
  const run = start(folder);
  await run.up();
  await stopped(run, folder);
  must(!/Building|Installing/.test(run.said()), run.said());
});

await trial('Ctrl-C twice', async () => {
  const run = start(folder);
  await run.up();
  run.signal('SIGINT');
  await wait(150);
  await stopped(run, folder);
});

for (const signal of ['SIGHUP', 'SIGQUIT', 'SIGTERM'])
  await trial(`ended by ${signal}`, async () => {
    const run = start(folder);
    await run.up();
    await stopped(run, folder, signal);
  });

await trial('Ctrl-C while it gets ready', async () => {
  const run = start(folder);
  await wait(700);
  await stopped(run, folder);
});

await trial('two starts at once', async () => {
  rmSync(dataOf(folder), { recursive: true });
  const runs = [start(folder), start(folder)];
  const urls = await Promise.all(runs.map((run) => run.up()));
  must(urls[0] !== urls[1], 'both at one address');
  await Promise.all(urls.map(answers));
  runs[0].signal('SIGINT');
  await runs[0].ended;
  await answers(urls[1]);
  await stopped(runs[1], folder);
  return urls.join(', ');
});

await trial('a database whose making was killed half way', async () => {
  const data = dataOf(folder);
  rmSync(data, { recursive: true });
  mkdirSync(join(data, 'base'), { recursive: true });
  mkdirSync(`${data}.setup`);
  writeFileSync(join(`${data}.setup`, 'half'), '');
  writeFileSync(join(data, 'PG_VERSION'), '17');
  const run = start(folder);
  await answers(await run.up());
  await stopped(run, folder);
  must(!existsSync(`${data}.setup`), 'what was left of it is still there');
});

await trial('a pid file left by a crash, its number another process’s now', async () => {
  writeFileSync(join(dataOf(folder), 'postmaster.pid'), `${process.pid}\n${dataOf(folder)}\n1\n5999\n`);
  execFileSync('chown', [`--reference=${dataOf(folder)}`, join(dataOf(folder), 'postmaster.pid')]);
  const run = start(folder);
  await answers(await run.up());
  await stopped(run, folder);
});

await trial('a taken port', async () => {
  const taken = createServer().listen(4880, '127.0.0.1');
  const run = start(folder);
  const url = await run.up();
  must(url.endsWith(':4881') && run.said().match(/http:/g).length === 1, run.said());
  await answers(url);
  await stopped(run, folder);
  taken.close();
  return url;
});

await trial('an odd PORT', async () => {
  const run = start(folder, { PORT: 'eighty' });
  must((await run.ended) !== 0 && run.said().includes('PORT must be a whole number'), run.said());
  await wait(300);
  must(databases(folder).length === 0, 'the database still runs');
  return run.said().trim().split('\n').at(-1);
});

await trial('a registry out of reach, with a lockfile that asks for more', async () => {
  const lock = join(folder, 'package-lock.json');
  const before = readFileSync(lock, 'utf8');
  writeFileSync(
    lock,
    before
      .replace(/"lockfileVersion"/, '"requires": true,\n  "lockfileVersion"')
      .replace('"node_modules/zod": {', '"node_modules/zod": {\n      "peer": true,'),
  );
  const run = start(folder, {
    npm_config_registry: 'http://127.0.0.1:9/',
    npm_config_fetch_retries: '0',
    npm_config_cache: join(scratch, 'empty'),
  });
  await answers(await run.up(300));
  must(run.said().includes('going on with those that are installed'), run.said());
  await stopped(run, folder);
  writeFileSync(lock, before);
});

await trial('a source dated tomorrow', async () => {
  const tomorrow = Date.now() / 1000 + 86_400;
  utimesSync(join(folder, 'web/src/theme.ts'), tomorrow, tomorrow);
  const first = start(folder);
  await first.up(300);
  await stopped(first, folder);
  const run = start(folder);
  await run.up();
  await stopped(run, folder);
  must(!run.said().includes('Building'), 'it is built anew at every start');
});

const odd = copy('a "quoted" $HOME folder');
await trial('a path with " and $', async () => {
  const run = start(odd);
  await answers(await run.up(300));
  await stopped(run, odd);
  return (
    run
      .said()
      .trim()
      .split('\n')
      .find((line) => line.includes('keeps its data')) ?? ''
  );
});

rmSync(scratch, { recursive: true });
for (const elsewhere of ['/var/lib', process.env.TMPDIR ?? '/var/tmp'])
  rmSync(join(elsewhere, standIn(odd)), { recursive: true, force: true });
console.log(failed === 0 ? 'every start came up and left nothing running' : `${failed} starts failed`);
process.exitCode = failed === 0 ? 0 : 1;
