import { describe } from 'vitest';
import {
  bar,
  count,
  field,
  findings,
  judged,
  newJob,
  openFindings,
  openJob,
  saved,
  scene,
  shows,
  type,
  undo,
  view,
} from './scene.ts';

const NORTH = 'Ringing House: north plane and tower wall';

describe('what is done to the roof', () => {
  scene('is a strip first: survey, lots with their weight, deck sheets on the order', async (page) => {
    await openJob(page, NORTH);
    await page.getByLabel('What is done', { exact: true }).selectOption('re-roof');
    await page.getByText('Look in from inside first: light, stains, wet insulation, vents. Photograph each.').waitFor();
    await page.getByText(/^Have skips for \d+ lb: \d loads? of at most 4000 lb\./).waitFor();
    await page
      .getByText(/^Strip on day 2 from 22'-0" to 44'-0" along the eave, ridge down.* 1 layer, \d+ lb\. Close it the same day/)
      .waitFor();
    await type(page, 'Layers of it', '2');
    await page.getByText(/^Strip on day 2 from .* 2 layers, /).waitFor();
    await type(page, 'Stripped and closed in a day', '250 ft²');
    await page.getByText(/^Strip on day 4 from /).waitFor();
    await type(page, 'A skip takes', 'a lot');
    await page.getByText('A skip takes: "a lot" is no weight; write it such as 2205 lb.').waitFor();
    await type(page, 'A skip takes', '2 t');
    await field(page, 'A skip takes').toBe('4409 lb');
    await view(page, 'Order list');
    await page.getByText('Deck sheet 4 × 8 ft, 5/8 in').waitFor();
    await view(page, 'Slope');
    await undo(page, 4);
    await saved(page);
  });

  scene('is one repair: its worth first, its own lines and order, and the water judges the finished patch', async (page) => {
    await openJob(page, 'Ringing House');
    await page.getByLabel('What is done', { exact: true }).selectOption('repair');
    await page.getByLabel('Repair', { exact: true }).selectOption({ label: 'Soil pipe: new boot or base' });
    await page.getByRole('group', { name: 'Slopes of the roof' }).getByRole('button', { name: 'North plane' }).click();
    await page.getByText(/^Tell the owner first: this is a cure\. It lasts about 15 years/).waitFor();
    await page.getByText(/^Take off courses 17 down to 13, .* Stack them by course, a pile a side\.$/).waitFor();
    await page.getByText(/^Hose P1 from the bottom up/).waitFor();
    await count(page.getByText('Stove chimney, front: lay apron')).toBe(0);
    await judged(page);
    await view(page, 'Order list');
    await page.getByText('Pipe boot for 3 in pipe').waitFor();
    await count(page.getByText('Ridge vent 4 ft')).toBe(0);
    await view(page, 'Slope');
    await page.getByLabel('Lay what comes off again').press('Space');
    await page.getByText(/^Lay course 16 anew, /).waitFor();
    await undo(page, 3);
    await page.getByText('Stove chimney, front: lay apron').first().waitFor();
    await saved(page);
  });
});

describe('ventilation', () => {
  scene('is asked, comes to its figures, and its slot follows what the eaves let in', async (page) => {
    await openJob(page, 'Ringing House');
    const told = page.locator('.Measures_comes-to');
    // far down the form, and read where it is seen
    await told.scrollIntoViewIfNeeded();
    await shows(() => told.innerText()).toBe(
      'Asked 624 in², 1 part in 300, balanced. In 330 in², out 330 in² over 18\'-4" of slot.',
    );
    await type(page, 'Net free area at the eaves', '150');
    await shows(() => told.innerText()).toContain('In 150 in², out 150 in² over 8\'-4" of slot.');
    await openFindings(page);
    const found = findings(page).getByRole('list');
    await found.getByText(/^Vents come to 300 in² net free, 150 in² of it at the eaves/).waitFor();
    await type(page, 'Net free area at the eaves', 'some');
    await page.getByText('Net free area at the eaves: "some" is no area; write it such as 1550 in².').waitFor();
    await page.getByLabel('Lets air out', { exact: true }).selectOption('undecided');
    await found.getByText('How the space under the roof is vented is not decided.').waitFor();
    await undo(page, 2);
    await saved(page);
  });

  scene('undecided, or any other thing worth a look, is muted with a reason, and told again', async (page) => {
    await openJob(page, 'Ringing House');
    await openFindings(page);
    const found = findings(page).getByRole('list');
    const ridge = found.getByRole('listitem').filter({ hasText: 'the last course shows only' });
    await ridge.getByRole('button', { name: 'Mute', exact: true }).click();
    await ridge.getByRole('button', { name: 'Mute on this job' }).click();
    await ridge.getByText('Why it is muted: say it in a few words.').waitFor();
    await ridge.getByLabel('Why covering.ridge is muted').fill('the caps cover it');
    await ridge.getByRole('button', { name: 'Mute on this job' }).click();
    await found.getByText('Muted: covering.ridge, 2. the caps cover it').waitFor();
    await count(ridge).toBe(0);
    await found.getByRole('button', { name: 'Tell it again' }).click();
    await count(ridge).toBe(1);
    // the same in every job of the house: this one goes by it at once, a new one from its beginning
    await ridge.getByRole('button', { name: 'Mute', exact: true }).click();
    await ridge.getByLabel('Why covering.ridge is muted').fill('we nail it by hand');
    await ridge.getByRole('button', { name: 'Mute in all jobs' }).click();
    await found.getByText('Muted: covering.ridge, 2. Not told in this house: we nail it by hand').waitFor();
    await count(ridge).toBe(0);
    await saved(page);
    await bar(page).getByRole('link', { name: 'Ruvet, all jobs' }).click();
    await newJob(page);
    await shows(() => page.getByLabel('Not told in this house, 1').isChecked()).toBe(true);
    await saved(page);
    await bar(page).getByRole('link', { name: 'Ruvet, all jobs' }).click();
    await openJob(page, 'Ringing House');
    await openFindings(page);
    await found.getByRole('button', { name: 'Tell it again in all jobs' }).click();
    await count(ridge).toBe(1);
    await saved(page);
  });

  scene('and the wind: open to it, six nails are asked, and a button sets them', async (page) => {
    await openJob(page, NORTH);
    await page.getByLabel('Weather comes from', { exact: true }).selectOption('south-west');
    await page.getByLabel('Open to the wind', { exact: true }).press('Space');
    const found = findings(page).getByRole('list');
    await found.getByText(/asks 6 nails in each laminated shingle; 4 are planned/).waitFor();
    await found.getByRole('button', { name: 'Set 6 nails in each shingle' }).click();
    await page
      .getByText(/nails: 6 to a whole shingle/)
      .first()
      .waitFor();
    await page.getByText(/begun at its east end, away from the weather from the south-west/).waitFor();
    await undo(page, 3);
    await saved(page);
  });
});
