import { createServer } from 'node:http';
import { pino } from 'pino';
import { pinoHttp } from 'pino-http';
import express from 'express';
import { createApp } from './app.ts';
import { migrate, openDatabase } from './database.ts';
import { DEMO_ORGANISATION, loadDemo } from './demo.ts';
import { Store } from './store.ts';

const DEFAULT_PORT = 4170;
const PORTS_TO_TRY = 20;

const url = process.env['DATABASE_URL'];
if (!url) {
  console.error('DATABASE_URL is not set: start with ./ruvet start, or name a PostgreSQL database.');
  process.exit(1);
}

const log = pino({ level: process.env['LOG_LEVEL'] ?? 'warn' });
const database = openDatabase(url);
database.on('error', (error) => log.error(error, 'database connection lost'));
try {
  await migrate(database);
  await loadDemo(database);
} catch (error) {
  console.error(`The database cannot be used: ${error instanceof Error ? error.message : String(error)}`);
  process.exit(1);
}

const app = express();
app.use(pinoHttp({ logger: log }));
app.use(createApp(new Store(database, DEMO_ORGANISATION)));
const server = createServer(app);

/** Listens on the wanted port or the next free one, saying so. */
function listen(port: number, left: number): void {
  const taken = (error: NodeJS.ErrnoException): void => {
    if (error.code !== 'EADDRINUSE' || left === 0) {
      console.error(`Cannot listen on port ${port}: ${error.message}`);
      process.exit(1);
    }
    console.log(`Port ${port} is taken, trying ${port + 1}.`);
    listen(port + 1, left - 1);
  };
  server.once('error', taken);
  server.listen(port, process.env['HOST'] ?? '127.0.0.1', () => {
    server.off('error', taken);
    console.log(`Ruvet is at http://localhost:${port}/`);
  });
}

listen(Number(process.env['PORT'] ?? DEFAULT_PORT), PORTS_TO_TRY);

for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.once(signal, () => {
    server.close();
    server.closeAllConnections();
    void database.end().then(() => process.exit(0));
  });
}
