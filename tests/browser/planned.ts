import type { Page } from '@playwright/test';
import { expect, ready } from './cell.ts';

/** Plans Avocet for programs (`program=3&program=4`): a layout stands there, and what it is worth is still being proved. */
export async function planned(page: Page, programs: string) {
  await page.goto(`/machines/1/plan?${programs}`);
  await ready(page);
  await page.getByRole('button', { name: 'Plan', exact: true }).click();
  await expect(page.getByRole('status')).toContainText(/Best so far|Proven best|Within \d/, {
    timeout: 60_000,
  });
}

/** Makes what was planned the load plan, as whoever is in a hurry: the proof is not waited for. */
export async function takenAsLoadPlan(page: Page, programs: string) {
  await planned(page, programs);
  await page.getByRole('button', { name: 'Make it the load plan' }).click();
  await page.waitForURL('**/machines/1/load');
  await ready(page);
}
