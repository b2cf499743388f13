import type { Page } from '@playwright/test';
import { bringAndOpen, findings } from './bring.ts';
import { expect, noMoreMade, ready, test } from './cell.ts';

// programs full of faults are brought in, and a row is left as it should not be: a cell of its own
test.use({ own: 'findings' });

async function bring(page: Page, machine: string, text: string) {
  await bringAndOpen(page, text, machine);
  return findings(page);
}

const FIRST = `%
O7410 (EVERY FAULT)
G21 G90 G54
(FACE MILL 80)
T99 M6
S900 M3
G43 H99 Z50.
G1 X10. F300.
(END MILL 16 ROUGH)
T2 M6
S900
M88
G43 H2 Z50.
G1 X20. F300.
(END MILL 12 FINISH)
T3 M6
S3000 M3
G43 H3 Z50.
G1 X900. F0
X10. F300.
X-900.
(SPOT DRILL 10)
T4 M6
S900 M3
G43 H5 Z50.
G1 X10. F80.
(DRILL 6.8)
T5 M6
S99000 M3
G43 H305 Z50.
G81 X0. Y0. Z-20. R2. F300.
G80
(TAP M8)
T6 M6
S400 M3
G43 H6 Z50.
G84 X0. Y0. Z-18. R2. F300.
G80
(DRILL 11.8)
T7 M6
S1200 M3
G43 H7 Z50.
G81 X5. Y5. Z-20. R2. F200.
G80
(DRILL 8.5)
T7 M6
G43 H7
G81 X9. Y5. Z-20. R2. F200.
G80
(FINE BORING BAR 52)
T8 M6
S600 M3
G43 H8 Z50.
G76 X0. Y0. Z-10. R2. Q0.2 F50.
G80
(CHAMFER MILL 12)
T11 M6
S4000 M3
G43 H11 Z50.
G1 X50. F300.
S4000 M4
G1 X70. F300.
(BALL MILL 6)
T12 M6
G96 S200 M3
G43 H12 Z50.
G1 X5. F300.
M30
%`;
const FOUND = [
  'T99 (FACE MILL 80) is called on line 5 and is not in Avocet.',
  'O7410 goes 1800.0 mm in X; Avocet travels 762.0 mm.',
  'T3 is to feed on line 19 without a feed',
  'T4 is called on line 23, but line 25 applies length row H5.',
  'T5 asks for 99000 rpm; Avocet is limited to 12000.',
  'T5 is run at 99000 rpm; assembly A-105 is rated for 15000 at most.',
  'Row 305, which T5 uses on line 30, still holds a length of zero',
  'T5 calls row 305 on line 30; the table ends at 200.',
  'T2 is cut with coolant through the spindle; in assembly A-102 EM-16R05 is not drilled for it.',
  'T6 taps M8 with F300 at S400: its pitch of 1.25 mm asks for F500.',
  'T11 cuts with the spindle turning counter-clockwise (M4)',
  'T11 cuts with the spindle turning both ways.',
  'T12, assembly A-112 in pocket 25, is flagged broken and in quarantine.',
  'T12 comes to 12732 rpm by its surface speed; Avocet is limited to 12000.',
  'O7410 has not been proven on Avocet.',
  'T2 feeds on line 14 with a spindle that the program has not started.',
  'is not what the program asks for on line 16: it is 10.000 mm across, 12.000 mm is asked for.',
  'T3, assembly A-103, runs out at part',
  'Between T2 (END MILL 16 ROUGH) and T3 (END MILL 12 FINISH) the program does not stop.',
  'T7 is called as "DRILL 11.8" (line 40) and as "DRILL 8.5" (line 46): two sizes under one T.',
  'T8 is shifted X+ by 0.200 mm on line 54: its tip must point X−.',
];

test('a program that has every fault has each of them named, with its line', async ({ as }) => {
  const page = await as('lead');
  const shown = await bring(page, 'Avocet', FIRST);
  for (const sentence of FOUND) await expect(shown).toContainText(sentence);
  await expect(page.getByRole('heading', { name: 'Not ready' })).toBeVisible();
});

test('rows, taps and sisters: what a program leaves out, or fixes', async ({ as }) => {
  const page = await as('lead');
  const more = await bring(
    page,
    'Avocet',
    `%
O7411 (MORE FAULTS)
G21 G90 G54 G49
(TAP M8)
T6 M6
S400 M3
G43 H6 Z50.
G84 X0. Y0. Z-18. R2. F500.
G80
(END MILL 16 ROUGH)
T2 M6
S900 M3
G49
G1 X20. F300.
(END MILL 10 FINISH)
T3 M6
S3000 M3
G43 H3 Z50.
G1 X10. F20000.
(CHAMFER MILL 12)
T11 M6
S4000 M3
G43 H11 Z50.
G41 X5. F300.
G1 X50.
G40 X60.
G91
M30
%`,
  );
  for (const sentence of [
    'T2 cuts from line 11 on with no length applied.',
    'T11 is compensated on line 24 without a D of its own: the last tool’s is in force.',
    'T6 taps M8, and this program drills no hole for it (6.8 mm is usual).',
    'more than a 10.0 mm cutter takes in any material.',
    'O7411 ends with G91 in force',
  ])
    await expect(more).toContainText(sentence);
  const sisters = await bring(
    page,
    'Egret',
    '%\nO7412 (SISTERS)\n(DRILL 14)\nT4 M6\nS1200 M3\nG43 H5 Z50.\nG81 X0. Y0. Z-9. R2. F200.\nG80\nM30\n%',
  );
  await expect(sisters).toContainText(
    'Group 4 (Drill 14) is called on line 4, but line 6 fixes H5: its sisters would cut with that offset too.',
  );
});

test('wear from before a tool came, a length that is not the presetter’s, and a hand that is not the spindle’s', async ({
  as,
}) => {
  const page = await as('lead');
  // somebody finds wear in a row that nothing stands in
  await page.goto('/machines/1/numbers?all');
  await ready(page);
  await page.getByRole('button', { name: /^length wear of row 44:/i }).click();
  const found = page.getByRole('form', { name: 'Found at the control' });
  await found.getByLabel('The control shows something else').fill('-0.035');
  await found.getByLabel('Why').fill('left by the last tool there');
  await found.getByRole('button').click();
  await expect(page.getByRole('button', { name: /^length wear of row 44: −0.035/i })).toBeVisible();
  // the presetter measures a tool, and it is put there and measured again, differently
  await page.goto('/presetter?number=A-141');
  await ready(page);
  await page.getByLabel('Gauge length, mm').fill('117.965');
  await page.getByRole('button', { name: 'Record it' }).click();
  await expect(page.getByText('Recorded.')).toBeVisible();
  await page.goto('/machines/1');
  await ready(page);
  await page.getByRole('button', { name: 'pocket 1: empty' }).click();
  await page.getByLabel('Assembly').selectOption({ label: 'A-141 End mill 10 finish (sister)' });
  await page.getByLabel('T number').fill('44');
  await page.getByRole('button', { name: 'It is in: record it' }).click();
  await expect(page.getByText('Not measured since it was loaded', { exact: true })).toBeVisible();
  const text = (turns: string) =>
    `%\nO7413 (SISTER)\n(END MILL 10)\nT44 M6\nS1200 ${turns}\nG43 H44 Z50.\nG1 X10. F200.\nM30\n%`;
  let shown = await bring(page, 'Avocet', text('M3'));
  await expect(shown).toContainText('Row 44, which T44 uses on line 6, still holds a length of zero');
  await expect(shown).toContainText(
    'Row 44 still holds −0.035 mm of length wear from before T44 came or its edge was changed.',
  );
  await page.goto('/machines/1');
  await ready(page);
  await page.getByRole('button', { name: /^pocket 1: T44/ }).click();
  await page.getByLabel(/Gauge length/).fill('118.465');
  await page.getByRole('button', { name: 'Write into row 44' }).click();
  await expect(page.getByText('Measured since it was loaded', { exact: true })).toBeVisible();
  // its description says that it is left-hand
  await page.goto('/tools/write?number=A-141');
  await ready(page);
  await page.getByLabel('Left-hand').selectOption({ label: 'yes' });
  await page.getByRole('button', { name: 'Record the change' }).click();
  await expect(page.getByText('left: it cuts with M4')).toBeVisible();
  shown = await bring(page, 'Avocet', text('M3').replace('O7413', 'O7414'));
  await expect(shown).toContainText(
    'T44 cuts with the spindle turning clockwise (M3): assembly A-141 is left-hand.',
  );
  await expect(shown).toContainText('Row 44 holds 118.465 mm, but the presetter makes it 117.965 mm.');
});

test('who knows the cutter, lengths of two kinds, life counted wrongly, and a tool that is locked', async ({
  as,
}) => {
  const page = await as('lead');
  await page.goto('/tools/3');
  await ready(page);
  await page.getByRole('form', { name: 'Flag' }).getByLabel('Why').fill('chatters, kept back for the crib');
  await page.getByRole('button', { name: 'Lock it' }).click();
  await expect(page.getByRole('button', { name: 'Unlock' })).toBeVisible();
  // one tool is touched off while the others came from the presetter
  for (const [tool, way] of [
    [5, 'presetter'],
    [11, 'touched off'],
  ] as const) {
    await page.goto('/machines/1');
    await ready(page);
    await page.getByRole('button', { name: new RegExp(`^pocket \\d+: T${tool}\\b`) }).click();
    await page.getByLabel('How').selectOption({ label: way });
    const length = page.getByLabel(/Gauge length/);
    await length.fill((await length.getAttribute('placeholder'))!);
    const written = page.waitForResponse((answer) => answer.request().method() === 'POST');
    await page.getByRole('button', { name: /Write into row/ }).click();
    await written;
  }
  const shown = await bring(
    page,
    'Avocet',
    `%
O7416 (STILL MORE)
G21 G90 G54
(END MILL 10 FINISH)
T3 M6
S3000 M3
G43 H3 Z50.
G1 X10. F300.
(DRILL 6.8)
T5 M6
S3000 M3
G43 H5 Z50.
G81 X0. Y0. Z-20. R2. F300.
X20.
G80
M120
(CHAMFER MILL 12)
T11 M6
S4000 M3
G43 H11 Z50.
G41 D11 X5. F300.
G1 X50.
G40 X60.
M30
%`,
  );
  await expect(shown).toContainText(/T3, assembly A-103 in \w+ \d+, is locked\./);
  await expect(shown).toContainText(/Lengths in this set-up were taken in different ways .*touched off: T11/);
  await expect(shown).toContainText('T5 makes 2 holes and the program counts 1, by line 16');
  await page.getByRole('button', { name: 'the control’s: D is the cutter' }).click();
  await expect(shown).toContainText('D11 on line 21 holds no cutter');
  // on a lathe, to the centre
  const turned = await bring(
    page,
    'Curlew',
    '%\nO7417 (FACE)\nG99\n(OD ROUGHER)\nT0101\nG96 S420 M3\nG0 X1. Z0.\nG1 X-0.06 F0.008\nM30\n%',
  );
  await expect(turned).toContainText(
    'T1 cuts to the centre on line 8 at constant surface speed, with no ceiling set',
  );
});

test('a tool that was loaded and not measured, a probe without a calibration, and a tool that has run out', async ({
  as,
}) => {
  const page = await as('lead');
  // taken out and put back: its row still holds what it was before
  await page.goto('/machines/1');
  await ready(page);
  await page.getByRole('button', { name: /^pocket \d+: T7,/ }).click();
  await noMoreMade(page.getByRole('form', { name: 'Take out' }));
  await page.getByRole('button', { name: /Take it out/ }).click();
  await expect(page.getByLabel('Assembly')).toBeVisible();
  await page.getByLabel('Assembly').selectOption({ label: 'A-107 Drill 11.8 solid' });
  await page.getByLabel('T number').fill('7');
  await page.getByRole('button', { name: 'It is in: record it' }).click();
  await expect(page.getByText('Not measured since it was loaded', { exact: true })).toBeVisible();
  const first = await bring(
    page,
    'Avocet',
    '%\nO7418 (NOT MEASURED)\n(DRILL 11.8)\nT7 M6\nS3000 M3\nG43 H7 Z50.\nG81 X0. Y0. Z-9. R2. F300.\nG80\nM30\n%',
  );
  await expect(first).toContainText('T7, assembly A-107, has not been measured since it was put into pocket');
  const second = await bring(
    page,
    'Egret',
    '%\nO7419 (PROBE)\n(PROBE)\nT60 M6\nG43 H60 Z50.\nG1 X5. F300.\nM30\n%',
  );
  await expect(second).toContainText('T60, the probe E-509, has no calibration on record.');
  // parts are recorded until a tool has run out
  await page.goto('/machines/3/now');
  await ready(page);
  await page.getByLabel('Parts made', { exact: true }).last().fill('9');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('T2 (L-202) has now run out');
  const third = await bring(
    page,
    'Curlew',
    '%\nO7420 (RUN OUT)\nG99\n(OD FINISHER)\nT0202\nG50 S2000\nG96 S420 M3\nG0 X1. Z0.1\nG1 Z-1. F0.008\nM30\n%',
  );
  await expect(third).toContainText(/T2, assembly L-202 in \w+ \d+, is expired\./);
});
