import { type Browser, type Page, chromium } from 'playwright-core';
import { ownDatabase } from '../server/fixtures/database.ts';
import { freePort, startServer } from '../server/fixtures/process.ts';

/**
 * A scene is over before the last stage of the script's compiler has paid: without it the scenes take a tenth less. A larger nursery is swept less often, which
 * takes a tenth again.
 */
const ARGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-dev-shm-usage',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--js-flags=--no-turbofan --min-semi-space-size=64',
];

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

/** The built application on a database and a port of its own, empty or begun as a copy of another, and a browser. */
export async function openStage(copyOf?: string): Promise<Stage> {
  const own = await ownDatabase(copyOf);
  const port = String(await freePort());
  let server = await startServer(own.url, { PORT: port });
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium-headless-shell', args: ARGS });
  const kill = async (signal: 'SIGKILL' | 'SIGTERM'): Promise<void> => {
    server.child.kill(signal);
    await server.ended;
  };
  return {
    url: server.url,
    browser,
    ask: own.ask,
    databaseAway: own.away,
    kill,
    restart: async () => {
      server = await startServer(own.url, { PORT: port });
    },
    close: async () => {
      await browser.close();
      await kill('SIGTERM');
      await own.drop();
    },
  };
}

const AWAY = /net::ERR_|status of 503/;

/** A page whose errors fail the test that looks at them. */
export async function openPage(stage: Stage, viewport = { width: 1280, height: 800 }): Promise<{ page: Page; errors: string[] }> {
  const context = await stage.browser.newContext({ viewport, acceptDownloads: true });
  const page = await context.newPage();
  page.setDefaultTimeout(60_000);
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
