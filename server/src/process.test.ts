import { readFileSync } from 'node:fs';
import { createServer } from 'node:net';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ofClients, type OwnDatabase, ownDatabase } from '../fixtures/database.ts';
import { freePort, saveUnderLoad, startServer } from '../fixtures/process.ts';

const job = JSON.parse(
  readFileSync(new URL('../../demo/jobs/ringing-house-north.ruvet.json', import.meta.url), 'utf8'),
) as object;

let own: OwnDatabase;
let control: pg.Client;
beforeAll(async () => {
  own = await ownDatabase();
  control = new pg.Client({ connectionString: own.url });
  await control.connect();
});
afterAll(async () => {
  await control.end();
  await own.drop();
});

describe('the running server', () => {
  it('outlives twenty kills of its database connections under load, and loses no acknowledged save', async () => {
    const server = await startServer(own.url, { PORT: String(await freePort()), LOG_LEVEL: 'silent' });
    const load = saveUnderLoad(server.url, job, 6);
    for (let kills = 0; kills < 20; kills++) {
      const before = load.acknowledged.length;
      // in the middle of the work: some saves have come through since the kill before
      await expect.poll(() => load.acknowledged.length, { timeout: 20_000 }).toBeGreaterThan(before + 3);
      await control.query(
        `SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND ${ofClients}`,
      );
    }
    const before = load.acknowledged.length;
    await expect.poll(() => load.acknowledged.length, { timeout: 20_000 }).toBeGreaterThan(before + 10);
    await load.stop();
    expect(server.child.exitCode).toBeNull();
    expect([...load.statuses.keys()].filter((status) => ![200, 201, 503].includes(status))).toEqual([]);
    expect(load.statuses.get(503)).toBeGreaterThan(0);
    const kept = await control.query<{ key: string }>(`SELECT job_id || ' ' || version AS key FROM job_revisions`);
    const keys = new Set(kept.rows.map(({ key }) => key));
    expect(load.acknowledged.filter(({ id, version }) => !keys.has(`${id} ${version}`))).toEqual([]);
    // and none was made twice: each crew's versions follow one another
    const doubled = await control.query(
      'SELECT job_id FROM job_revisions WHERE save_id IS NOT NULL GROUP BY job_id, save_id HAVING count(*) > 1',
    );
    expect(doubled.rows).toEqual([]);
    server.child.kill('SIGTERM');
    expect(await server.ended).toBe(0);
  });

  it('told to end, finishes the save under way and takes no new one', async () => {
    const server = await startServer(own.url, { PORT: String(await freePort()) });
    const { id } = (await (
      await fetch(`${server.url}/api/jobs`, {
        method: 'POST',
        body: JSON.stringify(job),
        headers: { 'content-type': 'application/json' },
      })
    ).json()) as { id: string };
    await control.query('BEGIN');
    await control.query('SELECT 1 FROM jobs WHERE id = $1 FOR UPDATE', [id]);
    const save = fetch(`${server.url}/api/jobs/${id}`, {
      method: 'PUT',
      body: JSON.stringify({ version: 1, job }),
      headers: { 'content-type': 'application/json' },
    });
    const waits = `SELECT count(*)::int AS n FROM pg_stat_activity WHERE datname = current_database() AND wait_event_type = 'Lock'`;
    await expect.poll(async () => (await control.query(waits)).rows[0].n, { timeout: 10_000 }).toBe(1);
    server.child.kill('SIGTERM');
    await expect
      .poll(() =>
        fetch(`${server.url}/api/health`).then(
          () => 'answers',
          () => 'gone',
        ),
      )
      .toBe('gone');
    await control.query('COMMIT');
    const answer = await save;
    expect([answer.status, await answer.json()]).toEqual([200, { version: 2 }]);
    expect(await server.ended).toBe(0);
  });

  it('tells on the list what planning found, once it has planned: nothing wet on the demo, a leak where the kick-out is missing', async () => {
    const server = await startServer(own.url, { PORT: String(await freePort()) });
    const dry = structuredClone(job) as { name: string; parts: { planes: { walls: { foot: string }[] }[] }[] };
    dry.name = 'Without its kick-out';
    dry.parts[0]!.planes[0]!.walls[0]!.foot = 'corner';
    const headers = { 'content-type': 'application/json' };
    await fetch(`${server.url}/api/jobs`, { method: 'POST', body: JSON.stringify(dry), headers });
    const list = async (search: string) => {
      const { jobs } = (await (await fetch(`${server.url}/api/jobs?search=${search}`)).json()) as {
        jobs: { name: string; findings: { leaks: number; breaks: number; seals: number; looks: number } | null }[];
      };
      return jobs.map(({ name, findings }) => [name, findings && [findings.leaks > 0, findings.breaks]]);
    };
    await expect.poll(() => list('kick-out'), { timeout: 30_000, interval: 300 }).toEqual([['Without its kick-out', [true, 0]]]);
    await control.query(`UPDATE jobs SET name = 'Alone', updated_at = now() WHERE name = 'Ringing House'`);
    await expect.poll(() => list('Alone'), { timeout: 30_000, interval: 300 }).toEqual([['Alone', [false, 0]]]);
    server.child.kill('SIGTERM');
    expect(await server.ended).toBe(0);
  });

  it('on a taken port says so and prints one address, the right one', async () => {
    const port = await freePort();
    const taken = createServer().listen(port, '127.0.0.1');
    const server = await startServer(own.url, { PORT: String(port) });
    expect(server.said().match(/http:\/\/localhost:\d+/g)).toEqual([server.url]);
    expect(server.said()).toContain(`Port ${port} is taken.`);
    expect((await fetch(`${server.url}/api/health`)).status).toBe(200);
    server.child.kill('SIGTERM');
    await server.ended;
    taken.close();
  });

  it('on a port that cannot be ends with a sentence', async () => {
    await expect(startServer(own.url, { PORT: '80.5' })).rejects.toThrow(/^PORT must be a whole number .*"80.5"\. \(1\)$/);
  });

  it('without its database ends with a sentence', async () => {
    const nowhere = new URL(own.url);
    nowhere.port = String(await freePort());
    await expect(startServer(nowhere.href)).rejects.toThrow(/^The database cannot be used: .*ECONNREFUSED.* \(1\)$/);
  });
});
