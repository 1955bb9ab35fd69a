import { readFileSync } from 'node:fs';
import type { Locator, Page } from 'playwright-core';
import { describe } from 'vitest';
import { bar, count, field, findings, judged, newJob, openJob, saved, scene, shows, type, view } from './scene.ts';

const slope = (page: Page, name: string): Promise<void> =>
  page.getByRole('group', { name: 'Slopes of the roof' }).getByRole('button', { name }).click();
const add = (page: Page, what: string): Promise<void> =>
  page.getByRole('group', { name: 'Add to this slope' }).getByRole('button', { name: what }).click();
const line = (page: Page, text: string | RegExp): Locator => page.locator('.RunSheet_run-line', { hasText: text }).first();
const worked = (page: Page) => shows(() => page.getByLabel('Ice barrier worked out').innerText());
const ordered = (page: Page, product: string): Locator => page.locator('tr', { hasText: product }).first();

/** The demo jobs are everybody's: what a scene changes it takes back. */
async function undoAll(page: Page): Promise<void> {
  const button = bar(page).getByRole('button', { name: 'Undo' });
  // it may turn off between the asking and the click
  while (await button.isEnabled()) await button.click({ timeout: 2000 }).catch(() => undefined);
}

/** A line's whole text, also while it is scrolled out of sight. */
const told = (found: Locator) => shows(() => found.textContent());

/** The findings as they stand, opened. */
async function opened(page: Page): Promise<Locator> {
  await judged(page);
  const button = findings(page).getByRole('button', { name: /findings?$/ });
  if ((await button.getAttribute('aria-expanded')) !== 'true') await button.click();
  return findings(page);
}

describe('what is typed is what is planned', () => {
  scene(
    'a pitch of 4/12 stays 4/12 and takes one layer of underlayment; a length that can be read two ways is refused',
    async (page) => {
      await newJob(page);
      await type(page, 'Pitch', '4/12');
      await field(page, 'Pitch').toBe('4/12');
      await saved(page);
      await page.reload();
      await page.locator('.slope-drawing').waitFor();
      await field(page, 'Pitch').toBe('4/12');
      await told(line(page, 'Synthetic underlayment')).toContain('one layer');
      await type(page, 'Pitch', '3.9/12');
      await told(line(page, 'Synthetic underlayment')).toContain('two layers (low pitch)');
      await type(page, 'Pitch', '18.5°');
      await field(page, 'Pitch').toBe('18.5°');

      const length = page.getByLabel('Eave length', { exact: true });
      await length.fill('1,000 mm');
      await page.getByText('"1,000 mm" can be read two ways; write it without a comma, such as 1000 mm or 1.000 mm').waitFor();
      await type(page, 'Eave length', '6000 mm');
      await field(page, 'Eave length').toBe(`19'-8 1/4"`);
    },
  );

  scene('from 8/12 the barrier is told as the level measure is along the slope, and what governs', async (page) => {
    await newJob(page);
    await type(page, 'Eave overhang, level', '0');
    await type(page, 'Exterior wall thickness', '0');
    await type(page, 'Pitch', '12/12');
    await worked(page).toContain('24" level is 33 15/16" (33.9") along the slope');
    await worked(page).toContain('would end 9 15/16" short');
    await worked(page).toContain('at least 36" governs here');
  });

  scene(
    'a choice that is hidden goes: a headwall turned to boards takes its flashing through the masonry with it',
    async (page) => {
      await openJob(page, 'Ringing House');
      await slope(page, 'Porch');
      await line(page, 'lengths of Through-wall sheet').waitFor();
      await page.getByLabel('HW1: cladding', { exact: true }).selectOption('boards');
      await count(page.getByLabel('HW1: in the masonry', { exact: true })).toBe(0);
      await line(page, 'Porch headwall: close with lapped boards').waitFor();
      await count(page.locator('.RunSheet_run-line', { hasText: 'through-wall sheet' })).toBe(0);
      await page.getByLabel('HW1: cladding', { exact: true }).selectOption('masonry');
      await shows(() => page.getByLabel('HW1: in the masonry', { exact: true }).inputValue()).toBe('reglet');
      await undoAll(page);
      await line(page, 'lengths of Through-wall sheet').waitFor();
      await saved(page);
    },
  );
});

describe('a line and the order say the same', () => {
  scene('what a line takes stands in it and on the order: nails, cement, tape, mastic, weeps', async (page) => {
    await openJob(page, 'Ringing House');
    await slope(page, 'North plane');
    await told(line(page, 'Soil pipe: set boot')).toMatch(
      /Takes 5 × Roofing nail 1 in, aluminium; 2 × Gasketed screw 1 1\/2 in; Asphalt cement, tube, \d+ .*of 3\/8" bead/,
    );
    await told(line(page, 'Lay course 2,')).toMatch(
      /(\d+) nails: 6 to a whole shingle, at least 2 to a cut one.*Takes \1 × Roofing nail/s,
    );
    await told(line(page, 'Lay the starter along the eave')).toMatch(/(\d+) nails, 4 to a starter.*Takes \1 × Roofing nail/s);
    await slope(page, 'South plane');
    await told(line(page, 'West skylight: tape the frame')).toContain(
      'Self-adhered strip 4 in: 38 1/2", 2 × 54 1/2", 38 1/2", 4 × 8"',
    );
    await slope(page, 'Porch');
    await told(line(page, 'weeps in head joints')).toContain('Takes 6 × Head-joint weep');
    await told(line(page, 'weeps in head joints')).toContain('mortar thumb-hard');

    await view(page, 'Order list');
    for (const product of [
      'Asphalt cement, tube',
      'Asphalt cement, gallon pail',
      'Polyurethane sealant',
      'Wall-sheet mastic',
      'Liquid air barrier',
    ])
      await shows(() => ordered(page, product).innerText()).toMatch(/^[1-9]\d* (tube|pail|can)s?/);
    await shows(() => ordered(page, 'Head-joint weep').innerText()).toContain('6 pieces');
    await shows(() => ordered(page, 'Roofing nail 2 1/2 in, galvanised').innerText()).toMatch(/\d+ pieces/);
  });

  scene('an open valley has its cleats: 18 a side, in the line and on the order', async (page) => {
    await openJob(page, 'Ringing House');
    await view(page, 'Details');
    for (const id of ['V1', 'V2']) {
      await page.locator('.DetailsPage_detail-list button', { hasText: id }).first().click();
      await page.getByLabel(`${id}: style`, { exact: true }).selectOption('open');
    }
    await view(page, 'Slope');
    await slope(page, 'South plane');
    await told(line(page, 'V1: lay metal lining')).toContain('36 cleats, 18 along each edge, at most 12" apart');
    await view(page, 'Order list');
    await shows(() => ordered(page, 'Valley cleat').innerText()).toContain('72 pieces');
    await view(page, 'Slope');
    await undoAll(page);
    await saved(page);
  });
});

describe('what has no room is said, and gone when there is room', () => {
  scene('a hot flue is asked for its clearance; two pipes too near each other say so', async (page) => {
    await newJob(page);
    await type(page, 'Eave length', `30'`);
    await add(page, 'pipe or flue');
    await type(page, 'P1: left end to its centre', '120');
    await type(page, 'P1: outside diameter', '8');
    await page.getByLabel('P1: a flue that gets hot', { exact: true }).press('Space');
    await (await opened(page)).getByText('its clearance to what burns is not told').waitFor();
    await type(page, 'P1: clearance to what burns', '2');
    await told(line(page, 'stick collar P1-M1')).toContain('the hole round it, 12" across');
    await count(findings(page).getByText('its clearance to what burns')).toBe(0);

    await add(page, 'pipe or flue');
    await type(page, 'P2: left end to its centre', '133');
    await type(page, 'P2: eave edge to its centre', '70');
    await (await opened(page)).getByText('stand so near that their flashings overlap').waitFor();
    await type(page, 'P2: left end to its centre', '200');
    await judged(page);
    await count(findings(page).getByText('flashings overlap')).toBe(0);
  });

  scene('two skylights side by side: the strip that cannot be nailed is a finding that names its courses', async (page) => {
    await newJob(page);
    await type(page, 'Eave length', `30'`);
    await type(page, 'Level run, eave edge to under the top', `15'`);
    for (const [mark, left] of [['SK1', '100'], ['SK2', '126']] as const) {
      await add(page, 'skylight');
      await type(page, `${mark}: frame’s outside width`, '22.5');
      await type(page, `${mark}: left end to its near edge`, left);
    } // prettier-ignore
    await (await opened(page)).getByText(/has no room for 2 nails clear of metal, valleys and edges: it will slide/).waitFor();
  });
});

describe('a job file brought in', () => {
  const text = readFileSync(new URL('../core/fixtures/ringing-house-version-2.ruvet.json', import.meta.url), 'utf8');
  const bring = async (page: Page, body: string): Promise<void> => {
    // the catalog has come, by which the file is read
    await shows(() => page.getByRole('button', { name: 'Import a job file' }).isEnabled()).toBe(true);
    const file = { name: 'house.json', mimeType: 'application/json', buffer: Buffer.from(body) };
    await page.getByLabel('Job file to import').setInputFiles(file);
  };

  scene('of an older version is read: pitches as they were said, and the flue’s clearance asked for', async (page) => {
    await bring(page, text.replace('"name": "Ringing House"', '"name": "An older house"'));
    await page.locator('.slope-drawing').waitFor();
    await shows(() => page.getByLabel('Name of the job').inputValue()).toBe('An older house');
    await field(page, 'Pitch').toBe('6/12');
    await (await opened(page)).getByText('its clearance to what burns is not told').waitFor();
    await slope(page, 'Porch');
    await field(page, 'Pitch').toBe('4/12');
  });

  scene('whose choices contradict each other is taken, and says so in its findings', async (page) => {
    const current = readFileSync(new URL('../demo/jobs/ringing-house.ruvet.json', import.meta.url), 'utf8');
    const job = JSON.parse(current) as { name: string; features: { kind: string; cladding?: string }[] };
    job.name = 'A house of two minds';
    for (const one of job.features) if (one.kind === 'headwall') one.cladding = 'boards';
    await bring(page, JSON.stringify(job));
    await page.locator('.slope-drawing').waitFor();
    await (await opened(page)).getByText('that is let into masonry, and this is not masonry').waitFor();
  });
});

describe('the whole roof in one order', () => {
  scene('on paper each line says what it takes and how long to wait, as on the screen', async (page) => {
    await openJob(page, 'Ringing House');
    await view(page, 'Print');
    const paper = (words: string): Locator => page.locator('.PrintPage_paper-line', { hasText: words }).first();
    await told(paper('Soil pipe: set boot')).toMatch(/Takes 5 × Roofing nail 1 in, aluminium; 2 × Gasketed screw/);
    await told(paper('weeps in head joints')).toMatch(/Takes 6 × Head-joint weep\..*Wait: /s);
  });

  scene('the run sheet downloaded is numbered as the roof is laid', async (page) => {
    await openJob(page, 'Ringing House');
    await view(page, 'Order list');
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Run sheet, CSV' }).click(),
    ]);
    const text = await (await file.createReadStream()).reduce((all: string, part: Buffer) => all + part.toString('utf8'), '');
    const lines = text.split('\r\n').slice(1).filter((row) => /^\d+,/.test(row)).map((row) => Number(row.split(',')[0])); // prettier-ignore
    await shows(() => Promise.resolve(lines.every((number, i) => number === i + 1) && lines.length > 250)).toBe(true);
    await shows(() => Promise.resolve(text.indexOf('Make safe') < text.indexOf('Course 1'))).toBe(true);
  });
});
