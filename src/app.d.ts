import type { Person } from '$core/people/roles';

declare global {
  namespace App {
    interface Locals {
      person: Person | null;
      theme: 'tin' | 'tin-night';
    }
    interface Error {
      message: string;
      code?: string;
    }
  }
}

export {};
