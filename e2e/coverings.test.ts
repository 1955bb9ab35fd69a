import type { Locator, Page } from 'playwright-core';
import { describe, expect } from 'vitest';
import { addWall, bar, count, field, judged, newJob, openJob, saved, scene, shows, type, undo, view } from './scene.ts';

const summary = (page: Page) => shows(() => page.locator('.Findings_plan-summary').innerText());
const ordered = (page: Page, product: string): Locator => page.locator('tr', { hasText: product }).first();
const detail = (page: Page, name: string): Promise<void> =>
  page
    .getByRole('navigation', { name: 'Details of this roof' })
    .getByRole('button', { name: new RegExp(`^${name}`) })
    .first()
    .click();
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
    // what lies under the first course is not drawn below the eave
    const starts = await page
      .locator('path[class*="slits"]')
      .first()
      .evaluate((path) => [...path.getAttribute('d')!.matchAll(/M\S+ (\S+?)V/g)].map(([, y]) => Number(y)));
    expect(starts.length).toBeGreaterThan(16);
    for (const y of starts) expect(y).toBeGreaterThanOrEqual(-50);
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
    'is planned, judged, told and ordered in flat tile, then in profiled, its vent pipe past its crowns, a leg too',
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
      // its own tile and a half comes with it, and no other is offered
      await field(page, 'Tile and a half').toBe('brindlecombe-roll-half');
      expect(await page.getByLabel('Tile and a half', { exact: true }).locator('option').allInnerTexts()).toEqual([
        'None to be had',
        expect.stringMatching(/tile and a half/i),
      ]);
      await count(page.locator('path[class*="crowns"][d^="M"]')).toBe(1);
      await shows(() => line(page, 'Lay course 2').textContent()).toContain('tails on 239 mm: 12 whole.');
      // crowns at 1540 and 1840: one is under the vent pipe's edge
      await page
        .getByText(/Vent pipe: Lead slate 700 mm wide .* reaches 350 mm to either side, where 365 mm gets it past the crown/)
        .first()
        .waitFor();
      await type(page, 'P1: left end to its centre', '1690 mm');
      await shows(() => line(page, 'set base P1-B').textContent()).toContain('past a crown on both sides');
      await page.getByText('Sheds, and keeps the rules').waitFor();
      await page.getByRole('button', { name: 'standoffs' }).click();
      await type(page, 'ST1: rows', '1');
      await type(page, 'ST1: legs a row', '1');
      await shows(() => line(page, 'set base ST1-1.1-B').textContent()).toContain('past a crown on both sides');
      await page.getByRole('button', { name: 'Remove Standoff grid 1' }).click();
      // it begins as one there is a kit for on tiles
      await page.getByRole('button', { name: 'skylight', exact: true }).click();
      await field(page, 'SK1: frame’s outside width').toBe('550 mm');
      await field(page, 'SK1: frame’s outside height').toBe('780 mm');
      await judged(page);
      await count(page.getByText(/has no flashing kit/)).toBe(0);
      await page.getByRole('button', { name: 'Remove Skylight 1' }).click();
      await addWall(page);
      await page.getByLabel('Cladding', { exact: true }).selectOption('masonry');
      await summary(page).toBe('8 courses at 289 mm · SW1 2 lengths of cover flashing');
      // crowns 40 from the wall: 150 is past the first
      await shows(() => line(page, 'dress cover flashing SW1-01').textContent()).toContain('150 mm on them, past a crown');
      expect(await page.getByLabel('Steps nailed to').count()).toBe(0);
      await page.getByRole('button', { name: 'chimney', exact: true }).click();
      await type(page, 'CH1: left end to its near side', '2400 mm');
      await type(page, 'CH1: eave edge to its front face', '900 mm');
      await type(page, 'CH1: width across the slope', '450 mm');
      await type(page, 'CH1: depth, level', '450 mm');
      await shows(() => line(page, 'lay back pan CH1-P').textContent()).toContain('over the cover flashings');
      await judged(page);
      await view(page, 'Details');
      await detail(page, 'CH1');
      await page.getByText('Cover flashing on the tiles').waitFor();
      await page.getByRole('link', { name: 'Run water over it' }).click();
      await page
        .getByText(/^Sheds/)
        .first()
        .waitFor();
      await view(page, 'Slope');
    },
  );
});

describe('one job after another', () => {
  scene('is planned and judged by the workers the one before has left, each by its own covering', async (page) => {
    const begun: string[] = [];
    page.on('worker', (worker) => begun.push(worker.url()));
    for (const [name, told] of [
      ['Keeper’s Cottage: slate porch', /^16 courses at 194 mm/],
      ['Keeper’s Cottage: wash-house', /^8 courses at 289 mm/],
      ['Keeper’s Cottage: slate porch', /^16 courses at 194 mm/],
    ] as const) {
      await openJob(page, name);
      await summary(page).toMatch(told);
      await judged(page);
      await bar(page).getByRole('link', { name: 'Ruvet, all jobs' }).click();
    }
    // the page may have had both before
    expect(new Set(begun).size).toBe(begun.length);
  });
});

describe('the cottage’s back slope and outshot', () => {
  scene('have the figures of their sheet: battens, chimney, valleys', async (page) => {
    await openJob(page, 'Keeper’s Cottage: back slope and outshot');
    await judged(page);
    await field(page, 'Gauge on this slope').toBe('');
    await summary(page).toBe('14 courses at 328 mm');
    await shows(() => line(page, 'Nail 14 battens').textContent()).toContain(
      'the first 345 mm up the slope, the next 328 mm apart',
    );
    await shows(() => line(page, 'V1: lay metal lining').textContent()).toContain('2 pieces from the eave up, laps 150 mm');
    await view(page, 'Details');
    await detail(page, 'CH1');
    for (const words of ['450 mm × 693 mm', '5, level spacing 130 mm', '277 mm at its left, 226 mm at its right'])
      await page.getByText(words, { exact: true }).first().waitFor();
    await detail(page, 'V1');
    for (const words of ['3055 mm', 'with a rib along its middle'])
      await page.getByText(words, { exact: true }).first().waitFor();
    await view(page, 'Order list');
    // two whole ones, and the short upper pieces of both from a third
    await shows(() => ordered(page, 'Lead valley lining 620 mm with a 25 mm rib').innerText()).toMatch(/^3 pieces/);
  });
});

describe('its gauge rod', () => {
  scene('prints full size in sections: each batten where it comes, a line to check the printer by', async (page) => {
    await openJob(page, 'Keeper’s Cottage: wash-house');
    await view(page, 'Print');
    await page.getByText('A4', { exact: true }).click();
    await page.getByText('Rod, full size', { exact: true }).click();
    // 2400 up the slope on sheets of 241 that share 20
    await count(page.getByRole('img', { name: /^Wash-house: rod, full size, / })).toBe(11);
    await count(page.locator('[data-mark="1"]')).toBe(1);
    await shows(() => page.locator('[data-mark="1"]').textContent()).toBe('Batten 1: 345 mm');
    // the second sheet shows 201 to 442: the mark stands 97 below its top
    const perMm = 96 / 25.4;
    const sheet = page.getByRole('img', { name: 'Wash-house: rod, full size, 2 of 11' });
    const [box, mark] = [await sheet.boundingBox(), await sheet.locator('[data-mark="1"] line').boundingBox()];
    expect((mark!.y + mark!.height / 2 - box!.y) / perMm).toBeCloseTo(201 + 241 - 345, 0);
    expect(box!.height / perMm).toBeCloseTo(241, 0);
    const pdf = (await page.pdf({ preferCSSPageSize: true })).toString('latin1');
    // each sheet on a page of its own
    expect(pdf.match(/\/Type\s*\/Page\b/g)!.length).toBeGreaterThanOrEqual(13);
  });
});

describe('the cottage’s front slope', () => {
  scene('is entered by hand from its sheet: courses, cut tiles, channel, all by their figures', async (page) => {
    await newJob(page);
    await page.getByText('mm', { exact: true }).first().click();
    await anew(page, 'Tiles');
    await page.getByLabel('Tile', { exact: true }).selectOption('brindlecombe-roll');
    await page.getByLabel('Tile and a half', { exact: true }).selectOption('brindlecombe-roll-half');
    await type(page, 'Pitch', '30°');
    await page
      .locator('.left-column label', { hasText: /^along the slope$/ })
      .first()
      .click();
    await type(page, 'Length along the slope', '4650 mm');
    await type(page, 'Eave length', '9000 mm');
    await addWall(page);
    await page
      .locator('.left-column label', { hasText: /^on the right$/ })
      .first()
      .click();
    await type(page, 'Face from the slope’s left end', '8675 mm');
    await page
      .locator('.left-column label', { hasText: /^at an angle$/ })
      .first()
      .click();
    await type(page, 'Face at the top, from the left end', '9000 mm');
    await page.getByLabel('Cladding', { exact: true }).selectOption('render');
    await page.getByLabel('Last rafter', { exact: true }).selectOption('at the wall');
    await type(page, 'Wall height rain can strike', '2000 mm');
    await type(page, 'Rain in an hour', '75 mm');
    await summary(page).toMatch(/^14 courses at 328 mm/);
    await shows(() => line(page, 'Lay course 1 ').textContent()).toContain('28 whole, cut ones 272 mm');
    await shows(() => line(page, 'Lay course 8 ').textContent()).toContain('28 whole, 1 from a tile and a half, 432 mm');
    await shows(() => line(page, 'Lay course 14').textContent()).toContain('29 whole, cut ones 270 mm');
    await shows(() => line(page, 'cut the battens back').textContent()).toContain(
      'fix a support timber from inside the loft first',
    );
    await shows(() => line(page, 'dry-fit and cut channel').textContent()).toContain('SW1-CH1 to SW1-CH2');
    await view(page, 'Lap bench');
    await verdict(page).toBe('Sheds');
    await view(page, 'Details');
    await detail(page, 'SW1');
    for (const words of [
      /^4°, 23 mm a course, the roof narrows downward/,
      /4361 mm long: 2 lengths/,
      /6\.23 L\/min, 1\.5 mm deep/,
    ])
      await page.getByText(words).first().waitFor();
    await view(page, 'Slope');
    await page.getByLabel('Cut tiles drain into', { exact: true }).selectOption('cover alone');
    await page
      .getByText(/a cover flashing alone cannot drain them/)
      .first()
      .waitFor();
    await type(page, 'Face at the top, from the left end', '5000 mm');
    await page
      .getByText(/more than the 30° that can be cut/)
      .first()
      .waitFor();
    await undo(page);
    const place = async (mark: string, across: string, up: string, diameter: string): Promise<void> => {
      await page.getByRole('button', { name: 'pipe or flue' }).click();
      await type(page, `${mark}: left end to its centre`, across);
      await type(page, `${mark}: eave edge to its centre`, up);
      await type(page, `${mark}: outside diameter`, diameter);
    };
    await page.getByLabel('Flashing metal', { exact: true }).selectOption('lead');
    await place('P1', '4390 mm', '1800 mm', '110 mm');
    await shows(() => line(page, 'set base P1-B').textContent()).toContain('on course 6, lower edge at 1600 mm');
    await place('P2', '6040 mm', '2750 mm', '25 mm');
    await page
      .locator('label', { hasText: /^one base on a tile$/ })
      .last()
      .click();
    await shows(() => line(page, 'set formed base P2-B').textContent()).toContain('on course 9, centre 2750 mm');
  });
});

describe('a slope covered anew', () => {
  scene('in shakes, then in slates, which say so while the pitch is too flat for them', async (page) => {
    await newJob(page);
    await anew(page, 'Shakes');
    await field(page, 'Felt between the courses').toBe('quillhaven-interlay');
    await summary(page).toMatch(/courses at 10"/);
    await line(page, /Lay the felt interlay F01 on course 1/).waitFor();
    await undo(page);
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
