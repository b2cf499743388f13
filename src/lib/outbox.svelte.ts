import { deserialize } from '$app/forms';

/** A form that could not be sent, kept in this browser until it can. */
export interface Kept {
  /** The form's key: however often it is sent, it is done once. */
  key: string;
  url: string;
  fields: [string, string][];
  personId: number;
  /** What it is, for whoever typed it. */
  words: string;
}

/** What became of one that was sent later. */
export interface Sent {
  key: string;
  words: string;
  answer: string;
  href: string;
}

const STORE = 'tin-outbox';

function stored(): Kept[] {
  try {
    return JSON.parse(localStorage.getItem(STORE) ?? '[]') as Kept[];
  } catch {
    return [];
  }
}

/** Everything that waits to be sent from this browser, and what was sent late. */
class Outbox {
  waiting = $state<Kept[]>([]);
  sent = $state<Sent[]>([]);
  private sending = false;

  /** Reads what another page, or this one before it was closed, has kept. */
  look(): void {
    this.waiting = stored();
  }

  keep(form: Kept): void {
    const others = stored().filter((each) => each.key !== form.key);
    this.write([...others, form]);
  }

  private write(all: Kept[]): void {
    localStorage.setItem(STORE, JSON.stringify(all));
    this.waiting = all;
  }

  /** Sends what one person has kept, in the order it was typed; stops at the first that finds no server. */
  async send(personId: number): Promise<void> {
    if (this.sending) return;
    this.sending = true;
    try {
      for (const form of stored().filter((each) => each.personId === personId)) {
        const answer = await post(form);
        if (answer === null) return;
        this.write(stored().filter((each) => each.key !== form.key));
        this.sent = [
          ...this.sent,
          { key: form.key, words: form.words, answer, href: form.url.split('?')[0]! },
        ];
      }
    } finally {
      this.sending = false;
    }
  }
}

/** What the server answers, in words; null where it did not, or asks who is there. */
async function post({ url, fields }: Kept): Promise<string | null> {
  const body = new FormData();
  for (const [name, value] of fields) body.set(name, value);
  try {
    const response = await fetch(url, {
      method: 'POST',
      body,
      headers: { accept: 'application/json', 'x-sveltekit-action': 'true' },
    });
    if (response.status === 503 || response.status === 401 || response.status === 403) return null;
    const result = deserialize(await response.text());
    if (result.type === 'failure') return String(result.data?.problem ?? 'It was not accepted.');
    if (result.type !== 'success') return null;
    const done = result.data?.done as { answer?: { reason?: string } } | undefined;
    return done?.answer?.reason ?? 'It is recorded.';
  } catch {
    return null;
  }
}

export const outbox = new Outbox();
