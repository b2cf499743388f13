import { errors, type Page } from '@playwright/test';

/** After so long a page that has not come is held to have been asked for in vain, milliseconds: the slowest takes a tenth of it. */
const IN_VAIN = 60_000;

/**
 * On some machines a question to loopback is swallowed on its way now and then: a browser waits for its answer for
 * minutes, where somebody would load the page again. So does this, once; what had not been answered, and whether the server
 * answers others meanwhile, is printed, so that a page that really hangs is not taken for it.
 */
export function loadsAgain(page: Page): void {
  const open = new Set<string>();
  page.on('request', (request) => open.add(request.url()));
  page.on('requestfinished', (request) => open.delete(request.url()));
  page.on('requestfailed', (request) => open.delete(request.url()));
  const goto = page.goto.bind(page);
  page.goto = async (url, options) => {
    if (options?.timeout !== undefined) return goto(url, options);
    try {
      return await goto(url, { ...options, timeout: IN_VAIN });
    } catch (fault) {
      if (!(fault instanceof errors.TimeoutError)) throw fault;
      const unanswered = [...open].join(' ');
      const asked = await page.request
        .get(url, { timeout: IN_VAIN })
        .then((answer) => `asked again by itself it answers ${answer.status()}`)
        .catch((why: Error) => `asked again by itself it does not: ${why.message}`);
      console.warn(
        `${url} did not come in ${IN_VAIN} ms; ${asked}; not answered: ${unanswered || 'nothing'}`,
      );
      return goto(url, options);
    }
  };
}
