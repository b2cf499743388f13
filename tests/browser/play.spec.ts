import { connect } from 'node:net';
import { once } from 'node:events';
import { freshDatabase } from '../support/databases.ts';
import { standIn, startServer, type RunningServer } from '../support/server.ts';
import { atLeaf, expect, ready, test as base } from './cell.ts';

/** The cell as `npm start -- --play` runs it: machines, a crew, panels, and a clock of its own. */
const RATE = 30;
const test = base.extend<
  { server: RunningServer },
  { panels: { url: string; gauges: number }; served: RunningServer }
>({
  panels: [
    // eslint-disable-next-line no-empty-pattern -- Playwright reads the fixtures' names from here
    async ({}, use) => {
      const database = await freshDatabase('tin_demo');
      const gauge = await standIn('gauge');
      const play = await standIn('play', {
        DATABASE_URL: database.appUrl,
        DATABASE_OWNER_URL: database.ownerUrl,
        SIM_RATE: String(RATE),
        SIM_SEED: '2',
        SIM_GAUGES: `127.0.0.1:${gauge.port}`,
        POOL_SIZE: '4',
      });
      await use({ url: `http://127.0.0.1:${play.port}`, gauges: gauge.port });
      play.child.kill();
      gauge.child.kill();
    },
    { scope: 'worker' },
  ],
  served: [
    async ({ panels }, use) => {
      const server = await startServer(process.env.DATABASE_URL!, { TIN_STAND_IN: panels.url });
      await use(server);
      await server.stop();
    },
    { scope: 'worker' },
  ],
  server: ({ served }, use) => use(served),
});

test('a shift is played: the application tells its time, and a newcomer is the operator of one machine', async ({
  as,
  panels,
  browser,
}) => {
  const page = await as('operator');
  await atLeaf(page);
  const clock = page.getByLabel('Time in the cell');
  const first = await clock.textContent();
  expect((await fetch(`${panels.url}/begin`, { method: 'POST' })).ok).toBe(true);
  // half a minute passes in a second
  await expect(clock).not.toHaveText(first!);

  const panel = await browser.newPage();
  await panel.goto(`${panels.url}/`);
  await expect(panel.getByText('made up for this play. It drives nothing.')).toBeVisible();
  await expect(panel.getByText('What was true is told when the shift is over.')).toBeVisible();
  await panel.getByRole('link', { name: 'Avocet' }).click();
  await ready(panel);
  const state = panel.locator('#state');
  const message = panel.locator('#message');
  await expect(state).toHaveText(/^RUNNING, \d+ min left$/);
  await expect(panel.getByRole('button', { name: 'Cycle start' })).toBeDisabled();
  await page.goto('/machines');
  await ready(page);
  await expect(page.getByText(/^Runs, T\d+/).first()).toBeVisible();
  // a busy machine may need seconds for each press: the cycle must not end meanwhile
  await expect(state).toHaveText(/^RUNNING, ([4-9]|\d\d) min left$/, { timeout: 90_000 });
  await panel.getByRole('button', { name: 'I take this machine' }).click();
  await expect(message).toHaveText('It is yours. The crew leaves it alone.');

  // what is held at the panel is told on the page within seconds

  await panel.getByRole('button', { name: 'Feed hold' }).click();
  await expect(state).toHaveText(/^FEED HOLD/);
  await expect(page.getByText(/^Held, T\d+: waits for somebody at the machine/).first()).toBeVisible();
  await panel.getByRole('button', { name: 'Cycle start' }).click();
  await expect(state).toHaveText(/^RUNNING/);

  // a row is keyed, by its value and by what is added; what is no number is said
  const value = panel.getByLabel('Value, mm');
  await panel.getByLabel('Row').selectOption({ label: '3 cutter wear' });
  await value.fill('0.0l2');
  await panel.getByRole('button', { name: 'Key it' }).click();
  await expect(message).toHaveText('That is no number.');
  const held = panel.getByRole('row', { name: /^3 cutter wear/ }).getByRole('cell');
  const before = Number(await held.textContent());
  await value.fill('0.012');
  await panel.getByLabel('add to what it holds').check();
  await panel.getByRole('button', { name: 'Key it' }).click();
  await expect(held).toHaveText((before + 0.012).toFixed(3));
  // the table that it gives out is what it holds, and the application reads it
  const table = await (await fetch(`${panels.url}/panel/avocet/table`)).text();
  expect(table).toContain(`P3 R${(before + 0.012).toFixed(3).replace(/0+$/, '')}`);

  // the cycle comes to its end, and nothing goes on by itself; the part is measured, and the gauge sends it
  await expect(state).toHaveText('READY', { timeout: 90_000 });
  const hearing = connect(panels.gauges, '127.0.0.1');
  await once(hearing, 'connect');
  const heard = once(hearing, 'data');
  await panel.getByLabel('Size').selectOption({ label: 'Body height' });
  await panel.getByRole('button', { name: 'Measure it' }).click();
  expect(String((await heard)[0])).toMatch(/^GAUGE height gauge = 3[56]\.\d+ MM\n$/);
  hearing.destroy();
  await expect(message).toContainText('Body height of part');

  await panel.getByLabel('Tool').selectOption('3');
  await panel.getByRole('button', { name: 'It is changed' }).click();
  await expect(message).toContainText('T3 has a fresh edge');
  await expect(held).toHaveText((before + 0.012).toFixed(3));
  await panel.getByRole('button', { name: 'Give it back to the crew' }).click();
  await expect(state).toHaveText(/^RUNNING/);

  // meanwhile the crew wrote down what it did at the others, at the time of the cell
  await page.goto('/ledger');
  await ready(page);
  await expect(page.getByText(/1 part of O\d+ made/).first()).toBeVisible({ timeout: 90_000 });
});
