import { databaseIsAway, pool, row } from './db.ts';
import { log } from './log.ts';

/** How a cell that is played tells the time: at `wall` it was `told`, and it goes `rate` times as fast. */
interface Played {
  wall: Date;
  told: Date;
  rate: number;
}

let played: Played | null = null;

/** What time it is in the cell: the wall's clock, unless the cell is played. */
export const cellNow = (): Date =>
  played === null
    ? new Date()
    : new Date(played.told.getTime() + (Date.now() - played.wall.getTime()) * played.rate);

/** Seconds of the cell that pass in one of the wall's. */
export const cellRate = () => played?.rate ?? 1;

/** Looks at the clock of the cell in the database. */
export async function readClock(): Promise<void> {
  played = await row<Played>(
    pool(),
    'SELECT wall, told, rate FROM play_clock p WHERE EXISTS (SELECT FROM cell WHERE demo)',
    [],
  );
}

const AGAIN = 2000;

/** Follows the clock of the cell, for as long as this process runs: only a made-up cell has one. */
export function followClock(): void {
  const once = () =>
    void readClock()
      .catch((error: unknown) => {
        if (!databaseIsAway(error)) log.error({ err: error }, 'the clock of the cell could not be read');
      })
      .finally(() => {
        if (played !== null) setTimeout(once, AGAIN).unref();
      });
  once();
}
