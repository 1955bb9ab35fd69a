import { fileURLToPath } from 'node:url';
import pg from 'pg';
import Postgrator from 'postgrator';

export type Database = pg.Pool;

export const openDatabase = (url: string): Database =>
  new pg.Pool({ connectionString: url, max: 10, connectionTimeoutMillis: 10_000 });

/** Any number; it only has to be the same for every instance that migrates. */
const MIGRATION_LOCK = 7_238_113;

/** Brings the schema up to date. Instances that start together wait for each other. */
export async function migrate(database: Database): Promise<void> {
  const client = await database.connect();
  try {
    await client.query('SELECT pg_advisory_lock($1)', [MIGRATION_LOCK]);
    const postgrator = new Postgrator({
      migrationPattern: `${fileURLToPath(new URL('../migrations/', import.meta.url))}*.sql`,
      driver: 'pg',
      schemaTable: 'schema_version',
      execQuery: (query) => client.query(query),
    });
    await postgrator.migrate();
  } finally {
    await client.query('SELECT pg_advisory_unlock($1)', [MIGRATION_LOCK]).catch(() => undefined);
    client.release();
  }
}

/** Runs `work` in one transaction. */
export async function inTransaction<T>(database: Database, work: (client: pg.PoolClient) => Promise<T>): Promise<T> {
  const client = await database.connect();
  try {
    await client.query('BEGIN');
    const result = await work(client);
    await client.query('COMMIT');
    return result;
  } catch (error) {
    await client.query('ROLLBACK');
    throw error;
  } finally {
    client.release();
  }
}
