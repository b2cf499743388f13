import { setTimeout as pause } from 'node:timers/promises';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { plant, somebody, type Plant } from '../support/plant.ts';
import { until } from '../support/server.ts';

/** How long each plant is shaken at least, seconds; `npm run faults` does it for minutes. */
const SECONDS = Number(process.env.FAULT_SECONDS ?? 12);
/** How often at least, however slow the machine is: each way to shake comes in seven rounds. */
const ROUNDS = 8;
let shop: Plant;
beforeAll(async () => void (shop = await plant()), 150_000);
afterAll(() => shop.close());

it.each([
  [2, 'lead, setter, operator'],
  [4, 'lead, setter, operator, inspector'],
])(
  '%i processes, killed at random with their PostgreSQL: what was acknowledged is there once, every sum is right, and every page heard it',
  async (processes, roles) => {
    await shop.growTo(processes);
    const people = await Promise.all(roles.split(', ').map((role) => somebody(shop, role)));
    const [job] = await shop.asked<{ id: number; made: number; machine: number }>(
      `SELECT id, made, machine_id AS machine FROM job WHERE state = 'running' AND machine_id = 4`,
    );
    const before = job!.made;
    let [going, shaken] = [true, false];
    const end = Date.now() + SECONDS * 1000;
    const goOn = () => going;
    const figures = { notes: 0, parts: 0, refused: 0, unknown: 0, killed: 0, postgres: 0, cut: 0, held: 0 };
    const notes: string[] = [];
    const unknownNotes: string[] = [];

    // everybody writes on the leaf; the one who may record parts counts them by what was counted last
    let written = 0;
    const writing = people.map(async (person) => {
      while (!shaken || Date.now() < end) {
        const text = `shaken ${processes} ${(written += 1)}`;
        const machine = String((written % 6) + 1);
        const said = await person.does(
          { path: '/leaf/2026-11-23/late?/note', fields: { kind: 'note', machine, text } },
          goOn,
        );
        if (said === 'done') notes.push(text);
        else unknownNotes.push(text);
        if (said === 'unknown') figures.unknown += 1;
        if (said === 'refused') figures.refused += 1;
      }
    });
    const counting = (async () => {
      let made = before;
      while (!shaken || Date.now() < end) {
        const said = await people[0]!.does(
          {
            path: `/machines/${job!.machine}/now?/parts`,
            fields: { job: String(job!.id), before: String(made), parts: '1', source: '' },
          },
          goOn,
        );
        if (said === 'done') {
          figures.parts += 1;
          made += 1;
        } else if (said === 'unknown') figures.unknown += 1;
        else figures.refused += 1;
      }
      return made;
    })();
    const pages = Array.from({ length: 6 }, (_, i) => people[i % people.length]!.listens(goOn));

    const shaking = (async () => {
      for (let round = 0; round < ROUNDS || Date.now() < end - 3000; round += 1) {
        await pause(300 + Math.random() * 500);
        const i = Math.floor(Math.random() * processes);
        if (round % 7 === 3) {
          figures.postgres += 1;
          await shop.killPostgres();
        } else if (round % 7 === 5) {
          figures.cut += 1;
          await shop.cutAll().catch(() => []);
        } else if (round % 7 === 6) {
          // held up, as a process is that swaps, and goes on as if nothing had been
          const child = shop.servers[i]?.child;
          child?.kill('SIGSTOP');
          figures.held += 1;
          await pause(800);
          child?.kill('SIGCONT');
        } else {
          figures.killed += 1;
          await shop.killProcess(i);
          await shop.startProcess(i);
        }
      }
      shaken = true;
    })();
    await shaking;
    await Promise.all(writing);
    const made = await counting;
    figures.notes = notes.length;

    // an entry on each machine is heard by every page, whichever process it listens to now, or the page is told to read all anew
    for (let i = 0; i < processes; i += 1) await shop.startProcess(i);
    const heard = pages.map(({ told }) => told.length);
    for (let machine = 1; machine <= 6; machine += 1)
      expect(
        await people[0]!.does(
          {
            path: '/leaf/2026-11-23/late?/note',
            fields: { kind: 'note', machine: String(machine), text: 'the last' },
          },
          goOn,
        ),
      ).toBe('done');
    for (const [i, { told }] of pages.entries()) {
      const hasHeard = (line: string) => told.slice(heard[i]).includes(line);
      for (let machine = 1; machine <= 6; machine += 1)
        await until(
          () => hasHeard(`{"kind":"leaf","machine":${machine}}`) || hasHeard('{"kind":"back"}'),
          60_000,
        );
    }
    going = false;
    await Promise.all(pages.map(({ done }) => done));

    const kept = await shop.asked<{ text: string; entries: number }>(
      `SELECT n.text, (SELECT count(*)::integer FROM ledger l WHERE l.said = 'Note: ' || n.text) AS entries
       FROM leaf_note n WHERE n.text LIKE $1`,
      [`shaken ${processes} %`],
    );
    const there = new Map(kept.map(({ text, entries }) => [text, entries]));
    expect(there.size).toBe(kept.length);
    for (const text of notes) expect(there.get(text), text).toBe(1);
    for (const [text, entries] of there) {
      expect(entries).toBe(1);
      expect(notes.includes(text) || unknownNotes.includes(text)).toBe(true);
    }
    const [now] = await shop.asked<{ made: number }>('SELECT made FROM job WHERE id = $1', [job!.id]);
    expect(now!.made).toBe(made);
    expect(await shop.asked('SELECT * FROM ledger_disagreement')).toEqual([]);
    // whoever signed in once is signed in everywhere
    for (const server of shop.servers)
      expect((await people[0]!.at(server!.url).get('/machines')).status).toBe(200);
    expect(figures.killed).toBeGreaterThan(1);
    expect(figures.notes).toBeGreaterThan(20);
    console.log(
      `${processes} processes, ${SECONDS} s: ${JSON.stringify({ ...figures, silent: shop.silent.length })}`,
      shop.silent,
    );
  },
  // a limit for what never ends, not for a slow machine
  SECONDS * 1000 + 360_000,
);
