import { test, expect, ready } from './cell.ts';

test('room is made call by call, interrupted, and finished by another person; then the pocket is declared', async ({
  as,
  browser,
  server,
}) => {
  const page = await as('setter');
  await page.goto('/machines/1/room?centre=10');
  await ready(page);
  await expect(page.getByRole('status')).toContainText('Pockets 9, 10, 11 are free after 4 calls');
  await expect(page.getByText('Call pocket 9: T4 comes to the spindle.')).toBeVisible();
  await page.getByRole('button', { name: /Made: the control shows T4/ }).click();
  await expect(page.getByRole('status')).toContainText('after 3 calls');
  // another tablet, another person: the same plan, from where it stands
  const other = await as('lead', await (await browser.newContext({ baseURL: server.url })).newPage());
  await other.goto(`${server.url}/machines/1/room?centre=10`);
  await ready(other);
  for (const left of [2, 1]) {
    await other.getByRole('button', { name: /Made: the control shows T/ }).click();
    await expect(other.getByRole('status')).toContainText(`after ${left} call`);
  }
  await other.getByRole('button', { name: /Made: the control shows T0/ }).click();
  await expect(other.getByRole('status')).toContainText('free on the table');
  await expect(page.getByRole('status')).toContainText('free on the table');

  await page.goto('/machines/1');
  await ready(page);
  await page.locator('[data-pocket="10"]').focus();
  await page.keyboard.press('Enter');
  const declare = page.getByRole('form', { name: 'Declare wide' });
  await declare.getByLabel('Wide, for T').fill('66');
  await declare.getByRole('button', { name: 'Declare pocket 10 wide' }).click();
  await expect(declare.getByRole('alert')).toContainText('empty in the metal too');
  await declare.getByLabel(/I have looked/).check();
  await declare.getByRole('button', { name: 'Declare pocket 10 wide' }).click();
  await expect(page.getByRole('button', { name: /pocket 10, declared wide for T66: empty/ })).toBeVisible();
  await expect(
    page.getByRole('button', { name: /pocket 11: empty, kept free beside a wide tool/ }),
  ).toBeVisible();
});

test('a tool is dragged to the spindle and called there; a pocket to pocket drag becomes calls', async ({
  as,
}) => {
  const page = await as('setter');
  await page.goto('/machines/1');
  await ready(page);
  const middle = async (pocket: number) => {
    const box = (await page.locator(`[data-pocket="${pocket}"]`).boundingBox())!;
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  };
  const drag = async (from: number, to: number) => {
    const [a, b] = [await middle(from), await middle(to)];
    await page.mouse.move(a.x, a.y);
    await page.mouse.down();
    await page.mouse.move((a.x + b.x) / 2, (a.y + b.y) / 2, { steps: 4 });
    await page.mouse.move(b.x, b.y, { steps: 4 });
    await page.mouse.up();
  };
  await drag(14, 0);
  await page
    .getByRole('form', { name: 'Call this pocket' })
    .getByRole('button', { name: /The control shows T7/ })
    .click();
  await expect(page.getByRole('button', { name: /^spindle: T7/ })).toBeVisible();
  await drag(20, 28);
  await expect(page).toHaveURL(/room\?from=20&to=28/);
  await expect(page.getByRole('status')).toContainText('calls bring it to pocket 28');
});

test('a doubted spindle asks first, and yesterday’s map can be looked at', async ({ as }) => {
  const page = await as('setter');
  await page.goto('/machines/5');
  await ready(page);
  await page.getByText('Not sure what is in the spindle?').click();
  await page.getByRole('button', { name: 'Nobody is sure' }).click();
  const asking = page.getByRole('form', { name: 'What is in the spindle' });
  await expect(page.getByText('Nobody is sure what is in the spindle of Egret.')).toBeVisible();
  await asking.getByLabel('The control shows T').fill('3');
  await asking.getByRole('button', { name: 'I have looked: this is there' }).click();
  await expect(page.getByRole('button', { name: /^spindle: T3/ })).toBeVisible();
  await expect(page.getByRole('button', { name: /pocket 7: empty/ })).toBeVisible();

  const hourAgo = new Date(Date.now() - 3_600_000);
  await page.goto(`/machines/5?at=${hourAgo.toISOString()}`);
  await ready(page);
  await expect(page.getByText('Nothing can be recorded here.')).toBeVisible();
  await expect(page.getByRole('button', { name: /pocket 7: T3/ })).toBeVisible();
  await expect(page.getByRole('form', { name: 'Take out' })).toHaveCount(0);
});

test('jobs that need more tools than places get an order and what to swap; T across machines names the slips', async ({
  as,
}) => {
  const page = await as('lead');
  await page.goto('/machines/1/jobs');
  await ready(page);
  for (const program of ['O2205', 'O2301', 'O2310'])
    await page.getByRole('checkbox', { name: program }).check();
  await page.getByLabel(/Places for tools/).fill('12');
  await page.getByRole('button', { name: 'Work it out' }).click();
  await expect(page.getByRole('status')).toContainText(
    /They call 14 tools, and there are 12 places[^]*proven best/,
  );
  await page.getByLabel(/Places for tools/).fill('5');
  await page.getByRole('button', { name: 'Work it out' }).click();
  await expect(page.getByRole('status')).toContainText(
    /alone needs \d+ places with the tools that stay, and there are 5/,
  );

  await page.goto('/machines');
  await ready(page);
  await page.getByRole('link', { name: 'T across machines' }).click();
  await ready(page);
  for (const name of ['Curlew', 'Dunlin', 'Egret', 'Fulmar'])
    await page.getByRole('checkbox', { name }).uncheck();
  await page.getByRole('button', { name: 'Compare these' }).click();
  await expect(page.getByRole('status')).toContainText('T1, T4, T7, T8, T12 do not mean the same tool');
  await expect(page.getByRole('listitem').filter({ hasText: /(Avocet|Bittern): .*T4 → T\d+/ })).toBeVisible();
});

test('a rack is commissioned: backup first, forks proposed by the line, the odd one named, the table taken out', async ({
  as,
}) => {
  const page = await as('lead');
  await page.goto('/machines/4/rack');
  await ready(page);
  const capture = async (x: string, y = '905', z = '-61.5') => {
    const form = page.getByRole('form', { name: 'Capture a fork' });
    const fork = await form.locator('[name=fork]').inputValue();
    await form.getByLabel('X, mm').fill(x);
    await form.getByLabel('Y, mm').fill(y);
    await form.getByLabel('Z, mm').fill(z);
    await form.getByRole('button', { name: 'Captured here' }).click();
    return fork;
  };
  await capture('170');
  await expect(page.getByRole('form', { name: 'Capture a fork' }).getByRole('alert')).toContainText('backup');
  await page.getByRole('button', { name: 'Done, and I stand by it' }).click();
  await expect(page.getByText('The machine is homed.')).toBeVisible();
  for (const [i, x] of ['170', '280', '390', '500'].entries()) {
    await capture(x);
    await expect(page.getByRole('row').nth(i + 1)).toContainText('Maren Holt');
  }
  await expect(page.getByRole('row').nth(10)).toContainText('1160.000');
  await expect(page.getByRole('row').nth(10)).toContainText('proposed by the line');
  await capture('601');
  await expect(page.getByText(/Fork 5 stands −?-?9\.000 mm off the line of the others in X/)).toBeVisible();
  const table = await page.request.get('/machines/4/rack/export/csv');
  expect(await table.text()).toContain('5,601.000,905.000,-61.500');
});
