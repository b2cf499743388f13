import { browser } from '$app/environment';
import { deserialize } from '$app/forms';
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { freshKey } from '../fresh-key';
import { lateAnswer } from './answers';
import { nobodyThere } from './kept-pages';
import type { Ask, AskedAnswer } from '../../core/words/ask';

/** A form that could not be sent, kept in this browser until it can. */
export interface Kept {
  /** The form's key: however often it is sent, it is done once. */
  key: string;
  url: string;
  fields: [string, string][];
  personId: number;
  person: string;
  /** What it is, for whoever typed it. */
  words: string;
  /** The page it was typed on. */
  page: string;
  machine: number | null;
  /** The last entry of the ledger that the page knew of. */
  seen: number;
  /** By this device's clock, which may be wrong. */
  typedAt: number;
  /** Why the server did not take it: it stays until somebody has answered that. */
  question?: string;
  /** With what it would be taken. */
  ask?: Ask;
}

/** What became of one that was sent later: kept until whoever typed it has seen it, for it may say that an edge has run out. */
export interface Sent {
  key: string;
  personId: number;
  words: string;
  answer: string;
  href: string;
  /** By this device's clock. */
  at: number;
}

interface Schema extends DBSchema {
  forms: { key: number; value: Kept; indexes: { key: string } };
}
/** Where versions before kept them. */
const OLD_STORE = 'tin-outbox';

let opened: Promise<IDBPDatabase<Schema>> | null = null;
const store = () =>
  (opened ??= openDB<Schema>('tin-outbox', 1, {
    upgrade: (db) =>
      void db.createObjectStore('forms', { autoIncrement: true }).createIndex('key', 'key', { unique: true }),
  }));
interface AnswersSchema extends DBSchema {
  sent: { key: string; value: Sent };
}
let openedAnswers: Promise<IDBPDatabase<AnswersSchema>> | null = null;
/** Beside the forms and not among them: a page of an earlier version that is still open would not let their store be changed. */
const answers = () =>
  (openedAnswers ??= openDB<AnswersSchema>('tin-answers', 1, {
    upgrade: (db) => void db.createObjectStore('sent', { keyPath: 'key' }),
  }));

/** Writes so that it is on the disk before it is said to be kept: a tablet that loses its battery has it. */
async function write(
  change: (forms: Awaited<ReturnType<typeof writing>>) => Promise<unknown>,
): Promise<void> {
  const forms = await writing();
  await Promise.all([change(forms), forms.transaction.done]);
}
const writing = async () =>
  (await store()).transaction('forms', 'readwrite', { durability: 'strict' }).objectStore('forms');

/** Everything that waits to be sent from this browser, what was sent late, and what was not taken. */
class Outbox {
  waiting = $state.raw<Kept[]>([]);
  questions = $state.raw<Kept[]>([]);
  sent = $state.raw<Sent[]>([]);
  /** Keys of those that wait only for their answer: the server has them, and its pages count with them. */
  private recorded = $state.raw<ReadonlySet<string>>(new Set());
  /** What waits and is not in the server's pages yet, as far as is known. */
  readonly untold = $derived(this.waiting.filter(({ key }) => !this.recorded.has(key)));
  private sending: Promise<boolean> | null = null;
  private looking: Promise<void> = Promise.resolve();
  /** Other pages of this browser show the same. */
  private readonly others = browser ? new BroadcastChannel('tin-outbox') : null;

  constructor() {
    this.others?.addEventListener('message', () => void this.look());
  }

  /** Reads what another page, or this one before it was closed, has kept; one after the other, so that what is read last is what is shown. */
  look(): Promise<void> {
    this.looking = this.looking.catch(() => undefined).then(() => this.read());
    return this.looking;
  }

  private async read(): Promise<void> {
    await takeOver();
    const all = await (await store()).getAll('forms');
    // the store goes by keys drawn by chance: whoever reads them reads what came first, first
    this.sent = (await (await answers()).getAll('sent')).sort((a, b) => a.at - b.at);
    this.waiting = all.filter(({ question }) => question === undefined);
    this.questions = all.filter(({ question }) => question !== undefined);
  }

  /** Asks which of those that wait the server has, once the page shows what it said since: an answer may have been lost, or be on its way. */
  async ask(): Promise<void> {
    await this.look();
    const keys = this.waiting.slice(0, ASKED).map(({ key }) => `key=${key}`);
    if (keys.length === 0) return;
    const answer = await fetch(`/sent?${keys.join('&')}`, { signal: AbortSignal.timeout(PATIENCE) }).catch(
      () => null,
    );
    if (answer?.ok) this.recorded = new Set((await answer.json()) as string[]);
  }

  /** Resolves once nothing is being sent: what comes before would count it twice, or not at all. */
  settled = async (): Promise<void> => void (await this.sending);

  private async changed(): Promise<void> {
    await this.look();
    this.others?.postMessage('changed');
  }

  /** Resolves once it is on the disk of this device. */
  async keep(form: Kept): Promise<void> {
    // a browser that runs out of room does not make some by this
    void navigator.storage?.persist?.().catch(() => false);
    await write(async (forms) => {
      // pressed twice, it is the same act
      if ((await forms.index('key').count(form.key)) === 0) await forms.add(form);
    });
    await this.changed();
  }

  private async replace(key: string, by: Kept | null): Promise<void> {
    await write(async (forms) => {
      const at = await forms.index('key').openCursor(key);
      await (by === null ? at?.delete() : at?.update(by));
    });
    await this.changed();
  }

  /** Whoever typed them knows what became of them. */
  async seen(those: readonly Sent[]): Promise<void> {
    const kept = await answers();
    for (const { key } of those) await kept.delete('sent', key);
    await this.changed();
  }

  /** Somebody has seen to it: it was done another way, or is left. */
  putAside = (form: Kept): Promise<void> => this.replace(form.key, null);

  /** Sends one again that was not taken, as another act, since the answer to the first stands under its key: as it was, or with an answer. */
  again({ question: _, ask: __, ...form }: Kept, answer?: AskedAnswer): Promise<void> {
    const key = freshKey();
    const anew = new Set(['key', ...(answer ? [answer.name] : [])]);
    const fields: [string, string][] = [
      ...form.fields.filter(([name]) => !anew.has(name)),
      ['key', key],
      ...(answer ? [[answer.name, answer.value] as [string, string]] : []),
    ];
    const words = answer ? `${form.words}: ${answer.words}` : form.words;
    return this.replace(form.key, { ...form, words, key, fields });
  }

  /**
   * Sends what one person has kept, in the order it was typed; stops at the first that finds no server. Of several pages of this browser one sends.
   *
   * @returns whether anything was answered
   */
  send(personId: number): Promise<boolean> {
    const locks = 'locks' in navigator ? navigator.locks : null;
    const work = () => this.sendAll(personId);
    this.sending ??= (
      locks ? locks.request('tin-outbox', { ifAvailable: true }, (lock) => (lock ? work() : false)) : work()
    ).finally(() => (this.sending = null));
    return this.sending;
  }

  private async sendAll(personId: number): Promise<boolean> {
    let answered = false;
    await this.look();
    for (const form of this.waiting.filter((each) => each.personId === personId)) {
      const answer = await post(form);
      if (answer === null) break;
      answered = true;
      if (answer.done) {
        const { key, words, page } = form;
        // its answer first: sent twice it would be the same
        const sent = { key, personId, words, answer: answer.words, href: page, at: Date.now() };
        await (await answers()).put('sent', sent);
        await this.replace(key, null);
      } else await this.replace(form.key, { ...form, question: answer.words, ask: answer.ask });
    }
    return answered;
  }
}

/** Forms that an earlier version kept are taken over once. */
async function takeOver(): Promise<void> {
  const old = localStorage.getItem(OLD_STORE);
  if (old === null) return;
  const forms = JSON.parse(old) as Omit<Kept, 'person' | 'page' | 'machine' | 'seen' | 'typedAt'>[];
  await write((kept) =>
    Promise.all(
      forms.map((each) =>
        kept.add({
          ...each,
          person: '',
          page: each.url.split('?')[0]!,
          machine: null,
          seen: 0,
          typedAt: NaN,
        }),
      ),
    ),
  );
  localStorage.removeItem(OLD_STORE);
}

/** Where there is nobody to answer, or nobody is signed in: it waits. */
const later = (status: number) => status === 401 || status === 429 || nobodyThere(status);
/** Of how many it is asked at once whether they are recorded. */
const ASKED = 100;
/** How long an answer is waited for, milliseconds: a network that swallows what is sent is none. */
export const PATIENCE = 10_000;

/** What the server answers; null where it did not, or asks who is there. */
async function post({
  url,
  fields,
  typedAt,
}: Kept): Promise<{ done: boolean; words: string; ask?: Ask } | null> {
  const body = new FormData();
  for (const [name, value] of fields) body.set(name, value);
  const ago = Math.round((Date.now() - typedAt) / 1000);
  try {
    const response = await fetch(url, {
      method: 'POST',
      body,
      headers: { accept: 'application/json', 'x-sveltekit-action': 'true', 'x-typed-ago': String(ago) },
      signal: AbortSignal.timeout(PATIENCE),
    });
    if (later(response.status)) return null;
    const result = deserialize(await response.text());
    if (result.type === 'success') return lateAnswer(result.data?.done as Parameters<typeof lateAnswer>[0]);
    if (result.type === 'failure')
      return {
        done: false,
        words: String(result.data?.problem ?? 'It was not accepted.'),
        ask: result.data?.ask as Ask | undefined,
      };
    if (result.type === 'redirect') return null;
    const { message } = result.error as { message?: string };
    return { done: false, words: message ?? 'The server could not do it.' };
  } catch {
    return null;
  }
}

export const outbox = new Outbox();
