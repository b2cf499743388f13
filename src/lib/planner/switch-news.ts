import type { bestOrder, SwitchAnswer, SwitchJob } from '../../core/changer/switching.ts';

/** What the page asks of the worker that looks for the best order of many jobs. */
export interface SwitchAsk {
  jobs: SwitchJob[];
  places: number;
  loaded: number[];
  locked: number[];
}

export type SwitchNews =
  | { kind: 'progress'; share: number; best: SwitchAnswer }
  | { kind: 'done'; answer: ReturnType<typeof bestOrder> };
