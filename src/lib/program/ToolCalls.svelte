<script lang="ts">
  import type { LifeBasis } from '$core/life/count';
  import type { Affected } from '$core/program/doubts';
  import type { Remark, ToolCall } from '$core/program/reading';
  import { formatLength } from '$core/units/format-length';
  import { inUnit, type LengthUnit } from '$core/units/length';
  import Disc from '../Disc.svelte';
  import { minutesAndSeconds } from '$core/shift/clock';

  type Call = ToolCall & {
    assembly: {
      id: number;
      number: string;
      basis: LifeBasis | null;
      remaining: number | null;
      fullLife: number | null;
      flag: 'broken' | 'expired' | 'locked' | null;
      measured: boolean;
    } | null;
  };
  interface Props {
    calls: Call[];
    /** What could not be read for certain. */
    remarks: readonly Remark[];
    kind: 'mill' | 'lathe';
    unit: LengthUnit;
    onLine: (line: number) => void;
  }
  let { calls, remarks, kind, unit, onLine }: Props = $props();

  /** A figure of a call hangs on something that is not known: it is at least that. */
  const atLeast = (call: Call, what: Affected) =>
    remarks.some(({ line, affects }) => affects?.includes(what) && line >= call.line && line <= call.lastLine)
      ? '≥ '
      : '';
  const longest = $derived(Math.max(1, ...calls.map((call) => call.cutMilliseconds)));
  const range = ({ least, most }: { least: number; most: number }, digits = 0) =>
    least === most ? least.toFixed(digits) : `${least.toFixed(digits)}–${most.toFixed(digits)}`;
  const speed = (call: Call) =>
    [
      call.speeds && range(call.speeds),
      call.surfaceSpeed &&
        `${unit === 'in' ? range({ least: call.surfaceSpeed.least / 0.3048, most: call.surfaceSpeed.most / 0.3048 }) : range(call.surfaceSpeed)} ${unit === 'in' ? 'ft' : 'm'}/min`,
    ]
      .filter(Boolean)
      .join(', ');
  const feed = (call: Call) =>
    call.feeds
      .map(
        (each) =>
          `${range({ least: inUnit(each.least * 1e6, unit), most: inUnit(each.most * 1e6, unit) }, each.per === 'revolution' ? (unit === 'in' ? 4 : 3) : unit === 'in' ? 1 : 0)}${each.per === 'revolution' ? '/rev' : ''}`,
      )
      .join(', ');
</script>

<section aria-labelledby="calls">
  <h2 id="calls" class="heading">Tools in the order they are called</h2>
  <div class="mt-1 overflow-x-auto">
    <table class="ruled">
      <thead>
        <tr
          ><th scope="col">T</th><th scope="col">As the program names it</th><th scope="col"
            >In the machine</th
          ><th scope="col">{kind === 'lathe' ? 'Row' : 'H, D'}</th><th scope="col" class="number">Speed</th
          ><th scope="col" class="number">Feed</th><th scope="col" class="number">Holes</th><th
            scope="col"
            class="number">Deepest</th
          ><th scope="col" class="number">In cut</th><th scope="col">Lines</th></tr
        >
      </thead>
      <tbody>
        {#each calls as call (call.order)}
          <tr>
            <th scope="row" class="font-display text-lg">{call.tool}</th>
            <td
              >{call.remark.toLowerCase()}{#if call.perhaps}<span class="block font-semibold text-accent"
                  >perhaps</span
                >{/if}</td
            >
            <td
              >{#if call.assembly}<a class="underline" href="/tools/{call.assembly.id}"
                  >{call.assembly.number}</a
                >
                <Disc {...call.assembly} size={16} number={false} />{:else}<span
                  class="font-semibold text-accent">not in</span
                >{/if}</td
            >
            <td
              class={call.lengthRows.some((use) => use.row !== call.tool) ? 'font-semibold text-accent' : ''}
            >
              {call.lengthRows.map((use) => (kind === 'lathe' ? use.row : `H${use.row}`)).join(', ')}{call
                .radiusRows.length > 0
                ? `, ${call.radiusRows.map((use) => `D${use.row}`).join(', ')}`
                : ''}
            </td>
            <td class="number">{speed(call)}</td><td class="number">{feed(call)}</td><td class="number"
              >{call.holes ? `${atLeast(call, 'life')}${call.holes}` : ''}</td
            >
            <td class="number"
              >{call.deepest === null
                ? ''
                : formatLength(call.deepest, unit, { decimals: unit === 'mm' ? 1 : 3 })}</td
            >
            <td class="number">
              {atLeast(call, 'time')}{minutesAndSeconds(call.cutMilliseconds)}
              <svg
                viewBox="0 0 100 4"
                preserveAspectRatio="none"
                class="mt-0.5 block h-1 w-full"
                aria-hidden="true"
                ><rect width={(call.cutMilliseconds / longest) * 100} height="4" fill="currentColor" /></svg
              >
            </td>
            <td class="whitespace-nowrap"
              ><button
                type="button"
                class="min-h-11 min-w-11 text-left underline"
                onclick={() => onLine(call.line)}>{call.line}–{call.lastLine}</button
              ></td
            >
          </tr>
        {/each}
      </tbody>
    </table>
  </div>
</section>
