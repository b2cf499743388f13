import { createHash } from 'node:crypto';
import { carry } from '../../core/changer/carry.ts';
import { loadPlan } from '../../core/changer/load-plan.ts';
import { makeRoom } from '../../core/changer/make-room.ts';
import { replay, tryPolicies, walk } from '../../core/correction/lab.ts';
import { askAgain, readToolFile } from '../../core/formats/tool-file.ts';
import { answerNight } from '../../core/life/night-answer.ts';
import { changesBetween } from '../../core/program/changes.ts';
import type { Dialect } from '../../core/program/dialect.ts';
import type { Beyond } from '../../core/program/program-run.ts';
import { lineMarks } from '../../core/program/lines.ts';
import { readProgram } from '../../core/program/read-program.ts';
import { restartAt } from '../../core/program/restart.ts';
import { changesWithout } from '../../core/safety-net/called.ts';
import { tryAll } from '../../core/safety-net/try-net.ts';
import { sheetText } from './sheet-text.ts';
import { tell } from './tell.ts';

/** What is worked out beside the request's thread: data in, data out. */
export const TASKS = {
  answerNight,
  carry,
  changesBetween,
  changesWithout,
  loadPlan,
  makeRoom,
  /** With what a text of megabytes is kept by: its hash, and where its lines begin. */
  readProgram: (text: string, dialect: Dialect, beyond: Omit<Beyond, 'told'>) => ({
    result: readProgram(text, dialect, { ...beyond, told: (line, of) => tell(line / of) }),
    marks: lineMarks(text),
    sha256: createHash('sha256').update(text).digest('hex'),
  }),
  readToolFile,
  sheetText,
  restartAt,
  askAgain,
  replay,
  tryAll,
  tryPolicies,
  walk,
} as const;
export type Task = keyof typeof TASKS;
