import type { chance } from './chance.ts';

export type Luck = ReturnType<typeof chance>;

/** Somebody who does things at random and remembers them: what was wrong is told with what was done before it. */
export class Player {
  readonly wrong: string[] = [];
  /** How often each thing was done. */
  readonly tally = new Map<string, number>();
  private readonly story: string[] = [];

  constructor(protected readonly luck: Luck) {}

  protected pick = <T>(all: readonly T[]): T | undefined => all[Math.floor(this.luck.next() * all.length)];
  protected happens = (share: number) => this.luck.next() < share;
  protected fault = (text: string) => this.wrong.push(`${text}\n  ${this.story.slice(-18).join('\n  ')}`);
  protected tell(what: string, of = ''): void {
    this.tally.set(what, (this.tally.get(what) ?? 0) + 1);
    this.story.push(`${what} ${of}`);
  }
}
