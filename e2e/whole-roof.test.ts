import { AxeBuilder } from '@axe-core/playwright';
import type { Locator, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Stage, openPage, openStage } from './harness.ts';

let stage: Stage;
beforeAll(async () => {
  stage = await openStage();
});
afterAll(() => stage.close());

async function type(within: Page | Locator, label: string, text: string): Promise<void> {
  const field = within.getByLabel(label, { exact: true });
  await field.fill(text);
  await field.press('Enter');
}

/** A group of fields by its title. */
const group = (page: Page, title: string): Locator =>
  page.locator('fieldset.section').filter({ has: page.locator('legend', { hasText: title }) });
const view = (page: Page, name: string): Promise<void> => page.getByRole('link', { name, exact: true }).click();
const slope = (page: Page, name: string): Promise<void> =>
  page.getByRole('group', { name: 'Slopes of the roof' }).getByRole('button', { name }).click();
const figure = (page: Page, label: string): Promise<string> =>
  page
    .locator('.detail-figures dl > div')
    .filter({ has: page.locator('dt', { hasText: label }) })
    .locator('dd')
    .first()
    .innerText();
const detail = (page: Page, name: string): Promise<void> =>
  page.locator('.detail-list button', { hasText: name }).first().click();

async function openHouse(page: Page): Promise<void> {
  await page.getByText('Ringing House', { exact: true }).first().click();
  await page.locator('.slope-drawing').waitFor();
}

describe('the whole Ringing House, entered by hand from the measure sheet', () => {
  it('comes out as counted by hand, and sheds', async () => {
    const { page, errors } = await openPage(stage);
    await page.getByRole('button', { name: 'New job' }).first().click();
    await page.locator('.slope-drawing').waitFor();
    await view(page, 'Roof');
    await page.getByRole('button', { name: 'Gable', exact: true }).click();
    await page.getByRole('button', { name: 'Remove Slope' }).click();
    const main = group(page, 'Main gable');
    await type(main, 'Slope 1', 'South plane');
    await type(main, 'Slope 2', 'North plane');
    await type(main, 'Eave length', `44'`);
    await type(main, 'Level run, eave edge to under the top', `15'-4"`);
    await type(main, 'Eave overhang, level', '16');
    await page.getByRole('button', { name: 'Cross gable', exact: true }).click();
    const cross = group(page, 'Cross gable');
    await type(cross, 'Its middle from the left end of South plane', `30'`);
    await type(cross, 'Half its width, eave edge to under the ridge', `11'-4"`);
    await page.getByRole('button', { name: 'Lean-to, one slope' }).click();
    const porch = group(page, 'Slope').filter({ has: page.getByLabel('Faces', { exact: true }) });
    await type(porch, 'Eave length', `12'`);
    await type(porch, 'Level run, eave edge to under the top', `8'`);
    await type(porch, 'Pitch', '4/12');
    await porch.getByLabel('Faces', { exact: true }).selectOption('0');
    await type(porch, 'Its eave’s left end, east of the corner mark', `56'`);
    await type(porch, 'and north of it', `42'`);
    await expect(page.getByLabel('Slopes and lines').innerText()).resolves.toContain(`17'-0" true`);

    await view(page, 'Slope');
    await slope(page, 'North plane');
    await page.getByRole('button', { name: 'Add a wall' }).click();
    await page.getByRole('group', { name: 'Add to this slope' }).getByRole('button', { name: 'chimney' }).click();
    await type(page, 'CH1: left end to its near side', `16'`);
    await type(page, 'CH1: eave edge to its front face', `96`);
    await type(page, 'CH1: width across the slope', '42');
    await type(page, 'CH1: depth, level', '26');
    await page.getByRole('group', { name: 'Add to this slope' }).getByRole('button', { name: 'pipe or flue' }).click();
    await type(page, 'P1: left end to its centre', `9'`);
    await type(page, 'P1: eave edge to its centre', '84');
    await slope(page, 'South plane');
    for (const [mark, left] of [
      ['SK1', `5'-6"`],
      ['SK2', `10'-6"`],
    ] as const) {
      await page.getByRole('group', { name: 'Add to this slope' }).getByRole('button', { name: 'skylight' }).click();
      await type(page, `${mark}: left end to its near edge`, left);
      await type(page, `${mark}: eave edge to its sill`, '70');
    }

    await view(page, 'Details');
    await detail(page, 'CH1');
    expect(await figure(page, 'Steps a side')).toContain('6, courses 18 to 23');
    expect(await figure(page, 'Cricket valleys')).toBe('31 1/2"');
    expect(await figure(page, 'Counterflashing behind the cricket')).toBe('4 a half and a ridge piece');
    await detail(page, 'SK2');
    expect(await figure(page, 'Steps a side')).toContain('9, ');
    await detail(page, 'P1');
    expect(await figure(page, 'First course over it')).toContain('course 16');
    await detail(page, 'V1');
    expect(await figure(page, 'From South plane')).toContain('109.6 ft²');
    expect(await figure(page, 'Runs through')).toContain('Cross gable, left slope');
    await page.getByLabel('V1: style', { exact: true }).selectOption('open');
    await page.getByText('8 1/8"').first().waitFor();
    // the water has its say on every slope: nothing leaks
    await page.locator('.plan-summary').waitFor();
    await page.waitForFunction(`!document.querySelector('.judging')`);
    expect(await page.getByText(/^leaks$/).count()).toBe(0);
    expect(errors).toEqual([]);
    await page.context().close();
  });
});

describe('the demo house', () => {
  it('is stepped through slope by slope; a feature is dragged on to a butt line and the plan follows', async () => {
    const { page, errors } = await openPage(stage);
    await openHouse(page);
    await slope(page, 'North plane');
    await page.getByLabel('Fit the height').click();
    const flue = page.locator('.standing[data-feature="P1"]').first();
    const box = (await flue.boundingBox())!;
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width / 2 + 30, box.y - 40, { steps: 6 });
    await page.locator('.drag-words').waitFor();
    await page.mouse.up();
    const up = await page.getByLabel('P1: eave edge to its centre', { exact: true }).inputValue();
    expect(up).not.toBe(`7'-0"`);
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect.poll(() => page.getByLabel('P1: eave edge to its centre', { exact: true }).inputValue()).toBe(`7'-0"`);
    // dropped where it cannot stand it stays, and a sentence says why
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x - 400, box.y + 20, { steps: 6 });
    await page.mouse.up();
    await page.getByRole('alert').getByText('Soil pipe').waitFor();
    expect(errors).toEqual([]);
    await page.context().close();
  });

  it('keeps the lines that are done, and its run sheet tells one detail or the whole roof', async () => {
    const { page, errors } = await openPage(stage);
    await openHouse(page);
    await page.getByLabel('Which slope').selectOption({ label: 'Whole roof' });
    await page.getByRole('heading', { name: 'North plane: course 18' }).waitFor();
    await page.getByLabel('Which detail').selectOption('CH1');
    const lines = await page.locator('.run-line').count();
    expect(lines).toBeGreaterThan(10);
    expect(await page.locator('.run-line').first().innerText()).toContain('Stove chimney');
    await page.locator('.line-done').first().check();
    await page
      .getByRole('status')
      .filter({ hasText: /^Saved$/ })
      .waitFor();
    await page.reload();
    await page.getByText('1 done').waitFor();
    expect(errors).toEqual([]);
    await page.context().close();
  });

  it('shows every detail to scale with its figures, and each passes the accessibility rules', async () => {
    const { page, errors } = await openPage(stage);
    await openHouse(page);
    const check = async (what: string): Promise<void> => {
      const { violations } = await new AxeBuilder({ page }).analyze();
      expect(violations.map(({ id, nodes }) => `${what}: ${id} at ${nodes[0]!.target.join(' ')}`)).toEqual([]);
    };
    await view(page, 'Roof');
    await page.locator('.plan-view svg').waitFor();
    await check('roof');
    await view(page, 'Details');
    const names = await page.locator('.detail-list button b').allInnerTexts();
    expect(names).toEqual(['SK1', 'SK2', 'CH1', 'P1', 'P2', 'HW1', 'HW1', 'V1', 'V2']);
    for (const [i, name] of names.entries()) {
      await page.locator('.detail-list button').nth(i).click();
      await page.locator('.detail-drawing svg').waitFor();
      expect(await page.locator('.detail-figures dd').count(), name).toBeGreaterThan(4);
      expect(await page.locator('.detail-body').innerText()).not.toMatch(/NaN|undefined|Infinity/);
    }
    await check('details');
    expect(errors).toEqual([]);
    await page.context().close();
  });
});
