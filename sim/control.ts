// A stand-in for machine controls: answers as an MTConnect agent does (an open standard), one path a machine, with a
// count of parts that goes up as time passes. It ships with the demo and drives no machine.
import { createServer } from 'node:http';
import { readFileSync, renameSync, writeFileSync } from 'node:fs';

interface Counted {
  /** Parts at `since`. */
  made: number;
  since: number;
  cycle: number;
  parts: number;
}

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

function save(): void {
  if (!stateFile) return;
  const now = Object.fromEntries([...known].map(([name, each]) => [name, { ...each, made: count(each) }]));
  writeFileSync(`${stateFile}.new`, JSON.stringify(now));
  renameSync(`${stateFile}.new`, stateFile);
}

const streams = (name: string, parts: number) => `<?xml version="1.0" encoding="UTF-8"?>
<MTConnectStreams xmlns="urn:mtconnect.org:MTConnectStreams:1.3">
  <Header creationTime="${new Date().toISOString()}" sender="${name}" instanceId="1" version="1.3" bufferSize="1" nextSequence="2" firstSequence="1" lastSequence="1"/>
  <Streams>
    <DeviceStream name="${name}" uuid="${name}">
      <ComponentStream component="Path" name="path" componentId="p">
        <Events>
          <PartCount dataItemId="pc" sequence="1" timestamp="${new Date().toISOString()}">${parts}</PartCount>
          <Execution dataItemId="ex" sequence="1" timestamp="${new Date().toISOString()}">ACTIVE</Execution>
        </Events>
      </ComponentStream>
    </DeviceStream>
  </Streams>
</MTConnectStreams>
`;

const server = createServer((request, response) => {
  const [, name = '', what = ''] = new URL(request.url ?? '/', 'http://stand-in').pathname.split('/');
  const machine = known.get(name);
  if (!machine) return void response.writeHead(404).end('no such machine\n');
  if (request.method === 'GET' && what === 'current')
    return void response
      .writeHead(200, { 'content-type': 'application/xml' })
      .end(streams(name, count(machine)));
  if (request.method === 'POST' && what === 'part') {
    // somebody presses cycle start: one cycle more
    machine.made += machine.parts;
    save();
    return void response.writeHead(200).end(`${count(machine)}\n`);
  }
  response.writeHead(405).end('ask for current, or post a part\n');
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
