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
for (const [width, height] of [
  [320, 640],
  [640, 400],
] as const)
  test(`nothing scrolls sideways at ${width} pixels`, async ({ as }) => {
    const page = await as('lead');
    await page.setViewportSize({ width, height });
    for (const path of PAGES) {
      await page.goto(path);
      await ready(page);
      const over = await page.evaluate(
        () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
      );
      expect(`${path} ${over}`).toBe(`${path} 0`);
    }
  });
