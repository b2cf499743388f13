import { z } from 'zod';
import { stateLines } from '$core/agent/machine-state';
import { registerProgram } from '$core/correction/register-text';
import { registerDecimals } from '$core/units/register-decimals';
import { meets } from '$core/control/assumed';
import { assumedWords, countedWords, explanationWords, registerWords, wholeWords } from '$core/control/words';
import type { HeldRegister } from '$core/control/held';
import { may } from '$core/people/roles';
import { formatLength } from '$core/units/format-length';
import {
  answerLook,
  bringTable,
  changedBetween,
  compareLook,
  lookAtControl,
  looksAt,
} from '$server/control-looks';
import { differingElsewhere } from '$server/control-differing';
import { addressOf } from '$server/control-link';
import { mappingsOf } from '$server/control-mappings';
import { bringFromAgent } from '$server/control-roads';
import { pool } from '$server/db';
import { fileText } from '$server/file-text';
import { bringPockets, bringPocketsFromAgent, pocketLookOf } from '$server/pocket-looks';
import type { Outcome } from '$server/outcome';
import { act, id, ticked, words } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ parent, url, locals }) => {
  const { machine } = await parent();
  const db = pool();
  const asked = id.safeParse(url.searchParams.get('look'));
  const look = await lookAtControl(db, machine.id, asked.success ? asked.data : null);
  const { role } = locals.person!;
  const written = { unit: machine.unit, decimals: registerDecimals(machine.unit, machine.increment) };
  const show = (value: Parameters<typeof formatLength>[0]) =>
    formatLength(value, machine.unit, { decimals: written.decimals, sign: 'always' });
  const compared = look && (await compareLook(db, machine, look));
  const since = id.safeParse(url.searchParams.get('since'));
  const between = look && since.success ? await changedBetween(db, machine.id, look, since.data) : null;
  /** What programs take a register for: first what it does not hold. */
  const programs = ({ kind, row, control }: HeldRegister) =>
    (compared?.assumed ?? [])
      .filter((each) => each.kind === kind && each.row === row)
      .map((each) => ({
        words: assumedWords(each, written),
        misses: meets(each, control, machine.increment) === false,
      }))
      .sort((a, b) => Number(b.misses) - Number(a.misses));
  const answers = new Map(compared?.answers.map((each) => [each.register, each]));
  const differences = (compared?.differences ?? []).map((difference) => ({
    id: difference.register.id,
    words: registerWords(difference.register),
    record: show(difference.register.record),
    control: show(difference.register.control),
    programs: programs(difference.register),
    parted: compared?.parted.get(difference.register.id) ?? null,
    told: difference.told,
    explanations: difference.explanations.slice(0, 3).map((each) => ({
      code: each.code,
      share: Math.round(each.likelihood * 100),
      words: explanationWords(each, difference, written),
    })),
    answer: answers.get(difference.register.id) ?? null,
  }));
  const toKey = (compared?.differences ?? []).filter(
    ({ register }) => answers.get(register.id)?.answer === 'record',
  );
  return {
    looks: await looksAt(db, machine.id),
    elsewhere: look ? await differingElsewhere(db, machine.id, look.id) : [],
    /** What the control did when its agent gave the table out, and the lives that it counted. */
    then: look?.state
      ? {
          lines: stateLines(look.state),
          lives: (look.lives ?? []).map((life) => ({ tool: life.tool, words: countedWords(life) })),
        }
      : null,
    look: look && { id: look.id, at: look.at, person: look.person, fileName: look.fileName },
    whole: compared?.whole
      ? {
          words: wholeWords(compared.whole, written),
          stranger: compared.whole.code === 'otherMachine',
          lost: compared.whole.code === 'cleared' || compared.whole.code === 'emptied',
        }
      : null,
    agree: compared?.agree ?? 0,
    moved: (compared?.moved ?? []).map((each) => registerWords(each)),
    differences,
    /** Record and control agree, and a program takes it for something else. */
    apart: (compared?.apart ?? []).map((each) => ({
      id: each.id,
      words: registerWords(each),
      record: show(each.record),
      programs: programs(each).filter(({ misses }) => misses),
    })),
    /** What is to be keyed because the record is right, as a program with its unit and guards where the machine has them. */
    keyText: registerProgram(
      machine.dialect,
      machine.unit,
      toKey.map(({ register }) => ({
        registerKind: register.kind,
        row: register.row,
        from: register.control,
        to: register.record,
      })),
    ),
    kinds: Object.keys(machine.dialect.setRegister),
    mappings: await mappingsOf(db, machine.id),
    agent: addressOf(machine) !== null,
    between: between && {
      at: between.at,
      changes: between.changes.map(({ register, from, to }) => ({
        id: register.id,
        words: registerWords(register),
        from: show(from),
        to: show(to),
      })),
    },
    pockets: await pocketLookOf(db, machine),
    mayBring: may(role, 'keyCorrections'),
    mayAnswer: may(role, 'placeTools'),
  };
};

/** What is brought in is not registers but which T stands where. */
const POCKETS = 'pockets';

const file = z.instanceof(File).optional();

export const actions: Actions = {
  bring: act(
    z.object({
      file,
      text: z.string().max(500_000).default(''),
      kind: z.string().max(30).default(''),
      part: ticked,
    }),
    async ({ input, asking, event }): Promise<Outcome<unknown>> => {
      const given = input.file && input.file.size > 0 ? await fileText(input.file) : null;
      if (given && !given.ok) return given;
      const text = given?.value.text ?? input.text;
      if (text.trim() === '') return { ok: false, reason: 'Choose a file, or paste the table.' };
      if (input.kind === POCKETS)
        return bringPockets(asking, {
          machineId: Number(event.params.id),
          fileName: given?.value.fileName ?? 'pasted',
          text,
        });
      const layout = /^layout (\d{1,9})$/.exec(input.kind);
      return bringTable(asking, {
        machineId: Number(event.params.id),
        fileName: given?.value.fileName ?? 'pasted',
        text,
        kind: layout ? null : input.kind || null,
        mapping: layout ? Number(layout[1]) : null,
        part: input.part,
      });
    },
  ),
  agent: act(z.object({ what: z.enum(['registers', 'pockets']) }), ({ input, asking, event }) =>
    (input.what === 'pockets' ? bringPocketsFromAgent : bringFromAgent)(asking, Number(event.params.id)),
  ),
  answer: act(
    z.object({
      look: id,
      registers: z
        .string()
        .transform((text) => text.split(' ').filter(Boolean).map(Number))
        .refine((all) => all.length > 0 && all.every(Number.isInteger), 'Tick what you answer.'),
      answer: z.enum(['control', 'record', 'open']),
      why: words('The reason', 300),
    }),
    ({ input, asking, event }) =>
      answerLook(asking, {
        machineId: Number(event.params.id),
        lookId: input.look,
        registers: input.registers,
        answer: input.answer,
        why: input.why,
      }),
  ),
};
