import type { Locator, Page } from 'playwright-core';
import { describe, expect } from 'vitest';
import { count, field, judged, newJob, openJob, saved, scene, shows, type, view } from './scene.ts';

const summary = (page: Page) => shows(() => page.locator('.Findings_plan-summary').innerText());
const ordered = (page: Page, product: string): Locator => page.locator('tr', { hasText: product }).first();
const verdict = (page: Page) => shows(() => page.locator('.LapBench_verdict-word').first().innerText());
const anew = (page: Page, kind: string): Promise<void> =>
  page.getByRole('group', { name: 'Cover this slope with another covering' }).getByRole('button', { name: kind }).click();
const line = (page: Page, text: string | RegExp): Locator => page.locator('.RunSheet_run-line', { hasText: text }).first();

describe('a slate porch', () => {
  scene('is planned, judged, told and ordered in slates', async (page) => {
    await openJob(page, 'Keeper’s Cottage: slate porch');
    await judged(page);
    await summary(page).toBe('16 courses at 194 mm · SW1 16 soakers');
    await page.getByText('Sheds, and keeps the rules').waitFor();
    await shows(() => line(page, 'Lay the under-eave course: cut').textContent()).toContain(
      'cut to 306 mm long, tails 50 mm past the eave',
    );
    await shows(() => line(page, 'Set soaker SW1-02').textContent()).toContain(
      '331 mm long; its head turned down over what it lies on',
    );
    await shows(() => line(page, 'Nail 16 battens').textContent()).toContain('one a course, 194 mm apart');
    await view(page, 'Order list');
    await shows(() => ordered(page, 'Slate 500 × 250 mm').innerText()).toMatch(/1 crate[\s\S]*143 pieces/);
    await shows(() => ordered(page, 'Slate and a half').innerText()).toMatch(/18 pieces/);
    await shows(() => ordered(page, 'Batten 25 × 50').innerText()).toMatch(/8 lengths/);
  });

  scene('a soaker left out on the bench is caught by what lies under it', async (page) => {
    await openJob(page, 'Keeper’s Cottage: slate porch');
    await view(page, 'Lap bench');
    await verdict(page).toBe('Sheds');
    await page.getByText('SW1-12 is on the bench').waitFor();
    await page.getByRole('button', { name: 'leave it out' }).click();
    await verdict(page).toMatch(/underlayer/i);
    await page.getByRole('button', { name: 'SW1: one long piece' }).click();
    await verdict(page).toMatch(/wet/i);
  });
});

describe('a tiled wash-house', () => {
  scene(
    'is planned, judged, told and ordered in flat tile, then in profiled; what is not flashed on tile is said at its place',
    async (page) => {
      await openJob(page, 'Keeper’s Cottage: wash-house');
      await judged(page);
      await summary(page).toBe('8 courses at 289 mm');
      await page.getByText('Sheds, and keeps the rules').waitFor();
      await shows(() => line(page, 'Nail 8 battens').textContent()).toContain(
        'the first 345 mm up the slope, the next 289 mm apart',
      );
      await shows(() => line(page, 'Lay course 2').textContent()).toContain('tails on 239 mm: 11 whole, cut ones 150 mm, 150 mm');
      await count(page.locator('path[class*="crowns"][d^="M"]')).toBe(0);
      await view(page, 'Order list');
      await shows(() => ordered(page, 'Batten 25 × 50').innerText()).toMatch(/8 lengths/);
      await shows(() => ordered(page, 'Brindlecombe Plain-face').innerText()).toMatch(/102 loose pieces/);
      await view(page, 'Slope');
      await type(page, 'Gauge', '400 mm');
      await page.getByText('Gauge: 400 mm is more than the 320 mm that leaves Brindlecombe Plain-face').first().waitFor();
      await type(page, 'Gauge', '');
      await summary(page).toBe('8 courses at 289 mm');
      await page.getByLabel('Tile', { exact: true }).selectOption('brindlecombe-roll');
      await page
        .getByText(/^Tile and a half: Brindlecombe Plain-face tile and a half.* half as wide again\.$/)
        .first()
        .waitFor();
      await page.getByLabel('Tile and a half', { exact: true }).selectOption('brindlecombe-roll-half');
      await count(page.getByText(/^Tile and a half: Brindlecombe Plain-face/)).toBe(0);
      await count(page.locator('path[class*="crowns"][d^="M"]')).toBe(1);
      await shows(() => line(page, 'Lay course 2').textContent()).toContain('tails on 239 mm: 12 whole.');
      await page.getByRole('button', { name: 'pipe or flue' }).click();
      await page
        .getByText(/^P1, .*: tile is flashed there past its crowns or by a channel, which is not planned/)
        .first()
        .waitFor();
      await summary(page).toBe('8 courses at 289 mm');
    },
  );
});

describe('a slope covered anew', () => {
  scene('in shakes, then in slates, which say so while the pitch is too flat for them', async (page) => {
    await newJob(page);
    await anew(page, 'Shakes');
    await field(page, 'Felt between the courses').toBe('quillhaven-interlay');
    await summary(page).toMatch(/courses at 10"/);
    await line(page, /Lay the felt interlay F01 on course 1/).waitFor();
    await page.getByRole('button', { name: 'Undo' }).click();
    await summary(page).toMatch(/courses at 5 5\/8"/);
    await type(page, 'Pitch', '4/12');
    await anew(page, 'Slates');
    await page
      .getByText(/pitch: 18\.4° is under the least for Slate 500 × 250 mm/)
      .first()
      .waitFor();
    await type(page, 'Pitch', '8/12');
    await count(page.getByText(/is under the least for Slate/)).toBe(0);
    await field(page, 'Slate and a half').toBe('blackfell-500-half');
    await line(page, 'Lay the under-eave course').waitFor();
    await type(page, 'Gauge', '9"');
    await page
      .getByText(/Gauge: 9" is more than the 8 1\/16" that leaves/)
      .first()
      .waitFor();
    await saved(page);
    await page.reload();
    await field(page, 'Battens').toBe('fenwick-batten');
    await count(page.getByLabel('Shingle', { exact: true })).toBe(0);
    expect(await page.getByLabel('Covering of this slope').count()).toBe(0);
  });
});
