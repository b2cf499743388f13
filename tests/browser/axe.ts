import AxeBuilder from '@axe-core/playwright';
import { expect, ready, test } from './cell.ts';
import { PAGES } from './pages.ts';

/**
 * Every page is held against axe in a theme: all of its rules, or some. What a page says is the same in both themes, so that in
 * the second only the rules that hang on colours can answer otherwise.
 */
export const axeEverywhere = (theme: 'tin' | 'tin-night', rules?: string[]) =>
  test(`axe finds nothing on any screen, ${theme}`, async ({ as, context, server }) => {
    test.setTimeout(400_000);
    await context.addCookies([{ name: 'tin-theme', value: theme, url: server.url }]);
    const page = await as('lead');
    const troubles: string[] = [];
    page.on('console', (message) => message.type() === 'error' && troubles.push(message.text()));
    page.on('pageerror', (error) => troubles.push(error.message));
    for (const path of PAGES) {
      await page.goto(path);
      await ready(page);
      await expect(page.locator('html')).toHaveAttribute('data-theme', theme);
      // no page of ours has frames, so nothing is put together from several; only what is wrong is written out
      const axe = new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ['violations'] });
      const { violations } = await (rules ? axe.withRules(rules) : axe).analyze();
      expect(
        violations.map(
          (violation) =>
            `${path}: ${violation.id}: ${violation.nodes
              .map((node) => node.target.join(' '))
              .slice(0, 4)
              .join(' | ')}`,
        ),
      ).toEqual([]);
    }
    expect(troubles).toEqual([]);
  });
