import { freshDatabase } from '../support/databases.ts';
import { provider, type Provider } from '../support/provider.ts';
import { startServer, type RunningServer } from '../support/server.ts';
import { test as base, expect, ready } from './cell.ts';

const CLIENT = { id: 'tin', secret: 'between us' };
const test = base.extend<{ server: RunningServer }, { plant: Provider; served: RunningServer }>({
  plant: [
    // eslint-disable-next-line no-empty-pattern -- Playwright reads the fixtures' names from here
    async ({}, use) => {
      // by another name than the product's: for a browser that is another site
      const plant = await provider(CLIENT, 'localhost');
      await use(plant);
      await plant.stop();
    },
    { scope: 'worker' },
  ],
  served: [
    async ({ plant }, use) => {
      const server = await startServer((await freshDatabase('tin_demo')).appUrl, {
        OIDC_ISSUER: plant.issuer,
        OIDC_CLIENT_ID: CLIENT.id,
        OIDC_CLIENT_SECRET: CLIENT.secret,
        OIDC_NAME: 'the plant’s account',
      });
      await use(server);
      await server.stop();
    },
    { scope: 'worker' },
  ],
  server: ({ served }, use) => use(served),
});

test('somebody signs in by the plant: unknown at first, and let in once the lead has entered their number', async ({
  as,
  browser,
  plant,
  server,
}) => {
  plant.who = 'm.holt';
  const tablet = await browser.newPage();
  await tablet.goto(`${server.url}/machines/3/now`);
  await ready(tablet);
  const byPlant = tablet.getByRole('link', { name: 'Sign in by the plant’s account' });
  await byPlant.click();
  await expect(tablet.getByRole('alert')).toContainText('nobody here has your number');

  const lead = await as('lead');
  await lead.goto(`${server.url}/people/sessions`);
  await expect(lead.getByRole('region', { name: 'Refused' })).toContainText('m.holt');
  await lead.goto(`${server.url}/people`);
  await ready(lead);
  await lead.getByRole('button', { name: /badge 1002/ }).click();
  await lead.getByLabel('Number at the plant’s account').fill('m.holt');
  await lead.getByRole('button', { name: 'Keep' }).click();
  await expect(lead.getByRole('heading', { name: 'Somebody new' })).toBeVisible();

  // from another site the browser comes back without strict cookies, and is in all the same
  await tablet.goto(`${server.url}/machines/3/now`);
  await ready(tablet);
  await byPlant.click();
  await tablet.waitForURL('**/machines/3/now');
  await ready(tablet);
  await expect(tablet.getByRole('heading', { name: 'Curlew' })).toBeVisible();
  await tablet.reload();
  await expect(tablet.getByRole('heading', { name: 'Curlew' })).toBeVisible();
});
