import { expect, noMoreMade, ready, test } from './cell.ts';

test.use({ own: 'groups' });

test('a spare is keyed by its life card and read back blind; only then the group is initialised', async ({
  as,
}) => {
  const page = await as('setter');
  await page.goto('/machines');
  await page.getByRole('navigation', { name: 'Curlew' }).getByRole('link', { name: 'Numbers' }).click();
  await page.getByRole('link', { name: 'Groups' }).click();
  await ready(page);
  const group = page.getByRole('region', { name: 'Group 52', exact: true });
  await expect(group.getByRole('row', { name: /Station 11/ })).toContainText('not in the machine');
  const card = group.getByRole('table').last();
  const asked = Number(
    (
      await card
        .getByRole('row', { name: /^Station 2/ })
        .locator('td')
        .last()
        .innerText()
    ).replace(/\D/g, ''),
  );
  await group.getByRole('button', { name: 'I have keyed them' }).click();
  await expect(card).not.toContainText(String(asked));
  // Curlew expires below zero: the uses themselves are one too many
  await group.getByLabel('Station 2 shows left').fill(String(asked + 1));
  await group.getByRole('button', { name: 'It shows this' }).click();
  await expect(group.getByRole('status')).toContainText('key one less');
  await expect(group.getByRole('button', { name: 'It is initialised' })).toHaveCount(0);
  await group.getByLabel('Station 2 shows left').fill(String(asked));
  await group.getByRole('button', { name: 'It shows this' }).click();
  await expect(group.getByRole('status')).toHaveText('right');
  await group.getByRole('button', { name: 'It is initialised' }).click();
  await expect(group.getByRole('row', { name: /Station 2.*cuts next/ })).toBeVisible();
  await page.goto('/ledger');
  await expect(page.getByText(/Group 52 was initialised on Curlew/)).toBeVisible();
});

test('a group is made, changed, and taken apart; what does not go is said', async ({ as }) => {
  const page = await as('setter');
  await page.goto('/machines');
  await page.getByRole('navigation', { name: 'Avocet' }).getByRole('link', { name: 'Numbers' }).click();
  await page.getByRole('link', { name: 'Groups' }).click();
  await ready(page);
  const form = page.getByRole('form', { name: 'Make a group' });
  await form.getByRole('textbox', { name: 'Number' }).fill('90');
  await form.getByLabel('What it is for').fill('Drill 6.8');
  await form.getByLabel('T of member 1').fill('5');
  await form.getByRole('button', { name: 'One more' }).click();
  await form.getByLabel('T of member 2').fill('5');
  await form.getByRole('button', { name: 'Make the group' }).click();
  await expect(form.getByRole('alert')).toContainText('T5 is in it twice');
  await form.getByLabel('T of member 2').fill('9');
  await form.getByRole('button', { name: 'Make the group' }).click();
  const group = page.getByRole('region', { name: 'Group 90', exact: true });
  await expect(group.getByRole('row', { name: /^T9/ }).first()).toBeVisible();
  await group.getByRole('button', { name: 'Change it' }).click();
  await group.getByLabel('Next it takes').selectOption({ label: 'the least used first' });
  await group.getByRole('button', { name: 'Keep it' }).click();
  await expect(group).toContainText('Takes the least used first');
  await group.getByRole('button', { name: 'Change it' }).click();
  await group.getByRole('button', { name: /Take the group apart/ }).click();
  await expect(group).toHaveCount(0);
});

test('edges say what their limit should be, and one act takes it', async ({ as }) => {
  const page = await as('lead');
  await page.goto('/tools?find=A-109');
  await page.getByRole('link', { name: 'A-109' }).first().click();
  await page.getByRole('link', { name: 'What its edges say of that limit' }).click();
  await ready(page);
  const said = page.getByRole('status');
  await expect(said).toContainText(/^Of 33 edges \d+ failed before 700 holes/);
  await expect(said).toContainText('a month saved');
  await expect(page.getByRole('img', { name: '33 edges along their lives' })).toBeVisible();
  const take = page.getByRole('button', { name: /^Take \d+ holes as its limit/ });
  const limit = /\d+/.exec(await take.innerText())![0];
  expect(Number(limit)).toBeLessThan(700);
  await take.click();
  await expect(said).toContainText(`failed before ${limit} holes`);
  await page.goto('/ledger');
  await expect(
    page.getByText(`The life limit of A-109 went from 700 holes to ${limit} holes.`),
  ).toBeVisible();
});

test('edges that ran at two speeds say how life falls with speed, and nothing beyond what was run', async ({
  as,
}) => {
  const page = await as('lead');
  await page.goto('/tools?find=A-109');
  await page.getByRole('link', { name: 'A-109' }).first().click();
  await page.getByRole('link', { name: 'What its edges say of that limit' }).click();
  await ready(page);
  await expect(page.getByText(/^12 edges that ran at another cutting speed are left out/)).toBeVisible();
  const speed = page.getByRole('region', { name: 'Speed and life' });
  await expect(speed.getByRole('row', { name: /^37 33 \d+$/ })).toBeVisible();
  await expect(speed.getByRole('row', { name: /^45 12 \d+$/ })).toBeVisible();
  await expect(speed).toContainText(/One per cent faster costs \d\.\d % of life/);
  await expect(speed).toContainText('Nobody ran that');
  await page.getByLabel('Edges of').selectOption('duplex stainless');
  await page.getByRole('button', { name: 'Work it out' }).click();
  await expect(page).toHaveURL(/of=material\+duplex/);
  await expect(page.getByRole('img', { name: /^\d+ edges along their lives/ })).toBeVisible();
});

test('what a program cuts is said once; a later spelling becomes the first', async ({ as }) => {
  const page = await as('lead');
  await page.goto('/programs/3');
  await ready(page);
  await page.getByRole('combobox', { name: 'It cuts' }).fill('Aluminium');
  await page.getByRole('button', { name: 'Keep the material' }).click();
  await expect(page.getByRole('combobox', { name: 'It cuts' })).toHaveValue('aluminium');
  await page.goto('/ledger');
  await expect(page.getByText('O2205 cuts aluminium.')).toBeVisible();
});

test('how an edge ended is told with one tap at its renewal', async ({ as }) => {
  const page = await as('setter');
  await page.goto('/tools?find=A-114');
  await page.getByRole('link', { name: 'A-114' }).first().click();
  await ready(page);
  await page
    .getByRole('button', { name: /Renew|Begin/ })
    .first()
    .click();
  await noMoreMade(page.getByRole('form', { name: 'Change the edge or the tool' }));
  await page.getByLabel('What was changed').fill('new reamer');
  await page.getByText('worn', { exact: true }).click();
  await page.getByLabel('What told of it').selectOption('finish');
  await page.getByLabel('Flank wear, mm, if measured').fill('0.2');
  await page.getByRole('form', { name: 'Change the edge or the tool' }).getByRole('button').last().click();
  await expect(page.getByText('Set the life left')).toBeVisible();
  await page.getByRole('link', { name: 'What its edges say of that limit' }).click();
  await page.getByText('The edges', { exact: true }).click();
  await expect(page.getByRole('row', { name: /A-114/ }).first()).toContainText('worn, by its finish');
});

test('costs that were typed at a limit are kept for the machine, and stand there at its next tool', async ({
  as,
}) => {
  const page = await as('lead');
  await page.goto('/tools/5/life?rate=95&minutes=4&failure=210');
  await ready(page);
  await page.getByRole('button', { name: /^Keep these for/ }).click();
  await expect(page.getByText(/^Kept for Avocet by/)).toBeVisible();
  await expect(page.getByRole('button', { name: /^Keep these for/ })).toBeDisabled();
  await page.goto('/tools/6/life');
  await ready(page);
  await expect(page.getByLabel('An hour of the machine')).toHaveValue('95');
  await expect(page.getByLabel('Minutes of a change')).toHaveValue('4');
});
