// npm run moves: how long the main thread works for each pointer move while the demo house is panned and one of its skylights dragged, from the browser's
// own trace. Needs DATABASE_URL and a build.
import type { Page } from 'playwright-core';
import { openPage, openStage } from '../e2e/harness.ts';

type TraceEvent = {
  name: string;
  ph: string;
  ts: number;
  dur?: number;
  tid: number;
  pid: number;
  args?: { data?: { type?: string } };
};

const MOVES = 120;

/** Milliseconds of the main thread between one pointer move and the next, and the longest task among them. */
async function traced(page: Page, gesture: () => Promise<void>): Promise<{ work: number[]; longest: number }> {
  const { browser } = stage;
  await browser.startTracing(page, { categories: ['devtools.timeline', 'toplevel'] });
  await gesture();
  const { traceEvents } = JSON.parse((await browser.stopTracing()).toString()) as { traceEvents: TraceEvent[] };
  const moves = traceEvents.filter(({ name, args }) => name === 'EventDispatch' && args?.data?.type === 'pointermove');
  const { tid, pid } = moves[0]!;
  const tasks = traceEvents.filter(
    (one) => one.name === 'ThreadControllerImpl::RunTask' && one.tid === tid && one.pid === pid && one.ph === 'X',
  );
  const times = moves.map(({ ts }) => ts).sort((a, b) => a - b);
  const work = times.slice(0, -1).map((from, i) => {
    const to = times[i + 1]!;
    // the task a move is dispatched in began a little before it
    return tasks.filter(({ ts, dur = 0 }) => ts + dur > from && ts < to).reduce((sum, { ts, dur = 0 }) => sum + Math.min(ts + dur, to) - Math.max(ts, from), 0) / 1000; // prettier-ignore
  });
  const during = tasks.filter(({ ts }) => ts >= times[0]! && ts <= times.at(-1)!);
  return { work, longest: Math.max(...during.map(({ dur = 0 }) => dur)) / 1000 };
}

function tell(what: string, { work, longest }: { work: number[]; longest: number }): void {
  const sorted = work.toSorted((a, b) => a - b);
  const at = (share: number): string => sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))]!.toFixed(1);
  console.log(`${what}: ${work.length} moves, median ${at(0.5)} ms, 95 % ${at(0.95)} ms, longest task ${longest.toFixed(1)} ms`);
}

const stage = await openStage();
const { page } = await openPage(stage);
await page.getByText('Ringing House', { exact: true }).first().click();
await page.locator('.slope-drawing').waitFor();
await page.locator('.Findings_findings[aria-busy="false"]').waitFor();
const box = (await page.locator('.slope-drawing').boundingBox())!;
const move = async (x: number, y: number): Promise<void> => {
  await page.mouse.move(x, y);
  await page.waitForTimeout(16);
};

tell(
  'panning',
  await traced(page, async () => {
    await page.mouse.move(box.x + box.width - 120, box.y + box.height - 120);
    await page.mouse.down();
    for (let i = 0; i < MOVES; i++) await move(box.x + box.width - 120 - i, box.y + box.height - 120 - (i % 40));
    await page.mouse.up();
  }),
);
await page.getByRole('button', { name: 'Whole slope' }).click();
await page.waitForTimeout(500);
const held = (await page.locator('[data-feature="SK1"]').boundingBox())!;
const [x, y] = [held.x + held.width / 2, held.y + held.height / 2];
tell(
  'dragging a skylight',
  await traced(page, async () => {
    await page.mouse.move(x, y);
    await page.mouse.down();
    for (let i = 0; i < MOVES; i++) await move(x + (i % 60), y + (i % 30));
    await page.mouse.up();
  }),
);
await stage.close();
