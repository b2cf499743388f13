/** A path on this server to go back to; anything else leads home, so that a link cannot send people elsewhere. */
export function ownPath(wanted: unknown): string {
  if (typeof wanted !== 'string' || !/^\/(?![/\\])/.test(wanted)) return '/';
  const url = new URL(wanted, 'http://here.invalid');
  // dots are taken out of a path, and may leave two slashes at its head, which lead to another host
  const path = url.pathname.replace(/^\/+/, '/');
  return url.host === 'here.invalid' ? path + url.search : '/';
}
