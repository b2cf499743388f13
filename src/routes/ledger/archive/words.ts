import type { Archived, Unread } from '$server/archive';

export const ARCHIVE_WORDS: Record<Archived['kind'], string> = {
  readings: 'readings',
  looks: 'tables that controls held',
};

/** How large a file is. */
export const sizeOf = (bytes: number): string =>
  bytes < 1_000_000 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1_000_000).toFixed(1)} MB`;

/** Why a file cannot be opened, and what helps. */
export const unreadWords = (why: Unread, file: string): string =>
  ({
    'no folder': `This server was not told where the archive is (TIN_ARCHIVE). Ask whoever looks after it for ${file}.`,
    'not there': `${file} is not in the archive’s folder. Ask whoever looks after the server to put it back there; a copy should be on another machine.`,
    changed: `${file} was changed since it was made, or is damaged: it is not shown. A copy should be on another machine.`,
  })[why];
