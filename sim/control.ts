// A stand-in for machine controls: answers as an MTConnect agent does (an open standard), one path a machine, with a
// count of parts that goes up as time passes, and its tools, whose lives go down with it. It ships with the demo and drives no machine.
import { createServer } from 'node:http';
import { readFileSync, renameSync, writeFileSync } from 'node:fs';
import { assets, type Cutter } from './assets.ts';
import { Device, type DeviceJob, type OffsetRows } from './device.ts';

interface Counted extends DeviceJob {
  /** When it had made so many. */
  since: number;
}

const cutters = JSON.parse(process.env.SIM_CUTTERS ?? '{}') as Record<string, Cutter[]>;
const stateFile = process.env.SIM_STATE;
const port = Number(process.env.SIM_PORT ?? 0);
const known = new Map<string, Counted>(Object.entries(load()));

function load(): Record<string, Counted> {
  const jobs = JSON.parse(process.env.SIM_JOBS ?? '{}') as Record<string, Omit<Counted, 'since'>>;
  const fresh = Object.fromEntries(
    Object.entries(jobs).map(([name, job]) => [
      name,
      { ...job, made: job.made + 2 * job.parts, since: Date.now() },
    ]),
  );
  if (!stateFile) return fresh;
  try {
    const kept = JSON.parse(readFileSync(stateFile, 'utf8')) as Record<string, Counted>;
    // a control that was switched off made nothing meanwhile
    for (const each of Object.values(kept)) each.since = Date.now();
    return { ...fresh, ...kept };
  } catch {
    return fresh;
  }
}

const count = ({ made, since, cycle, parts }: Counted) =>
  made + Math.floor((Date.now() - since) / cycle) * parts;

/** Parts that the lives were counted from: those of the record, when the control was switched on. */
const begun = new Map(
  Object.entries(JSON.parse(process.env.SIM_JOBS ?? '{}') as Record<string, { made: number }>).map(
    ([name, { made }]) => [name, made],
  ),
);

function save(): void {
  if (!stateFile) return;
  const now = Object.fromEntries([...known].map(([name, each]) => [name, { ...each, made: count(each) }]));
  writeFileSync(`${stateFile}.new`, JSON.stringify(now));
  renameSync(`${stateFile}.new`, stateFile);
}

const held = (name: string) => {
  const parts = Math.max(0, count(known.get(name)!) - (begun.get(name) ?? 0));
  return (cutters[name] ?? []).map((cutter) => ({ ...cutter, parts: cutter.use > 0 ? parts : 0 }));
};

const tables = JSON.parse(process.env.SIM_TABLES ?? '{}') as Record<string, OffsetRows>;
const devices = new Map(
  [...known].map(([name, job]) => [
    name,
    new Device(
      name,
      job,
      () => count(known.get(name)!),
      () => known.get(name)!.since,
      tables[name] ?? {},
      Number(process.env.SIM_BUFFER ?? 4096),
    ),
  ]),
);
setInterval(() => devices.forEach((device) => device.tick()), 250).unref();

/** What people do at the stand-in: an alarm, a held feed, a row that somebody keys. */
function handled(device: Device, url: URL, what: string): boolean {
  const asked = (name: string) => url.searchParams.get(name) ?? '';
  if (what === 'put') {
    // POST /egret/put?execution=FEED_HOLD, or ?alarm=low%20air; without either it runs on
    const execution = asked('execution');
    device.put(
      execution === 'FEED_HOLD' || execution === 'PROGRAM_STOPPED' ? execution : 'ACTIVE',
      asked('alarm'),
    );
    return true;
  }
  if (what === 'offset') {
    // POST /egret/offset?row=5&cell=LENGTH&value=120.5 (mm)
    const cells = (device.offsets[asked('row')] ??= {});
    cells[asked('cell')] = Number(asked('value'));
    return true;
  }
  return false;
}

const XML = { 'content-type': 'application/xml' };
const server = createServer((request, response) => {
  const url = new URL(request.url ?? '/', 'http://stand-in');
  const [, name = '', what = ''] = url.pathname.split('/');
  const machine = known.get(name);
  if (!machine) return void response.writeHead(404).end('no such machine\n');
  const device = devices.get(name)!;
  if (request.method === 'GET' && what === 'current')
    return void response.writeHead(200, XML).end(device.current());
  if (request.method === 'GET' && what === 'probe')
    return void response.writeHead(200, XML).end(device.probe());
  if (request.method === 'GET' && what === 'sample') {
    const asked = (key: string, otherwise: number) => Number(url.searchParams.get(key) ?? otherwise);
    const said = device.sample(asked('from', 0), asked('count', 100));
    return void response.writeHead(said === null ? 404 : 200, XML).end(said ?? device.refused());
  }
  if (request.method === 'POST' && handled(device, url, what))
    return void response.writeHead(200).end('done\n');
  if (request.method === 'GET' && what === 'assets')
    return void response.writeHead(200, XML).end(assets(name, held(name), new Date()));
  if (request.method === 'POST' && what === 'length') {
    // a tool breaks (minus), or slips in its holder (plus): POST /egret/length?tool=5&by=-9
    const cutter = cutters[name]?.find(({ tool }) => tool === Number(url.searchParams.get('tool')));
    if (!cutter) return void response.writeHead(404).end('no such tool\n');
    cutter.length += Number(url.searchParams.get('by'));
    return void response.writeHead(200).end(`${cutter.length}\n`);
  }
  if (request.method === 'POST' && what === 'part') {
    // somebody presses cycle start: one cycle more
    machine.made += machine.parts;
    save();
    return void response.writeHead(200).end(`${count(machine)}\n`);
  }
  response
    .writeHead(405)
    .end('ask for probe, current, sample or assets, or post a part, a length, an offset or a state\n');
});

server.listen(port, '127.0.0.1', () =>
  console.log(JSON.stringify({ port: (server.address() as { port: number }).port })),
);
setInterval(save, 60_000).unref();
for (const signal of ['SIGTERM', 'SIGINT'] as const)
  process.on(signal, () => {
    save();
    process.exit(0);
  });
