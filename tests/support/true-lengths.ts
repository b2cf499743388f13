import { geometryKinds, WEAR_KINDS, type Machine } from '../../src/server/machines.ts';
import { nanometres, type Length } from '../../src/core/units/length.ts';
import { registerFromGaugeLength, referenceOf } from '../../src/core/length/schools.ts';
import type { ToolCall } from '../../src/core/program/reading.ts';
import type { Finding } from '../../src/core/readiness/question.ts';
import { pool } from '../../src/server/db.ts';
import { groupsOf } from '../../src/server/groups.ts';
import type { Outcome } from '../../src/server/outcome.ts';
import { placesOf } from '../../src/server/places.ts';
import { programById } from '../../src/server/programs.ts';
import { readinessOf } from '../../src/server/readiness.ts';
import { registersOf, type RegisterRow } from '../../src/server/registers.ts';
import { toolRows } from '../../src/server/tool-rows.ts';
import type { weirside } from './cell.ts';

import { Player, type Luck } from './player.ts';
type Cell = Awaited<ReturnType<typeof weirside>>;
/** By how much the block of a second part lies nearer to the chuck: 3.77 in, as the rows of the made-up cell have it. */
export const SHIFT = nanometres(-95_758_000);

/**
 * A machine whose tools and edges come and go, and whose control is meddled with, read off and set back. How long each edge really is, and
 * what the control really holds, is known here alone.
 */
export class TrueLengths extends Player {
  /** Of each assembly what its present edge gives in a register of a kind: a gauge length on a mill. */
  protected readonly edges = new Map<number, Map<string, number>>();
  protected readonly control = new Map<number, Length>();
  /** Wear that was keyed for the edge that cuts now, by register: whose, and which edge of it. */
  protected readonly wanted = new Map<number, { epoch: string; value: Length }>();
  /** Registers that somebody moved at the control, and told nobody. */
  protected readonly secret = new Set<number>();
  protected readonly stands = new Map<number, { assemblyId: number; placeId: number; since: number }>();
  protected readonly edge = new Map<number, number>();
  /** Geometry that was measured for the edge that cuts now, and that nobody moved since. */
  protected readonly known = new Map<number, string>();
  protected renewing: { assemblyId: number; steps: (() => Promise<void>)[] } | null = null;
  protected placings = 0;

  constructor(
    protected readonly cell: Cell,
    protected machine: Machine,
    luck: Luck,
    protected readonly programs: readonly { id: number; calls: readonly ToolCall[] }[],
  ) {
    super(luck);
  }

  protected took<T>(what: string, of: string, outcome: Outcome<T>): outcome is { ok: true; value: T } {
    this.tell(outcome.ok ? what : `not ${what}`, outcome.ok ? of : `${of}: ${outcome.reason}`);
    return outcome.ok;
  }
  protected get kinds() {
    return geometryKinds(this.machine.kind);
  }
  protected registers = () => registersOf(pool(), this.machine.id);
  protected epoch(tool: number): string {
    const { assemblyId, since } = this.stands.get(tool)!;
    return `${assemblyId} ${since} ${this.edge.get(assemblyId) ?? 0}`;
  }
  /** What a register of geometry must hold for the tool that stands in a T. */
  protected expected({ kind, row }: { kind: string; row: number }, tool: number): Length {
    const edge = this.edges.get(this.stands.get(tool)!.assemblyId)!.get(kind)!;
    if (this.machine.kind === 'mill')
      return registerFromGaugeLength(nanometres(edge), referenceOf(this.machine));
    return nanometres(edge + (kind === 'zGeometry' && row !== tool ? SHIFT : 0));
  }
  protected step(most: number): number {
    return (1 + Math.floor(this.luck.next() * most)) * this.machine.increment;
  }
  /** Another edge, or another length: from a tenth of a millimetre to a few. */
  protected fresh(assemblyId: number): void {
    const of = this.edges.get(assemblyId)!;
    for (const [kind, value] of of)
      of.set(kind, value + (this.happens(0.5) ? 1 : -1) * (1_016_000 + this.step(200) * 10));
    this.edge.set(assemblyId, (this.edge.get(assemblyId) ?? 0) + 1);
  }
  /** An assembly whose length nobody here knew yet. */
  protected meet(assemblyId: number): void {
    if (this.edges.has(assemblyId)) return;
    const base = this.machine.kind === 'mill' ? 120_650_000 : -203_200_000;
    this.edges.set(assemblyId, new Map(this.kinds.map((kind) => [kind, base + this.step(500) * 50])));
  }

  async begin(): Promise<void> {
    const registers = await this.registers();
    for (const { id, value } of registers) this.control.set(id, value);
    const used = await toolRows(pool(), this.machine);
    for (const place of await placesOf(pool(), this.machine.id)) {
      if (!place.assembly) continue;
      const { id } = place.assembly;
      this.stands.set(place.tool!, { assemblyId: id, placeId: place.id, since: 0 });
      this.meet(id);
      if (!place.assembly.measured) continue;
      const back = registerFromGaugeLength(nanometres(0), referenceOf(this.machine));
      for (const each of registers.filter((one) => one.row === place.tool && this.kinds.includes(one.kind)))
        this.edges.get(id)!.set(each.kind, this.machine.kind === 'mill' ? each.value - back : each.value);
    }
    for (const [tool, own] of used)
      for (const each of registers.filter(({ row }) => own.includes(row) || row === tool)) {
        if (WEAR_KINDS.includes(each.kind) && each.value !== 0)
          this.wanted.set(each.id, { epoch: this.epoch(tool), value: each.value });
      }
  }

  /** The rows that a T is used with, its own first. */
  protected async rowsOf(tool: number): Promise<number[]> {
    return [...new Set([tool, ...((await toolRows(pool(), this.machine)).get(tool) ?? [])])];
  }
  protected key(register: RegisterRow, value: Length): void {
    this.control.set(register.id, value);
    this.secret.delete(register.id);
  }

  /** Where the control holds what is not right for the edge that cuts, the program is not said to be ready; where it is known to be right, it is not stopped for it. */
  async look(): Promise<void> {
    const registers = await this.registers();
    const groups = await groupsOf(pool(), this.machine.id);
    for (const { id, calls } of this.programs) {
      const findings = await readinessOf(pool(), (await programById(pool(), id))!, 1, []);
      for (const tool of new Set(calls.map((call) => call.tool))) {
        const own = calls.filter((call) => call.tool === tool);
        const group = groups.find(({ number }) => number === tool);
        const uses = group?.members ?? [
          {
            tool,
            lengthRows: own.flatMap(({ lengthRows }) => lengthRows.map(({ row }) => row)),
            radiusRows: own.flatMap(({ radiusRows }) => radiusRows.map(({ row }) => row)),
          },
        ];
        for (const use of uses) {
          if (!this.stands.has(use.tool)) continue;
          const of = findings.filter((each) => each.tool === use.tool);
          const called = registers.filter(
            ({ row, kind }) =>
              row !== 0 && (kind.startsWith('cutter') ? use.radiusRows : use.lengthRows).includes(row),
          );
          this.inVain(
            use.tool,
            called.filter(({ kind }) => this.kinds.includes(kind)),
            of,
          );
          for (const each of called) this.held(each, { program: id, tool: use.tool, of });
        }
      }
    }
  }
  /** Of a tool whose called rows were measured since it came, and hold that, nothing is told that stops the job. */
  private inVain(tool: number, called: readonly RegisterRow[], of: readonly Finding[]): void {
    if (called.length === 0 || this.renewing?.assemblyId === this.stands.get(tool)!.assemblyId) return;
    const epoch = this.epoch(tool);
    const right = called.every(
      (each) =>
        this.known.get(each.id) === epoch &&
        each.value === this.expected(each, tool) &&
        this.control.get(each.id) === each.value,
    );
    const told = of.find(
      ({ weight, code }) => weight === 'stop' && ['notMeasured', 'geometryLeft', 'zeroLength'].includes(code),
    );
    if (right && told) this.fault(`in vain: ${told.sentence}`);
    if (right) this.tally.set('known', (this.tally.get('known') ?? 0) + 1);
  }
  private held(
    register: RegisterRow,
    { program, tool, of }: { program: number; tool: number; of: readonly Finding[] },
  ): void {
    if (this.secret.has(register.id)) return;
    const other = [...this.stands.keys()].some((each) => each === register.row && each !== tool);
    if (other) return;
    const holds = this.control.get(register.id)!;
    const words = `program ${program}, T${tool}: ${register.kind} of row ${register.row}`;
    if (this.kinds.includes(register.kind)) {
      const right = this.expected(register, tool);
      const stops = of.filter(({ weight }) => weight === 'stop' || weight === 'unknown');
      if (holds !== right && stops.length === 0)
        this.fault(`${words} holds ${holds}, is to hold ${right}, and nothing is said of it`);
    } else if (WEAR_KINDS.includes(register.kind)) {
      const want = this.wanted.get(register.id);
      const right = want?.epoch === this.epoch(tool) ? want.value : 0;
      if (holds !== right && of.length === 0)
        this.fault(`${words} holds ${holds}, is to hold ${right}, and nothing is said of it`);
    }
  }
}
