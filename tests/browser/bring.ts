import type { Page } from '@playwright/test';
import { expect, ready } from './cell.ts';

/** Brings an NC program in for a machine, as somebody does on the page of programs. */
export async function bringIn(page: Page, text: string, { machine = 'Avocet', name = 'p.nc' } = {}) {
  await page.goto('/programs');
  await ready(page);
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
  await page.getByLabel('For an NC program: the machine').selectOption({ label: machine });
  await page.getByRole('button', { name: 'Read it' }).click();
  await expect(page.getByText(/was read:/)).toBeVisible();
}

/** That, and opens it from what is said of it. */
export async function bringAndOpen(page: Page, text: string, machine?: string) {
  await bringIn(page, text, machine === undefined ? {} : { machine });
  await page.getByRole('link', { name: 'Open it' }).click();
  await page.waitForURL(/programs\/\d+$/);
  await ready(page);
}

/** What speaks against the program that is open. */
export const findings = (page: Page) => page.locator('section[aria-labelledby=ready]');
