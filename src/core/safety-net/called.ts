import { aliasOf, type NetProfile } from '../program/net-profile.ts';

/**
 * Tool changes of a program that are not followed by the check of lengths before the tool comes down: a check behind the first Z is a
 * check too late, and one that a switch at the panel passes over (a block with a slash) is none.
 * @param calls lines of the changes, from 1
 * @returns those that lack it
 */
export function changesWithout(
  text: string,
  net: NetProfile,
  calls: readonly { tool: number; line: number }[],
): { tool: number; line: number }[] {
  const alias = aliasOf(net);
  const called = alias
    ? new RegExp(`(?<![A-Z])${alias[0]}0*${Number(alias.slice(1))}(?!\\d)`)
    : new RegExp(`(?:G65|M98).*P0*${net.program}(?!\\d)`);
  const lines = text.split(/\r\n|\r|\n/);
  return calls.filter(({ line }) => {
    for (let at = line - 1; at < lines.length; at += 1) {
      const words = lines[at]!.toUpperCase().replace(/\([^)]*\)?/g, '');
      if (called.test(words) && !/^\s*(?:N\d+\s*)?\//.test(words)) return false;
      // the change itself may stand in a block with its Z
      if (at > line - 1 && /[ZW]\s*[-+.#[\d]/.test(words)) return true;
    }
    return true;
  });
}
