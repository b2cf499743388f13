import pg from 'pg';
import { cellNow } from '../clock.ts';
import { addressOf } from '../control-link.ts';
import { connectionSettings, pool, rows } from '../db.ts';
import { log } from '../log.ts';
import { askAgent } from './ask.ts';
import { looksOther, pollOnce, unheard } from './poll.ts';
import { keepHeard, statesOf, type Heard } from './states.ts';

/** Every machine's agent is asked so often; one that does not answer seldomer, up to the other. */
const EVERY = 1000;
const SELDOM = 15_000;
const PATIENCE = 2000;
/** How often is looked which machines there are, and whether another process let go of one. */
const SUPERVISED = 2000;
/** What nobody would see is written down no more often. */
const WRITTEN = 20_000;
/** The first key of the locks: one poller a machine, whichever process it runs in. */
const LOCK = 7_411;

let wanted = false;
let holder: pg.Client | null = null;
let timer: ReturnType<typeof setTimeout> | undefined;
const followed = new Map<number, { address: string; stop: () => void }>();

/** Begins to follow the agents of all machines that have one. Several processes share them: each machine is asked by one. */
export function followAgents(): void {
  if (wanted) return;
  wanted = true;
  void supervise();
}

export async function stopFollowing(): Promise<void> {
  wanted = false;
  clearTimeout(timer);
  letGo();
  await holder?.end().catch(() => undefined);
  holder = null;
}

function letGo(): void {
  for (const { stop } of followed.values()) stop();
  followed.clear();
}

async function supervise(): Promise<void> {
  try {
    holder ??= await lockHolder();
    await takeMachines(holder);
  } catch (error) {
    log.warn({ reason: (error as Error).message }, 'agents: the machines could not be looked up');
  }
  if (wanted) timer = setTimeout(() => void supervise(), SUPERVISED).unref();
}

/** A connection of its own: with it the locks go, and another process takes over. */
async function lockHolder(): Promise<pg.Client> {
  const client = new pg.Client({ ...connectionSettings(), statement_timeout: 5000 });
  const lost = () => {
    if (holder !== client) return;
    holder = null;
    letGo();
  };
  client.on('error', lost);
  client.on('end', lost);
  await client.connect();
  return client;
}

async function takeMachines(client: pg.Client): Promise<void> {
  const machines = await rows<{ id: number; name: string; controlAddress: string | null }>(
    pool(),
    'SELECT id, name, control_address AS "controlAddress" FROM machine',
  );
  const addresses = new Map(machines.map((machine) => [machine.id, addressOf(machine)]));
  for (const [id, { address, stop }] of followed) {
    if (addresses.get(id) === address) continue;
    stop();
    followed.delete(id);
    await client.query('SELECT pg_advisory_unlock($1, $2)', [LOCK, id]);
  }
  const free = [...addresses].flatMap(([id, address]) =>
    address !== null && !followed.has(id) ? [{ id, address }] : [],
  );
  if (free.length === 0) return;
  const taken = await rows<{ id: number }>(
    client,
    'SELECT id FROM unnest($2::integer[]) AS id WHERE pg_try_advisory_lock($1, id)',
    [LOCK, free.map(({ id }) => id)],
  );
  if (taken.length === 0) return;
  const states = new Map((await statesOf(pool())).map((each) => [each.machineId, each]));
  for (const { id } of taken) {
    const { address } = free.find((each) => each.id === id)!;
    const { controlAddress } = machines.find((machine) => machine.id === id)!;
    followed.set(id, {
      address,
      stop: followOne(id, address, controlAddress, states.get(id) ?? unheard(id, cellNow())),
    });
  }
}

/** Asks one agent again and again. */
function followOne(machineId: number, address: string, own: string | null, begin: Heard): () => void {
  let over = false;
  let again: ReturnType<typeof setTimeout> | undefined;
  let known = begin;
  let written = 0;
  let wait = EVERY;
  const once = async () => {
    const begun = Date.now();
    try {
      const heard = await pollOnce(
        known,
        (ask) => askAgent(address, ask, PATIENCE),
        () => cellNow(),
      );
      if (over) return;
      const other = looksOther(known, heard);
      // the first answer is written down whatever it says
      // a stand-in that does not know this machine is no control that went away
      const nobody = own === null && heard.instance === null;
      if (!nobody && (other || begun - written > WRITTEN)) {
        await keepHeard(pool(), heard, other);
        written = begun;
      }
      known = heard;
      wait = heard.problem === null ? EVERY : Math.min(SELDOM, wait * 2);
    } catch (error) {
      wait = SELDOM;
      log.warn({ machineId, reason: (error as Error).message }, 'agents: what was heard could not be kept');
    }
    if (!over) again = setTimeout(() => void once(), Math.max(50, wait - (Date.now() - begun))).unref();
  };
  void once();
  return () => {
    over = true;
    clearTimeout(again);
  };
}
