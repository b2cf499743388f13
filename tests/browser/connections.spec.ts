import { createServer } from 'node:http';
import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import { expect, ready, test } from './cell.ts';

test.use({ own: 'connections' });

test('a token is told once, does what it may, and is ended; another system is told what happens', async ({
  as,
  server,
}) => {
  const page = await as('lead');
  await page.goto('/people');
  await ready(page);
  await page.getByRole('link', { name: 'Other systems' }).click();
  await ready(page);
  const make = page.getByRole('form', { name: 'Make a token' });
  await make.getByLabel('Name of the system').fill('Measuring room');
  await make.getByRole('button', { name: 'Make the token' }).click();
  await expect(make.getByRole('alert')).toContainText('Tick what it may do.');
  await make.getByLabel('send readings of parts').check();
  await make.getByRole('button', { name: 'Make the token' }).click();
  const token = (await page.getByRole('status').getByText(/^tin_/).textContent())!;
  // what goes into an address bar or a list afterwards does not have it
  await page.reload();
  await ready(page);
  await expect(page.getByText(token)).toHaveCount(0);
  const send = (path: string, data?: object) =>
    page.request.fetch(`${server.url}/api/v1${path}`, {
      method: data ? 'POST' : 'GET',
      headers: {
        authorization: `Bearer ${token}`,
        'idempotency-key': 'one',
        'content-type': 'application/json',
      },
      ...(data ? { data } : {}),
    });
  const heard: string[] = [];
  const receiver = createServer((request, response) => {
    request.on('data', (part) => heard.push(String(part)));
    request.on('end', () => response.writeHead(204).end());
  }).listen(0, '127.0.0.1');
  await once(receiver, 'listening');
  const tell = page.getByRole('form', { name: 'Tell another system' });
  await tell
    .getByLabel('Its address')
    .fill(`http://127.0.0.1:${(receiver.address() as AddressInfo).port}/entries`);
  await tell.getByRole('checkbox', { name: 'reading', exact: true }).check();
  await tell.getByRole('button', { name: 'Tell it from now on' }).click();
  await expect(page.getByRole('status')).toContainText('The secret of its signatures');
  const answer = await send('/readings', {
    machine: 'Avocet',
    program: 'O2301',
    feature: 'Body height',
    part: 51,
    value: '36.004',
    unit: 'mm',
  });
  expect(await answer.json()).toMatchObject({ verdict: 'leave' });
  expect((await send('/ledger')).status()).toBe(403);
  await expect.poll(() => heard.join()).toContain('Body height of part 51 measured 36.004 mm.');
  // in the ledger under its own name
  await page.goto('/leaf');
  await ready(page);
  await expect(page.getByText('Body height of part 51 measured 36.004 mm. Measuring room')).toBeVisible();
  await page.goto('/connections');
  await ready(page);
  await page.getByRole('button', { name: 'End the token of Measuring room' }).click();
  await expect(page.getByText('Measuring room, ended')).toBeVisible();
  expect((await send('/forecast')).status()).toBe(401);
  receiver.closeAllConnections();
  receiver.close();
  // nobody but a lead
  await as('setter');
  expect((await page.request.get('/connections', { headers: { accept: 'text/html' } })).status()).toBe(403);
});
