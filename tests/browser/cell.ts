import { test as base, expect, type Locator, type Page } from '@playwright/test';
import { dropDatabases, freshDatabase, type TestDatabase } from '../support/databases.ts';
import { PINS, startServer, type RunningServer } from '../support/server.ts';
import { loadsAgain } from './swallowed.ts';

/** Servers of a worker: one on the cell that its files share, and one on the cell of the file that is run. */
class Cells {
  private readonly running = new Map<string, { server: RunningServer; database: TestDatabase }>();

  async of(own: string, template: 'tin_demo' | 'tin_empty'): Promise<RunningServer> {
    const known = this.running.get(own);
    if (known) {
      // what a test asks of the database itself, it asks of this one
      process.env.DATABASE_URL = known.database.appUrl;
      process.env.DATABASE_OWNER_URL = known.database.ownerUrl;
      return known.server;
    }
    for (const each of [...this.running.keys()]) if (each !== '') await this.close(each);
    const database = await freshDatabase(template);
    const server = await startServer(database.appUrl);
    this.running.set(own, { server, database });
    return server;
  }

  async close(own: string): Promise<void> {
    const { server, database } = this.running.get(own)!;
    this.running.delete(own);
    await server.stop();
    await dropDatabases([database.name]);
  }

  async end(): Promise<void> {
    for (const each of [...this.running.keys()]) await this.close(each);
    await dropDatabases();
  }
}

/**
 * A server on a made-up cell, and people who sign in on the real page. Files share the cell one after the other; one that
 * leaves a machine as others do not expect it asks for a cell of its own by a name.
 */
export const test = base.extend<
  {
    as: (role: string, page?: Page) => Promise<Page>;
    server: RunningServer;
    own: string;
    cell: 'tin_demo' | 'tin_empty';
  },
  { cells: Cells }
>({
  cell: ['tin_demo', { option: true }],
  own: ['', { option: true }],
  cells: [
    // eslint-disable-next-line no-empty-pattern -- Playwright reads the fixtures' names from here
    async ({}, use) => {
      const cells = new Cells();
      await use(cells);
      await cells.end();
    },
    { scope: 'worker' },
  ],
  server: async ({ cells, own, cell }, use) => use(await cells.of(own, cell)),
  baseURL: async ({ server }, use) => use(server.url),
  page: async ({ page }, use) => {
    loadsAgain(page);
    await use(page);
  },
  as: async ({ page, server }, use) => {
    await use(async (role, on = page) => {
      const [badge, pin] = PINS[role]!;
      // what the last person had open is left first: a page that they may not see any more goes for its fault by itself, in the way of this
      await on.goto('about:blank');
      // by the form that the page sends; the page itself is tried in now.spec.ts, and by whoever takes a tablet over
      const answer = await on.request.post(`${server.url}/sign-in?/enter`, {
        form: { badge, pin },
        headers: { origin: server.url, accept: 'text/html' },
        maxRedirects: 0,
        // a connection that was kept may have been let go at the other end meanwhile
        maxRetries: 2,
      });
      expect(answer.status()).toBe(303);
      return on;
    });
  },
});

/** Where most people begin: the leaf of the shift that runs.
 * @param cell the address, where the page is of a browser that does not know it
 */
export async function atLeaf(page: Page, cell = ''): Promise<void> {
  await page.goto(`${cell}/leaf`);
  await ready(page);
}

/** Waits until the page answers to clicks: its script has taken over what the server sent. */
export const ready = (page: Page) =>
  page.waitForFunction(() => document.documentElement.dataset.ready === 'yes');
/** Says in a form, where it asks because nobody has counted for a while, that no more parts were made than are on record. */
export async function noMoreMade(form: Locator): Promise<void> {
  await expect(form).toBeVisible();
  const made = form.getByLabel('made until now');
  if ((await made.count()) === 0 || (await made.inputValue()) !== '') return;
  const said = await form.getByText('are on record').innerText();
  await made.fill(/\d+/.exec(said)![0]);
}
/**
 * Puts a text of many lines where somebody would paste it, as one change. Typed in, as `fill` does, the browser lays the page
 * out anew for each line.
 */
export async function paste(field: Locator, text: string): Promise<void> {
  await expect(field).toBeEditable();
  await field.evaluate((element, text) => {
    const area = element as HTMLTextAreaElement;
    area.focus();
    area.setRangeText(text, 0, area.value.length, 'end');
    area.dispatchEvent(new InputEvent('input', { bubbles: true, inputType: 'insertFromPaste' }));
  }, text);
}
export { expect };
