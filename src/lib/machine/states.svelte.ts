import type { MachineState } from '$core/agent/machine-state';

interface HeardNow {
  state: MachineState;
  problem: string | null;
}

/** What the machines do, by their ids, as it was heard since this page was opened. */
export const states: Record<number, HeardNow> = $state({});

/** Takes a message of the live stream; false where it is about something else. */
export function hear(message: string): boolean {
  if (!message.startsWith('{"kind":"state"')) return false;
  const { machine, state, problem } = JSON.parse(message) as HeardNow & { machine: number };
  states[machine] = { state, problem };
  return true;
}
