// The server's part of npm run bench: saves a second, and the first page of a list of 10,000 jobs. Needs DATABASE_URL and a build.
import { readFileSync } from 'node:fs';
import pg from 'pg';
import { ownDatabase } from '../server/fixtures/database.ts';
import { saveUnderLoad, startServer } from '../server/fixtures/process.ts';

const house = JSON.parse(readFileSync(new URL('../demo/jobs/ringing-house.ruvet.json', import.meta.url), 'utf8')) as object;
const CREWS = 8;
const SECONDS = 5;

const wait = (seconds: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, seconds * 1000));

async function savesASecond(url: string): Promise<number> {
  const load = saveUnderLoad(url, house, CREWS);
  await wait(1);
  const before = load.acknowledged.length;
  const started = performance.now();
  await wait(SECONDS);
  const rate = ((load.acknowledged.length - before) / (performance.now() - started)) * 1000;
  await load.stop();
  return rate;
}

async function firstPage(url: string): Promise<number> {
  const times: number[] = [];
  for (let i = 0; i < 60; i++) {
    const started = performance.now();
    await (await fetch(`${url}/api/jobs`)).text();
    times.push(performance.now() - started);
  }
  return times.sort((a, b) => a - b)[times.length >> 1]!;
}

/** Saves the whole house as fast as it goes, with the database's usual care for the disk, and opens long lists. */
export async function benchServer(): Promise<void> {
  const own = await ownDatabase();
  const control = new pg.Client({ connectionString: own.url });
  await control.connect();
  const { rows } = await control.query(
    `SELECT current_setting('fsync') AS fsync, current_setting('synchronous_commit') AS commit`,
  );
  const server = await startServer(own.url, { PORT: '4871', LOG_LEVEL: 'silent' });
  console.log(`saving the whole Ringing House, ${CREWS} crews, fsync ${rows[0].fsync}, synchronous_commit ${rows[0].commit}:`);
  for (let run = 0; run < 3; run++) console.log(`  ${(await savesASecond(server.url)).toFixed(0)} saves a second`);
  await control.query('DELETE FROM job_revisions');
  await control.query('DELETE FROM jobs');
  const fill = (count: number) =>
    control.query(
      `WITH added AS (
         INSERT INTO jobs (organisation_id, version, name, slope, slopes, walls, features, updated_at)
         SELECT 'larkmoor', 1, 'Barn ' || n, 'North plane', 5, 2, 6, now() - n * interval '1 minute' FROM generate_series(1, $1::int) n RETURNING id
       ) INSERT INTO job_revisions (organisation_id, job_id, version, body) SELECT 'larkmoor', id, 1, $2 FROM added`,
      [count, JSON.stringify(house)],
    );
  await fill(20);
  await control.query('VACUUM ANALYZE');
  const few = await firstPage(server.url);
  await fill(9_980);
  await control.query('VACUUM ANALYZE');
  const many = await firstPage(server.url);
  console.log(
    `first page of 20 jobs ${few.toFixed(2)} ms, of 10,000 jobs ${many.toFixed(2)} ms: ${(many / few).toFixed(2)} times as long`,
  );
  server.child.kill('SIGTERM');
  await server.ended;
  await control.end();
  await own.drop();
}
