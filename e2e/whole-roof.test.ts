import type { Locator, Page } from 'playwright-core';
import { describe } from 'vitest';
import {
  accessible,
  addWall,
  count,
  field,
  findings,
  judged,
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

/** A group of fields by its title. */
const group = (page: Page, title: string): Locator =>
  page.locator('fieldset.section').filter({ has: page.locator('legend', { hasText: title }) });
const slope = (page: Page, name: string): Promise<void> =>
  page.getByRole('group', { name: 'Slopes of the roof' }).getByRole('button', { name }).click();
const figure = (page: Page, label: string): Promise<string> =>
  page
    .locator('.DetailsPage_detail-figures dl > div')
    .filter({ has: page.locator('dt', { hasText: label }) })
    .locator('dd')
    .first()
    .innerText();
const add = (page: Page, what: string): Promise<void> =>
  page.getByRole('group', { name: 'Add to this slope' }).getByRole('button', { name: what }).click();
const detail = (page: Page, name: string): Promise<void> =>
  page.locator('.DetailsPage_detail-list button', { hasText: name }).first().click();

const openHouse = (page: Page): Promise<void> => openJob(page, 'Ringing House');

describe('the whole Ringing House, entered by hand from the measure sheet', () => {
  scene('comes out as counted by hand, and sheds', async (page) => {
    await newJob(page);
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
    await type(porch, 'Name of the slope', 'Porch');
    await porch.getByLabel('Faces', { exact: true }).selectOption('0');
    await type(porch, 'Its eave’s left end, east of the corner mark', `56'`);
    await type(porch, 'and north of it', `42'`);
    await shows(() => page.getByLabel('Slopes and lines').innerText()).toContain(`17'-0" true`);

    await view(page, 'Slope');
    await slope(page, 'North plane');
    await addWall(page);
    await type(page, 'Name of the wall', 'Hide tower, west wall');
    await add(page, 'chimney');
    await type(page, 'CH1: left end to its near side', `16'`);
    await type(page, 'CH1: eave edge to its front face', `96`);
    await type(page, 'CH1: width across the slope', '42');
    await type(page, 'CH1: depth, level', '26');
    await add(page, 'pipe or flue');
    await type(page, 'P1: left end to its centre', `9'`);
    await type(page, 'P1: eave edge to its centre', '84');
    await add(page, 'pipe or flue');
    await type(page, 'P2: left end to its centre', `22'-6"`);
    await type(page, 'P2: eave edge to its centre', '150');
    await type(page, 'P2: outside diameter', '8');
    await page.getByLabel('P2: a flue that gets hot', { exact: true }).press('Space');
    await slope(page, 'Porch');
    await addWall(page);
    await page.getByRole('radiogroup', { name: 'It stands, seen facing the slope' }).getByText('on the right').click();
    await page.getByLabel('Cladding', { exact: true }).selectOption('render');
    await page.getByRole('radiogroup', { name: 'Top', exact: true }).getByText('wall', { exact: true }).click();
    await page.getByLabel('HW1: cladding', { exact: true }).selectOption('masonry');
    await page.getByLabel('HW1: in the masonry', { exact: true }).selectOption('through-wall');
    await slope(page, 'South plane');
    for (const [mark, left] of [
      ['SK1', `5'-6"`],
      ['SK2', `10'-6"`],
    ] as const) {
      await add(page, 'skylight');
      await type(page, `${mark}: left end to its near edge`, left);
      await type(page, `${mark}: eave edge to its sill`, '70');
    }

    await view(page, 'Details');
    await detail(page, 'CH1');
    await shows(() => figure(page, 'Steps a side')).toContain('6, courses 18 to 23');
    await shows(() => figure(page, 'Cricket valleys')).toBe('31 1/2"');
    await shows(() => figure(page, 'Counterflashing behind the cricket')).toBe('4 a half and a ridge piece');
    await detail(page, 'SK2');
    await shows(() => figure(page, 'Steps a side')).toContain('9, ');
    await detail(page, 'P1');
    await shows(() => figure(page, 'First course over it')).toContain('course 16');
    await detail(page, 'P2');
    await shows(() => figure(page, 'Base')).toContain('Flue base');
    await detail(page, 'SW1');
    await shows(() => figure(page, 'Steps, one a course')).toBe('37, courses 1 to 37');
    await shows(() => figure(page, 'Foot')).toContain('kick-out');
    await detail(page, 'HW1');
    await shows(() => figure(page, 'Fitted')).toBe('exposure 5 1/2": 18 courses, the last 8 3/16" tall');
    await detail(page, 'Through-wall');
    await shows(() => figure(page, 'Lengths')).toContain(`3 of 5'-0"`);
    await shows(() => figure(page, 'Weeps')).toBe('6');
    await detail(page, 'V1');
    await shows(() => figure(page, 'From South plane')).toContain('109.6 ft²');
    await shows(() => figure(page, 'Runs through')).toContain('Cross gable, left slope');
    await page.getByLabel('V1: style', { exact: true }).selectOption('open');
    await page.getByText('8 1/8"').first().waitFor();
    // the water has its say on every slope: nothing leaks
    await judged(page);
    await count(page.getByText(/^leaks$/)).toBe(0);
  });
});

describe('a hip roof with a dormer', () => {
  scene('is drawn from above, planned round the dormer, and sheds', async (page) => {
    await newJob(page);
    await view(page, 'Roof');
    await page.getByRole('button', { name: 'Hip roof', exact: true }).click();
    await page.getByRole('button', { name: 'Remove Slope' }).click();
    await page.getByRole('button', { name: 'Dormer', exact: true }).click();
    await page.locator('.PlanView_plan-view').getByText('hip 18\'-9"').first().waitFor();
    await count(page.locator('.RoofPage_slope-list').first().locator('li')).toBe(6);
    // carried across a hip it says so by name; Escape puts it back
    const middle = page.getByLabel('Its middle from the left end of Hip roof, front', { exact: true });
    await middle.fill(`5'`);
    await page
      .getByText(/Dormer, its middle: there it runs/)
      .first()
      .waitFor();
    await middle.press('Escape');
    await type(group(page, 'Hip roof'), 'or degrees from north, clockwise', '200');
    await view(page, 'Details');
    await detail(page, 'D1');
    await shows(() => figure(page, 'Steps a side')).toContain('13, courses 9 to 21');
    await shows(() => figure(page, 'V1 empties on to')).toContain('course 21');
    await judged(page);
    await count(page.getByText(/^(leaks|breaks a rule)$/)).toBe(0);
  });
});

describe('a dormer’s eaves', () => {
  scene('may hang over its walls, and say so by name where they would come down on to the slope', async (page) => {
    await newJob(page);
    await view(page, 'Roof');
    await page.getByRole('button', { name: 'Gable', exact: true }).click();
    await page.getByRole('button', { name: 'Remove Slope' }).click();
    await page.getByRole('button', { name: 'Dormer', exact: true }).click();
    const overhang = group(page, 'Dormer').getByLabel('Eave overhang, level', { exact: true });
    await overhang.fill('60');
    await page
      .getByText(/Dormer, eave overhang: 5'-0" .*past its walls its eaves come down on to Main gable, front/)
      .first()
      .waitFor();
    await overhang.press('Escape');
    await view(page, 'Details');
    await detail(page, 'D1');
    const steps = async (): Promise<number> => Number((await figure(page, 'Steps a side')).split(',')[0]);
    await shows(steps).toBe(13);
    await view(page, 'Roof');
    await overhang.fill('12');
    await overhang.press('Enter');
    await saved(page);
    await view(page, 'Details');
    await detail(page, 'D1');
    // the eave comes down 6 in and meets the slope 12 in level, 13.4 in along it, lower: two or three courses fewer
    await shows(steps).toBeLessThanOrEqual(11);
    await shows(steps).toBeGreaterThanOrEqual(10);
    await judged(page);
    await count(page.getByText(/^(leaks|breaks a rule)$/)).toBe(0);
  });
});

describe('the demo house', () => {
  scene('is stepped through slope by slope; a feature is dragged on to a butt line and the plan follows', async (page) => {
    await openHouse(page);
    await slope(page, 'North plane');
    await judged(page);
    await page.getByLabel('Fit the height').click();
    const flue = page.locator('.LaidPieces_standing[data-feature="P1"]').first();
    const box = (await flue.boundingBox())!;
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width / 2 + 30, box.y - 40, { steps: 6 });
    await page.locator('.SlopeView_drag-words').waitFor();
    await page.mouse.up();
    await field(page, 'P1: eave edge to its centre').not.toBe(`7'-0"`);
    await undo(page);
    await field(page, 'P1: eave edge to its centre').toBe(`7'-0"`);
    await judged(page);
    // dropped where it cannot stand it stays, and a sentence says why
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    const chimney = (await page.locator('.LaidPieces_standing[data-feature="CH1"]').first().boundingBox())!;
    await page.mouse.move(chimney.x + chimney.width / 2, chimney.y + chimney.height / 2, { steps: 6 });
    await page.mouse.up();
    await page.getByRole('alert').getByText('Soil pipe').waitFor();
    await field(page, 'P1: eave edge to its centre').toBe(`7'-0"`);
    await saved(page);
  });

  scene('keeps the lines that are done, and its run sheet tells one detail or the whole roof', async (page) => {
    await openHouse(page);
    await page.getByLabel('Which slope').selectOption({ label: 'Whole roof' });
    await page.getByRole('heading', { name: 'North plane: course 18' }).waitFor();
    await page.getByLabel('Which detail').selectOption('CH1');
    await count(page.locator('.RunSheet_run-line')).toBeGreaterThan(10);
    await shows(() => page.locator('.RunSheet_run-line').first().innerText()).toContain('Stove chimney');
    await page
      .getByRole('checkbox', { name: /^Line \d+ done$/ })
      .first()
      .check();
    await saved(page);
    await page.reload();
    await page.getByText('1 done').waitFor();
  });

  scene('says once what holds of two things, and does what a fix says by a button, which can be undone', async (page) => {
    await openHouse(page);
    await page.locator('.Findings_findings[aria-busy="false"]').waitFor();
    await openFindings(page);
    const found = findings(page).getByRole('list');
    await count(found.getByText(/^West skylight and East skylight: one shingle over its head/)).toBe(1);
    await found.getByRole('button', { name: 'Set 5 1/2" on this slope' }).click();
    await count(found.getByText('Porch headwall: the last course under the apron')).toBe(0);
    await slope(page, 'Porch');
    await field(page, 'Exposure on this slope').toBe('5 1/2"');
    await undo(page);
    await count(found.getByText('Porch headwall: the last course under the apron')).toBe(1);
    // one button for both frames, and the line that lays what it asks for
    await found.getByRole('button', { name: 'Two-layer head course on SK1 and 1 more' }).click();
    await count(found.getByText(/one shingle over its head/)).toBe(0);
    await slope(page, 'South plane');
    await page
      .getByText(/^West skylight: lay dummy course SK1-DC under course 22, 2 shingles, 3'-5 7\/8" to 9'-3 1\/4"/)
      .waitFor();
    await undo(page);
    await count(found.getByText(/one shingle over its head/)).toBe(1);
    await saved(page);
  });

  scene('has stops that bar what follows, where the crew wants it so', async (page) => {
    await openJob(page, 'Ringing House: north plane and tower wall');
    const tick = (number: number): Locator => page.getByRole('checkbox', { name: `Line ${number} done`, exact: true });
    await page.getByText('Stop. Do not cover until seen: deck sound, clean and dry.').first().waitFor();
    await shows(() => tick(4).isEnabled()).toBe(true);
    await page.getByLabel('Stops bar what follows').check();
    await page.getByText('Not before the stop at line 3 is ticked off.').first().waitFor();
    await shows(() => tick(4).isEnabled()).toBe(false);
    await tick(3).check();
    await shows(() => tick(4).isEnabled()).toBe(true);
    // the next stop is the barrier's
    await shows(() => tick(7).isEnabled()).toBe(false);
    await undo(page, 2);
    await shows(() => tick(7).isEnabled()).toBe(true);
    await saved(page);
  });

  scene('splits its run sheet by crew, on screen and on paper, with a pole for every slope', async (page) => {
    await openHouse(page);
    await page.getByLabel('Which slope').selectOption({ label: 'Whole roof' });
    await count(page.locator('.RunSheet_run-line')).toBeGreaterThan(300);
    await page.getByLabel('Which crew').selectOption('masons');
    await shows(() => page.locator('.RunSheet_run-line').first().innerText()).toContain('masons');
    await count(page.locator('.RunSheet_run-line')).toBeGreaterThan(3);
    await count(page.locator('.RunSheet_run-line')).toBeLessThan(40);
    await view(page, 'Print');
    await page.locator('.PrintPage_paper-pole').first().waitFor();
    const poles = async (): Promise<(string | undefined)[]> =>
      (await page.locator('.PrintPage_paper-pole h2').allInnerTexts()).map((title) => title.split(':')[0]);
    await shows(poles).toEqual(['South plane', 'North plane', 'Cross gable, west slope', 'Cross gable, east slope', 'Porch']);
    await page.getByLabel('Which slope').selectOption({ label: 'Porch' });
    await shows(poles).toEqual(['Porch']);
    await page.getByLabel('Which crew').selectOption('cladders');
    await count(page.locator('.PrintPage_paper-line')).toBe(1);
  });

  scene('shows every detail to scale with its figures, and each passes the accessibility rules', async (page) => {
    await openHouse(page);
    await view(page, 'Roof');
    await page.locator('.PlanView_plan-view svg').waitFor();
    await accessible(page, 'roof');
    await view(page, 'Details');
    const names = ['SK1', 'SK2', 'SW1', 'CH1', 'P1', 'P2', 'SW2', 'HW1', 'HW1', 'V1', 'V2'];
    await shows(() => page.locator('.DetailsPage_detail-list button b').allInnerTexts()).toEqual(names);
    for (const [i, name] of names.entries()) {
      await page.locator('.DetailsPage_detail-list button').nth(i).click();
      await page.locator('.DetailsPage_detail-list').locator('[aria-current]', { hasText: name }).waitFor();
      await page.locator('.DetailDrawing_detail-drawing svg').waitFor();
      await count(page.locator('.DetailsPage_detail-figures dd')).toBeGreaterThan(4);
      await shows(() => page.locator('.DetailsPage_detail-body').innerText()).not.toMatch(/NaN|undefined|Infinity/);
    }
    await accessible(page, 'details');
  });

  scene('opens every detail in the lap bench, where it sheds', async (page) => {
    await openHouse(page);
    await view(page, 'Details');
    const all = page.locator('.DetailsPage_detail-list button');
    await count(all).toBe(11);
    for (let i = 0; i < 11; i++) {
      await all.nth(i).click();
      await page.getByRole('link', { name: 'Run water over it' }).click();
      await page.locator('.LapBench_verdict').getByText('Sheds', { exact: true }).waitFor();
      await view(page, 'Details');
    }
  });

  scene('takes trays through the tower’s wall, a ribbed valley, and skylights spaced evenly', async (page) => {
    await openHouse(page);
    await page.getByText('Space units evenly between references').first().click();
    await type(page, 'SK1: left end to the first reference', `2'`);
    await type(page, 'SK1: left end to the second reference', `4'`);
    await page.getByRole('button', { name: 'Space evenly' }).first().click();
    await page.getByRole('alert').getByText('do not fit').waitFor();
    await type(page, 'SK1: left end to the second reference', `10'`);
    await type(page, 'SK1: units alike between them', '1');
    await page.getByRole('button', { name: 'Space evenly' }).first().click();
    // 96 in less 30 1/2, halved, from 24 in
    await field(page, 'SK1: left end to its near edge').toBe(`4'-8 3/4"`);
    await slope(page, 'North plane');
    await page.getByLabel('Cladding', { exact: true }).selectOption('masonry');
    await page.getByLabel('Counterflashing', { exact: true }).selectOption('trays');
    await view(page, 'Details');
    await detail(page, 'Trays');
    await shows(() => figure(page, 'Trays, one a step')).toContain('35');
    await detail(page, 'V1');
    await page.getByLabel('V1: style', { exact: true }).selectOption('open');
    await page.getByRole('radiogroup', { name: 'V1: lining' }).getByText('with a rib').click();
    await shows(() => figure(page, 'Lining')).toBe('with a rib along its middle');
    await page.getByLabel('V1: style', { exact: true }).selectOption('closed cut');
    await page.getByLabel('V1: runs through', { exact: true }).selectOption({ label: 'South plane' });
    await type(page, 'V1: why that way round', 'no');
    await page.getByText('must say why').waitFor();
    await type(page, 'V1: why that way round', 'the yard sees this side');
    await openFindings(page);
    await page.getByText('decided otherwise (the yard sees this side)').first().waitFor();
  });

  scene('comes back to the slope, the line and the detail looked at: after a reload, and by its address', async (page) => {
    await openHouse(page);
    await slope(page, 'North plane');
    await page.getByRole('button', { name: /^Line 100\b/ }).click();
    await shows(async () => new URL(page.url()).search).toBe('?slope=north&line=100');
    await page.reload();
    await shows(() => page.getByRole('button', { name: 'North plane', exact: true }).getAttribute('aria-pressed')).toBe('true');
    await shows(() => page.locator('.SlopeView_marker-where').innerText()).toMatch(/^line 100 ·/);
    await view(page, 'Details');
    await detail(page, 'V1');
    await shows(async () => new URL(page.url()).searchParams.get('detail')).toBe('valley V1');
    const other = await secondPage();
    await other.goto(page.url());
    await other.getByRole('heading', { name: /^V1 / }).waitFor();
    await other.context().close();
  });
});
