import { expect, ready, test } from './cell.ts';

const PAGES = [
  ...[
    '/leaf',
    '/today',
    '/board',
    '/ahead',
    '/programs',
    '/corrections',
    '/tools',
    '/crib',
    '/ledger',
    '/people',
  ],
  ...[
    'now',
    'numbers',
    'control',
    'plate',
    'plan',
    'load',
    'counters',
    'groups',
    'checks',
    'night',
    'sheet',
  ].flatMap((page) => [`/machines/1/${page}`, `/machines/5/${page}`]),
  ...['/machines/1', '/programs/1', '/programs/4/boring', '/tools/9', '/tools/import', '/tools/builder'],
];

// 320 pixels, and 1280 at twice the size (WCAG 2.2, 1.4.10 and 1.4.4)
const SIZES = [
  { width: 320, height: 640 },
  { width: 640, height: 400 },
] as const;

test('nothing scrolls sideways at 320 pixels, nor at 640', async ({ as }) => {
  const page = await as('lead');
  const over = () =>
    page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
  for (const [i, path] of PAGES.entries()) {
    // each size is begun with by turns, and come to from the other
    const [first, second] = i % 2 === 0 ? SIZES : [SIZES[1], SIZES[0]];
    await page.setViewportSize(first);
    await page.goto(path);
    await ready(page);
    expect(`${path} ${first.width} ${await over()}`).toBe(`${path} ${first.width} 0`);
    await page.setViewportSize(second);
    await expect
      .poll(async () => `${path} ${second.width} ${await over()}`)
      .toBe(`${path} ${second.width} 0`);
  }
});
