/** How the places of a changer follow one another: round and round, from end to end, or in rows and columns. */
export type PlaceOrder = 'ring' | 'line' | 'grid';

export interface ChangerTraits {
  words: string;
  /** What one of its places is called. */
  place: 'pocket' | 'fork' | 'station';
  order: PlaceOrder;
  /** How the places stand, seen from the front. */
  drawn: 'circle' | 'wheels' | 'row' | 'grid' | 'spokes';
  /** T n lives in place n; on the others a T and its place have no fixed relation. */
  ownPlaces: boolean;
  /** The control puts a tool away wherever the arm is: a call exchanges the spindle's tool with a pocket's, and wide tools are declared. */
  exchanges: boolean;
  /** There is a spindle beside the places, so that it holds one tool more than it has places. */
  spindle: boolean;
  /** Tools come in and go out through that spindle, one at a time. */
  throughSpindle: boolean;
  /** Tools hang side by side and may strike each other. */
  hangs: boolean;
  /** It turns about a middle, so that what hangs on one side pulls. */
  balances: boolean;
  /** The carriage goes to a place by coordinates that somebody finds by eye. */
  commissioned: boolean;
}

/**
 * The kinds of changer (H4), each by what it does: database, planner, load plan and pages read them from here, and nothing else asks
 * for a kind by its name. The database's table `changer_kind` holds what its own rules need of it.
 */
export const CHANGERS = {
  randomAccess: {
    words: 'random access',
    place: 'pocket',
    order: 'ring',
    drawn: 'circle',
    ownPlaces: false,
    exchanges: true,
    spindle: true,
    throughSpindle: true,
    hangs: true,
    balances: true,
    commissioned: false,
  },
  fixedCarousel: {
    words: 'fixed-pocket carousel',
    place: 'pocket',
    order: 'ring',
    drawn: 'circle',
    ownPlaces: true,
    exchanges: false,
    spindle: true,
    throughSpindle: true,
    hangs: true,
    balances: true,
    commissioned: false,
  },
  turret: {
    words: 'turret',
    place: 'station',
    order: 'ring',
    drawn: 'spokes',
    ownPlaces: true,
    exchanges: false,
    spindle: false,
    throughSpindle: false,
    hangs: false,
    balances: false,
    commissioned: false,
  },
  rack: {
    words: 'linear rack',
    place: 'fork',
    order: 'line',
    drawn: 'row',
    ownPlaces: true,
    exchanges: false,
    spindle: true,
    throughSpindle: true,
    hangs: true,
    balances: false,
    commissioned: true,
  },
  chain: {
    words: 'chain, random access',
    place: 'pocket',
    order: 'ring',
    drawn: 'wheels',
    ownPlaces: false,
    exchanges: true,
    spindle: true,
    throughSpindle: true,
    hangs: true,
    balances: false,
    commissioned: false,
  },
  tray: {
    words: 'outside tray',
    place: 'pocket',
    order: 'grid',
    drawn: 'grid',
    ownPlaces: false,
    exchanges: false,
    spindle: true,
    throughSpindle: false,
    hangs: true,
    balances: false,
    commissioned: false,
  },
} as const satisfies Record<string, ChangerTraits>;

export type ChangerKind = keyof typeof CHANGERS;
export const CHANGER_KINDS = Object.keys(CHANGERS) as [ChangerKind, ...ChangerKind[]];

/** What a changer does, by its kind. */
export const traitsOf = ({ kind }: { kind: ChangerKind }): ChangerTraits => CHANGERS[kind];
