import { openPage, openStage } from '../e2e/harness.ts';
const stage = await openStage();
const { page, errors } = await openPage(stage, { width: 1280, height: 800 });
const [name, ...keys] = process.argv.slice(2);
await page.getByText(name!, { exact: true }).first().click();
await page.locator('.slope-drawing').waitFor();
const base = page.url().split('?')[0];
for (const arg of keys) {
  const [key, ...clips] = arg.split('@');
  const slug = key!.replace(' ', '-');
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto(`${base}/details?detail=${encodeURIComponent(key!)}`);
  await page.locator('.DetailDrawing_detail-drawing svg').waitFor();
  await page.waitForTimeout(300);
  const height = await page.evaluate(() => document.querySelector('.DetailsPage_detail-body')!.scrollHeight);
  await page.setViewportSize({ width: 1280, height: Math.min(6000, height + 80) });
  await page.waitForTimeout(300);
  for (const clip of clips) {
    if (clip === 'p') continue;
    const [y, h] = clip.split('+').map(Number);
    await page.screenshot({ path: `/tmp/scratch/d-${slug}-${y}.png`, clip: { x: 240, y: y!, width: 1040, height: h! } });
  }
  if (clips.includes('p')) {
    await page.setViewportSize({ width: 1000, height: 1300 });
    await page.goto(`${base}/print/detail?detail=${encodeURIComponent(key!)}`);
    await page.locator('article svg').first().waitFor();
    await page.waitForTimeout(400);
    await page.locator('article').screenshot({ path: `/tmp/scratch/p-${slug}.png` });
    const pdf = await page.pdf({ preferCSSPageSize: true, printBackground: true });
    console.log(
      key,
      height,
      'pages',
      (pdf.toString('latin1').match(/\/Type\s*\/Page[^s]/g) ?? []).length,
      'zoom',
      await page.locator('article').getAttribute('data-zoom'),
    );
  }
}
console.log(errors);
await stage.close();
