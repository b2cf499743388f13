import { chromium, type Page } from '@playwright/test';
import { startServer, type RunningServer } from '../support/server.ts';
import { freshDatabase } from '../support/databases.ts';
import { atLeaf, expect, ready, test as base } from './cell.ts';
import { takenAsLoadPlan } from './planned.ts';

/** A server that can be killed and started again at its address. */
interface Killable extends RunningServer {
  kill(): Promise<void>;
  again(): Promise<void>;
}
const test = base.extend<{ server: RunningServer }, { plant: Killable }>({
  plant: [
    // eslint-disable-next-line no-empty-pattern -- Playwright reads the fixtures' names from here
    async ({}, use) => {
      const { appUrl } = await freshDatabase('tin_demo');
      let now = await startServer(appUrl);
      const port = Number(new URL(now.url).port);
      await use({
        url: now.url,
        child: now.child,
        stop: (signal) => now.stop(signal),
        kill: () => now.stop('SIGKILL'),
        again: async () => void (now = await startServer(appUrl, {}, port)),
      });
      await now.stop();
    },
    { scope: 'worker' },
  ],
  server: ({ plant }, use) => use(plant),
});

test.use({ serviceWorkers: 'allow' });

/** Waits until this device keeps a page, and what it is made with. */
const kept = (page: Page, path: string) =>
  expect
    .poll(
      () =>
        page.evaluate(async (wanted) => {
          const names = await caches.keys();
          const found = names.find((name) => name.startsWith('tin-pages-'));
          const shell = names.find((name) => name.startsWith('tin-shell-'));
          if (!found || !shell || !(await (await caches.open(found)).match(wanted))) return 0;
          return (await (await caches.open(shell)).keys()).length;
        }, path),
      { timeout: 40_000 },
    )
    .toBeGreaterThan(100);
const waits = (page: Page) => page.getByRole('status', { name: 'Waits to be sent' });
const late = (page: Page) => page.getByRole('status', { name: 'Sent late' });
const made = (page: Page) => page.getByRole('progressbar', { name: 'Parts made' }).getAttribute('value');

/** The page of Curlew, kept on this device; how many parts are made. */
async function keptNow(page: Page): Promise<number> {
  await page.goto('/machines/3/now');
  await ready(page);
  await kept(page, '/machines/3/now');
  return Number(await made(page));
}
async function typeParts(page: Page, parts: string) {
  const form = page.getByRole('form', { name: 'Record parts' });
  await form.getByRole('textbox', { name: 'Parts made' }).fill(parts);
  await form.getByRole('button', { name: 'Record', exact: true }).click();
}
/** Leaves a page without a network, so that nobody is signed in when it is back. A page that is left lives for a moment more, with a network, and would send what waits. */
async function leftUnsent(page: Page) {
  await page.context().clearCookies();
  await page.goto('about:blank');
  await page.context().setOffline(false);
}
async function typeReading(page: Page, part: string, size: string) {
  await page.getByRole('button', { name: /^Bearing seat OD (?!\(2nd)/ }).click();
  const form = page.getByRole('form', { name: 'Type a reading' });
  await form.getByLabel('Part', { exact: true }).fill(part);
  await form.getByLabel(/^Reading, /).fill(size);
  await form.getByRole('button', { name: 'What do I do?' }).click();
}

test('the server is killed: the machine’s pages open, what is entered waits across a reload, and is sent once and in order', async ({
  as,
  plant,
}) => {
  const page = await as('operator');
  await page.goto('/machines/3/now');
  await ready(page);
  const before = Number(await made(page));
  await kept(page, '/machines/3/sheet');
  await plant.kill();
  await page.reload();
  await ready(page);
  await expect(page.getByText('No network: this page is as it was at')).toBeVisible();
  await typeParts(page, '3');
  await expect(waits(page)).toContainText('3 parts of O1402');
  expect(Number(await made(page))).toBe(before + 3);
  // the second count goes on from the first, and the part that is measured is the last of them
  await typeParts(page, '2');
  await expect(waits(page)).toContainText('2 parts of O1402');
  await expect(
    page.getByRole('form', { name: 'Type a reading' }).getByLabel('Part', { exact: true }),
  ).toHaveValue(String(before + 5));
  await typeReading(page, String(before + 4), '1.3781');
  await expect(waits(page)).toContainText(`part ${before + 4}: 1.3781`);
  await expect(waits(page).getByRole('paragraph')).toHaveCount(3);

  // the tablet loses its battery: another page of the same browser finds it all
  await page.close({ runBeforeUnload: false });
  const again = await page.context().newPage();
  await again.goto(`${plant.url}/machines/3/now`);
  await ready(again);
  await expect(waits(again).getByRole('paragraph')).toHaveCount(3);
  expect(Number(await made(again))).toBe(before + 5);
  // by a link to another page that is kept, too
  await again.getByRole('link', { name: 'Sheet', exact: true }).click();
  await expect(again).toHaveURL(/\/sheet$/);
  await ready(again);
  await expect(waits(again).getByRole('paragraph')).toHaveCount(3);
  // one that is not kept says so, and what is
  await again.goto(`${plant.url}/tools`);
  await expect(again.getByRole('heading', { name: 'No network' })).toBeVisible();
  await again.getByRole('link', { name: 'Curlew now' }).click();
  await ready(again);

  await plant.again();
  await expect(late(again)).toHaveCount(3, { timeout: 40_000 });
  await expect(waits(again)).toHaveCount(0);
  await expect(again.getByText('No network: this page is as it was at')).toHaveCount(0);
  await expect.poll(() => made(again)).toBe(String(before + 5));
  await again.goto(`${plant.url}/ledger`);
  await ready(again);
  // what became of them stands on the next page too, until it was seen
  await expect(late(again)).toHaveCount(3);
  await again.getByRole('button', { name: 'All seen' }).click();
  await expect(late(again)).toHaveCount(0);
  await again.reload();
  await ready(again);
  await expect(again.getByRole('heading', { level: 1 })).toBeVisible();
  await expect(late(again)).toHaveCount(0);
  const entries = (await again.locator('main').innerText()).split('\n');
  const at = (words: string) => entries.findIndex((line) => line.includes(words));
  // newest first, each once
  expect(at(`of part ${before + 4} measured`)).toBeGreaterThan(-1);
  expect(at(`of part ${before + 4} measured`)).toBeLessThan(at(`${before + 5} in all`));
  expect(at(`${before + 5} in all`)).toBeLessThan(at(`${before + 3} in all`));
  for (const all of [3, 5])
    expect(entries.filter((line) => line.includes(`${before + all} in all`))).toHaveLength(1);
});

test('what is refused when it is sent comes back as a question with what happened meanwhile, and stays until it is answered', async ({
  as,
  browser,
  server,
}) => {
  const page = await as('operator');
  const before = await keptNow(page);
  await page.context().setOffline(true);
  // this tablet's clock is a day behind
  await page.clock.setSystemTime(Date.now() - 86_400_000);
  await typeParts(page, '4');
  await expect(waits(page)).toContainText('4 parts of O1402');
  // meanwhile the lead counts the same parts
  const other = await as('lead', await browser.newPage());
  await other.goto(`${server.url}/machines/3/now`);
  await ready(other);
  await typeParts(other, '6');
  await expect.poll(() => made(other)).toBe(String(before + 6));

  await page.context().setOffline(false);
  const question = page.getByRole('alert', { name: 'Not taken: 4 parts of O1402' });
  await expect(question).toContainText('not taken', { timeout: 40_000 });
  await expect(question).toContainText(`6 parts of O1402 made, ${before + 6} in all`);
  await expect.poll(() => made(page)).toBe(String(before + 6));
  // it is there still after the page was closed and opened
  await page.reload();
  await ready(page);
  await expect(question).toBeVisible();
  // and for the other one who takes the tablet over, who cannot answer it
  await as('setter', page);
  await page.goto('/machines/3/now');
  await ready(page);
  await expect(question).toContainText('answers this when signed in');
  await as('operator', page);
  await page.goto('/machines/3/now');
  await ready(page);
  await question.getByRole('button', { name: 'Ask about it on the leaf' }).click();
  await expect(question).toHaveCount(0);
  await page.goto('/leaf');
  await ready(page);
  await expect(
    page.locator('main').getByText('Typed without a network and not taken: 4 parts of O1402').first(),
  ).toBeVisible();
});

test('somebody else takes the tablet over: what the first entered waits for them, and is theirs', async ({
  as,
  browser,
  server,
}) => {
  const page = await as('operator');
  await keptNow(page);
  await page.context().setOffline(true);
  await page.clock.setSystemTime(Date.now() - 3 * 3_600_000);
  await typeParts(page, '1');
  await expect(waits(page)).toContainText('1 part of O1402');
  // the network comes back once nobody is signed in here: whoever takes the tablet sees that something waits
  await leftUnsent(page);
  await page.goto(`${server.url}/sign-in`);
  await ready(page);
  await expect(waits(page)).toContainText('One thing entered by Dede Okafor waits here until they sign in.');
  await as('setter', page);
  await page.goto('/machines/3/now');
  await ready(page);
  await expect(waits(page)).toContainText('One thing entered by Dede Okafor waits here until they sign in.');
  // what is recorded is seen where nothing waits
  const lead = await as('lead', await browser.newPage());
  await lead.goto(`${server.url}/machines/3/now`);
  await ready(lead);
  const before = Number(await made(lead));
  expect(Number(await made(page))).toBe(before + 1);
  // the clock is right again, so it is known how long ago that was
  await page.clock.setSystemTime(Date.now());
  await as('operator', page);
  await atLeaf(page);
  // it goes from the first page that opens, whichever that is, and is said there
  await expect(late(page)).toHaveCount(1, { timeout: 20_000 });
  await page.goto('/ledger');
  await ready(page);
  await expect(
    page
      .getByText(
        `1 part of O1402 made, ${before + 1} in all. (typed 3 hours before it arrived, without a network)`,
      )
      .first(),
  ).toBeVisible();
});

test('a correction is keyed and read back without a network, and never approved without one', async ({
  as,
  browser,
}) => {
  const lead = await as('lead', await browser.newPage());
  const page = await as('operator');
  await page.goto('/machines/4/now');
  await ready(page);
  const card = await page.locator('a[href^="/corrections/"]').first().getAttribute('href');
  await lead.goto(new URL(card!, page.url()).href);
  await ready(lead);
  await lead.context().setOffline(true);
  await lead.getByRole('button', { name: /^Approve/ }).click();
  await expect(lead.getByText('There was no answer. Press again')).toBeVisible();
  await expect(waits(lead)).toHaveCount(0);
  await lead.context().setOffline(false);
  await lead.getByRole('button', { name: /^Approve/ }).click();
  await expect(lead.getByRole('heading', { name: /^Key on/ })).toBeVisible();

  await page.goto(card!);
  await ready(page);
  const to = await page.locator('dt:has-text("Make it") + dd').innerText();
  await page.goto('/machines/4/now');
  await ready(page);
  await kept(page, card!);
  await page.context().setOffline(true);
  await page.goto(card!);
  await ready(page);
  await expect(page.getByText('Before you key a number, ask whether it still stands.')).toBeVisible();
  await page.getByRole('button', { name: 'I have keyed it' }).click();
  const form = page.getByRole('form', { name: 'Read back' });
  for (const field of await form.getByRole('textbox', { name: /row|look again/i }).all())
    await field.fill(to.replace('−', '-'));
  await form.getByRole('button', { name: 'The control shows this' }).click();
  await expect(page.getByText('waits on this device to be sent; it is compared then')).toBeVisible();
  // the machine's page says so, and does not ask for it a second time
  await page.goto('/machines/4/now');
  await ready(page);
  await expect(page.getByText('keyed; what the control shows waits to be sent')).toBeVisible();
  await page.context().setOffline(false);
  await expect(late(page)).toContainText(`shows ${to.replace('−', '-')}`, { timeout: 40_000 });
  await page.goto(card!);
  await ready(page);
  await expect(page.getByRole('heading', { name: /^The control shows/ })).toBeVisible();
});

test('steps of a load plan are ticked without a network, one after the other', async ({ as }) => {
  const page = await as('setter');
  await takenAsLoadPlan(page, 'program=3&program=4&program=5');
  await page.goto('/machines/1/now');
  await ready(page);
  await kept(page, '/machines/1/load');
  await page.context().setOffline(true);
  await page.goto('/machines/1/load');
  await ready(page);
  const card = page.getByRole('region', { name: 'The next step' });
  let taken = 0;
  for (; taken < 3; taken += 1) {
    const form = card.getByRole('form', { name: `Step ${taken + 1}` });
    if (!(await form.isVisible())) break;
    for (const box of await form.getByRole('checkbox').all()) await box.check();
    await form.getByRole('button', { name: /Done/ }).click();
    await expect(page.locator('main')).toContainText(`${taken + 1} done,`);
  }
  expect(taken).toBeGreaterThan(1);
  await expect(waits(page).getByRole('paragraph')).toHaveCount(taken);
  await page.context().setOffline(false);
  await expect(late(page)).toHaveCount(taken, { timeout: 40_000 });
  await expect(page.locator('main')).toContainText(`${taken} done,`);
});

test('the page comes by plain http under a name of the shop, where a browser keeps no pages: forms work, and what is entered waits', async ({
  server,
}) => {
  const { port } = new URL(server.url);
  const browser = await chromium.launch({
    executablePath: process.env.TIN_CHROMIUM!,
    args: ['--no-sandbox', '--host-resolver-rules=MAP almanac.shop 127.0.0.1'],
  });
  try {
    const page = await browser.newPage();
    const own = `http://almanac.shop:${port}`;
    await page.goto(`${own}/sign-in`);
    await ready(page);
    expect(await page.evaluate(() => window.isSecureContext)).toBe(false);
    await page.getByLabel(/badge/i).first().fill('1003');
    await page.getByLabel(/PIN/).first().fill('3690');
    await page.getByLabel(/PIN/).first().press('Enter');
    await page.waitForURL((url) => url.pathname !== '/sign-in');
    await page.goto(`${own}/machines/4/now`);
    await ready(page);
    const before = Number(await made(page));
    await typeParts(page, '1');
    await expect.poll(() => made(page)).toBe(String(before + 1));
    await page.context().setOffline(true);
    await typeParts(page, '2');
    await expect(waits(page)).toContainText('2 parts of');
    await page.context().setOffline(false);
    await expect(late(page)).toHaveCount(1, { timeout: 20_000 });
    await expect.poll(() => made(page)).toBe(String(before + 3));
  } finally {
    await browser.close();
  }
});

test('parts of somebody who is not here do not stand in the way of who is, and are asked about', async ({
  as,
}) => {
  const page = await as('operator');
  const before = await keptNow(page);
  await page.context().setOffline(true);
  await typeParts(page, '2');
  await expect(waits(page)).toContainText('2 parts of O1402');
  await leftUnsent(page);
  await as('setter', page);
  await page.goto('/machines/3/now');
  await ready(page);
  await expect.poll(() => made(page)).toBe(String(before + 2));
  // all that were made since, with those that wait
  await typeParts(page, '3');
  await expect.poll(() => made(page)).toBe(String(before + 5));
  await as('operator', page);
  await page.goto('/machines/3/now');
  await ready(page);
  const question = page.getByRole('alert', { name: 'Not taken: 2 parts of O1402' });
  await expect(question).toContainText(`3 parts of O1402 made, ${before + 3} in all`, { timeout: 20_000 });
  await question.getByRole('button', { name: 'It is settled' }).click();
  await expect(question).toHaveCount(0);
  await expect.poll(() => made(page)).toBe(String(before + 3));
});

test('what was recorded while its answer was lost is counted once, whoever signs in next', async ({ as }) => {
  const page = await as('operator');
  const before = await keptNow(page);
  await page.context().setOffline(true);
  await typeParts(page, '2');
  await expect(waits(page)).toContainText('2 parts of O1402');
  // the server has it, and the answer is lost on its way
  let taken = 0;
  await page.route('**/now?/parts', async (route) => {
    await route.fetch();
    taken += 1;
    await route.abort();
  });
  await page.context().setOffline(false);
  await expect.poll(() => taken, { timeout: 20_000 }).toBeGreaterThan(0);
  await expect.poll(() => made(page)).toBe(String(before + 2));
  // somebody else takes the tablet over
  await as('setter', page);
  await page.unroute('**/now?/parts');
  await page.goto('/machines/3/now');
  await ready(page);
  await expect(waits(page)).toContainText('entered by Dede Okafor has reached the server');
  await expect.poll(() => made(page)).toBe(String(before + 2));
  await typeParts(page, '3');
  await expect.poll(() => made(page)).toBe(String(before + 5));
  // the answer is still to be had, and is given to whoever typed it
  await as('operator', page);
  await page.goto('/machines/3/now');
  await ready(page);
  await expect(waits(page)).toHaveCount(0, { timeout: 20_000 });
  await expect.poll(() => made(page)).toBe(String(before + 5));
});

test('a reading that was questioned is sent again as another act, and is looked at anew', async ({ as }) => {
  const page = await as('operator');
  await keptNow(page);
  await page.context().setOffline(true);
  await typeReading(page, '9001', '2.5');
  await page.context().setOffline(false);
  const question = page.getByRole('alert', { name: /^Not taken: Bearing seat OD/ });
  await expect(question).toContainText('It is not in the record', { timeout: 40_000 });
  // read anew from the device it is the same one: what happened meanwhile is not asked again, and no button moves under a finger
  await expect(question).toContainText('Meanwhile at the machine');
  let asked = 0;
  page.on('request', (request) => (asked += Number(request.url().includes('/meanwhile?'))));
  await page.evaluate(() => new BroadcastChannel('tin-outbox').postMessage('changed'));
  await page.waitForTimeout(500);
  expect(asked).toBe(0);
  const sent = page.waitForRequest(/now\?\/take/);
  const first = await page.evaluate(
    () =>
      new Promise<string>((resolve) => {
        indexedDB.open('tin-outbox').onsuccess = ({ target }) => {
          const db = (target as IDBOpenDBRequest).result;
          db.transaction('forms').objectStore('forms').getAll().onsuccess = (found) =>
            resolve(((found.target as IDBRequest).result as { key: string }[])[0]!.key);
        };
      }),
  );
  await question.getByRole('button', { name: 'Send it again' }).click();
  // the answer to the first stands under its key, and would come back for ever
  expect((await sent).postData()).not.toContain(first);
  await expect(question).toContainText('It is not in the record', { timeout: 20_000 });
  await question.getByRole('button', { name: 'It is settled' }).click();
});

test('a page is kept with the scripts it names, or not yet', async ({ as }) => {
  const page = await as('operator');
  // looked at from the first moment on, from a page that is none of those that are kept
  await page.goto('/tools');
  await ready(page);
  const seen = page.evaluate(async () => {
    const open = async (begins: string) => {
      const name = (await caches.keys()).find((each) => each.startsWith(begins));
      return name === undefined ? null : caches.open(name);
    };
    for (const until = Date.now() + 60_000; Date.now() < until;) {
      const found = await (await open('tin-pages-'))?.match('/machines/3/sheet');
      if (found) {
        const said = `${await found.clone().text()} ${found.headers.get('link')}`;
        const named = [...new Set(said.match(/_app\/immutable\/[\w./-]+/g))];
        const shell = await open('tin-shell-');
        const kept = await Promise.all(named.map((path) => shell?.match(`/${path}`, { ignoreVary: true })));
        return { named: named.length, missing: kept.filter((each) => !each).length };
      }
      await new Promise((resolve) => setTimeout(resolve, 5));
    }
    return null;
  });
  const other = await page.context().newPage();
  await other.goto(new URL('/machines/3/now', page.url()).href);
  await ready(other);
  const { named, missing } = (await seen)!;
  expect(named).toBeGreaterThan(10);
  expect(missing).toBe(0);
});
