import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type axe from 'axe-core';
import type { ContextSpec, RunOptions } from 'axe-core';
import type { Page } from '@playwright/test';
import { expect, ready, test } from './cell.ts';
import { PAGES } from './pages.ts';

/** Rules that look at what is painted behind each word: the dear ones. */
const COLOURS = ['color-contrast', 'link-in-text-block'];

/** Half as long as what the package gives by itself: every page has to read it. */
const SOURCE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

/** What is wrong: the rule, and where. */
type Faults = string[];
type Held = { held: (where: Document | ContextSpec, what: RunOptions) => Promise<Faults> };

/** Puts axe into the page once, and a function there that runs some of its rules over some of the page. */
async function equip(page: Page): Promise<void> {
  await page.evaluate(SOURCE);
  await page.evaluate(() => {
    const run = async (where: Document | ContextSpec, what: RunOptions): Promise<Faults> => {
      const { violations } = await (window as unknown as { axe: typeof axe }).axe.run(where, {
        ...what,
        resultTypes: ['violations'],
      });
      return violations.map(
        ({ id, nodes }) =>
          `${id}: ${nodes
            .slice(0, 4)
            .map(({ target }) => target.join(' '))
            .join(' | ')}`,
      );
    };
    Object.assign(window, { held: run });
  });
}

/** What axe finds on the page that is shown, by all of its rules. */
export async function faultsOf(page: Page): Promise<Faults> {
  await equip(page);
  return page.evaluate(() => (window as unknown as Held).held(document, {}));
}

/**
 * Marks of the words that look alike, by their tag and class and those of all they stand in, the first: the hundredth row of a
 * table has the colours of the first. Returns how many there are.
 */
const markLooks = (page: Page) =>
  page.evaluate(() => {
    const seen = new Set<string>();
    for (const each of document.querySelectorAll<HTMLElement>('body *')) {
      const words = [...each.childNodes].some(
        (node) => node.nodeType === Node.TEXT_NODE && node.textContent!.trim() !== '',
      );
      if (!words && !each.matches('input, select, textarea')) continue;
      let look = '';
      for (let at: Element | null = each; at; at = at.parentElement)
        look += ` ${at.tagName} ${at.getAttribute('class') ?? ''} ${at.getAttribute('style') ?? ''} ${at.matches(':disabled, [aria-disabled=true]')}`;
      if (seen.has(look)) continue;
      seen.add(look);
      each.setAttribute('data-look', '');
    }
    return seen.size;
  });

/** The colours of each look, in a theme. */
const coloursOf = (page: Page, theme: string) =>
  page.evaluate(
    ([name, rules]) => {
      document.documentElement.dataset.theme = name as string;
      // what fades from one colour to another is looked at when it has
      for (const each of document.getAnimations()) each.finish();
      return (window as unknown as Held).held(
        { include: [['[data-look]']] },
        { runOnly: { type: 'rule', values: rules } },
      );
    },
    [theme, COLOURS] as const,
  );

/** What is typed into a field of each kind. */
const TYPED: Readonly<Record<string, string>> = {
  date: '2027-02-03',
  time: '03:21',
  'datetime-local': '2027-02-03T03:21',
  number: '7',
};
type Streams = { streams: EventSource[] };

/** Types into every field of the page, and says what stands in each. */
const typeEverywhere = (page: Page) =>
  page.evaluate((texts) => {
    for (const field of document.querySelectorAll('main input')) {
      if (!(field instanceof HTMLInputElement) || field.readOnly || field.disabled) continue;
      // the words that are looked for ask at once, and a choice among few is a question of its own
      if (['hidden', 'radio', 'submit', 'file', 'search', 'range'].includes(field.type)) continue;
      if (field.type === 'checkbox') field.click();
      else field.value = texts[field.type] ?? 'typed';
      field.setAttribute('data-typed', '');
      field.dispatchEvent(new Event('input', { bubbles: true }));
    }
  }, TYPED);
const whatStands = (page: Page) =>
  page.evaluate(() =>
    [...document.querySelectorAll<HTMLInputElement>('main input[data-typed]')].map(
      ({ name, type, value, checked }) => `${name}: ${type === 'checkbox' ? String(checked) : value}`,
    ),
  );

/** The page hears that anything may have changed, and asks for its data anew. */
async function loadsAnew(page: Page): Promise<void> {
  const came = page.waitForResponse((answer) => answer.url().includes('__data.json'), { timeout: 20_000 });
  await page.evaluate(() => {
    const told = new MessageEvent('message', { data: '{"kind":"back"}' });
    for (const stream of (window as unknown as Streams).streams) stream.dispatchEvent(told);
  });
  // its text comes behind its head, and the page takes it up
  await (await came).finished();
  await page.waitForTimeout(300);
}

/**
 * Every n-th page is held against axe: all of its rules in the light theme, and those that hang on colours in the night's, where
 * nothing else can answer otherwise. And what is typed on it stands while it loads its data anew.
 */
export const axeEverywhere = (part: number, of: number) =>
  test(`axe finds nothing on any screen by day or by night, and what is typed there stays, part ${part} of ${of}`, async ({
    as,
    context,
    server,
  }) => {
    test.setTimeout(400_000);
    await context.addCookies([{ name: 'tin-theme', value: 'tin', url: server.url }]);
    const page = await as('lead');
    await page.addInitScript(() => {
      const streams: EventSource[] = [];
      Object.assign(window, {
        streams,
        EventSource: class extends EventSource {
          constructor(url: string) {
            super(url);
            streams.push(this);
          }
        },
      });
    });
    const troubles: string[] = [];
    page.on('console', (message) => message.type() === 'error' && troubles.push(message.text()));
    page.on('pageerror', (error) => troubles.push(error.message));
    for (const path of PAGES.filter((_, i) => i % of === part - 1)) {
      await page.goto(path);
      await ready(page);
      await expect(page.locator('html')).toHaveAttribute('data-theme', 'tin');
      await equip(page);
      expect(await markLooks(page)).toBeGreaterThan(3);
      expect({
        path,
        day: await coloursOf(page, 'tin'),
        words: await page.evaluate(
          (rules) =>
            (window as unknown as Held).held(document, {
              rules: Object.fromEntries(rules.map((rule) => [rule, { enabled: false }])),
            }),
          COLOURS,
        ),
        night: await coloursOf(page, 'tin-night'),
      }).toEqual({ path, day: [], words: [], night: [] });
      for (const value of await page.evaluate(() =>
        [...document.querySelectorAll('input')].map((field) => field.value),
      ))
        expect(['null', 'undefined', 'NaN'], path).not.toContain(value);
      await typeEverywhere(page);
      const stands = await whatStands(page);
      if (stands.length === 0) continue;
      await test.step(`${path} loads its data anew`, () => loadsAnew(page));
      expect({ path, stands: await whatStands(page) }).toEqual({ path, stands });
    }
    expect(troubles).toEqual([]);
  });
