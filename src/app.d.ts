import type { Person } from '$core/people/roles';

declare global {
  namespace App {
    interface Locals {
      person: Person | null;
      /** What was chosen on this tablet; null follows the device. */
      theme: 'tin' | 'tin-night' | null;
      /** Under which id it stands in the log. */
      request: string;
      /** The entry of the ledger up to which everything was told when this was asked: what comes after it is told to the page. */
      told: number;
      /** On which line of the database's history. */
      line: number;
      /** Set when a page could not be made, and can be in a moment. */
      trouble?: 'away' | 'busy';
    }
    interface Error {
      message: string;
      code?: string;
    }
  }
}

export {};
