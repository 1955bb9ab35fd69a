import { AxeBuilder } from '@axe-core/playwright';
import { readFile } from 'node:fs/promises';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Stage, openPage, openStage } from './harness.ts';

let stage: Stage;
beforeAll(async () => {
  stage = await openStage();
});
afterAll(() => stage.close());

const DEMO = 'Ringing House: north plane and tower wall';

async function type(page: Page, label: string, text: string): Promise<void> {
  const field = page.getByLabel(label, { exact: true });
  await field.fill(text);
  await field.press('Enter');
}

async function openDemo(page: Page): Promise<void> {
  await page.getByText(DEMO, { exact: true }).first().click();
  await page.locator('.slope-drawing').waitFor();
}

const summary = (page: Page): Promise<string> => page.locator('.plan-summary').innerText();
const saved = (page: Page): Promise<void> =>
  page
    .getByRole('status')
    .filter({ hasText: /^Saved$/ })
    .waitFor();

/** No text of the page hangs over its own box, and nothing makes the page wider than the window. */
const overflow = (page: Page): Promise<boolean> => page.evaluate('document.documentElement.scrollWidth > innerWidth');

describe('the main job, from an empty job and the measure sheet', () => {
  it('gives 37 courses, 37 steps and 51.4" of ice barrier, as counted by hand', async () => {
    const { page, errors } = await openPage(stage);
    await page.getByRole('button', { name: 'New job' }).first().click();
    await page.locator('.slope-drawing').waitFor();
    await page.getByText('Next: the wall this slope meets').waitFor();

    await type(page, 'Name of the job', 'North plane by hand');
    await type(page, 'Eave length', `44'-0"`);
    await type(page, 'Level run, eave edge to under the top', `15'-4"`);
    await type(page, 'Pitch', '6/12');
    await type(page, 'Eave overhang, level', '16');
    await type(page, 'Exterior wall thickness', '6"');
    await page.getByRole('button', { name: 'Add a wall' }).click();
    await type(page, 'Name of the wall', 'Hide tower');
    await type(page, 'Rain in an hour', '5');

    expect(await summary(page)).toBe(`37 courses at 5 5/8" · SW1 37 steps · ice barrier 51 7/16", 2 rows`);
    await expect(page.getByLabel('Ice barrier worked out').innerText()).resolves.toContain('(51.4")');
    await page.getByText('Sheds, and keeps the rules').waitFor();
    await page.getByText('Step SW1-14 on course 13, lower edge on the butt line').waitFor();
    expect(await page.getByRole('heading', { name: 'Course 14' }).textContent()).toContain(`butt line 6'-0 5/8"`);

    await saved(page);
    await page.reload();
    await page.locator('.slope-drawing').waitFor();
    expect(await summary(page)).toContain('SW1 37 steps');
    expect(await page.getByLabel('Name of the job').inputValue()).toBe('North plane by hand');

    await page.getByRole('link', { name: 'Order list' }).click();
    const steps = page.getByRole('row', { name: /Step flashing 4 × 4 × 8 in, aluminium/ });
    expect(await steps.innerText()).toMatch(/1 box\s[\s\S]*37 pieces[\s\S]*SW1[\s\S]*13 pieces/);
    expect(errors).toEqual([]);
    await page.context().close();
  });
});

describe('moving through the plan', () => {
  it('the marker moves the drawing, the pole and the run sheet, by key, tap and drag', async () => {
    const { page, errors } = await openPage(stage);
    await openDemo(page);
    const laid = (role: string): Promise<number> => page.locator(`path.piece.${role}:not(.next)`).count();
    expect(await laid('step')).toBe(37);
    await page.keyboard.press('Home');
    expect([await laid('step'), await laid('iceBarrier'), await laid('course')]).toEqual([0, 0, 0]);
    for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowUp');
    expect([await laid('gutterApron'), await laid('iceBarrier'), await laid('underlayment')]).toEqual([5, 7, 0]);
    expect(await page.locator('.run-line.current .line-number').innerText()).toBe('4');
    await page.getByRole('button', { name: 'Line 37: move the marker here' }).click();
    expect([await laid('step'), await laid('course')]).toEqual([14, 14]);
    await page.keyboard.press('PageUp');
    expect([await laid('step'), await laid('course')]).toEqual([15, 15]);
    // dragging down the pole takes courses away
    const pole = (await page.locator('.slope-drawing').boundingBox())!;
    const course3 = page.locator('.pole-course text.pole-number', { hasText: /^3$/ });
    const target = (await course3.boundingBox())!;
    await page.mouse.move(pole.x + 120, pole.y + 100);
    await page.mouse.down();
    await page.mouse.move(pole.x + 120, target.y + 4, { steps: 5 });
    await page.mouse.up();
    expect(await laid('course')).toBeLessThanOrEqual(4);
    expect(await laid('course')).toBeGreaterThanOrEqual(2);
    expect(errors).toEqual([]);
    await page.context().close();
  });

  it('a piece shows its size, flat pattern, nail and rules, and each rule says who', async () => {
    const { page, errors } = await openPage(stage);
    await openDemo(page);
    await page.getByRole('button', { name: 'SW1-12', exact: true }).first().click();
    const piece = page.getByRole('region', { name: 'Piece SW1-12' });
    const text = await piece.innerText();
    expect(text).toContain('Step flashing 4 × 4 × 8 in, aluminium');
    expect(text).toMatch(/Headlap under the next piece\s+2 3\/8"/);
    await piece.getByLabel('Flat pattern 8" by 8"').waitFor();
    await piece.getByRole('button', { name: 'Who says? step flashing leg up the wall' }).click();
    const who = page.getByRole('dialog');
    expect(await who.innerText()).toMatch(/Code[\s\S]*at least 4"[\s\S]*Model residential code, R905\.2\.8\.3[\s\S]*governs/);
    expect(await who.innerText()).toContain('The edition your jurisdiction adopted and its local amendments govern.');
    expect(errors).toEqual([]);
    await page.context().close();
  });
});

describe('changing the job', () => {
  it('refuses bad input in a sentence that names the field, and keeps what was there', async () => {
    const { page } = await openPage(stage);
    await openDemo(page);
    const before = await summary(page);
    for (const [label, text, sentence] of [
      ['Eave length', '-4', 'Eave length: must be between'],
      ['Eave length', '0', 'Eave length: must be between'],
      ['Eave length', '99999 m', 'Eave length: must be between'],
      ['Eave length', 'long', '"long" cannot be read as a length'],
      ['Pitch', '1/12', 'Pitch: 1/12 is under the least for Laminated shingle, 2/12.'],
      ['Exposure', '7', 'Exposure: 7" is more than Marrowgate Shingle Works allows'],
      ['Ends up the slope at', '30 ft', 'is past the top of the slope'],
    ] as const) {
      const field = page.getByLabel(label, { exact: true });
      await field.fill(text);
      await page.getByText(sentence).first().waitFor();
      expect(await summary(page)).toBe(before);
      await field.press('Escape');
      expect(await page.getByText(sentence).count()).toBe(0);
    }
    await page.context().close();
  });

  it('undoes and redoes, and speaks both unit systems', async () => {
    const { page, errors } = await openPage(stage);
    await openDemo(page);
    await page.getByText('mm', { exact: true }).click();
    expect(await page.getByLabel('Eave length', { exact: true }).inputValue()).toBe('13411 mm');
    expect(await summary(page)).toContain('37 courses at 143 mm');
    await type(page, 'Eave length', '10 m');
    await page.getByRole('button', { name: 'Undo' }).click();
    expect(await page.getByLabel('Eave length', { exact: true }).inputValue()).toBe('13411 mm');
    await page.getByRole('button', { name: 'Redo' }).click();
    expect(await page.getByLabel('Eave length', { exact: true }).inputValue()).toBe('10000 mm');
    await page.getByRole('button', { name: 'Undo' }).click();
    await page.getByRole('button', { name: 'Undo' }).click();
    expect(await page.getByLabel('Eave length', { exact: true }).inputValue()).toBe(`44'-0"`);
    await saved(page);
    expect(errors).toEqual([]);
    await page.context().close();
  });

  it('another maker changes the steps; a conflict waits for a choice, which is recorded', async () => {
    const { page } = await openPage(stage);
    await openDemo(page);
    await page.getByLabel('Shingle', { exact: true }).selectOption({ label: 'Moorland shingle, Thrupley Shingle Mill' });
    await page.getByText('By the rules: Step flashing 5 × 5 × 10 in, aluminium').waitFor({ state: 'attached' });
    await page.getByLabel('Ice barrier', { exact: true }).selectOption({ label: 'High-temperature sheet, Quillhaven Sheets' });
    await page.getByRole('list', { name: 'Findings' }).getByText('contradict each other').click();
    const who = page.getByRole('dialog');
    await who.getByRole('button', { name: 'Follow Quillhaven' }).click();
    await who.getByText('Reason: say why').waitFor();
    await who.getByLabel('Reason for the choice').fill('inspector agreed on site');
    await who.getByRole('button', { name: 'Follow Quillhaven' }).click();
    await who.getByText('recorded choice').waitFor();
    await page.keyboard.press('Escape');
    await page.locator('label', { hasText: 'barrier first' }).click();
    await page.getByText('Sheds, and keeps the rules').waitFor();
    for (let i = 0; i < 4; i++) await page.getByRole('button', { name: 'Undo' }).click();
    await page.getByText('Sheds, and keeps the rules').waitFor();
    await saved(page);
    await page.context().close();
  });

  it('a wall without its kick-out is a leak, and the finding shows the piece', async () => {
    const { page } = await openPage(stage);
    await openDemo(page);
    await page.locator('.either', { hasText: 'Foot' }).getByText('corner').click();
    await page.getByRole('button', { name: /leaks.*runs on past the eave without a kick-out/ }).click();
    await page.getByRole('region', { name: 'Piece SW1-01' }).waitFor();
    await page.getByRole('button', { name: 'Undo' }).click();
    await page.getByText('Sheds, and keeps the rules').waitFor();
    await saved(page);
    await page.context().close();
  });

  it('when someone saved first, both versions are kept and the user chooses', async () => {
    const first = await openPage(stage);
    const second = await openPage(stage);
    await openDemo(first.page);
    await openDemo(second.page);
    await type(first.page, 'Eave length', '40 ft');
    await saved(first.page);
    await type(second.page, 'Eave length', '30 ft');
    const choice = second.page.getByRole('dialog');
    await choice.getByText('Someone saved this job first').waitFor();
    await choice.getByRole('button', { name: 'Go on with theirs, keep mine as a copy' }).click();
    await choice.waitFor({ state: 'hidden' });
    expect(await second.page.getByLabel('Eave length', { exact: true }).inputValue()).toBe(`40'-0"`);
    await second.page.getByRole('link', { name: 'Ruvet, all jobs' }).click();
    await second.page.getByText(`${DEMO} (my version)`).click();
    await second.page.locator('.slope-drawing').waitFor();
    expect(await second.page.getByLabel('Eave length', { exact: true }).inputValue()).toBe(`30'-0"`);
    await type(first.page, 'Eave length', '44 ft');
    await saved(first.page);
    await first.page.context().close();
    await second.page.context().close();
  });
});

describe('the lap bench', () => {
  it('shows the wall shed, a low nail leak slowly, and one long piece fail with its flow; nothing of it touches the job', async () => {
    const { page, errors } = await openPage(stage);
    await openDemo(page);
    await page.getByRole('button', { name: 'SW1-12', exact: true }).first().click();
    await page.getByRole('link', { name: 'Lap bench' }).click();
    const verdict = page.locator('.verdict');
    await verdict.getByText('Sheds', { exact: true }).waitFor();
    await verdict.getByText('Water must climb more than 1 3/8" under cover').waitFor();
    expect(await page.locator('.water-run').count()).toBe(0);

    await page.getByRole('button', { name: 'nail it low' }).click();
    await verdict.getByText('Slow leak', { exact: true }).waitFor();
    await verdict.getByText(`Follows a nail through step flashing SW1-12, 5'-2`).waitFor();
    await page.locator('.water-run').waitFor({ state: 'attached' });

    await page.getByRole('button', { name: 'Put back: a nail through SW1-12' }).click();
    await verdict.getByText('Sheds', { exact: true }).waitFor();

    await page.getByRole('button', { name: 'SW1: one long piece' }).click();
    await verdict
      .getByText(/Gathers on, and leaves over the side of step flashing SW1-long.*at the foot it would carry 3\.45 gal\/min/)
      .waitFor();
    await page.getByRole('button', { name: 'Put everything back' }).click();
    await verdict.getByText('Sheds', { exact: true }).waitFor();

    await page.getByRole('button', { name: 'strips top first' }).click();
    await verdict.getByText('Wet', { exact: true }).waitFor();
    await verdict.getByText(/Goes under the upper edge of ice barrier IB1-\d/).waitFor();
    await page.getByRole('button', { name: 'Put everything back' }).click();

    // if it rains now: with the barrier down and no underlayment, the deck above it lies open
    await page.locator('label', { hasText: 'line 86' }).click();
    await page.getByLabel('Marker along the story pole').fill('4');
    await verdict.getByText('Wet', { exact: true }).waitFor();
    await verdict.getByText('the bare deck').first().waitFor();

    await page.getByRole('link', { name: 'Slope' }).click();
    await page.getByText('Sheds, and keeps the rules').waitFor();
    expect(await page.getByRole('button', { name: 'Undo' }).isDisabled()).toBe(true);
    expect(errors).toEqual([]);
    await page.context().close();
  });

  it('a leak of the plan itself is a finding that jumps to the bench', async () => {
    const { page } = await openPage(stage);
    await openDemo(page);
    await page.locator('.either', { hasText: 'Foot' }).getByText('corner').click();
    await page.getByRole('button', { name: /findings$/ }).click();
    await page
      .getByRole('button', { name: /See it on the lap bench/ })
      .first()
      .click();
    await page.locator('.verdict').getByText('Wet', { exact: true }).waitFor();
    await page.getByRole('button', { name: 'Undo' }).click();
    await page.locator('.verdict').getByText('Sheds', { exact: true }).waitFor();
    await saved(page);
    await page.context().close();
  });
});

describe('jobs', () => {
  it('are copied, deleted with undo, exported and imported; a bad file is refused and says why', async () => {
    const { page, errors } = await openPage(stage);
    const row = (name: string) => page.getByRole('listitem').filter({ has: page.getByText(name, { exact: true }) });
    const choose = async (name: string, item: string): Promise<void> => {
      await row(name).getByRole('button').click();
      await page
        .getByRole('menu', { name: `More for ${name}`, exact: true })
        .getByRole('menuitem', { name: item })
        .click();
    };
    await choose(DEMO, 'Copy');
    await row(`${DEMO} (copy)`).waitFor();

    await choose(`${DEMO} (copy)`, 'Delete');
    await row(`${DEMO} (copy)`).waitFor({ state: 'detached' });
    await page.getByRole('button', { name: 'Undo' }).click();
    await row(`${DEMO} (copy)`).waitFor();

    const [file] = await Promise.all([page.waitForEvent('download'), choose(DEMO, 'Export job file')]);
    expect(file.suggestedFilename()).toBe('ringing-house-north-plane-and-tower-wall.ruvet.json');
    const text = await readFile(await file.path(), 'utf8');
    const picker = page.getByLabel('Job file to import');
    for (const [name, body, sentence] of [
      ['cut.json', text.slice(0, 900), 'cut off or is not JSON'],
      ['new.json', text.replace(/"version": [12],/, '"version": 5,'), 'it is version 5 of the format'],
      ['big.json', ' '.repeat(20 * 1024 * 1024), 'it is 20 MB; a job file may be at most 2 MB'],
    ] as const) {
      await picker.setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(body) });
      await page.getByRole('alert').getByText(sentence).waitFor();
    }
    await picker.setInputFiles({
      name: 'good.json',
      mimeType: 'application/json',
      buffer: Buffer.from(text.replace(DEMO, 'Brought in')),
    });
    await page.locator('.slope-drawing').waitFor();
    expect(await page.getByLabel('Name of the job').inputValue()).toBe('Brought in');
    expect(errors).toEqual([]);
    await page.context().close();
  });

  it('an empty list shows the first thing to do', async () => {
    const { page } = await openPage(stage);
    await page.route('**/api/jobs', (route) => route.fulfill({ json: [] }));
    await page.reload();
    await page.getByText('Start with the tape').waitFor();
    await page.context().close();
  });
});

describe('on paper, on a phone and for everyone', () => {
  it('prints the run sheet and the pole on A4 and Letter', async () => {
    const { page } = await openPage(stage);
    await openDemo(page);
    await page.getByRole('link', { name: 'Print' }).click();
    for (const [paper, pages] of [
      ['A4', [3, 7]],
      ['Letter', [3, 7]],
    ] as const) {
      await page.getByText(paper, { exact: true }).click();
      const pdf = (await page.pdf({ preferCSSPageSize: true })).toString('latin1');
      const count = pdf.match(/\/Type\s*\/Page\b/g)?.length ?? 0;
      expect(count).toBeGreaterThanOrEqual(pages[0]);
      expect(count).toBeLessThanOrEqual(pages[1]);
    }
    expect(await page.locator('.paper-pole text.paper-number').count()).toBe(37);
    await page.context().close();
  });

  it('a phone shows the run sheet first, and targets a glove can hit', async () => {
    const { page, errors } = await openPage(stage, { width: 390, height: 844 });
    await page.getByText(DEMO, { exact: true }).first().click();
    await page.getByRole('region', { name: 'Run sheet' }).waitFor();
    expect(await overflow(page)).toBe(false);
    const small = await page.locator('main button:visible, .phone-tabs button').evaluateAll((buttons) =>
      // lines far below the window are not laid out yet, and have no height
      buttons
        .filter((button) => button.getBoundingClientRect().height > 0 && button.getBoundingClientRect().height < 43.5)
        .map((button) => button.textContent),
    );
    expect(small).toEqual([]);
    for (const tab of ['Slope', 'Measures', 'Run sheet']) {
      await page.getByRole('button', { name: tab, exact: true }).click();
      expect(await overflow(page)).toBe(false);
    }
    expect(errors).toEqual([]);
    await page.context().close();
  });

  it('every view passes the accessibility rules', async () => {
    const { page } = await openPage(stage);
    const check = async (view: string): Promise<void> => {
      const { violations } = await new AxeBuilder({ page }).analyze();
      expect(violations.map(({ id, nodes }) => `${view}: ${id} at ${nodes[0]?.target.join(' ')}`)).toEqual([]);
    };
    await page.getByText(DEMO, { exact: true }).waitFor();
    await check('jobs');
    await openDemo(page);
    await page.getByRole('button', { name: 'SW1-12', exact: true }).first().click();
    await check('slope');
    await page.getByRole('button', { name: 'Who says? line 12' }).click();
    await page.waitForTimeout(400); // the dialog fades in; contrast is measured once it stands
    await check('who says');
    await page.keyboard.press('Escape');
    await page.getByRole('link', { name: 'Lap bench' }).click();
    await page.getByText('Sheds', { exact: true }).waitFor();
    await check('lap bench');
    await page.getByRole('link', { name: 'Order list' }).click();
    await check('order');
    await page.getByRole('link', { name: 'Print' }).click();
    await check('print');
    await page.context().close();
  });
});
