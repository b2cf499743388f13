/** What the table says of a pocket, as the ledger moves it. */
export interface TableState {
  wide: boolean;
  tied: number | null;
  heavy: boolean;
  reserved: boolean;
  inService: boolean;
}

export type TableStage =
  | 'declared'
  | 'undeclared'
  | 'heavy'
  | 'light'
  | 'reserved'
  | 'released'
  | 'inService'
  | 'outOfService';

/** An entry about one pocket; `tool` is the T that it was declared wide for. */
export interface TableEntry {
  stage: TableStage;
  tool: number | null;
  /** It was made after the moment that is asked for. */
  later: boolean;
}

/**
 * What the table said of a pocket at a past moment: the present state with every later entry taken back, the last one first.
 * The beginning is not in the ledger (a machine is brought in with its pockets), so it is told backwards.
 * @param entries all of this pocket, in order
 */
export function tableThen(now: TableState, entries: readonly TableEntry[]): TableState {
  let state = { ...now };
  for (let i = entries.length - 1; i >= 0 && entries[i]!.later; i -= 1)
    switch (entries[i]!.stage) {
      case 'declared':
        state = { ...state, wide: false, tied: null };
        break;
      case 'undeclared': {
        const declared = entries.slice(0, i).findLast((each) => each.stage === 'declared');
        state = { ...state, wide: declared !== undefined, tied: declared?.tool ?? null };
        break;
      }
      case 'heavy':
      case 'light':
        state = { ...state, heavy: entries[i]!.stage === 'light' };
        break;
      case 'reserved':
      case 'released':
        state = { ...state, reserved: entries[i]!.stage === 'released' };
        break;
      case 'inService':
      case 'outOfService':
        state = { ...state, inService: entries[i]!.stage === 'outOfService' };
    }
  return state;
}
