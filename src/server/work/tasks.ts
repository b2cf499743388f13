import { carry } from '../../core/changer/carry.ts';
import { loadPlan } from '../../core/changer/load-plan.ts';
import { makeRoom } from '../../core/changer/make-room.ts';
import { replay, tryPolicies, walk } from '../../core/correction/lab.ts';
import { askAgain, readToolFile } from '../../core/formats/tool-file.ts';
import { answerNight } from '../../core/life/night.ts';
import { changesBetween } from '../../core/program/changes.ts';
import { readProgram } from '../../core/program/read-program.ts';
import { restartAt } from '../../core/program/restart.ts';
import { changesWithout } from '../../core/safety-net/called.ts';
import { tryAll } from '../../core/safety-net/try-net.ts';

/** What is worked out beside the request's thread: data in, data out. */
export const TASKS = {
  answerNight,
  carry,
  changesBetween,
  changesWithout,
  loadPlan,
  makeRoom,
  readProgram,
  readToolFile,
  restartAt,
  askAgain,
  replay,
  tryAll,
  tryPolicies,
  walk,
} as const;
export type Task = keyof typeof TASKS;
