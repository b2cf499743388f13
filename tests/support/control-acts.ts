import { machineById, WEAR_KINDS } from '../../src/server/machines.ts';
import { nanometres, type Length } from '../../src/core/units/length.ts';
import { tableText } from '../../src/core/control/table-text.ts';
import {
  answerLook,
  bringTable,
  compareLook,
  lookAtControl,
  recordText,
} from '../../src/server/control-looks.ts';
import { lastEntry } from '../../src/server/control-roads.ts';
import { cellNow } from '../../src/server/clock.ts';
import { pool, rows } from '../../src/server/db.ts';
import { rebase } from '../../src/server/lengths.ts';
import { callsOf } from '../../src/server/programs.ts';
import { keepPutBack } from '../../src/server/put-back.ts';
import { readCopies } from '../../src/server/second-part.ts';
import { as, type weirside } from './cell.ts';

import { EdgeActs } from './edge-acts.ts';
import type { Luck } from './player.ts';
import { SHIFT } from './true-lengths.ts';
type Cell = Awaited<ReturnType<typeof weirside>>;
/** The rows of a second part are so many further on. */
const BLOCK = 20;

/** The same, and people at the control: it loses its table and gets an old one back, is moved by nobody knows whom, read off and re-based. */
class ControlActs extends EdgeActs {
  private kept: { text: string; values: Map<number, Length> }[] = [];

  private async keepTable(): Promise<void> {
    const { text } = await recordText(pool(), this.machine, cellNow());
    this.kept.push({ text, values: new Map((await this.registers()).map(({ id, value }) => [id, value])) });
    this.tell('table kept');
  }
  /** The control has lost its table, and gets one back that was kept. */
  private async putBack(): Promise<void> {
    const kept = this.pick(this.kept);
    if (!kept) return;
    const registers = await this.registers();
    for (const { id } of registers) this.control.set(id, kept.values.get(id)!);
    this.secret.clear();
    for (const { id, value } of registers) if (kept.values.get(id) !== value) this.known.delete(id);
    const outcome = await keepPutBack(as(this.cell.lead), {
      machineId: this.machine.id,
      text: kept.text,
      shown: kept.text,
      entry: await lastEntry(pool()),
    });
    if (!this.took('put back', '', outcome)) this.fault('a kept table was refused');
  }

  /** Somebody moves a register at the control and tells nobody. */
  private async meddle(): Promise<void> {
    const register = this.pick(
      (await this.registers()).filter(({ kind }) => this.kinds.includes(kind) || WEAR_KINDS.includes(kind)),
    );
    if (!register) return;
    this.control.set(register.id, nanometres(register.value + this.step(400) * 10));
    this.secret.add(register.id);
    this.tell('meddled', `${register.kind} ${register.row}`);
  }
  private async readOff(): Promise<void> {
    const registers = await this.registers();
    const { text, left } = tableText(
      this.machine,
      registers.map((each) => ({ kind: each.kind, row: each.row, value: this.control.get(each.id)! })),
      cellNow().toISOString(),
    );
    const outcome = await bringTable(as(this.cell.setter), {
      machineId: this.machine.id,
      fileName: 'table',
      text,
      kind: null,
      mapping: null,
      part: true,
    });
    if (!this.took('read off', '', outcome)) {
      this.fault('a table of the control was refused');
      return;
    }
    const unsaid = new Set(left.map(({ kind, row }) => `${kind} ${row}`));
    for (const each of registers) if (!unsaid.has(`${each.kind} ${each.row}`)) this.secret.delete(each.id);
    const look = (await lookAtControl(pool(), this.machine.id, outcome.value.id))!;
    const { differences } = await compareLook(pool(), this.machine, look);
    for (const { register } of differences) {
      if (this.happens(0.4)) continue;
      const answer = this.happens(0.8) ? 'record' : 'open';
      const said = await answerLook(as(this.cell.setter), {
        machineId: this.machine.id,
        lookId: look.id,
        registers: [register.id],
        answer,
        why: 'somebody keyed into the wrong row',
      });
      if (this.took(`answered ${answer}`, `${register.kind} ${register.row}`, said) && answer === 'record')
        this.control.set(register.id, register.record);
    }
  }
  private async rebase(): Promise<void> {
    if (this.machine.lengthSchool === 'gaugeLength' || this.machine.kind === 'lathe') return;
    const plane = this.machine.lengthSchool === 'touchOff';
    const before = plane ? this.machine.planeConstant : this.machine.masterLength;
    const outcome = await rebase(as(this.cell.lead), {
      machineId: this.machine.id,
      before,
      value: nanometres(before + (this.happens(0.5) ? 1 : -1) * this.step(300) * 10),
      why: 'another plane',
      entry: await lastEntry(pool()),
    });
    if (!this.took('rebased', '', outcome)) return;
    const held = new Map((await this.registers()).map((each) => [each.id, each]));
    this.machine = (await machineById(pool(), this.machine.id))!;
    for (const each of held.values())
      if (each.kind === 'lengthGeometry' && each.value !== 0) this.key(each, each.value);
  }
  private async copy(): Promise<void> {
    if (this.machine.kind !== 'lathe') return;
    const tool = this.pick([...this.stands.keys()].filter((each) => each < 12));
    if (tool === undefined) return;
    const registers = await this.registers();
    const at = (row: number) =>
      registers.filter(
        (each) => each.row === row && (this.kinds.includes(each.kind) || WEAR_KINDS.includes(each.kind)),
      );
    const target = at(tool + BLOCK);
    const shown = target.map((each) => {
      const source = at(tool).find(({ kind }) => kind === each.kind)!;
      return {
        registerId: each.id,
        value: nanometres(source.value + (each.kind === 'zGeometry' ? SHIFT : 0)),
      };
    });
    const family = {
      rows: [tool],
      block: BLOCK,
      partLength: nanometres(-SHIFT),
      parting: nanometres(0),
      facing: nanometres(0),
    };
    const outcome = await readCopies(as(this.cell.setter), this.machine, family, shown);
    if (!this.took('copied', `row ${tool}`, outcome)) return;
    for (const { registerId, value } of shown) {
      const register = target.find(({ id }) => id === registerId)!;
      this.key(register, value);
      const source = at(tool).find(({ kind }) => kind === register.kind)!;
      if (WEAR_KINDS.includes(register.kind)) {
        const own = this.wanted.get(source.id);
        if (own && value !== 0) this.wanted.set(registerId, own);
        else this.wanted.delete(registerId);
      } else if (this.known.get(source.id) === this.epoch(tool)) this.known.set(registerId, this.epoch(tool));
      else this.known.delete(registerId);
    }
  }

  async something(): Promise<void> {
    const dice = this.luck.next();
    if (dice < 0.14) await this.takeOut();
    else if (dice < 0.32) await this.place();
    else if (dice < 0.55) await this.measure();
    else if (dice < 0.67) await this.wear();
    else if (dice < 0.71) await this.bench();
    else if (dice < 0.83) await this.renew();
    else if (dice < 0.87) await this.keepTable();
    else if (dice < 0.89) await this.putBack();
    else if (dice < 0.92) await this.meddle();
    else if (dice < 0.95) await this.readOff();
    else if (dice < 0.96) await this.rebase();
    else await this.copy();
  }
}

export async function edgesOn(cell: Cell, name: string, luck: Luck): Promise<ControlActs> {
  const machine = (await machineById(pool(), await cell.machine(name)))!;
  const programs = await rows<{ id: number }>(
    pool(),
    'SELECT g.id FROM program g WHERE g.machine_id = $1 AND g.revision = (SELECT max(o.revision) FROM program o WHERE o.machine_id = g.machine_id AND o.number = g.number) ORDER BY g.id',
    [machine.id],
  );
  const read = [];
  for (const { id } of programs) read.push({ id, calls: await callsOf(pool(), id) });
  const played = new ControlActs(cell, machine, luck, read);
  await played.begin();
  return played;
}
