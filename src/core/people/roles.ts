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
  takeReadings: ['lead', 'setter', 'operator', 'inspector'],
  approveCorrections: ['lead', 'operator', 'setter'],
  approveAnyCorrection: ['lead'],
  keyCorrections: ['lead', 'setter', 'operator'],
  recordParts: ['lead', 'setter', 'operator'],
  runJobs: ['lead', 'setter'],
  flagTools: ['lead', 'setter', 'operator', 'inspector'],
  renewTools: ['lead', 'setter', 'crib'],
  writeNotes: ['lead', 'setter', 'operator', 'inspector', 'crib'],
  signLeaf: ['lead', 'setter', 'operator'],
  managePeople: ['lead'],
} as const satisfies Record<string, readonly Role[]>;

export type Act = keyof typeof PERMISSIONS;

export const may = (role: Role, act: Act): boolean => (PERMISSIONS[act] as readonly Role[]).includes(role);
export const rolesFor = (act: Act): readonly Role[] => PERMISSIONS[act];
