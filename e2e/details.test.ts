import type { Page } from 'playwright-core';
import { describe, expect } from 'vitest';
import { accessible, count, openJob, scene, shows, view } from './scene.ts';

const detail = async (page: Page, name: string): Promise<void> => {
  await openJob(page, 'Ringing House');
  await view(page, 'Details');
  await page
    .getByRole('navigation', { name: 'Details of this roof' })
    .getByRole('button', { name: new RegExp(`^${name}`) })
    .first()
    .click();
  await page.getByRole('img', { name: /, drawn to scale$/ }).waitFor();
};
const drawing = (page: Page, name: string | RegExp) => page.getByRole('img', { name });

/** Whether what carries a mark on a drawing is drawn strong, as what is pointed at is. */
const isStrong = (page: Page, name: string | RegExp, mark: string) =>
  shows(() =>
    drawing(page, name)
      .locator(`path[data-mark="${mark}"]`)
      .first()
      .evaluate((path) => getComputedStyle(path).strokeWidth),
  );

describe('a detail is drawn to be worked from', () => {
  scene('a chimney has the lengths the tape meets on its slope and on its faces', async (page) => {
    await detail(page, 'CH1');
    const slope = drawing(page, /Stove chimney, drawn to scale/);
    for (const words of ['4" on the roof', '5" past the corner', '2 3/8" headlap', '8" long', '3/8" gap'])
      await slope.getByText(words, { exact: true }).waitFor();
    const front = drawing(page, 'Stove chimney, front, to scale');
    for (const words of ['5" up the face', '1 3/16" off the roof', '3 13/16" over the leg'])
      await front.getByText(words, { exact: true }).waitFor();
    const side = drawing(page, 'Stove chimney, left side, to scale');
    for (const words of ['11 3/8" tall end, from the roof', '8 5/16" level', '3" lap', '4" up the wall'])
      await side.getByText(words, { exact: true }).waitFor();
  });

  scene('its sections number the layers as they are laid, and its build-up ends on the line of the run sheet', async (page) => {
    await detail(page, 'CH1');
    const legend = await page.getByRole('region', { name: 'Sections' }).getByRole('listitem').allInnerTexts();
    const place = (words: string): number => {
      const found = legend.findIndex((entry) => entry.includes(words));
      expect(found, words).toBeGreaterThanOrEqual(0);
      return found;
    };
    expect(place('wall membrane CH1F-M1')).toBeLessThan(place('courses N-C13 to N-C17'));
    expect(place('courses N-C13 to N-C17')).toBeLessThan(place('apron CH1F-A1'));
    expect(place('apron CH1F-A1')).toBeLessThan(place('counterflashing CH1F-R1'));

    const pictures = page.getByRole('region', { name: 'Build-up' }).getByRole('button');
    await count(pictures).toBeGreaterThan(8);
    const words = await pictures.evaluateAll((all) => all.map((one) => one.getAttribute('aria-label')!));
    expect(words[0]).toMatch(/^1\. wall membrane CH1F-M1, line \d+$/);
    const lines = words.map((one) => Number(/lines? (\d+)/.exec(one)![1]));
    expect(lines).toEqual(lines.toSorted((a, b) => a - b));
    const apron = pictures.filter({ hasText: 'apron CH1F-A1' });
    await apron.click();
    // the slope as it lies with the apron on
    await page
      .getByRole('listitem')
      .filter({ has: page.locator('[aria-current="step"]') })
      .filter({ hasText: /apron/i })
      .first()
      .waitFor();
  });

  scene('what is pointed at in the cut list is drawn strong in drawing, section and build-up, and nowhere else', async (page) => {
    await detail(page, 'CH1');
    const section = /^Section up the slope/;
    await isStrong(page, section, 'CH1F-A1').toBe('1.2px');
    await drawing(page, 'Stove chimney, front, to scale').locator('path[data-mark="CH1F-R1"]').first().hover();
    await isStrong(page, section, 'CH1F-R1').toBe('2.6px');
    await isStrong(page, section, 'CH1F-A1').toBe('1.2px');
    await page.getByRole('region', { name: 'Cut list' }).getByRole('button', { name: 'CH1F-A1', exact: true }).focus();
    await isStrong(page, section, 'CH1F-A1').toBe('2.6px');
    await isStrong(page, /Stove chimney, drawn to scale/, 'CH1F-A1').toBe('2.6px');
    await isStrong(page, section, 'CH1F-R1').toBe('1.2px');
  });
});

describe('a detail’s cut list', () => {
  scene('has each flat pattern as large as its blank, whole within its frame', async (page) => {
    await detail(page, 'CH1');
    const rows = page
      .getByRole('region', { name: 'Cut list' })
      .locator('tbody tr')
      .filter({ has: page.getByRole('img') });
    await count(rows).toBeGreaterThan(6);
    const told = await rows.evaluateAll((all) =>
      all.map((row) => {
        const svg = row.querySelector('svg')!;
        const sheet = svg.querySelector('path')!.getBBox();
        const { width, height } = svg.viewBox.baseVal;
        return {
          blank: row.children[2]!.textContent!,
          drawn: svg.getAttribute('aria-label')!.replace('Flat pattern ', '').replace(' by ', ' × '),
          inside: sheet.x >= 0 && sheet.y >= 0 && sheet.x + sheet.width <= width && sheet.y + sheet.height <= height,
        };
      }),
    );
    for (const { blank, drawn, inside } of told) {
      expect(drawn).toBe(blank);
      expect(inside, blank).toBe(true);
    }
  });
});

describe('a detail’s page', () => {
  scene('prints on one sheet with its cut list and flat patterns, in either size, whatever the detail', async (page) => {
    await openJob(page, 'Ringing House');
    await view(page, 'Details');
    const tried = [
      [/^SW1 .*sidewall$/, 'Letter'],
      [/^HW1 .*through-wall$/, 'A4'],
      [/^V1 .*valley$/, 'A4'],
      // last, for it is read on
      [/^CH1 .*chimney$/, 'Letter'],
    ] as const;
    for (const [name, paper] of tried) {
      const said = `${name} on ${paper}`;
      await page.getByRole('navigation', { name: 'Details of this roof' }).getByRole('button', { name }).click();
      await page.getByRole('link', { name: 'Print this detail' }).click();
      const sheet = page.getByRole('article', { name: /, one page$/ });
      await sheet.getByRole('img').first().waitFor();
      await page.getByText(paper, { exact: true }).click();
      const pdf = await page.pdf({ preferCSSPageSize: true });
      expect(pdf.toString('latin1').match(/\/Type\s*\/Page[^s]/g)?.length, said).toBe(1);
      // smaller than half the letters could not be read
      expect(Number(await sheet.getAttribute('data-zoom')), said).toBeGreaterThan(0.5);
      await shows(() => sheet.innerText()).toContain('Cut list');
      expect(await sheet.innerText()).not.toMatch(/NaN|undefined|Infinity/);
      if (name !== tried.at(-1)![0]) await page.getByRole('link', { name: 'Back to the detail' }).click();
    }
    await accessible(page, 'print of a detail');
    const row = page.getByRole('row', { name: /apron CH1F-A1/ });
    await shows(() => row.innerText()).toContain('52" × 9"');
    await page.getByRole('img', { name: 'Flat pattern 52" by 9"' }).waitFor();
  });
});

describe('the slope under two fingers', () => {
  scene('comes nearer about the place between them, moves along with one, and a tap still takes a piece', async (page) => {
    const touch = await page.context().newCDPSession(page);
    await touch.send('Emulation.setTouchEmulationEnabled', { enabled: true, maxTouchPoints: 2 });
    await page.reload();
    await openJob(page, 'Ringing House');
    const frame = page.locator('svg.slope-drawing');
    const box = (await frame.boundingBox())!;
    const frameOf = page.locator('[data-feature="SK1"]');
    const before = (await frameOf.boundingBox())!;
    const [cx, cy] = [before.x + before.width / 2, before.y + before.height / 2];
    const fingers = (type: 'touchStart' | 'touchMove' | 'touchEnd', apart?: number) =>
      touch.send('Input.dispatchTouchEvent', {
        type,
        touchPoints:
          apart === undefined
            ? []
            : [
                { x: cx - apart / 2, y: cy + 60, id: 0 },
                { x: cx + apart / 2, y: cy + 60, id: 1 },
              ],
      });
    await fingers('touchStart', 60);
    for (const apart of [80, 100, 120]) await fingers('touchMove', apart);
    await fingers('touchEnd');
    // from 60 to 120 pixels apart: twice as near, but for the outline, which stays as thick
    const nearer = async (): Promise<number> => (await frameOf.boundingBox())!.width / before.width;
    await shows(nearer).toBeGreaterThan(1.85);
    expect(await nearer()).toBeLessThan(2.01);
    const near = (await frameOf.boundingBox())!;
    expect(Math.abs(near.x + near.width / 2 - cx)).toBeLessThan(8);

    await page.mouse.move(box.x + box.width - 60, box.y + box.height - 60);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width - 100, box.y + box.height - 30, { steps: 4 });
    await page.mouse.up();
    // what a tap may move is not moved along
    const along = async (): Promise<number> => (await frameOf.boundingBox())!.x - near.x;
    await shows(along).toBeLessThan(-30);
    expect(await along()).toBeGreaterThan(-41);
    await count(page.getByRole('region', { name: /^Piece / })).toBe(0);
    // the shingles below the skylight
    const now = (await frameOf.boundingBox())!;
    await page.mouse.click(now.x + now.width / 2, now.y + now.height + 25);
    await count(page.getByRole('region', { name: /^Piece / })).toBe(1);
  });
});
