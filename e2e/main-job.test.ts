import { readFile } from 'node:fs/promises';
import type { Page } from 'playwright-core';
import { describe, expect } from 'vitest';
import {
  accessible,
  addWall,
  bar,
  count,
  field,
  findings,
  newJob,
  openFindings,
  openJob,
  saved,
  scene,
  secondPage,
  shows,
  type,
  undo,
  view,
} from './scene.ts';

const DEMO = 'Ringing House: north plane and tower wall';
const openDemo = (page: Page): Promise<void> => openJob(page, DEMO);

const summary = (page: Page): Promise<string> => page.locator('.Findings_plan-summary').innerText();
/** No text of the page hangs over its own box, and nothing makes the page wider than the window. */
const overflow = (page: Page): Promise<boolean> => page.evaluate('document.documentElement.scrollWidth > innerWidth');

describe('the main job, from an empty job and the measure sheet', () => {
  scene('gives 37 courses, 37 steps and 51.4" of ice barrier, as counted by hand', async (page) => {
    await newJob(page);
    await page.getByText('Next: the wall this slope meets').waitFor();

    await type(page, 'Name of the job', 'North plane by hand');
    await type(page, 'Eave length', `44'-0"`);
    await type(page, 'Level run, eave edge to under the top', `15'-4"`);
    await type(page, 'Pitch', '6/12');
    await type(page, 'Eave overhang, level', '16');
    await type(page, 'Exterior wall thickness', '6"');
    await addWall(page);
    await type(page, 'Name of the wall', 'Hide tower');
    await type(page, 'Rain in an hour', '5');
    await page.getByText('1 finding', { exact: true }).waitFor();
    await page.getByLabel('Lets air out', { exact: true }).selectOption('none');

    await shows(() => summary(page)).toBe(`37 courses at 5 5/8" · SW1 37 steps · ice barrier 51 7/16", 2 rows`);
    await shows(() => page.getByLabel('Ice barrier worked out').innerText()).toContain('(51.4")');
    await page.getByText('Sheds, and keeps the rules').waitFor();
    await page.getByText('Step SW1-14 on course 13, lower edge on the butt line').waitFor();
    await shows(() => page.getByRole('heading', { name: 'Course 14' }).textContent()).toContain(`butt line 6'-0 5/8"`);

    await saved(page);
    await page.reload();
    await page.locator('.slope-drawing').waitFor();
    await shows(() => summary(page)).toContain('SW1 37 steps');
    await shows(() => page.getByLabel('Name of the job').inputValue()).toBe('North plane by hand');

    await view(page, 'Order list');
    const steps = page.getByRole('row', { name: /Step flashing 4 × 4 × 8 in, aluminium/ });
    await shows(() => steps.innerText()).toMatch(/1 box\s[\s\S]*37 pieces[\s\S]*SW1[\s\S]*13 pieces/);
  });
});

describe('courses that lie elsewhere than planned', () => {
  scene(
    'the butt of course 14 really at 6\'-0": what lies above moves down, too far apart is said, slips of the pen are said',
    async (page) => {
      await openDemo(page);
      const butt = (course: number): Promise<string | null> =>
        page
          .getByRole('heading', { name: `Course ${course}`, exact: false })
          .first()
          .textContent();
      await page.getByRole('button', { name: 'A butt measured on the roof' }).click();
      await type(page, 'Butt of course', '14');
      // it is where it was planned until the tape says otherwise
      await shows(() => page.getByLabel('Course 14 is really at').inputValue()).toBe(`6'-0 5/8"`);
      await type(page, 'Course 14 is really at', `6'-0"`);
      await shows(() => butt(14)).toContain(`butt line 6'-0"`);
      await shows(() => butt(20)).toContain(`butt line 8'-9 3/4"`);
      await page.getByText('Sheds, and keeps the rules').waitFor();
      await type(page, 'Course 14 is really at', `7'-0"`);
      await page.getByText(/courses 1 to 14 lie 6 1\/2" apart as measured, farther than the 5 5\/8"/).waitFor();
      await shows(() => summary(page)).toContain('35 courses');
      await type(page, 'Course 14 is really at', '5"');
      await page
        .getByText(/there is no room for 13 courses above course 1/)
        .first()
        .waitFor();
      await saved(page);
      await page.reload();
      await page.locator('.slope-drawing').waitFor();
      await shows(() => page.getByLabel('Course 14 is really at').inputValue()).toBe('5"');
      await page.getByRole('button', { name: 'Remove the measured butt of course 14' }).click();
      await shows(() => summary(page)).toContain('37 courses');
      await saved(page);
    },
  );
});

describe('moving through the plan', () => {
  scene('the marker moves the drawing, the pole and the run sheet, by key, tap and drag', async (page) => {
    await openDemo(page);
    const laid = (role: string): Promise<number> => page.locator(`path.piece.${role}:not(.LaidPieces_next)`).count();
    await shows(() => laid('step')).toBe(37);
    await page.keyboard.press('Home');
    await shows(() => Promise.all([laid('step'), laid('iceBarrier'), laid('course')])).toEqual([0, 0, 0]);
    for (let i = 0; i < 6; i++) await page.keyboard.press('ArrowUp');
    await shows(() => Promise.all([laid('gutterApron'), laid('iceBarrier'), laid('underlayment')])).toEqual([5, 7, 0]);
    await shows(() => page.locator('.RunSheet_run-line.RunSheet_current .RunSheet_line-number').innerText()).toBe('6');
    await page.getByRole('button', { name: 'Line 41: move the marker here' }).click();
    await shows(() => Promise.all([laid('step'), laid('course')])).toEqual([14, 14]);
    await page.keyboard.press('PageUp');
    await shows(() => Promise.all([laid('step'), laid('course')])).toEqual([15, 15]);
    // dragging down the pole takes courses away
    const pole = (await page.locator('.slope-drawing').boundingBox())!;
    await page.getByLabel('Fit the height').click();
    const course3 = page.locator('.StoryPole_pole-course text.StoryPole_pole-number', { hasText: /^3$/ });
    const target = (await course3.boundingBox())!;
    await page.mouse.move(pole.x + 120, pole.y + 100);
    await page.mouse.down();
    await page.mouse.move(pole.x + 120, target.y + 4, { steps: 5 });
    await page.mouse.up();
    await shows(() => laid('course')).toBeLessThanOrEqual(4);
    await shows(() => laid('course')).toBeGreaterThanOrEqual(2);
  });

  scene('a piece shows its size, flat pattern, nail and rules, and each rule says who', async (page) => {
    await openDemo(page);
    await page.getByRole('button', { name: 'SW1-12', exact: true }).first().click();
    const piece = page.getByRole('region', { name: 'Piece SW1-12' });
    await shows(() => piece.innerText()).toContain('Step flashing 4 × 4 × 8 in, aluminium');
    await shows(() => piece.innerText()).toMatch(/Headlap under the next piece\s+2 3\/8"/);
    await piece.getByLabel('Flat pattern 8" by 8"').waitFor();
    await piece.getByRole('button', { name: 'Who says? step flashing leg up the wall' }).click();
    const who = page.getByRole('dialog');
    await shows(() => who.innerText()).toMatch(
      /Code[\s\S]*at least 4"[\s\S]*Model residential code, R905\.2\.8\.3[\s\S]*governs/,
    );
    await shows(() => who.innerText()).toContain('The edition your jurisdiction adopted and its local amendments govern.');
  });
});

describe('changing the job', () => {
  scene('refuses bad input in a sentence that names the field, and keeps what was there', async (page) => {
    await openDemo(page);
    const before = await summary(page);
    for (const [label, text, sentence] of [
      ['Eave length', '-4', 'Eave length: must be between'],
      ['Eave length', '0', 'Eave length: must be between'],
      ['Eave length', '99999 m', 'Eave length: must be between'],
      ['Eave length', 'long', '"long" cannot be read as a length'],
    ] as const) {
      const field = page.getByLabel(label, { exact: true });
      await field.fill(text);
      await page.getByText(sentence).first().waitFor();
      await shows(() => summary(page)).toBe(before);
      await field.press('Escape');
      await count(page.getByText(sentence)).toBe(0);
    }
  });

  scene(
    'takes what nobody allows, says so by its field and as a finding, and Escape brings back what was there',
    async (page) => {
      await openDemo(page);
      const before = await summary(page);
      for (const [label, text, sentence] of [
        ['Pitch', '1/12', 'Pitch: 1/12 is under the least for Laminated shingle, 2/12.'],
        ['Exposure', '7', 'Exposure: 7" is more than Marrowgate Shingle Works allows'],
        ['Ends up the slope at', '30 ft', 'is past the top of the slope'],
      ] as const) {
        const field = page.getByLabel(label, { exact: true });
        await field.fill(text);
        await page.getByText(sentence).first().waitFor();
        await findings(page)
          .getByRole('button', { name: /findings?$/ })
          .waitFor();
        await field.press('Escape');
        await count(page.getByText(sentence)).toBe(0);
        await shows(() => summary(page)).toBe(before);
      }
      await saved(page);
    },
  );

  scene('undoes and redoes, and speaks both unit systems', async (page) => {
    await openDemo(page);
    await page.getByText('mm', { exact: true }).click();
    await field(page, 'Eave length').toBe('13411 mm');
    await shows(() => summary(page)).toContain('37 courses at 143 mm');
    await type(page, 'Eave length', '10 m');
    await undo(page);
    await field(page, 'Eave length').toBe('13411 mm');
    await page.getByRole('button', { name: 'Redo' }).click();
    await field(page, 'Eave length').toBe('10000 mm');
    await undo(page);
    await undo(page);
    await field(page, 'Eave length').toBe(`44'-0"`);
    await saved(page);
  });

  scene('another maker changes the steps; a conflict waits for a choice, which is recorded', async (page) => {
    await openDemo(page);
    await page.getByLabel('Shingle', { exact: true }).selectOption({ label: 'Moorland shingle, Thrupley Shingle Mill' });
    await page.getByText('By the rules: Step flashing 5 × 5 × 10 in, aluminium').waitFor({ state: 'attached' });
    await page.getByLabel('Ice barrier', { exact: true }).selectOption({ label: 'High-temperature sheet, Quillhaven Sheets' });
    await findings(page).getByRole('list').getByText('contradict each other').click();
    const who = page.getByRole('dialog');
    await who.getByRole('button', { name: 'Follow Quillhaven' }).click();
    await who.getByText('Reason: say why').waitFor();
    await who.getByLabel('Reason for the choice').fill('inspector agreed on site');
    await who.getByRole('button', { name: 'Follow Quillhaven' }).click();
    await who.getByText('recorded choice').waitFor();
    await page.keyboard.press('Escape');
    await page.locator('label', { hasText: 'barrier first' }).click();
    await page.getByText('Sheds, and keeps the rules').waitFor();
    await undo(page, 4);
    await page.getByText('Sheds, and keeps the rules').waitFor();
    await saved(page);
  });

  scene('a wall without its kick-out is a leak, and the finding shows the piece', async (page) => {
    await openDemo(page);
    await page.locator('.either', { hasText: 'Foot' }).getByText('corner').click();
    await page.getByRole('button', { name: /leaks.*runs on past the eave without a kick-out/ }).click();
    await page.getByRole('region', { name: 'Piece SW1-01' }).waitFor();
    await undo(page);
    await page.getByText('Sheds, and keeps the rules').waitFor();
    await saved(page);
  });

  scene('when someone saved first, both versions are kept and the user chooses', async (page) => {
    const second = await secondPage();
    await openDemo(page);
    await openDemo(second);
    await type(page, 'Eave length', '40 ft');
    await saved(page);
    await type(second, 'Eave length', '30 ft');
    const choice = second.getByRole('dialog');
    await choice.getByText('Someone saved this job first').waitFor();
    await choice.getByRole('button', { name: 'Go on with theirs, keep mine as a copy' }).click();
    await choice.waitFor({ state: 'hidden' });
    await field(second, 'Eave length').toBe(`40'-0"`);
    await bar(second).getByRole('link', { name: 'Ruvet, all jobs' }).click();
    await second.getByText(`${DEMO} (my version)`).click();
    await second.locator('.slope-drawing').waitFor();
    await field(second, 'Eave length').toBe(`30'-0"`);
    await type(page, 'Eave length', '44 ft');
    await saved(page);
    await second.context().close();
  });
});

describe('the lap bench', () => {
  scene(
    'shows the wall shed, a low nail leak slowly, and one long piece fail with its flow; nothing of it touches the job',
    async (page) => {
      await openDemo(page);
      await page.getByRole('button', { name: 'SW1-12', exact: true }).first().click();
      await view(page, 'Lap bench');
      const verdict = page.locator('.LapBench_verdict');
      await verdict.getByText('Sheds', { exact: true }).waitFor();
      await verdict.getByText('Water must climb more than 1 3/8" under cover').waitFor();
      await count(page.locator('.LapBench_water-run')).toBe(0);

      await page.getByRole('button', { name: 'nail it low' }).click();
      await verdict.getByText('Slow leak', { exact: true }).waitFor();
      await verdict.getByText(`Follows a nail through step flashing SW1-12, 5'-2`).waitFor();
      await page.locator('.LapBench_water-run').waitFor({ state: 'attached' });

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

      // strips top first turned the bench to the dry-in: it has a reserve too, until its cap nails have lain open too long
      await verdict.getByText('Sheds', { exact: true }).waitFor();
      await verdict.getByText(/Water must climb more than .* under cover.*By estimate that takes a wind of \d+ mph/).waitFor();
      await page.getByLabel('Sheets lie open, days').fill('300');
      await verdict.getByText('Slow leak', { exact: true }).waitFor();
      await verdict
        .getByText(/Follows a nail through underlayment UL\d-\d.*The rain of \d+\.\d ft² of roof comes by there\./)
        .waitFor();
      await page.getByLabel('Sheets lie open, days').fill('');
      await verdict.getByText('Sheds', { exact: true }).waitFor();

      // if it rains now: with the barrier down and no underlayment, the deck above it lies open
      await page.locator('label', { hasText: 'line 95' }).click();
      await page.getByRole('slider', { name: 'Marker along the story pole' }).press('Home');
      for (let i = 0; i < 6; i++) await page.keyboard.press('ArrowRight');
      await verdict.getByText('Wet', { exact: true }).waitFor();
      await verdict.getByText('the bare deck').first().waitFor();

      await view(page, 'Slope');
      await page.getByText('Sheds, and keeps the rules').waitFor();
      await shows(() => bar(page).getByRole('button', { name: 'Undo' }).isDisabled()).toBe(true);
    },
  );

  scene('a leak of the plan itself is a finding that jumps to the bench', async (page) => {
    await openDemo(page);
    await page.locator('.either', { hasText: 'Foot' }).getByText('corner').click();
    await openFindings(page);
    await page
      .getByRole('button', { name: /See it on the lap bench/ })
      .first()
      .click();
    await page.locator('.LapBench_verdict').getByText('Wet', { exact: true }).waitFor();
    await undo(page);
    await page.locator('.LapBench_verdict').getByText('Sheds', { exact: true }).waitFor();
    await saved(page);
  });
});

describe('jobs', () => {
  scene('are copied, deleted with undo, exported and imported; a bad file is refused and says why', async (page) => {
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
      ['new.json', text.replace(/"version": \d+,/, '"version": 99,'), 'it is version 99 of the format'],
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
    await shows(() => page.getByLabel('Name of the job').inputValue()).toBe('Brought in');
  });

  scene(
    'an empty list shows the first thing to do, by at most 300 KB of script',
    async (page) => {
      await page.route('**/api/jobs?*', (route) => route.fulfill({ json: { jobs: [], next: null } }));
      await page.reload();
      await page.getByText('Start with the tape').waitFor();
      const scripts = await page.evaluate(() =>
        performance
          .getEntriesByType('resource')
          .filter(({ name }) => name.endsWith('.js'))
          .map((one) => (one as PerformanceResourceTiming).encodedBodySize),
      );
      expect(scripts.length).toBeGreaterThan(2);
      expect(scripts.reduce((sum, bytes) => sum + bytes, 0)).toBeLessThan(300_000);
    },
    { width: 1280, height: 800 },
  );
});

describe('on paper, on a phone and for everyone', () => {
  scene('prints the run sheet and the pole on A4 and Letter', async (page) => {
    await openDemo(page);
    await view(page, 'Print');
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
    await count(page.locator('.PrintPage_paper-pole text.PrintPage_paper-number')).toBe(37);
  });

  scene(
    'a phone shows the run sheet first, and targets a glove can hit',
    async (page) => {
      await page.getByText(DEMO, { exact: true }).first().click();
      await page.getByRole('region', { name: 'Run sheet' }).waitFor();
      await shows(() => overflow(page)).toBe(false);
      const small = (): Promise<(string | null)[]> =>
        page.locator('main button:visible, .phone-tabs button').evaluateAll((buttons) =>
          // lines far below the window are not laid out yet, and have no height
          buttons
            .filter((button) => button.getBoundingClientRect().height > 0 && button.getBoundingClientRect().height < 43.5)
            .map((button) => button.textContent),
        );
      await shows(small).toEqual([]);
      for (const tab of ['Slope', 'Measures', 'Run sheet']) {
        await page.getByRole('button', { name: tab, exact: true }).click();
        await shows(() => overflow(page)).toBe(false);
      }
    },
    { width: 390, height: 844 },
  );

  scene('every view passes the accessibility rules', async (page) => {
    // every kind of thing there is on a slope stands on the smallest one too; the rules look at each nail
    const small = 'Keeper’s Cottage: slate porch';
    await page.getByText(small, { exact: true }).waitFor();
    await accessible(page, 'jobs');
    await openJob(page, small);
    await page.getByRole('button', { name: 'SW1-12', exact: true }).first().click();
    await accessible(page, 'slope');
    await page.getByRole('button', { name: 'Who says? line 12' }).click();
    await page.waitForTimeout(400); // the dialog fades in; contrast is measured once it stands
    await accessible(page, 'who says');
    await page.keyboard.press('Escape');
    await view(page, 'Lap bench');
    await page.getByText('Sheds', { exact: true }).waitFor();
    await accessible(page, 'lap bench');
    await view(page, 'Order list');
    await accessible(page, 'order');
    await view(page, 'Print');
    await accessible(page, 'print');
  });
});
