import type { ToolCall } from './reading.ts';

/** What kind of block a remark stands in. */
export type Beside = 'program' | 'nothing' | 'stop' | 'words';

/**
 * Which remark names a tool: the one in the block of its call; else the one on a line of its own right above it, or right below it. What
 * stands with the program's number, with a stop or with other words is of those, and the first remark of a program without a title is its
 * title.
 */
export class ToolNames {
  private above = '';
  private call: ToolCall | null = null;
  private here = '';
  /** The call still waits for a remark below it. */
  private waits = false;

  /** A block begins. */
  see(remark: string, beside: Beside): void {
    this.here = '';
    if (beside === 'nothing') {
      if (remark === '') return;
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
    call.remark = this.here || this.above;
    this.call = call;
    this.waits = call.remark === '';
    this.above = '';
  }

  /** The block is over: what stood above it is parted from what comes. */
  over(beside: Beside): void {
    if (beside !== 'nothing') this.above = '';
  }
}
