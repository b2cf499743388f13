/** Whether elements stand in one another deeper than this; told from the brackets alone, before anything is built. */
export function deeperThan(xml: string, most: number): boolean {
  let depth = 0;
  for (let open = xml.indexOf('<'); open >= 0; open = xml.indexOf('<', open + 1)) {
    const next = xml[open + 1];
    const closed = xml.startsWith('<!--', open) ? xml.indexOf('-->', open) : open;
    if (closed < 0) return false;
    open = closed;
    if (next === '?' || next === '!') continue;
    if (next === '/') depth -= 1;
    else if (xml[xml.indexOf('>', open) - 1] !== '/') depth += 1;
    if (depth > most) return true;
  }
  return false;
}
