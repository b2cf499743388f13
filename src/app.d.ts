import type { Person } from '$core/people/roles';

declare global {
  namespace App {
    interface Locals {
      person: Person | null;
      theme: 'tin' | 'tin-night';
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
