export const ROLES = ['lead', 'setter', 'operator', 'inspector', 'crib', 'viewer'] as const;
export type Role = (typeof ROLES)[number];

export const ROLE_WORDS: Readonly<Record<Role, string>> = {
  lead: 'cell lead',
  setter: 'setter',
  operator: 'operator',
  inspector: 'inspector',
  crib: 'crib attendant',
  viewer: 'viewer',
};

export interface Person {
  id: number;
  badge: string;
  name: string;
  role: Role;
}

/** What a person may do; the one table that every page and every act is checked against. */
const PERMISSIONS = {
  look: ['lead', 'setter', 'operator', 'inspector', 'crib', 'viewer'],
  lookLedger: ['lead', 'setter', 'operator', 'inspector', 'crib'],
  /** To open the way in at all; what kind of file is taken is asked for each kind below. */
  bringIn: ['lead', 'setter', 'inspector', 'crib'],
  bringInPrograms: ['lead', 'setter'],
  bringInTools: ['lead', 'setter', 'crib'],
  bringInPlans: ['lead', 'inspector'],
  bringInMachines: ['lead'],
  editMachines: ['lead'],
  placeTools: ['lead', 'setter'],
  measureTools: ['lead', 'setter', 'crib'],
  moveStock: ['lead', 'setter', 'crib'],
  buildTools: ['lead', 'setter', 'crib'],
  overrideBuilds: ['lead'],
  takeReadings: ['lead', 'setter', 'operator', 'inspector'],
  approveCorrections: ['lead', 'operator', 'setter'],
  approveAnyCorrection: ['lead'],
  keyCorrections: ['lead', 'setter', 'operator'],
  recordParts: ['lead', 'setter', 'operator'],
  runJobs: ['lead', 'setter'],
  flagTools: ['lead', 'setter', 'operator', 'inspector'],
  clearBroken: ['lead', 'setter', 'inspector'],
  renewTools: ['lead', 'setter', 'crib'],
  setLives: ['lead', 'setter'],
  writeNotes: ['lead', 'setter', 'operator', 'inspector', 'crib'],
  signLeaf: ['lead', 'setter', 'operator'],
  managePeople: ['lead'],
  editCell: ['lead'],
} as const satisfies Record<string, readonly Role[]>;

export type Act = keyof typeof PERMISSIONS;

export const may = (role: Role, act: Act): boolean => (PERMISSIONS[act] as readonly Role[]).includes(role);
export const rolesFor = (act: Act): readonly Role[] => PERMISSIONS[act];

/** The acts in words, as the page of people shows them. */
export const ACT_WORDS: Readonly<Record<Act, string>> = {
  look: 'look at the leaf, machines, tools',
  lookLedger: 'read the ledger',
  bringIn: 'bring in files',
  bringInPrograms: 'bring in programs',
  bringInTools: 'bring in tools',
  bringInPlans: 'bring in measuring plans',
  bringInMachines: 'bring in machines',
  editMachines: 'change a machine’s profile',
  placeTools: 'load and unload tools',
  measureTools: 'measure tools',
  moveStock: 'issue, return and count components',
  buildTools: 'build assemblies, index inserts',
  overrideBuilds: 'build against a rule, with a reason',
  takeReadings: 'measure parts',
  approveCorrections: 'approve corrections within a feature’s limit',
  approveAnyCorrection: 'approve any correction',
  keyCorrections: 'key corrections and read them back',
  recordParts: 'record parts made',
  runJobs: 'start and end jobs',
  flagTools: 'flag a tool broken or locked',
  clearBroken: 'clear a broken tool once its parts are inspected',
  renewTools: 'renew tools',
  setLives: 'change a tool’s life limit',
  writeNotes: 'write and answer on the leaf',
  signLeaf: 'sign the handover',
  managePeople: 'change who may do what',
  editCell: 'name the cell and set its shifts',
};
export const ACTS = Object.keys(PERMISSIONS) as readonly Act[];
