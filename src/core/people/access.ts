import type { Act } from './roles.ts';

/**
 * Which permission each page and each act on it needs; 'anyone' is open without signing in. A route that is
 * not in this table is refused: a new page is closed until somebody decides who may see it.
 */
export const ACCESS: Readonly<Record<string, Act | 'anyone'>> = {
  '/healthz': 'anyone',
  '/readyz': 'anyone',
  '/sign-in': 'anyone',
  '/sign-in?/enter': 'anyone',
  '/sign-in?/leave': 'anyone',
  '/theme': 'anyone',
  '/': 'look',
  '/live': 'look',
  '/find': 'look',
  '/leaf/[date]/[shift]': 'look',
  '/leaf/[date]/[shift]?/note': 'writeNotes',
  '/leaf/[date]/[shift]?/answer': 'writeNotes',
  '/leaf/[date]/[shift]?/sign': 'signLeaf',
  '/machines': 'look',
  '/machines/[id]': 'look',
  '/machines/[id]?/place': 'placeTools',
  '/machines/[id]?/takeOut': 'placeTools',
  '/machines/[id]?/measure': 'measureTools',
  '/machines/[id]/registers': 'look',
  '/machines/[id]/registers?/found': 'placeTools',
  '/machines/[id]/registers?/dialect': 'editMachines',
  '/machines/[id]/run': 'look',
  '/machines/[id]/run?/parts': 'recordParts',
  '/machines/[id]/run?/job': 'runJobs',
  '/machines/[id]/run?/move': 'runJobs',
  '/machines/[id]/readings': 'takeReadings',
  '/machines/[id]/readings?/take': 'takeReadings',
  '/programs': 'look',
  '/programs?/bringIn': 'bringIn',
  '/programs/[id]': 'look',
  '/corrections': 'look',
  '/corrections/[id]': 'look',
  '/corrections/[id]?/approve': 'approveCorrections',
  '/corrections/[id]?/refuse': 'approveCorrections',
  '/corrections/[id]?/readBack': 'keyCorrections',
  '/tools': 'look',
  '/tools/[id]': 'look',
  '/tools/[id]?/flag': 'flagTools',
  '/tools/[id]?/renew': 'renewTools',
  '/tools/[id]?/step': 'renewTools',
  '/ledger': 'lookLedger',
  '/ledger/csv': 'lookLedger',
  '/people': 'managePeople',
  '/people?/add': 'managePeople',
  '/people?/change': 'managePeople',
};

/** The permission a request needs: the page's own for looking, the act's for a form. Undefined: refuse. */
export const accessFor = (routeId: string, formAct: string | null): Act | 'anyone' | undefined =>
  ACCESS[formAct === null ? routeId : `${routeId}?/${formAct}`];
