import type { bestOrder, SwitchAnswer, SwitchJob, SwitchRoom } from '../../core/changer/switching.ts';

/** What the page asks of the worker that looks for the best order of many jobs. */
export interface SwitchAsk {
  jobs: SwitchJob[];
  room: SwitchRoom;
}

export type SwitchNews =
  | { kind: 'progress'; share: number; best: SwitchAnswer }
  | { kind: 'done'; answer: ReturnType<typeof bestOrder> };
