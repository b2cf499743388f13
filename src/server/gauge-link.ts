import { connect } from 'node:net';
import { readGaugeLine, type GaugeLine } from '../core/formats/gauge-line.ts';
import { plainDecimal } from '../core/units/format-length.ts';
import type { Length } from '../core/units/length.ts';
import type { Outcome } from './outcome.ts';

/** Where the bench gauges send to: host:port, from the environment; null when none are connected. */
export const gaugeAddress = (): string | null => process.env.TIN_GAUGES ?? null;

const LONGEST_LINE = 500;
const AGAIN = 5000;

/** Hears every line that the gauges send until it is stopped; a box that is away is tried again. */
export function hearGauges(heard: (line: GaugeLine) => void): () => void {
  const address = gaugeAddress();
  if (!address) return () => {};
  const [host, port] = address.split(':');
  let over = false;
  let again: ReturnType<typeof setTimeout> | undefined;
  let socket: ReturnType<typeof connect> | undefined;
  const open = () => {
    let rest = '';
    socket = connect({ host: host!, port: Number(port) });
    socket.on('error', () => socket?.destroy());
    socket.on('data', (part) => {
      rest += String(part);
      const lines = rest.split('\n');
      rest = lines.pop()!;
      if (rest.length > LONGEST_LINE) socket?.destroy();
      for (const line of lines) if (line.trim() !== '') heard(readGaugeLine(line));
    });
    socket.on('close', () => {
      if (!over) again = setTimeout(open, AGAIN);
    });
  };
  open();
  return () => {
    over = true;
    clearTimeout(again);
    socket?.destroy();
  };
}

const PATIENCE = 2000;

/** Presses the data key of a gauge that can be asked; what it sends is heard like any other reading. `held`: what lies under it, for a stand-in. */
export function pressGauge(gauge: string, held: Length): Promise<Outcome<null>> {
  const address = gaugeAddress();
  if (!address)
    return Promise.resolve({ ok: false, reason: 'No gauges are connected here. Type what it shows.' });
  const [host, port] = address.split(':');
  return new Promise((resolve) => {
    const socket = connect({ host: host!, port: Number(port) });
    const away = () => {
      socket.destroy();
      resolve({ ok: false, reason: 'The gauges do not answer. Type what it shows.' });
    };
    socket.setTimeout(PATIENCE, away);
    socket.on('error', away);
    socket.on('connect', () =>
      socket.end(`PRESS ${gauge} AT ${plainDecimal(held, 'mm')}\n`, () => resolve({ ok: true, value: null })),
    );
  });
}
