// Gives Ruvet a role of its own in the private database, which may make databases but is no superuser, and the tables there are. Run by ./ruvet with
// PGHOST, PGPORT, PGUSER and PGPASSWORD of the superuser, and APP_PASSWORD, in the environment: nothing of it is seen in the list of processes.
import pg from 'pg';

const ROLE = 'ruvet_app';
const client = new pg.Client({ database: 'postgres', connectionTimeoutMillis: 10_000 });
try {
  await client.connect();
  const { rows } = await client.query('SELECT 1 FROM pg_roles WHERE rolname = $1', [ROLE]);
  const password = client.escapeLiteral(process.env.APP_PASSWORD ?? '');
  await client.query(
    `${rows.length === 0 ? 'CREATE' : 'ALTER'} ROLE ${ROLE} LOGIN NOSUPERUSER NOCREATEROLE CREATEDB PASSWORD ${password}`,
  );
  await client.query(`ALTER SCHEMA public OWNER TO ${ROLE}`);
  // what an earlier Ruvet made as superuser
  const owned = await client.query(`SELECT tablename FROM pg_tables WHERE schemaname = 'public' AND tableowner <> $1`, [ROLE]);
  for (const { tablename } of owned.rows)
    await client.query(`ALTER TABLE public.${client.escapeIdentifier(tablename)} OWNER TO ${ROLE}`);
} catch (error) {
  console.error(`The database cannot be prepared: ${error.message}`);
  process.exitCode = 1;
} finally {
  await client.end().catch(() => undefined);
}
