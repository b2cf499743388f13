/** A secret of the tablet's own: by it a badge that signed in here before is told from strangers. */
export const TABLET_COOKIE = 'tin-tablet';
