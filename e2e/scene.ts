import { AxeBuilder } from '@axe-core/playwright';
import type { Locator, Page } from 'playwright-core';
import { expect, it } from 'vitest';
import { type Stage, openPage, openStage } from './harness.ts';

/** The stage of the file whose scenes are played. */
export let stage: Stage;

/** A further page beside the scene's own. */
export const secondPage = async (): Promise<Page> => (await openPage(stage)).page;

/** A page that a scene is done with: the next one goes on in it, for a new one takes longer to begin than many a scene. */
let done: Awaited<ReturnType<typeof openPage>> | undefined;

/** Each file of scenes has a stage of its own, begun as a copy of a database; what it plays with is loaded once for all of them. */
export async function raise(copyOf: string): Promise<void> {
  stage = await openStage(copyOf);
}
export async function strike(): Promise<void> {
  done = undefined;
  await stage.close();
}

/** One test, from the list of jobs on: it fails when the page throws or logs an error. With a `viewport` it has a page of its own. */
export function scene(name: string, body: (page: Page) => Promise<void>, viewport?: { width: number; height: number }): void {
  it(name, async () => {
    const opened = viewport || !done ? await openPage(stage, viewport) : done;
    done = undefined;
    const { page, errors } = opened;
    if (page.url() !== `${stage.url}/`) await toList(page);
    await body(page);
    expect(errors).toEqual([]);
    // changes still on their way would be offered to the next scene as left behind
    if (viewport || page.isClosed() || (await isUnsaved(page))) return page.context().close();
    await page.unrouteAll();
    done = opened;
  });
}

/** Back to the list as a user goes, in the page that is warm; anew only where nothing leads back. */
async function toList(page: Page): Promise<void> {
  const back = bar(page).getByRole('link', { name: 'Ruvet, all jobs' });
  await page.keyboard.press('Escape');
  if (await back.isVisible()) await back.click();
  else await page.goto(stage.url);
  await page.waitForURL(`${stage.url}/`);
}

const isUnsaved = async (page: Page): Promise<boolean> =>
  (await page
    .locator('[role="status"]')
    .filter({ hasText: /^(Saving…|Not saved)/ })
    .count()) > 0;

/** What the page shows comes after a worker has planned: every reading is asked again until it is as expected. */
export const shows = (read: () => Promise<unknown>): ReturnType<typeof expect.poll> => expect.poll(read, { timeout: 40_000 });
/** How many there are, asked again until it is as expected. */
export const count = (found: Locator): ReturnType<typeof expect.poll> => shows(() => found.count());
/** Where one types: to ask every line of the run sheet for its label takes longer than to plan a roof. */
const typedInto = (within: Page | Locator): Locator =>
  'goto' in within ? within.locator('.left-column, .DetailsPage_details-page, [aria-label="This job"]') : within;
const labelled = (within: Page | Locator, label: string): Locator => typedInto(within).getByLabel(label, { exact: true });

/** A field's text, asked again until it is as expected. */
export const field = (within: Page | Locator, label: string): ReturnType<typeof expect.poll> =>
  shows(() => labelled(within, label).inputValue());

export async function type(within: Page | Locator, label: string, text: string): Promise<void> {
  const found = labelled(within, label);
  await found.fill(text);
  await found.press('Enter');
}

export async function openJob(page: Page, name: string): Promise<void> {
  await page.getByText(name, { exact: true }).first().click();
  await page.locator('.slope-drawing').waitFor();
}

export async function newJob(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'New job' }).first().click();
  await page.locator('.slope-drawing').waitFor();
}

/** The top bar of a job. To ask every piece of a drawing and every line for its name takes longer than what is tried. */
export const bar = (page: Page): Locator => page.locator('[aria-label="This job"]');

export const view = (page: Page, name: string): Promise<void> => bar(page).getByRole('link', { name, exact: true }).click();

export const saved = (page: Page): Promise<void> =>
  bar(page)
    .locator('[role="status"]', { hasText: /^Saved$/ })
    .waitFor();

export async function undo(page: Page, times = 1): Promise<void> {
  for (let i = 0; i < times; i++) await bar(page).getByRole('button', { name: 'Undo' }).click();
}

/** What is told above the drawing: the findings, and how many courses there are. */
export const findings = (page: Page): Locator => page.locator('.Findings_findings');

export const openFindings = (page: Page): Promise<void> =>
  findings(page)
    .getByRole('button', { name: /findings?$/ })
    .click();

/** The accessibility rules, each fault with the view and the place it is at; in the page itself, for no frame of another origin is in it. */
export async function accessible(page: Page, what: string): Promise<void> {
  const { violations } = await new AxeBuilder({ page })
    .options({ resultTypes: ['violations'] })
    .setLegacyMode()
    .analyze();
  expect(violations.map(({ id, nodes }) => `${what}: ${id} at ${nodes[0]?.target.join(' ')}`)).toEqual([]);
}

/** Until the roof is planned as it now stands and the water has judged it. */
export const judged = (page: Page): Promise<void> => page.locator('.Findings_findings[aria-busy="false"]').waitFor();

/** By the keyboard: a plan that comes while the button is held may move it from under the pointer. */
export const addWall = (page: Page): Promise<void> => page.getByRole('button', { name: 'Add a wall' }).press('Enter');
