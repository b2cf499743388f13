/**
 * What may be written into the ledger: for each kind of entry its stages, and what an entry of it must name. The database
 * checks the same list (`ledger_stages`); a stage that is not in it neither compiles nor is taken.
 */
export const STAGES = {
  register: ['measured', 'found', 'zeroed', 'transferred', 'rebased', 'corrected'],
  life: ['set', 'renewed', 'used', 'given back', 'corrected', 'read off'],
  placement: ['in', 'out', 'called'],
  correction: [
    'proposed',
    'approved',
    'held',
    'released',
    'refused',
    'superseded',
    'stopped',
    'applied',
    'judged',
    'cleared',
  ],
  reading: ['taken', 'questioned', 'taken back'],
  assembly: [
    'added',
    'changed',
    'built',
    'indexed',
    'reground',
    'preset',
    'flag',
    'renewal',
    'renewalDropped',
    'step',
    'labelled',
    'checked',
    'quarantined',
    'partsInspected',
    'quarantineEnded',
    'tipLooked',
    'probeCalibrated',
    'markSeen',
    'edgeTold',
  ],
  parts: ['made', 'taken back', 'broken off', 'scrapped'],
  program: [
    'brought in',
    'changed',
    'plan',
    'cutter',
    'material',
    'settled',
    'proven',
    'unproven',
    'waived',
    'interrupted',
    'read anew',
    'defined',
    'job',
    'job changed',
    'reordered',
    'started',
    'paused',
    'taken up',
    'set up',
    'stopped',
    'finished',
    'removed',
  ],
  machine: [
    'added',
    'dialect',
    'plate',
    'cells',
    'changeTimes',
    'rebased',
    'rack',
    'fork',
    'rackStep',
    'spindleUnsure',
    'spindleSure',
    'loadPlanMade',
    'loadPlanDone',
    'loadPlanDropped',
    'firstPart',
    'group',
    'groupKeyed',
    'groupInitialised',
    'groupRemoved',
    'pallet',
    'nightSchool',
    'runsOn',
    'toolCheck',
    'lifeCosts',
    'safetyNet',
    'controlLooked',
    'controlAnswered',
    'tableMapped',
  ],
  leaf: [
    'note',
    'question',
    'promise',
    'answered',
    'kept',
    'checked',
    'check list',
    'handed over',
    'taken over',
  ],
  people: ['added', 'changed'],
  cell: ['changed'],
  component: ['added', 'changed', 'merged', 'ordered', 'order closed', 'came back'],
  stock: ['counted', 'issued', 'returned', 'bought', 'reground', 'sent', 'unsharpened', 'merged'],
  pocket: ['declared', 'undeclared', 'heavy', 'light', 'reserved', 'released', 'inService', 'outOfService'],
} as const;

export type LedgerKind = keyof typeof STAGES;
export const LEDGER_KINDS = Object.keys(STAGES) as [LedgerKind, ...LedgerKind[]];
export type Stage<K extends LedgerKind> = (typeof STAGES)[K][number];

/** What every entry says: who stands behind it, what happened, and why. */
interface Said {
  personId: number;
  said: string;
  why?: string;
}

/** What an entry may be about, beside what its kind asks for. */
interface About {
  machineId?: number | null;
  assemblyId?: number | null;
  programId?: number | null;
  jobId?: number | null;
  readingId?: number | null;
  proposalId?: number | null;
  tool?: number | null;
  detail?: object;
}

/** A kept value that moves by the entry: from what it must hold, to what it then holds. */
interface Moves {
  before: number;
  after: number;
}

interface OfKind {
  register: Moves & { registerId: number };
  life: Moves & { counterId: number };
  placement: { machineId: number; placeId: number };
  correction: { proposalId: number };
  reading: { readingId: number };
  assembly: { assemblyId: number };
  /** `of`: the count that is taken back. `instead`: one that this puts right. `place`: its place in the order of the entries, where it was told so many seconds before it was entered. */
  parts: {
    jobId: number;
    /** `inUse`: which member of each group cut the last part before. */
    detail: {
      before: number;
      parts: number;
      of?: number;
      instead?: number;
      place?: number;
      ago?: number;
      inUse?: { id: number; tool: number | null }[];
      /** So many more, or fewer, are scrap, and so many more, or fewer, are to be made. */
      scrapped?: number;
      again?: number;
    };
  };
  program: object;
  machine: { machineId: number };
  leaf: object;
  people: object;
  cell: object;
  component: object;
  stock: Moves & { componentId: number };
  pocket: { machineId: number; placeId: number };
}

/** What single stages ask for beside that. */
interface OfStage {
  'placement.in': { assemblyId: number; tool: number };
  'placement.out': { assemblyId: number };
  'placement.called': { detail: { spindle: number | null; pocket: number | null } };
  'pocket.declared': { tool: number };
  'assembly.flag': { detail: { flag: string | null } };
}

export type FieldsOf<K extends LedgerKind, S extends Stage<K>> = Said &
  About &
  OfKind[K] &
  (`${K}.${S}` extends keyof OfStage ? OfStage[`${K}.${S}`] : object);

/** An entry of the ledger, by its kind and stage. */
export type Entry = {
  [K in LedgerKind]: { [S in Stage<K>]: { kind: K; stage: S } & FieldsOf<K, S> }[Stage<K>];
}[LedgerKind];

const of =
  <K extends LedgerKind>(kind: K) =>
  <S extends Stage<K>>(stage: S, fields: FieldsOf<K, S>) =>
    ({ kind, stage, ...fields }) as { kind: K; stage: S } & FieldsOf<K, S>;

/** One constructor for each kind: `entry.register('measured', { … })`. */
export const entry = {
  register: of('register'),
  life: of('life'),
  placement: of('placement'),
  correction: of('correction'),
  reading: of('reading'),
  assembly: of('assembly'),
  parts: of('parts'),
  program: of('program'),
  machine: of('machine'),
  leaf: of('leaf'),
  people: of('people'),
  cell: of('cell'),
  component: of('component'),
  stock: of('stock'),
  pocket: of('pocket'),
} as const;
