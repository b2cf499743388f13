import { parseLength } from '../../src/core/units/parse-length.ts';
import { formatLength } from '../../src/core/units/format-length.ts';
import { nanometres } from '../../src/core/units/length.ts';
import { REGISTER_WORDS } from '../../src/core/inspection/register-words.ts';
import type { Station } from './station.ts';
import type { Tally } from './tally.ts';
import { tallyLines } from './tally.ts';

/** The pages of the stand-ins: plain on purpose, so that nobody takes one for a machine's own. */

const escaped = (text: string) =>
  text.replace(/[&<>"]/g, (sign) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[sign]!);

const STYLE = `body{font:16px/1.4 monospace;margin:1rem;max-width:60rem;background:#fff;color:#111}
h1{font-size:1.2rem}h2{font-size:1rem;margin:1.2rem 0 .3rem}table{border-collapse:collapse}td,th{border:1px solid #777;padding:.15rem .5rem;text-align:right}
th,td.words{text-align:left}button,input,select{font:inherit;min-height:44px;padding:.2rem .6rem}label{display:inline-block;margin-right:.6rem}
.note{background:#ffd;border:1px solid #997;padding:.4rem}.state{font-size:1.6rem;font-weight:bold}`;

const page = (title: string, body: string) => `<!doctype html><html lang="en"><head><meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1"><title>${escaped(title)}</title><style>${STYLE}</style></head>
<body>${body}</body></html>`;

const NOTE =
  '<p class="note">A stand-in for a machine’s control, made up for this play. It drives nothing. On a real machine its manual and the rules of the site come first.</p>';

/** What a register holds, as a control shows it. */
const shown = (value: number, unit: 'mm' | 'in', kind: string) =>
  kind === 'tipDirection'
    ? String(value)
    : formatLength(nanometres(value), unit, { decimals: unit === 'mm' ? 3 : 4, minus: '-' });

/** What stands on a machine's screen, as words. */
export function screenOf(station: Station) {
  const { rows, ...screen } = station.screen();
  return {
    ...screen,
    rows: rows
      .filter(({ value, kind }) => value !== 0 || kind.endsWith('Wear'))
      .map(({ id, row, kind, value }) => ({
        id,
        words: `${row} ${REGISTER_WORDS[kind] ?? kind}`,
        value: shown(value, screen.unit, kind),
      })),
  };
}

const SCRIPT = `
const name = document.body.dataset.name;
const act = async (what, fields = {}) => { await fetch('/panel/' + name + '/' + what, { method: 'POST', body: new URLSearchParams(fields) }); await show(); };
const put = (id, text) => { const el = document.getElementById(id); if (el.textContent !== text) el.textContent = text; };
const options = (id, items) => { const el = document.getElementById(id); if (el.options.length === items.length) return;
  el.replaceChildren(...items.map(([value, words]) => new Option(words, value))); };
async function show() {
  const s = await (await fetch('/panel/' + name + '/state')).json();
  put('state', s.state + (s.left ? ', ' + s.left + ' min left' : ''));
  put('made', s.program + ', parts ' + s.made);
  put('message', s.message);
  put('take', s.taken ? 'Give it back to the crew' : 'I take this machine');
  for (const each of document.querySelectorAll('[data-own]')) each.disabled = !s.taken;
  options('register', s.rows.map((r) => [r.id, r.words]));
  options('tool', s.tools.map((t) => [t.tool, 'T' + t.tool]));
  options('size', s.sizes.map((z) => [z.id, z.name]));
  const table = document.getElementById('table');
  const text = JSON.stringify(s.rows);
  if (table.dataset.text !== text) { table.dataset.text = text;
    table.replaceChildren(...s.rows.map((r) => { const tr = document.createElement('tr'); const th = document.createElement('th'); th.textContent = r.words;
      const td = document.createElement('td'); td.textContent = r.value; tr.append(th, td); return tr; })); }
  document.documentElement.dataset.ready = 'yes';
}
document.getElementById('take').onclick = () => act('take');
document.getElementById('start').onclick = () => act('start');
document.getElementById('hold').onclick = () => act('hold');
for (const form of document.forms) form.onsubmit = (e) => { e.preventDefault(); act(form.name, Object.fromEntries(new FormData(form))); if (form.name === 'key') form.elements.value.value = ''; };
show(); setInterval(show, 500);`;

/** The panel of one machine. */
export const panelPage = (station: Station) =>
  page(
    `${station.machine.plant.name}, stand-in`,
    `<h1>${escaped(station.machine.plant.name)}, stand-in of its control</h1>${NOTE}
<p class="state" id="state" role="status"></p><p id="made"></p><p id="message" role="status"></p>
<p><button id="take"></button> <button id="start" data-own>Cycle start</button> <button id="hold" data-own>Feed hold</button></p>
<h2>Key a row</h2><form name="key"><label>Row <select id="register" name="register"></select></label>
<label>Value, ${station.machine.plant.unit} <input name="value" inputmode="decimal" autocomplete="off" required size="10"></label>
<label><input type="checkbox" name="more"> add to what it holds</label><button data-own>Key it</button></form>
<h2>Change an edge by hand</h2><form name="change"><label>Tool <select id="tool" name="tool"></select></label><button data-own>It is changed</button></form>
<h2>Measure the last part</h2><form name="measure"><label>Size <select id="size" name="size"></select></label><button>Measure it</button></form>
<p>The gauge on the bench sends what it reads to whoever waits for it.</p>
<h2>Offset table</h2><table><tbody id="table"></tbody></table>
<p><a href="/">All machines</a> · <a href="/panel/${encodeURIComponent(station.device.name)}/table">The table as NC text</a></p>
<script>document.body.dataset.name=${JSON.stringify(station.device.name)};${SCRIPT}</script>`,
  );

/** What somebody keyed, in nanometres; null where it is no length. */
export function keyedValue(text: string, station: Station): number | null {
  const read = parseLength(text, station.machine.plant.unit);
  return read.ok ? read.value : null;
}

/** All machines; and, once the play is over, what was true beside what each crew did. */
export const firstPage = (
  stations: readonly Station[],
  told: { seed: number; rate: number; over: { ours: Tally; byHand: Tally } | null },
) =>
  page(
    'The cell that is played',
    `<h1>The cell that is played, seed ${told.seed}, ${told.rate} times as fast</h1>${NOTE}
<h2>Machines</h2><ul>${stations
      .map(
        ({ device, machine }) =>
          `<li><a href="/panel/${encodeURIComponent(device.name)}">${escaped(machine.plant.name)}</a></li>`,
      )
      .join(
        '',
      )}</ul>${told.over === null ? '<p>What was true is told when the shift is over.</p>' : overTable(told.over)}`,
  );

function overTable({ ours, byHand }: { ours: Tally; byHand: Tally }): string {
  const theirs = tallyLines(byHand);
  return `<h2>What was true</h2><table><thead><tr><th></th><th>this shift</th><th>the same shift, every part corrected by hand</th></tr></thead><tbody>${tallyLines(
    ours,
  )
    .map(
      ({ what, count }, i) =>
        `<tr><th>${escaped(what)}</th><td>${count}</td><td>${theirs[i]!.count}</td></tr>`,
    )
    .join('')}</tbody></table>`;
}
