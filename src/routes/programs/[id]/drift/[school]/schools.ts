import type { Policy } from '$core/correction/policies';

/** What each school does, where it is right and where it goes wrong, as one setter tells another. */
export const SCHOOLS: Readonly<Record<Policy, { does: string; right: string; wrong: string }>> = {
  model: {
    does: 'Weighs every reading of the edge, the newer the more, with what was keyed taken out, and keys whole steps only where they save more than a move costs.',
    right:
      'Everywhere by default: it learns the spread and the drift by itself, and corrects a new edge at once.',
    wrong:
      'Where the numbers it is fed are wrong: a part typed under the wrong number, a correction keyed and not told.',
  },
  everyPart: {
    does: 'Takes the whole deviation of the part just measured out of the next.',
    right: 'Where parts hardly differ and the size runs away fast: a short edge in hard stock.',
    wrong: 'Anywhere else: single parts scatter, and answering each makes them scatter 1.4 times as wide.',
  },
  deadBand: {
    does: 'Leaves parts alone that are off by no more than the dead band, and takes the whole deviation out of one that is.',
    right: 'Few corrections by hand, with a band of about two spreads of single parts.',
    wrong:
      'With a narrow band it answers single parts as “every part” does. With a wide one a drift goes far before it is met.',
  },
  average: {
    does: 'Waits for several parts cut with the row as it is, then takes out their mean.',
    right: 'Where the spread is wide and the drift slow.',
    wrong:
      'In a drift: while it waits the size goes on, and its mean is as old as half the parts it waited for.',
  },
  ewma: {
    does: 'Takes out a mean in which the newest part counts most and each older one by the same share less.',
    right: 'Slow wandering, measured at even intervals.',
    wrong: 'A steady drift: it always lags by as many parts as it remembers.',
  },
  trend: {
    does: 'Lays a line through the last parts and takes out where it will be at the next.',
    right: 'Steady wear with little spread.',
    wrong: 'With few parts and much spread the line is steep by chance, and the correction with it.',
  },
  harmonic: {
    does: 'Takes out the whole deviation of the first part after a set-up, half of the second, a third of the third, and so on.',
    right: 'Setting up: it ends where the mean of all parts so far would have it.',
    wrong: 'Long after the set-up: its shares become so small that wear is no longer followed.',
  },
};
