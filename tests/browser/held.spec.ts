import type { Page } from '@playwright/test';
import { bringIn } from './bring.ts';
import { expect, noMoreMade, paste, ready, test } from './cell.ts';

test.use({ own: 'held' });

const open = async (page: Page, machine = 1) => {
  await page.goto(`/machines/${machine}/control`);
  await ready(page);
};
const kept = async (page: Page, machine = 1) =>
  (await page.request.get(`/machines/${machine}/control/table`)).text();
/** The lines alone: what a control punches out knows nothing of our head. */
const punched = (text: string) => text.replace(/^\(.*\)\n/gm, '');
const bring = async (page: Page, text: string) => {
  const form = page.getByRole('form', { name: 'Bring its table in' });
  await paste(form.getByLabel('or pasted'), text);
  await form.getByRole('button', { name: 'Lay it beside the record' }).click();
};
const row = (page: Page, name: string) => page.getByRole('listitem').filter({ hasText: name });

test('a table is laid beside the record: each difference explained, answered, keyed and read again', async ({
  as,
}) => {
  const page = await as('lead');
  await open(page);
  await expect(page.getByRole('status')).toContainText('Nobody has read the table of Avocet');
  const table = punched(await kept(page));
  await bring(page, table);
  await expect(page.getByRole('status')).toContainText('nothing differs');
  // a length with its sign turned, one with two digits swapped, a wear that somebody nudged
  const line = (code: string, at: number) => new RegExp(`^${code} P${at} R(-?[\\d.]+)$`, 'm');
  const length = line('G10 L10', 2).exec(table)![1]!;
  const other = line('G10 L10', 5).exec(table)![1]!;
  const swapped = other.replace(/(\d)(\d)\./, '$2$1.');
  const wear = Number(line('G10 L11', 11).exec(table)![1]);
  const shown = table
    .replace(line('G10 L10', 2), `G10 L10 P2 R-${length}`)
    .replace(line('G10 L10', 5), `G10 L10 P5 R${swapped}`)
    .replace(line('G10 L11', 11), `G10 L11 P11 R${(wear + 0.017).toFixed(3)}`);
  await bring(page, shown);
  await expect(page.getByRole('heading', { name: '3 registers differ, in mm' })).toBeVisible();
  await expect(row(page, 'length geometry of row 2')).toContainText('Its sign is turned.');
  await expect(row(page, 'length geometry of row 5')).toContainText('Two digits are swapped.');
  await expect(row(page, 'length wear of row 11')).toContainText('by hand, by +0.017');
  // between which two looks it was changed
  await expect(row(page, 'length wear of row 11')).toContainText(
    /The control held 0\.000 at .*, and something else at\s/,
  );
  // the third place where the truth stands: the programs that are still to run
  await expect(row(page, 'length geometry of row 2')).toContainText(/O\d+ T2: a length, line \d+/);
  const answer = page.getByRole('form', { name: 'Which is right' });
  await page.getByRole('checkbox', { name: 'length geometry of row 2' }).check();
  await expect(answer.getByLabel('Why')).toHaveValue('Its sign is turned.');
  await answer.getByRole('button', { name: 'The record is right' }).click();
  await expect(row(page, 'length geometry of row 2')).toContainText('to be keyed');
  await expect(page.getByText(`G10 L10 P2 R${length}`)).toBeVisible();
  await page.getByRole('checkbox', { name: 'length wear of row 11' }).check();
  await answer.getByLabel('Why').fill('night shift, asked them');
  await answer.getByRole('button', { name: 'The control is right' }).click();
  await expect(page.getByText('says nothing of it any more: length wear of row 11')).toBeVisible();
  await page.getByRole('checkbox', { name: 'length geometry of row 5' }).check();
  await answer.getByRole('button', { name: 'Nobody knows' }).click();
  await expect(row(page, 'length geometry of row 5')).toContainText('on the leaf');
  await page.goto('/leaf');
  await ready(page);
  await expect(
    page.getByText('something else than the record in length geometry of row 5').first(),
  ).toBeVisible();
  // put right at the control, and read once more
  await open(page);
  await bring(page, punched(await kept(page)));
  await expect(page.getByRole('status')).toContainText('nothing differs');
  const looks = page.getByRole('region', { name: 'Looks' });
  await expect(looks.getByRole('listitem')).toHaveCount(3);
  // the control itself, between the two last looks
  await looks.getByRole('link', { name: 'What changed since' }).first().click();
  const between = page.getByRole('region', { name: /otherwise than on/ });
  await expect(between.getByRole('listitem')).toHaveCount(2);
  await expect(between).toContainText(`−${length} → +${length}`);
});

test('the table of another machine, one that was cut off, changed or says by how much: each a sentence, and nothing is taken', async ({
  as,
}) => {
  const page = await as('setter');
  await open(page, 2);
  const [own, stranger] = [await kept(page, 2), await kept(page, 1)];
  const said = page.getByRole('form', { name: 'Bring its table in' }).getByRole('alert');
  await bring(page, stranger);
  await expect(said).toContainText('This is the table of AVOCET, not of Bittern.');
  const lines = own.trim().split('\n');
  await bring(page, lines.slice(0, 12).join('\n'));
  await expect(said).toContainText('was changed, or cut off');
  await bring(page, punched(lines.slice(0, 12).join('\n')));
  await expect(said).toContainText('perhaps it was cut off');
  await bring(page, punched(own).replace(/^(G10.*)$/m, 'G91\n$1'));
  await expect(said).toContainText('by how much, not what the register holds');
  await bring(page, 'hello');
  await expect(said).toContainText('There is no row in it');
  await expect(page.getByRole('status')).toContainText('Nobody has read the table of Bittern');
  // a part of it will do when somebody says that it is one
  await page.getByLabel('Only a part was read').check();
  await bring(page, punched(lines.slice(0, 12).join('\n')));
  await expect(page.getByRole('status')).toContainText('nothing differs');
  // somebody who may look may not answer
  const viewer = await as('viewer');
  await open(viewer, 2);
  await expect(viewer.getByRole('form', { name: 'Bring its table in' })).toHaveCount(0);
});

test('pockets by the control: what was changed by hand, and the fewest looks into the metal that settle it', async ({
  as,
}) => {
  const page = await as('setter');
  await open(page, 2);
  const form = page.getByRole('form', { name: 'Bring its table in' });
  const pockets = async (text: string) => {
    await form.getByLabel('Lines that only name a row hold').selectOption('pockets');
    await bring(page, text);
  };
  await pockets('1 4\n4 4');
  await expect(form.getByRole('alert')).toContainText('T4 stands there twice');
  // a carousel: T and pocket are one; two tools were changed by hand, one was taken out
  await pockets('1 4\n4 1\n7 7\n8 0\n12 12');
  const section = page.getByRole('region', { name: 'Pockets' });
  await expect(section).toContainText('T1 and T4 have changed places. Look into pocket 1');
  await expect(section).toContainText('The control knows nothing of T8. Look into pocket 8');
  await expect(section).toContainText('2 looks settle it, and no fewer would');
  await page.goto('/machines/2');
  await ready(page);
  await page.getByRole('button', { name: /^pocket 8: T8/ }).click();
  await noMoreMade(page.getByRole('form', { name: 'Take out' }));
  await page.getByRole('button', { name: /Take it out/ }).click();
  await expect(page.getByLabel('Assembly')).toBeVisible();
  await open(page, 2);
  await expect(section).toContainText('Tools were moved since');
});

test('a table is read off the screen row by row with the keys alone; a reload loses nothing, and at the end it lies beside the record', async ({
  as,
}) => {
  const page = await as('operator');
  await page.goto('/machines/4/control');
  await ready(page);
  await page.getByRole('link', { name: 'Read it off the screen, row by row' }).click();
  const field = page.getByRole('textbox', { name: /^Row \d+, / });
  const far = page.getByRole('status', { name: 'How far it is' });
  await expect(far).toContainText(/^0 of \d+ read/);
  const all = Number(/of (\d+)/.exec((await far.textContent())!)![1]);
  // the field waits for the next number: no mouse is needed
  await expect(field).toBeFocused();
  await page.keyboard.type('88.4', { delay: 60 });
  await page.keyboard.press('Enter');
  await expect(far).toContainText('1 of');
  await page.keyboard.press('ArrowUp');
  await expect(field).toHaveValue('88.4');
  await page.keyboard.press('ArrowDown');
  await page.getByRole('button', { name: 'Shows 0' }).click();
  await page.getByRole('button', { name: 'Pass over' }).click();
  await expect(far).toContainText('2 of');
  await page.reload();
  await ready(page);
  await expect(far).toContainText('2 of');
  // it goes on at the first that was not read
  await expect(field).toHaveValue('');
  await page.keyboard.type('12.5O', { delay: 60 });
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Lay it beside the record' }).click();
  await expect(page.getByRole('alert')).toContainText('Nothing was taken.');
  await page.keyboard.press('Escape');
  await field.focus();
  await page.keyboard.press('ArrowUp');
  await expect(field).toHaveValue('12.5O');
  await field.fill('12.5');
  await page.keyboard.press('Enter');
  for (let i = 3; i < all; i += 1) {
    if ((await field.count()) === 0) break;
    await page.getByRole('button', { name: 'Pass over' }).click();
  }
  await expect(page.getByText(/The end of the list\. \d+ were passed over\./)).toBeVisible();
  await page.getByRole('button', { name: 'Lay it beside the record' }).click();
  await expect(page).toHaveURL(/\/machines\/4\/control$/);
  await expect(page.getByText(/read out row by row\.$/)).toBeVisible();
  // what was taken is not asked for again
  await page.goto('/machines/4/control/rows');
  await ready(page);
  await expect(far).toContainText(/^0 of/);
});

test('a table that was kept is put back: before and after, run, and read back before anything is recorded', async ({
  as,
}) => {
  const page = await as('setter');
  const text = await kept(page, 2);
  // somebody changes a length on record meanwhile
  await bringAnother(page, text);
  await page.goto('/machines/2/control');
  await ready(page);
  await page.getByRole('link', { name: 'Put one back' }).click();
  const form = page.getByRole('form', { name: 'The table that was kept' });
  await paste(form.getByLabel('or pasted'), text.replace('BITTERN', 'AVOCET'));
  await form.getByRole('button', { name: 'Show before and after' }).click();
  await expect(form.getByRole('alert')).toContainText('This is the table of AVOCET, not of Bittern.');
  await paste(form.getByLabel('or pasted'), text);
  await form.getByRole('button', { name: 'Show before and after' }).click();
  await expect(page.getByRole('status')).toContainText('1 register is to be set');
  await expect(page.getByRole('row', { name: /length geometry of row 1 / })).toBeVisible();
  // what was seen at a control that has lost its table since says nothing
  await form.getByLabel('The control has lost its table').check();
  await form.getByRole('button', { name: 'Show before and after' }).click();
  const all = punched(text)
    .split('\n')
    .filter((line) => line.startsWith('G10')).length;
  await expect(page.getByRole('status')).toContainText(`${all} registers are to be set.`);
  await expect(page.getByRole('cell', { name: 'not read' })).toHaveCount(all);
  await expect(page.getByText('no tool in cut')).toBeVisible();
  const back = page.getByRole('form', { name: 'Read back' });
  await paste(back.getByLabel('The table as the control gives it out now'), punched(await kept(page, 2)));
  await back.getByRole('button', { name: 'It was put back: read it back' }).click();
  await expect(back.getByRole('alert')).toContainText('the control does not hold all of it');
  await paste(back.getByLabel('The table as the control gives it out now'), punched(text));
  await back.getByRole('button', { name: 'It was put back: read it back' }).click();
  await expect(page.getByRole('status')).toContainText('1 register of the record was set to it.');
  expect(punched(await kept(page, 2))).toBe(punched(text));
});

test('a control that lost its table: one sentence instead of a list, and the way to put a kept one back', async ({
  as,
}) => {
  const page = await as('setter');
  await open(page, 4);
  const text = punched(await kept(page, 4));
  await bring(page, text.replace(/R-?[\d.]+$/gm, 'R0.000'));
  await expect(page.getByText(/at zero: .* the control has lost (it|them)\./)).toBeVisible();
  await expect(page.getByRole('button', { name: 'The control is right' })).toHaveCount(0);
  await page.getByRole('link', { name: 'Put a kept table back' }).click();
  await expect(page).toHaveURL(/\/machines\/4\/control\/put-back$/);
  // and it is set whole, with no guard in the way
  await ready(page);
  const form = page.getByRole('form', { name: 'The table that was kept' });
  await paste(form.getByLabel('or pasted'), await kept(page, 4));
  await form.getByRole('button', { name: 'Show before and after' }).click();
  await expect(page.getByRole('status')).toContainText(
    /registers are to be set\.\s+\d+\s+were seen at the control/,
  );
});

test('what a program needs and nobody keyed stands beside record and control, though the two agree', async ({
  as,
}) => {
  const page = await as('lead');
  await bringIn(page, '%\nO7163 (RING)\nT2 M6\nS900 M3\nG43 H58 Z50.\nG1 Z0. F100.\nM30\n%');
  await page.goto('/machines/1/now');
  await ready(page);
  await page.getByText('Add a job to the list').click();
  const job = page.getByRole('form', { name: 'New job' });
  await job.getByLabel('Program').selectOption({ label: 'O7163 RING' });
  await job.getByLabel('Parts', { exact: true }).fill('12');
  await job.getByLabel(/Cycle/).fill('1:00');
  await job.getByRole('button', { name: 'Add' }).click();
  await expect(page.getByRole('region', { name: 'Next on the list' })).toContainText('O7163');
  await open(page);
  await bring(page, punched(await kept(page)));
  await expect(page.getByRole('status')).toContainText('nothing differs');
  const apart = page.getByRole('region', { name: /a program needs something else/ });
  await expect(apart.getByRole('listitem').filter({ hasText: 'row 58' })).toHaveText(
    /length geometry of row 58\s*both \+?0\.000\s*Programs to run: O7163 T2: a length, line 5/,
  );
});

/** The record of Bittern's first length becomes another: by a look at its control that somebody takes for right. */
async function bringAnother(page: Page, text: string) {
  await open(page, 2);
  await bring(
    page,
    punched(text).replace(
      /^(G10 L10 P1 R)(-?[\d.]+)$/m,
      (_, head: string, value: string) => `${head}${(Number(value) + 0.05).toFixed(4)}`,
    ),
  );
  await page.getByRole('checkbox', { name: 'length geometry of row 1', exact: true }).check();
  const form = page.getByRole('form', { name: 'Which is right' });
  await form.getByLabel('Why').fill('Touched off anew.');
  await form.getByRole('button', { name: 'The control is right' }).click();
  await expect(page.getByText('Recorded since then, so')).toBeVisible();
}
