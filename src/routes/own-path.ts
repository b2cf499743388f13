/** A path on this server to go back to; anything else leads home, so that a link cannot send people elsewhere. */
export function ownPath(wanted: unknown): string {
  if (typeof wanted !== 'string' || !/^\/(?![/\\])/.test(wanted)) return '/';
  const url = new URL(wanted, 'http://here.invalid');
  return url.host === 'here.invalid' ? url.pathname + url.search : '/';
}
