import { expect, ready, test } from './cell.ts';

/** Main views, as a tablet at the far machine loads them for the first time: over a slow line, with nothing kept. */
const VIEWS = [
  '/leaf',
  '/today',
  '/machines',
  '/machines/1',
  '/machines/1/now',
  '/machines/across',
  '/corrections',
  '/programs',
  '/tools',
  '/ahead',
];
/** Bytes of script on the wire, with their heads: ninety kilobytes pressed, and what the answers say of themselves. */
const SCRIPT = 110_000;
/** Files of script: a browser asks for six at once, so each further six is once more the way to the server and back. */
const FILES = 30;

for (const view of VIEWS)
  test(`${view} comes in its letters at once, stands still, and is not heavy`, async ({ as }) => {
    const page = await as('lead');
    const line = await page.context().newCDPSession(page);
    await line.send('Network.enable');
    await line.send('Network.setCacheDisabled', { cacheDisabled: true });
    await line.send('Network.emulateNetworkConditions', {
      offline: false,
      latency: 60,
      downloadThroughput: 1_500_000,
      uploadThroughput: 500_000,
    });
    const kinds = new Map<string, { type: string; url: string }>();
    let [script, files] = [0, 0];
    const fonts: string[] = [];
    // a page that is loaded again is counted from its beginning
    page.on('request', (request) => {
      if (!request.isNavigationRequest() || request.frame() !== page.mainFrame()) return;
      kinds.clear();
      fonts.length = 0;
      [script, files] = [0, 0];
    });
    line.on('Network.responseReceived', ({ requestId, type, response }) =>
      kinds.set(requestId, { type, url: response.url }),
    );
    line.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
      const what = kinds.get(requestId);
      if (what?.type === 'Script') [script, files] = [script + encodedDataLength, files + 1];
      if (what?.type === 'Font') fonts.push(what.url);
    });
    await page.addInitScript(() => {
      const moved = { by: 0 };
      Object.assign(window, { moved });
      new PerformanceObserver((list) => {
        for (const entry of list.getEntries() as (PerformanceEntry & {
          value: number;
          hadRecentInput: boolean;
        })[])
          if (!entry.hadRecentInput) moved.by += entry.value;
      }).observe({ type: 'layout-shift', buffered: true });
    });
    await page.goto(view);
    await ready(page);
    await page.evaluate(() => document.fonts.ready);
    expect(fonts.length).toBeGreaterThanOrEqual(4);
    // each once: one that was asked for beforehand under another address would come twice
    expect(new Set(fonts).size).toBe(fonts.length);
    expect(script).toBeGreaterThan(10_000);
    expect(script).toBeLessThan(SCRIPT);
    expect(files).toBeGreaterThan(3);
    expect(files).toBeLessThanOrEqual(FILES);
    const moved = await page.evaluate(() => (window as unknown as { moved: { by: number } }).moved.by);
    // below what the eye notices (0.1 is held to be good; common practice)
    expect(moved).toBeLessThan(0.05);
  });
