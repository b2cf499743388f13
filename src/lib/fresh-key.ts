import { v4 } from 'uuid';

/** A key of one act. A browser has no such thing of its own where the page comes by plain http from another machine. */
export const freshKey = (): string => v4();
