import { connect } from 'node:net';
import { readPresetterLine, type PresetterResult } from '../core/formats/presetter-line.ts';

/** Where the presetter answers: host:port, from the environment; null when the cell has none. */
export const presetterAddress = (): string | null => process.env.TIN_PRESETTER ?? null;

const PATIENCE = 3000;
const LONGEST_LINE = 500;

/** Asks the presetter to measure what is in its fixture. A presetter that is away is a sentence. */
export function measureNow(number: string): Promise<PresetterResult> {
  const address = presetterAddress();
  if (!address)
    return Promise.resolve({ ok: false, reason: 'No presetter is connected here. Type what it shows.' });
  const [host, port] = address.split(':');
  return new Promise((resolve) => {
    const socket = connect({ host: host!, port: Number(port) });
    const done = (result: PresetterResult) => {
      socket.destroy();
      resolve(result);
    };
    const away = () => done({ ok: false, reason: 'The presetter does not answer. Type what it shows.' });
    let said = '';
    socket.setTimeout(PATIENCE, away);
    socket.on('error', away);
    socket.on('end', away);
    socket.on('connect', () => socket.write(`MEASURE ${number}\n`));
    socket.on('data', (part) => {
      said += String(part);
      const end = said.indexOf('\n');
      if (end >= 0) done(readPresetterLine(said.slice(0, end)));
      else if (said.length > LONGEST_LINE) done(readPresetterLine(said));
    });
  });
}
