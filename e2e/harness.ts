import { type ChildProcess, spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { fileURLToPath } from 'node:url';
import pg from 'pg';
import { type Browser, type Page, chromium } from 'playwright-core';

const ARGS =
  '--no-sandbox --disable-gpu --disable-dev-shm-usage --disable-quic --no-first-run --disable-background-networking --disable-component-update --disable-sync';

export type Stage = {
  readonly url: string;
  readonly browser: Browser;
  /** Asks the stage's own database. */
  ask(statement: string): Promise<Record<string, unknown>[]>;
  /** Refuses every connection to the stage's database and breaks those there are, or lets them in again. */
  databaseAway(away: boolean): Promise<void>;
  /** Ends the server by a signal; `restart` starts it anew at the same address. */
  kill(signal: 'SIGKILL' | 'SIGTERM'): Promise<void>;
  restart(): Promise<void>;
  close(): Promise<void>;
};

/** The built application on a database and a port of its own, and a browser. */
export async function openStage(): Promise<Stage> {
  const server = process.env['DATABASE_URL'];
  if (!server) throw new Error('DATABASE_URL is not set: run the tests with ./ruvet test');
  const name = `browser_${randomUUID().replaceAll('-', '')}`;
  await run(server, `CREATE DATABASE ${name}`);
  const own = new URL(server);
  own.pathname = `/${name}`;
  const { url, child } = await startServer(own.href);
  let running = child;
  const ended = (): Promise<unknown> => new Promise((resolve) => running.once('exit', resolve));
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ARGS.split(' ') });
  return {
    url,
    browser,
    ask: (statement) => run(own.href, statement),
    databaseAway: async (away) => {
      await run(server, `ALTER DATABASE ${name} ALLOW_CONNECTIONS ${!away}`);
      if (away) await run(server, `SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = '${name}'`);
    },
    kill: async (signal) => {
      const gone = ended();
      running.kill(signal);
      await gone;
    },
    restart: async () => {
      running = (await startServer(own.href)).child;
    },
    close: async () => {
      await browser.close();
      if (running.exitCode === null && running.signalCode === null) {
        const gone = ended();
        running.kill('SIGTERM');
        await gone;
      }
      await run(server, `DROP DATABASE ${name} WITH (FORCE)`);
    },
  };
}

async function startServer(databaseUrl: string): Promise<{ url: string; child: ChildProcess }> {
  const main = fileURLToPath(new URL('../server/dist/main.js', import.meta.url));
  const child = spawn('node', [main], {
    env: { ...process.env, DATABASE_URL: databaseUrl, PORT: '4870' },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let said = '';
  return new Promise((resolve, reject) => {
    const hear = (data: Buffer): void => {
      said += data.toString();
      const found = /http:\/\/localhost:\d+/.exec(said);
      if (found) resolve({ url: found[0], child });
    };
    child.stdout!.on('data', hear);
    child.stderr!.on('data', hear);
    child.once('exit', () => reject(new Error(`the server did not start: ${said}`)));
  });
}

async function run(url: string, statement: string): Promise<Record<string, unknown>[]> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  const { rows } = await client.query<Record<string, unknown>>(statement).finally(() => client.end());
  return rows;
}

const AWAY = /net::ERR_|status of 503/;

/** A page whose errors fail the test that looks at them. */
export async function openPage(stage: Stage, viewport = { width: 1280, height: 800 }): Promise<{ page: Page; errors: string[] }> {
  const context = await stage.browser.newContext({ viewport, acceptDownloads: true });
  const page = await context.newPage();
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(error.message));
  page.on('console', (message) => {
    // a request that is refused, or that meets a server which is away, is what is tried, not a fault of the page
    const tried =
      message.text().includes('status of 4') || (AWAY.test(message.text()) && message.location().url.includes('/api/'));
    if (message.type() === 'error' && !tried) errors.push(message.text());
  });
  await page.goto(stage.url);
  return { page, errors };
}
