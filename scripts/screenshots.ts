// npm run screenshots: one picture of each main view, from the demo data, into docs/screenshots/. Needs DATABASE_URL and a build.
import { type Page } from 'playwright-core';
import { openPage, openStage } from '../e2e/harness.ts';

const stage = await openStage();
const DESK = { width: 1280, height: 800 };
const openDemo = async (page: Page): Promise<void> => {
  await page.getByText('Ringing House: north plane and tower wall', { exact: true }).click();
  await page.locator('.slope-drawing, .RunSheet_run-sheet').first().waitFor();
};

async function picture(
  name: string,
  viewport: { width: number; height: number },
  arrange: (page: Page) => Promise<unknown>,
): Promise<void> {
  const { page } = await openPage(stage, viewport);
  await page.getByText('Ringing House').first().waitFor();
  await arrange(page);
  await page.waitForTimeout(500); // dialogs fade in
  await page.screenshot({ path: new URL(`../docs/screenshots/${name}.png`, import.meta.url).pathname });
  await page.context().close();
}

await picture('jobs', DESK, async (page) => page.locator('.JobsPage_found').nth(6).waitFor());
await picture('slope', DESK, async (page) => {
  await openDemo(page);
  await page.getByRole('button', { name: /^Line 40\b/ }).click();
});
await picture('piece', DESK, async (page) => {
  await openDemo(page);
  await page.getByRole('button', { name: /^Line 36\b/ }).click();
  await page.getByRole('button', { name: 'SW1-12', exact: true }).click();
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'Nearer' }).click();
});
await picture('who-says', DESK, async (page) => {
  await openDemo(page);
  await page.getByRole('button', { name: 'SW1-12', exact: true }).click();
  await page.getByRole('button', { name: 'Who says? step flashing leg up the wall' }).click();
});
await picture('lap-bench', DESK, async (page) => {
  await openDemo(page);
  await page.getByRole('button', { name: 'SW1-12', exact: true }).click();
  await page.getByRole('link', { name: 'Lap bench' }).click();
  await page.getByRole('button', { name: 'nail it low' }).click();
  await page.getByText('Slow leak', { exact: true }).waitFor();
});
await picture('order', DESK, async (page) => {
  await openDemo(page);
  await page.getByRole('link', { name: 'Order list' }).click();
});
await picture('print', { width: 900, height: 1150 }, async (page) => {
  await openDemo(page);
  await page.getByRole('link', { name: 'Print' }).click();
});
const house = async (page: Page, link: string): Promise<void> => {
  await page.getByText('Ringing House', { exact: true }).first().click();
  await page.locator('.slope-drawing').waitFor();
  await page.getByRole('link', { name: link, exact: true }).click();
};
await picture('roof', DESK, async (page) => {
  await house(page, 'Roof');
  await page.locator('.PlanView_plan-view svg').waitFor();
});
for (const [name, detail] of [
  ['chimney', 'CH1'],
  ['valley', 'V2'],
] as const)
  await picture(name, DESK, async (page) => {
    await house(page, 'Details');
    await page.locator('.DetailsPage_detail-list button', { hasText: detail }).first().click();
    await page.locator('.DetailDrawing_detail-drawing svg').waitFor();
    await page.locator('.Findings_findings[aria-busy="false"]').waitFor();
  });
await picture('section', { width: 1280, height: 1000 }, async (page) => {
  await house(page, 'Details');
  await page.locator('.DetailsPage_detail-list button', { hasText: 'P1' }).first().click();
  await page.locator('.Findings_findings[aria-busy="false"]').waitFor();
  await page.getByRole('region', { name: 'Sections' }).evaluate((one) => one.scrollIntoView());
});
await picture('detail-page', { width: 900, height: 1150 }, async (page) => {
  await house(page, 'Details');
  await page.locator('.DetailsPage_detail-list button', { hasText: 'CH1' }).first().click();
  await page.getByRole('link', { name: 'Print this detail' }).click();
  await page.getByRole('article').getByRole('img').first().waitFor();
});
for (const [name, job] of [
  ['slates', 'Keeper’s Cottage: slate porch'],
  ['tiles', 'Keeper’s Cottage: back slope and outshot'],
  ['shakes', 'Peat shed: shake roof'],
] as const)
  await picture(name, DESK, async (page) => {
    await page.getByText(job, { exact: true }).click();
    await page.locator('.slope-drawing').waitFor();
    await page.locator('.Findings_findings[aria-busy="false"]').waitFor();
  });
await picture('phone', { width: 390, height: 844 }, openDemo);
await stage.close();
