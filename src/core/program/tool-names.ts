import { readDefinition } from '../definition/read-definition.ts';
import type { ToolCall } from './reading.ts';

/** What kind of block a remark stands in. */
export type Beside = 'program' | 'nothing' | 'stop' | 'words';

/**
 * Which remark names a tool: the one in the block of its call; else the one on a line of its own right above it, or right below it. What
 * stands with the program's number, with a stop or with other words is of those, and the first remark of a program without a title is its
 * title. Where remarks before the first call list the tools by their T, that list names those whose calls do not: what stands there is
 * often the operation.
 */
export class ToolNames {
  private above = '';
  private call: ToolCall | null = null;
  private here = '';
  /** The call still waits for a remark below it. */
  private waits = false;
  private readonly machine: 'mill' | 'lathe';
  /** Remarks of the list before the first call, by T. */
  private readonly listed = new Map<number, string>();

  constructor(machine: 'mill' | 'lathe') {
    this.machine = machine;
  }

  /** Whether a remark may be a title: one behind a call, one of a list of tools, "T3 D=6.8 - DRILL", or behind it is none; nor is a tool with its size. */
  mayTitle(remark: string): boolean {
    if (this.call !== null || this.listed.size > 0 || this.lists(remark)) return false;
    return (readDefinition(remark, 'mm', this.machine)?.diameter ?? null) === null;
  }

  private lists(remark: string): boolean {
    return listedTool(remark) !== null && this.names(remark);
  }

  /** A block begins. */
  see(remark: string, beside: Beside): void {
    this.here = '';
    if (beside === 'nothing') {
      if (remark === '') return;
      if (this.call === null && this.lists(remark)) {
        const tool = listedTool(remark)!;
        if (!this.listed.has(tool)) this.listed.set(tool, remark);
      }
      if (this.waits && this.call && this.call.remark === '') {
        this.call.remark = remark;
        this.waits = false;
        return;
      }
      this.above = remark;
      return;
    }
    this.here = beside === 'words' ? remark : '';
    // words between a remark and a call part them; the call itself takes what stood above
    this.waits = false;
    if (beside !== 'words') this.above = '';
  }

  /** A block of words alone. */
  words(): void {
    this.here = '';
    this.above = '';
    this.waits = false;
  }

  called(call: ToolCall): void {
    const own = this.here || this.above;
    const listed = this.listed.get(call.tool);
    call.remark = listed === undefined || this.names(own) ? own : listed;
    this.call = call;
    this.waits = call.remark === '';
    this.above = '';
  }

  /** The block is over: what stood above it is parted from what comes. */
  over(beside: Beside): void {
    if (beside !== 'nothing') this.above = '';
  }

  /** Whether a remark says what kind of tool it is of. */
  private names(remark: string): boolean {
    return readDefinition(remark, 'mm', this.machine) !== null;
  }
}

const LISTED = /^\s*T\s*0*(\d{1,4})(?![\d.])\s*[-:=.]*\s*\S/i;
const listedTool = (remark: string): number | null => {
  const found = LISTED.exec(remark)?.[1];
  return found === undefined ? null : Number(found);
};
