import { createServer } from 'node:http';
import { pino } from 'pino';
import { pinoHttp } from 'pino-http';
import express from 'express';
import { createApp } from './app.ts';
import { migrate, openDatabase } from './database.ts';
import { DEMO_ORGANISATION, loadDemo } from './demo.ts';
import { Findings } from './findings.ts';
import { readPort } from './port.ts';
import { fillSummaries } from './repair.ts';
import { Store } from './store.ts';

const PORTS_TO_TRY = 20;
/** Saves under way when the server is told to end may take so long. */
const LAST_SAVES_MS = 10_000;

function fail(sentence: string): never {
  console.error(sentence);
  process.exit(1);
}

const url = process.env['DATABASE_URL'];
if (!url) fail('DATABASE_URL is not set: start with ./ruvet start, or name a PostgreSQL database.');

let port: number;
try {
  port = readPort(process.env['PORT']);
} catch (error) {
  fail((error as Error).message);
}

const log = pino({ level: process.env['LOG_LEVEL'] ?? 'warn' });
const database = openDatabase(url);
try {
  await migrate(database);
  await loadDemo(database);
  await fillSummaries(database);
} catch (error) {
  fail(`The database cannot be used: ${error instanceof Error ? error.message || String(error) : String(error)}`);
}

const app = express();
let ending = false;
app.use((_, response, next) => {
  // a connection kept open would go on asking a server that is ending
  if (ending) response.setHeader('connection', 'close');
  next();
});
app.use(pinoHttp({ logger: log, autoLogging: log.isLevelEnabled('info') }));
const findings = new Findings(database);
app.use(createApp(new Store(database, DEMO_ORGANISATION, findings)));
const server = createServer(app);
const host = process.env['HOST'] ?? '127.0.0.1';

/** Listens on the wanted port or, when it is taken, on the next free one; answers which it is. */
function listen(on: number, left: number): Promise<number> {
  return new Promise((resolve, reject) => {
    const taken = (error: NodeJS.ErrnoException): void => {
      if (error.code !== 'EADDRINUSE' || left === 0 || on === 65_535) reject(error);
      else resolve(listen(on + 1, left - 1));
    };
    server.once('error', taken);
    server.listen(on, host, () => {
      server.off('error', taken);
      resolve(on);
    });
  });
}

const address = await listen(port, PORTS_TO_TRY).catch((error: Error) => fail(`Cannot listen on port ${port}: ${error.message}`));
if (address !== port) console.log(`Port ${port} is taken.`);
console.log(`Ruvet is at http://${['127.0.0.1', '0.0.0.0', '::', '::1'].includes(host) ? 'localhost' : host}:${address}/`);

/** Takes nothing new, lets what is under way come to its end, and ends. */
function end(): void {
  ending = true;
  const late = setTimeout(() => server.closeAllConnections(), LAST_SAVES_MS);
  server.close(() => {
    clearTimeout(late);
    void Promise.all([findings.end(), database.end()]).finally(() => process.exit(0));
  });
  server.closeIdleConnections();
}

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.once(signal, end);
