import { fileURLToPath } from 'node:url';
import pg from 'pg';
import Postgrator from 'postgrator';

export type Database = pg.Pool;

/** How long anything may take before it is given up, milliseconds. Nothing of a crew's work takes a second. */
const LIMITS = {
  connectionTimeoutMillis: 5_000,
  statement_timeout: 10_000,
  lock_timeout: 5_000,
  idle_in_transaction_session_timeout: 15_000,
  // the server's own limit answers first; this one is for a server that does not answer at all
  query_timeout: 15_000,
};

export const openDatabase = (url: string): Database => {
  const database = new pg.Pool({ connectionString: url, max: 10, ...LIMITS });
  // a connection that breaks while nothing uses it is replaced by the pool; one in use fails its own query
  database.on('error', () => undefined);
  database.on('connect', (client) => void client.on('error', () => undefined));
  return database;
};

/** Any number; it only has to be the same for every instance that migrates. */
const MIGRATION_LOCK = 7_238_113;

/** Brings the schema up to date. Instances that start together wait for each other. */
export async function migrate(database: Database): Promise<void> {
  const client = await database.connect();
  try {
    // others may take longer to migrate than a statement may
    await client.query('SET statement_timeout = 0; SET lock_timeout = 0');
    await client.query('SELECT pg_advisory_lock($1)', [MIGRATION_LOCK]);
    const postgrator = new Postgrator({
      migrationPattern: `${fileURLToPath(new URL('../migrations/', import.meta.url))}*.sql`,
      driver: 'pg',
      schemaTable: 'schema_version',
      execQuery: (query) => client.query(query),
    });
    await postgrator.migrate();
  } finally {
    // with the connection the lock and the settings end
    client.release(true);
  }
}

/** Runs `work` in one transaction. When the connection breaks nothing of it is kept, or all: a repeated save finds out which. */
export async function inTransaction<T>(database: Database, work: (client: pg.PoolClient) => Promise<T>): Promise<T> {
  const client = await database.connect();
  let broken = true;
  try {
    await client.query('BEGIN');
    const result = await work(client);
    await client.query('COMMIT');
    broken = false;
    return result;
  } catch (error) {
    broken = await client.query('ROLLBACK').then(
      () => false,
      () => true,
    );
    throw error;
  } finally {
    client.release(broken);
  }
}

/** PostgreSQL's classes of error, and Node's, that say the database is away, too busy or too slow, not that the request was wrong. */
const AWAY = /^(08...|57...|53...|55000|55P03|25P03|E(CONN|TIMEDOUT|PIPE|HOST|NET|AI_).*|ENOTFOUND)$/;

/** Is this the database being away rather than a fault of ours? Then the same request can be made again. */
export function isAway(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  if (error instanceof AggregateError && error.errors.length > 0) return error.errors.every(isAway);
  const { code } = error as { code?: string };
  if (code !== undefined) return AWAY.test(code);
  return /connection terminated|timeout exceeded|query read timeout|not queryable|ending the pool|after calling end/i.test(
    error.message,
  );
}
