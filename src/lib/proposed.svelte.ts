/**
 * What a field proposes until somebody says otherwise. Pages load their data anew whenever anybody records something, so what is
 * proposed may change at any moment: what was typed stands through it, and so does what stood there when somebody began to rely on it.
 */
export class Proposed<Value> {
  private held = $state.raw<{ value: Value } | null>(null);
  private readonly proposal: () => Value;

  /** @param proposal what is proposed now, by what the page knows */
  constructor(proposal: () => Value) {
    this.proposal = proposal;
  }

  get value(): Value {
    return this.held ? this.held.value : this.proposal();
  }
  set value(value: Value) {
    this.held = { value };
  }

  /** What stands there stays, whatever is proposed from now on. */
  hold(): void {
    this.held ??= { value: this.proposal() };
  }

  /** What was typed is done with: what is proposed stands there again. */
  release(): void {
    this.held = null;
  }
}
