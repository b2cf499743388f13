import type { Person } from '$core/people/roles';

declare global {
  namespace App {
    interface Locals {
      person: Person | null;
      /** What was chosen on this tablet; null follows the device. */
      theme: 'tin' | 'tin-night' | null;
      /** Set when the database went away while a page was being made. */
      away?: boolean;
    }
    interface Error {
      message: string;
      code?: string;
    }
  }
}

export {};
