import type { Page } from '@playwright/test';
import { expect } from './cell.ts';

/** Types the face height of a part, in a place and on a pallet as they are proposed, or as `before` says; once more where it is asked for. */
export async function measureHeight(page: Page, part: number, size: string, before = async () => {}) {
  const field = page.getByLabel('Face height, mm', { exact: true });
  await page.getByLabel('Part', { exact: true }).fill(String(part));
  await before();
  await field.fill(size);
  await field.press('Enter');
  await expect(page.getByRole('status', { name: 'Answer to Face height' })).toContainText(
    /Leave it|Measure|row 1/,
  );
  const again = page
    .getByRole('listitem')
    .filter({ has: page.getByRole('heading', { name: 'Face height' }) })
    .getByRole('checkbox');
  if (await again.count()) {
    await again.check();
    await field.press('Enter');
  }
  await expect(field).toHaveValue('');
}
