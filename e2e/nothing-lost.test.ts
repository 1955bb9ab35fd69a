import { readFileSync } from 'node:fs';
import type { Page } from 'playwright-core';
import { describe, expect } from 'vitest';
import { bar, count, field, saved, scene, secondPage, shows, stage, type, undo, view } from './scene.ts';

const DEMO = readFileSync(new URL('../demo/jobs/ringing-house-north.ruvet.json', import.meta.url), 'utf8');

/** Opens a job of the scene's own. */
async function openOwn(page: Page): Promise<void> {
  const added = await page.request.post(`${stage.url}/api/jobs`, {
    data: JSON.parse(DEMO) as object,
    // the server of the scene before took its connections along
    maxRetries: 1,
  });
  const { id } = (await added.json()) as { id: string };
  // in the page that is warm, as its back button would go
  await page.evaluate((to) => {
    history.pushState(null, '', to);
    dispatchEvent(new PopStateEvent('popstate'));
  }, `/jobs/${id}`);
  await page.locator('.slope-drawing').waitFor();
}

const jobAt = (page: Page): string => /jobs\/([0-9a-f-]{36})/.exec(page.url())![1]!;
/** What the database has of a job: its version, the name, and the eave in inches. */
async function kept(id: string): Promise<{ version: number; name: string; eave: number }> {
  const [row] = await stage.ask(
    `SELECT j.version, r.body ->> 'name' AS name, (r.body #>> '{parts,0,eaveLength}')::float / 25.4 AS eave
     FROM jobs j JOIN job_revisions r ON r.job_id = j.id AND r.version = j.version WHERE j.id = '${id}'`,
  );
  return row as { version: number; name: string; eave: number };
}
const eave = async (id: string): Promise<number> => Math.round((await kept(id)).eave);
const quiet = (page: Page, text: string | RegExp) => page.getByRole('status').filter({ hasText: text });

describe('nothing is lost', () => {
  scene('when the server is killed while somebody types, and comes back', async (page) => {
    await openOwn(page);
    const id = jobAt(page);
    await type(page, 'Eave length', '43 ft');
    await stage.kill('SIGKILL');
    await type(page, 'Eave length', '42 ft');
    await quiet(page, 'The server does not answer. Go on working').waitFor();
    await type(page, 'Pitch', '7/12');
    // the plan goes on by itself
    await shows(() => page.locator('.Findings_plan-summary').innerText()).toContain('SW1 38 steps');
    await stage.restart();
    await saved(page);
    await count(quiet(page, 'Go on working')).toBe(0);
    expect(await eave(id)).toBe(42 * 12);
  });

  scene('when the machine slept and was off the net', async (page) => {
    await openOwn(page);
    const id = jobAt(page);
    await page.context().setOffline(true);
    await type(page, 'Eave length', '41 ft');
    await quiet(page, 'Go on working').waitFor();
    await page.context().setOffline(false);
    await saved(page);
    // it is the same editor still: what was there can be undone
    await field(page, 'Eave length').toBe(`41'-0"`);
    expect(await eave(id)).toBe(41 * 12);
    await undo(page);
    await field(page, 'Eave length').toBe(`44'-0"`);
    await saved(page);
    expect(await eave(id)).toBe(44 * 12);
  });

  scene('when the database goes away: it is told, and saved when it is back', async (page) => {
    await openOwn(page);
    const id = jobAt(page);
    expect((await page.request.get(`${stage.url}/api/health`)).status()).toBe(200);
    await stage.databaseAway(true);
    const health = await page.request.get(`${stage.url}/api/health`);
    expect([health.status(), ((await health.json()) as { title: string }).title]).toEqual([503, 'The database is away']);
    await type(page, 'Eave length', '40 ft');
    await quiet(page, 'The database does not answer just now.').waitFor();
    await stage.databaseAway(false);
    await saved(page);
    expect(await eave(id)).toBe(40 * 12);
  });

  scene('when the answer of a save is lost: nobody “saved first”', async (page) => {
    await openOwn(page);
    const id = jobAt(page);
    const before = (await kept(id)).version;
    let lost = 0;
    await page.route('**/api/jobs/*', async (route) => {
      if (route.request().method() !== 'PUT' || lost > 1) return route.continue();
      lost++;
      await route.fetch();
      // more is typed before the same save is tried again
      if (lost === 1) await page.getByLabel('Eave length', { exact: true }).fill('38 ft');
      await route.abort();
    });
    await type(page, 'Eave length', '39 ft');
    await quiet(page, 'Go on working').waitFor();
    await page.getByLabel('Eave length', { exact: true }).press('Enter');
    await saved(page);
    await count(page.getByRole('dialog')).toBe(0);
    expect(await eave(id)).toBe(38 * 12);
    expect((await kept(id)).version).toBe(before + 2);
  });

  scene('when the page is left while a save is on its way, and come back to', async (page) => {
    await openOwn(page);
    const id = jobAt(page);
    let letGo: () => void = () => undefined;
    const held = new Promise<void>((resolve) => (letGo = resolve));
    await page.route('**/api/jobs/*', async (route) => {
      if (route.request().method() === 'PUT') await held;
      await route.continue();
    });
    await type(page, 'Eave length', '37 ft');
    await quiet(page, 'Saving…').waitFor();
    await type(page, 'Name of the job', 'Left in the middle');
    await bar(page).getByRole('link', { name: 'Ruvet, all jobs' }).click();
    await quiet(page, 'on their way to the server').waitFor();
    await page.goBack();
    await page.locator('.slope-drawing').waitFor();
    await field(page, 'Eave length').toBe(`37'-0"`);
    await field(page, 'Name of the job').toBe('Left in the middle');
    letGo();
    await saved(page);
    expect(await kept(id)).toMatchObject({ name: 'Left in the middle' });
    expect(await eave(id)).toBe(37 * 12);
  });

  scene('when the window is closed while the server is away: the changes are offered on return', async (page) => {
    await openOwn(page);
    const id = jobAt(page);
    await stage.kill('SIGTERM');
    await type(page, 'Eave length', '36 ft');
    await quiet(page, 'Go on working').waitFor();
    // the device keeps it; the same browser comes back to it
    const again = await page.context().newPage();
    await page.close({ runBeforeUnload: false });
    await stage.restart();
    await again.goto(`${stage.url}/`);
    await again.getByText('was changed on this device').waitFor();
    await again.getByRole('link', { name: 'Open it to go on' }).click();
    await again.getByRole('heading', { name: 'Changes that were not saved' }).waitFor();
    expect(await eave(id)).toBe(44 * 12);
    await again.getByRole('button', { name: 'Go on with the changes' }).click();
    await again.locator('.slope-drawing').waitFor();
    await field(again, 'Eave length').toBe(`36'-0"`);
    await saved(again);
    expect(await eave(id)).toBe(36 * 12);
  });

  scene('in two windows on one job: who comes second is asked, and both are kept', async (page) => {
    await openOwn(page);
    const second = await secondPage();
    await second.goto(page.url());
    await second.locator('.slope-drawing').waitFor();
    await page.context().setOffline(true);
    await type(page, 'Eave length', '35 ft');
    await quiet(page, 'Go on working').waitFor();
    await type(second, 'Eave length', '34 ft');
    await saved(second);
    await page.context().setOffline(false);
    const choice = page.getByRole('dialog');
    await choice.getByText('Someone saved this job first').waitFor();
    await choice.getByRole('button', { name: 'Go on with mine' }).click();
    await saved(page);
    const id = jobAt(page);
    expect(await eave(id)).toBe(35 * 12);
    const kinds = await stage.ask(
      `SELECT round((body #>> '{parts,0,eaveLength}')::numeric / 304.8)::int AS feet FROM job_revisions WHERE job_id = '${id}' ORDER BY version DESC LIMIT 2`,
    );
    expect(kinds.map(({ feet }) => feet)).toEqual([35, 34]);
    await second.context().close();
  });

  scene('a window that is left with changes on their way asks first', async (page) => {
    await openOwn(page);
    await page.context().setOffline(true);
    await type(page, 'Eave length', '33 ft');
    await quiet(page, 'Go on working').waitFor();
    const asked: string[] = [];
    page.on('dialog', (dialog) => {
      asked.push(dialog.type());
      void dialog.dismiss();
    });
    await page.close({ runBeforeUnload: true });
    await shows(() => Promise.resolve(asked)).toEqual(['beforeunload']);
    await page.context().setOffline(false);
    await undo(page);
    await saved(page);
  });
});

describe('newer versions', () => {
  scene('of the catalog are offered with what they would change, and the job moves by a button', async (page) => {
    const [{ version }] = (await stage.ask('SELECT max(version) AS version FROM catalogs')) as [{ version: number }];
    const next = version + 1;
    await stage.ask(
      `INSERT INTO catalogs (organisation_id, version, body)
       SELECT organisation_id, ${next}, replace(jsonb_set(body::jsonb, '{version}', '${next}')::text, '"perPackage": 50, "thickness": "0.024 in"', '"perPackage": 10, "thickness": "0.024 in"')::json
       FROM catalogs ORDER BY version DESC LIMIT 1`,
    );
    await page.reload();
    await openOwn(page);
    await page.getByText(`Newer here: Catalog, version ${next}`).waitFor();
    await page.getByRole('button', { name: 'See what changes' }).click();
    const moving = page.getByRole('dialog');
    await moving.getByText(`Catalog: version ${version} → ${next}`).waitFor();
    await moving.getByText(/The plan stays as it is|Order/).waitFor();
    await moving.getByRole('button', { name: 'Move the job' }).click();
    await count(page.getByText('Newer here')).toBe(0);
    await saved(page);
    const [row] = await stage.ask(
      `SELECT r.body ->> 'catalog' AS catalog FROM jobs j JOIN job_revisions r ON r.job_id = j.id AND r.version = j.version WHERE j.id = '${jobAt(page)}'`,
    );
    expect(row).toEqual({ catalog: `${next}` });
    await undo(page);
    await page.getByText(`Newer here: Catalog, version ${next}`).waitFor();
    await saved(page);
    await stage.ask(`DELETE FROM catalogs WHERE version = ${next}`);
  });
});

describe('a long list', () => {
  scene('is shown a page at a time, and searched', async (page) => {
    await stage.ask(
      `INSERT INTO jobs (organisation_id, version, name, slope, slopes, walls, features, created_at, updated_at)
       SELECT 'larkmoor', 1, 'Barn ' || n, 'North', 1, 0, 0, now() - interval '1 day', now() - n * interval '1 minute' FROM generate_series(1, 55) n`,
    );
    await page.reload();
    await count(page.locator('.JobsPage_job-row')).toBe(20);
    const find = page.getByLabel('Find a job by its name');
    await find.fill('bArn');
    const names = (): Promise<string[]> => page.locator('.JobsPage_job-name').allInnerTexts();
    const barns = (from: number, to: number) => Array.from({ length: to - from + 1 }, (_, i) => `Barn ${from + i}`);
    await shows(names).toEqual(barns(1, 20));
    await page.getByRole('button', { name: 'Older' }).click();
    await shows(names).toEqual(barns(21, 40));
    await page.getByRole('button', { name: 'Older' }).click();
    await shows(names).toEqual(barns(41, 55));
    expect(await page.getByRole('button', { name: 'Older' }).isDisabled()).toBe(true);
    await page.getByRole('button', { name: 'Newer' }).click();
    await shows(names).toEqual(barns(21, 40));
    await find.fill('barn 5');
    await shows(names).toEqual(['Barn 5', ...barns(50, 55)]);
    await find.fill('no such');
    await page.getByText('No job has “no such” in its name.').waitFor();
    await stage.ask(`DELETE FROM jobs WHERE name LIKE 'Barn %'`);
  });
});

describe('keys', () => {
  scene(
    'leave scrolling alone where a page scrolls, and typing where one types; on the slope they move the marker',
    async (page) => {
      await openOwn(page);
      const marker = page.locator('.RunSheet_run-line.RunSheet_current .RunSheet_line-number');
      await page.keyboard.press('Home');
      await page.keyboard.press('ArrowUp');
      await shows(() => marker.innerText()).toBe('1');
      await page.getByLabel('Name of the job').press('End');
      await page.getByLabel('Name of the job').pressSequentially(' [f');
      await shows(() => marker.innerText()).toBe('1');
      await field(page, 'Name of the job').toMatch(/ \[f$/);
      await view(page, 'Order list');
      const top = (): Promise<number> =>
        page.evaluate<number>('[...document.querySelectorAll("*")].reduce((most, one) => Math.max(most, one.scrollTop), 0)');
      await page.getByRole('row').nth(1).click();
      await page.keyboard.press('PageDown');
      await shows(async () => (await top()) > 100).toBe(true);
      await page.keyboard.press('Home');
      await shows(top).toBe(0);
      await page.keyboard.press('End');
      await shows(async () => (await top()) > 100).toBe(true);
      await view(page, 'Slope');
      await shows(() => marker.innerText()).toBe('1');
    },
    { width: 1280, height: 500 },
  );
});
