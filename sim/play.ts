// The cell that is played: every machine's agent and panel, a crew that works by the application, and what is true, which is told at
// the end. It takes the place of the stand-in for controls when the demo is started with --play, and drives no machine.
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { connect } from 'node:net';
import pg from 'pg';
import { tableText } from '../src/core/control/table-text.ts';
import { registerDecimals } from '../src/core/units/register-decimals.ts';
import { formatLength } from '../src/core/units/format-length.ts';
import { nanometres } from '../src/core/units/length.ts';
import { cellNow, readClock } from '../src/server/clock.ts';
import type { Cutter } from './assets.ts';
import { AppCrew } from './play/app-crew.ts';
import { playByHand, readyToPlay } from './play/both.ts';
import { chance } from './play/chance.ts';
import { setClock } from './play/clock.ts';
import { firstPage, keyedValue, panelPage, screenOf } from './play/panel.ts';
import { run } from './play/run.ts';
import { Station } from './play/station.ts';
import { emptyTally, settle, tallyLines, type Tally } from './play/tally.ts';
import { Machine } from './play/world.ts';

const rate = Number(process.env.SIM_RATE ?? 60);
const seed = Number(process.env.SIM_SEED ?? 1);
const cutters = JSON.parse(process.env.SIM_CUTTERS ?? '{}') as Record<string, Cutter[]>;

const owner = new pg.Client({ connectionString: process.env.DATABASE_OWNER_URL ?? process.env.DATABASE_URL });
await owner.connect();
await readClock();
const { shift, people, plant } = await readyToPlay(
  owner,
  new Date(Math.max(Date.now(), cellNow().getTime())),
);
const machines = plant.map((each) => new Machine(each, seed));
const stations = machines.map(
  (machine) =>
    new Station(machine, cutters[machine.plant.name.toLowerCase()] ?? [], () => cellNow().getTime()),
);
const crew = new AppCrew(seed, emptyTally(seed, 'with it'), people);
let over: { ours: Tally; byHand: Tally } | null = null;
let begun = false;

/** Waits until it is so late in the cell. */
const until = async (at: number) => {
  for (;;) {
    const left = (at - cellNow().getTime()) / rate;
    if (left <= 0) return;
    await new Promise((resolve) => setTimeout(resolve, Math.min(left, 1000)));
  }
};

async function play(): Promise<void> {
  await setClock(owner, shift.start, rate);
  setInterval(() => {
    for (const station of stations) station.tick();
  }, 250).unref();
  const of = (machine: Machine) => stations.find((station) => station.machine === machine)!;
  await run({
    machines,
    crew,
    seed,
    from: shift.start.getTime(),
    to: shift.end.getTime(),
    until,
    taken: (machine) => of(machine).taken,
    began: (machine, at, milliseconds) => of(machine).began(at, milliseconds),
    stands: (machine, minutes) => of(machine).stands(minutes),
  });
  await until(shift.end.getTime());
  // what a person made at a machine counts with the rest
  over = {
    ours: settle(crew.tally, machines, crew.aside),
    byHand: await playByHand(seed, plant, shift),
  };
  for (const station of stations) station.end();
  await setClock(owner, shift.end, 1);
  const theirs = tallyLines(over.byHand);
  console.error(
    '\n  The shift is over. What was true, and the same shift with every part corrected by hand:\n',
  );
  for (const [i, { what, count }] of tallyLines(over.ours).entries())
    console.error(
      `    ${what.padEnd(36)} ${String(count).padStart(6)} ${String(theirs[i]!.count).padStart(6)}`,
    );
}

/** The gauge on the bench measures a size of the last part, and sends what it reads. */
async function measure(station: Station, size: number): Promise<string> {
  const { machine } = station;
  const known = machine.plant.sizes.find(({ id }) => id === size);
  const off = known ? machine.off(machine.made, size) : null;
  if (!known || off === null) return 'No part of this shift is there to be measured.';
  const { unit, increment } = machine.plant;
  const luck = chance(seed, machine.plant.name, size, machine.made, 'panel');
  const read = known.target + off + (luck.normal() * (known.upper - known.lower)) / 40;
  const text = formatLength(nanometres(Math.round(read)), unit, {
    decimals: registerDecimals(unit, increment) + (unit === 'in' ? 1 : 0),
    minus: '-',
  });
  const [host, port] = (process.env.SIM_GAUGES ?? '').split(':');
  if (!host || !port) return `${known.name} of part ${machine.made}: ${text} ${unit}.`;
  await new Promise<void>((resolve) => {
    const socket = connect(Number(port), host, () =>
      socket.end(`PRESS ${known.gauge} = ${text} ${unit.toUpperCase()}\n`),
    );
    // what all who listen hear comes back here too, and is let go
    socket
      .resume()
      .on('close', () => resolve())
      .on('error', () => resolve());
  });
  return `${known.name} of part ${machine.made}: the ${known.gauge} shows ${text} ${unit}, and sent it.`;
}

async function formOf(request: IncomingMessage): Promise<URLSearchParams> {
  let text = '';
  for await (const piece of request) {
    text += String(piece);
    if (text.length > 10_000) break;
  }
  return new URLSearchParams(text);
}

/** What somebody does at a panel. */
async function atPanel(station: Station, what: string, form: URLSearchParams): Promise<void> {
  const own = ['start', 'hold', 'key', 'change'].includes(what);
  if (own && !station.taken) return void (station.message = 'Take the machine first: the crew works it.');
  if (what === 'take') station.take(!station.taken);
  if (what === 'start') station.cycleStart();
  if (what === 'hold') station.hold();
  if (what === 'change') station.change(Number(form.get('tool')));
  if (what === 'measure') station.message = await measure(station, Number(form.get('size')));
  if (what === 'key') {
    const register = Number(form.get('register'));
    const value = keyedValue(form.get('value') ?? '', station);
    if (value === null) station.message = 'That is no number.';
    else station.key(register, value + (form.has('more') ? (station.machine.control.get(register) ?? 0) : 0));
  }
}

const TEXT = { 'content-type': 'text/plain; charset=utf-8' };
const HTML = { 'content-type': 'text/html; charset=utf-8', 'cache-control': 'no-store' };
const XML = { 'content-type': 'application/xml' };
const JSONS = { 'content-type': 'application/json', 'cache-control': 'no-store' };
const of = (name: string) => stations.find(({ device }) => device.name === name);

/** What the agent of a machine is asked for. */
function asAgent(station: Station, url: URL, what: string, response: ServerResponse): boolean {
  const { device } = station;
  if (what === 'current') return (response.writeHead(200, XML).end(device.current()), true);
  if (what === 'probe') return (response.writeHead(200, XML).end(device.probe()), true);
  if (what === 'assets') return (response.writeHead(200, XML).end(station.assets()), true);
  if (what !== 'sample') return false;
  const asked = (key: string, otherwise: number) => Number(url.searchParams.get(key) ?? otherwise);
  const said = device.sample(asked('from', 0), asked('count', 100));
  response.writeHead(said === null ? 404 : 200, XML).end(said ?? device.refused());
  return true;
}

async function answer(request: IncomingMessage, response: ServerResponse): Promise<unknown> {
  const url = new URL(request.url ?? '/', 'http://stand-in');
  const [, first = '', second = '', third = ''] = url.pathname.split('/').map(decodeURIComponent);
  if (request.method === 'POST' && first === 'begin') {
    if (!begun) void play().catch((error: unknown) => console.error(error));
    begun = true;
    return response.writeHead(200, TEXT).end('begun\n');
  }
  if (first === '') return response.writeHead(200, HTML).end(firstPage(stations, { seed, rate, over }));
  const station = of(first === 'panel' ? second : first);
  if (!station) return response.writeHead(404, TEXT).end('no such machine\n');
  if (first !== 'panel') {
    if (request.method === 'GET' && asAgent(station, url, second, response)) return;
    return response.writeHead(405, TEXT).end('ask for probe, current, sample or assets\n');
  }
  if (request.method === 'POST') {
    await atPanel(station, third, await formOf(request));
    return response.writeHead(200, TEXT).end('done\n');
  }
  if (third === 'state') return response.writeHead(200, JSONS).end(JSON.stringify(screenOf(station)));
  if (third === 'table') {
    const { plant: of, control } = station.machine;
    const values = of.registers.map(({ kind, row, id }) => ({
      kind,
      row,
      value: nanometres(control.get(id) ?? 0),
    }));
    return response.writeHead(200, TEXT).end(tableText(of, values, cellNow().toISOString()).text);
  }
  return response.writeHead(200, HTML).end(panelPage(station));
}

const server = createServer((request, response) => {
  answer(request, response).catch((error: unknown) => {
    console.error(error);
    if (!response.headersSent) response.writeHead(500, TEXT);
    response.end('something went wrong here\n');
  });
});
server.listen(Number(process.env.SIM_PORT ?? 0), '127.0.0.1', () =>
  console.log(JSON.stringify({ port: (server.address() as { port: number }).port })),
);
for (const signal of ['SIGTERM', 'SIGINT'] as const) process.on(signal, () => process.exit(0));
