// npm run kills: stops a PostgreSQL of its own at once, twenty times, while crews save, and tells what became of every acknowledged save. Needs a build.
import { execFileSync } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { freePort, saveUnderLoad, startServer } from '../server/fixtures/process.ts';

const KILLS = 20;
const house = JSON.parse(readFileSync(new URL('../demo/jobs/ringing-house.ruvet.json', import.meta.url), 'utf8')) as object;
const bin = join('/usr/lib/postgresql', readdirSync('/usr/lib/postgresql').sort().at(-1)!, 'bin');
const folder = mkdtempSync(join(tmpdir(), 'ruvet-kills-'));
chmodSync(folder, 0o777);
const data = join(folder, 'data');
const port = await freePort();

/** PostgreSQL will not run as root. */
function tool(name: string, ...args: string[]): void {
  const command = [join(bin, name), ...args];
  const [program, ...rest] = process.getuid?.() === 0 ? ['runuser', '-u', 'postgres', '--', ...command] : command;
  execFileSync(program!, rest, { cwd: '/', stdio: 'ignore' });
}
const start = (): void =>
  tool('pg_ctl', '-D', data, '-w', '-l', join(folder, 'log'), '-o', `-p ${port} -c listen_addresses=127.0.0.1 -c unix_socket_directories=''`, 'start'); // prettier-ignore
const until = async (done: () => boolean): Promise<void> => {
  while (!done()) await new Promise((resolve) => setTimeout(resolve, 20));
};

// nothing of it is kept, and it listens to this machine only: it needs no password
tool('initdb', '-D', data, '-U', 'kills', '--auth=trust', '--encoding=UTF8', '--locale=C.UTF-8');
start();
const url = `postgresql://kills@127.0.0.1:${port}/postgres`;
const server = await startServer(url, { PORT: String(await freePort()), LOG_LEVEL: 'silent' });
const load = saveUnderLoad(server.url, house, 6);
for (let kill = 0; kill < KILLS; kill++) {
  const before = load.acknowledged.length;
  await until(() => load.acknowledged.length > before + 3);
  tool('pg_ctl', '-D', data, '-m', 'immediate', 'stop');
  start();
}
const before = load.acknowledged.length;
await until(() => load.acknowledged.length > before + 10);
await load.stop();

const control = new pg.Client({ connectionString: url });
await control.connect();
const { rows } = await control.query<{ key: string }>(`SELECT job_id || ' ' || version AS key FROM job_revisions`);
const doubled = await control.query(
  'SELECT 1 FROM job_revisions WHERE save_id IS NOT NULL GROUP BY job_id, save_id HAVING count(*) > 1',
);
await control.end();
const kept = new Set(rows.map(({ key }) => key));
const lost = load.acknowledged.filter(({ id, version }) => !kept.has(`${id} ${version}`));
const alive = server.child.exitCode === null;
const odd = [...load.statuses.keys()].filter((status) => ![200, 201, 503].includes(status));
console.log(
  `${KILLS} kills; the server ${alive ? 'lives' : 'died'}; ${load.acknowledged.length} saves acknowledged, ${lost.length} lost, ${doubled.rows.length} made twice`,
);
console.log(`answers: ${[...load.statuses].map(([status, count]) => `${count} × ${status}`).join(', ')}`);
server.child.kill('SIGTERM');
await server.ended;
tool('pg_ctl', '-D', data, '-m', 'fast', 'stop');
rmSync(folder, { recursive: true });
process.exitCode = alive && lost.length === 0 && doubled.rows.length === 0 && odd.length === 0 ? 0 : 1;
