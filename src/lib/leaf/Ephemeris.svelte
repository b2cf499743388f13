<script lang="ts">
  import type { Shift } from '$core/shift/calendar';
  import { likelyWords } from '$core/shift/likely-made';
  import { clock } from '../time';
  import { madeSince, type MachineForecast } from '$core/shift/leaf';

  interface Props {
    forecast: MachineForecast[];
    shift: Shift;
    now: Date;
    zone: string;
  }
  let { forecast, shift, now, zone }: Props = $props();

  /** It is drawn as wide as its place; narrower than this it is moved sideways. */
  const NARROWEST = 736;
  let place = $state(1200);
  const width = $derived(Math.max(NARROWEST, place));
  const LEFT = 108;
  const right = $derived(width - 20);
  const ROW = 44;
  const TOP = 30;
  const HOUR = 3_600_000;

  const from = $derived(shift.start.getTime());
  const to = $derived(shift.end.getTime());
  const x = (at: number) => LEFT + ((at - from) / (to - from)) * (right - LEFT);
  const hours = $derived.by(() => {
    const marks: number[] = [];
    for (let at = Math.ceil(from / HOUR) * HOUR; at <= to; at += HOUR) marks.push(at);
    return marks;
  });
  const height = $derived(TOP + forecast.length * ROW + 10);
  const nowX = $derived(now.getTime() > from && now.getTime() < to ? x(now.getTime()) : null);

  /** Marks of one machine, pushed apart so that their labels do not lie on each other. */
  function marks(machine: MachineForecast) {
    // what is out now has the first place, with its label
    let last = spent(machine).length > 0 ? x(start) + 9 * outWords(machine).length - 20 : -Infinity;
    return machine.runsOut
      .filter(
        (tool) =>
          tool.afterParts > 0 && tool.at !== null && tool.at.getTime() >= from && tool.at.getTime() <= to,
      )
      .map((tool) => {
        const place = Math.max(x(tool.at!.getTime()), last + 46);
        last = place;
        return { tool, at: x(tool.at!.getTime()), place: Math.min(place, right - 8) };
      });
  }
  /** Where a label stands beside its mark: after it, or before it where the drawing ends. */
  const beside = (at: number, label: string, gap = 13) =>
    at + gap + 9 * label.length > width
      ? { x: at - gap, 'text-anchor': 'end' as const }
      : { x: at + gap, 'text-anchor': 'start' as const };
  /** Tools that are spent or flagged now share one mark: the machine waits for all of them. */
  const spent = (machine: MachineForecast) => machine.runsOut.filter((tool) => tool.afterParts === 0);
  /** A tool at its mark: with a question where it may have run out since somebody counted. */
  const markWords = ({ tool, byNow }: { tool: number; byNow: boolean }) => `T${tool}${byNow ? '?' : ''}`;
  const outWords = (machine: MachineForecast) =>
    `${spent(machine)
      .map(({ tool }) => `T${tool}`)
      .join(' ')} now`;
  const end = (machine: MachineForecast) => Math.min(machine.ends?.getTime() ?? to, to);
  const start = $derived(Math.max(from, Math.min(now.getTime(), to)));
  const words = $derived(
    forecast
      .map(
        (machine) =>
          `${machine.machine}: ${machine.job ? `${machine.job.number}; ` : 'no job; '}${
            marks(machine)
              .map(({ tool }) =>
                tool.byNow
                  ? `T${tool.tool} may have run out`
                  : `T${tool.tool} runs out at ${clock(tool.at!, zone)}`,
              )
              .join(', ') || 'nothing runs out'
          }`,
      )
      .join('. '),
  );
</script>

<!-- The shift as a table of appearances: hours across, a line for each machine, a spent disc where a tool runs out. -->
{#if forecast.length === 0}
  <p class="mb-2">
    There is no machine yet: <a class="underline" href="/machines">see how to add one</a>.
  </p>
{/if}
<div class="overflow-x-auto" bind:clientWidth={place}>
  <svg
    viewBox="0 0 {width} {height}"
    class="block w-full min-w-[46rem]"
    role="group"
    aria-label={words}
    font-family="var(--font-narrow)"
    font-size="15"
    fill="currentColor"
  >
    {#each hours as hour (hour)}
      <path d="M{x(hour)} {TOP - 8}V{height - 6}" stroke="var(--color-base-300)" />
      <text x={x(hour)} y="15" text-anchor="middle" font-size="14">{clock(new Date(hour), zone)}</text>
    {/each}
    {#if nowX !== null}
      <rect
        x={LEFT}
        y={TOP - 6}
        width={nowX - LEFT}
        height={height - TOP}
        fill="var(--color-base-300)"
        opacity="0.4"
      />
      <path d="M{nowX} {TOP - 12}V{height - 6}" stroke="var(--color-accent)" stroke-width="2" />
      <path d="M{nowX - 6} {TOP - 14}h12l-6 8Z" fill="var(--color-accent)" />
    {/if}
    {#each forecast as machine, i (machine.machineId)}
      {@const y = TOP + i * ROW + ROW / 2}
      <path d="M0 {y + ROW / 2}H{width}" stroke="var(--color-base-300)" />
      <a href="/machines/{machine.machineId}"
        ><rect x="0" y={y - ROW / 2} width={LEFT - 8} height={ROW} fill="transparent" /><text
          x="0"
          y={y + 6}
          font-family="var(--font-display)"
          font-size="18"
          font-weight="600">{machine.machine}</text
        ></a
      >
      {#if machine.job}
        {@const stop = x(end(machine))}
        <path d="M{x(start)} {y}H{stop}" stroke="currentColor" stroke-width="2.5" />
        <path d="M{LEFT} {y}H{x(start)}" stroke="currentColor" stroke-width="2.5" stroke-dasharray="2 5" />
        {#if machine.ends && machine.ends.getTime() <= to && machine.ends.getTime() > from}
          <path d="M{stop} {y - 10}V{y + 10}" stroke="currentColor" stroke-width="2.5" />
          <text {...beside(stop, 'done', 6)} y={y + 5}>done</text>
        {/if}
        <text
          x={LEFT + 6}
          y={y + 17}
          font-size="13"
          fill-opacity="0.8"
          stroke="var(--color-base-200)"
          stroke-width="3"
          paint-order="stroke"
          >{machine.job.number}
          {machine.job.made} of {machine.job.quantity}{#if madeSince(machine) > 0}, {likelyWords(
              machine.likely!,
            )}{/if}</text
        >
        {#each marks(machine) as { tool, at, place } (tool.tool)}
          <path d="M{at} {y}L{place} {y}" stroke="var(--color-accent)" />
          <circle
            cx={place}
            cy={y}
            r="9"
            fill="var(--color-base-100)"
            stroke="var(--color-accent)"
            stroke-width="2"
          />
          <path
            d="M{place} {y - 9}A9 9 0 0 1 {place} {y + 9}A6.5 9 0 0 0 {place} {y - 9}Z"
            fill="var(--color-accent)"
          />
          <text
            {...beside(place, markWords(tool))}
            y={y - 5}
            font-weight="600"
            stroke="var(--color-base-200)"
            stroke-width="3"
            paint-order="stroke">{markWords(tool)}</text
          >
        {/each}
        {#if spent(machine).length > 0}
          {@const out = outWords(machine)}
          <circle
            cx={x(start)}
            cy={y}
            r="9"
            fill="var(--color-base-100)"
            stroke="var(--color-accent)"
            stroke-width="2"
          />
          <path
            d="M{x(start) - 5} {y - 5}l10 10m0 -10l-10 10"
            stroke="var(--color-accent)"
            stroke-width="2"
          />
          <text
            {...beside(x(start), out)}
            y={y - 5}
            font-weight="600"
            fill="var(--color-accent)"
            stroke="var(--color-base-200)"
            stroke-width="3"
            paint-order="stroke">{out}</text
          >
        {/if}
      {:else}
        <text x={LEFT + 6} y={y + 5} font-size="14" opacity="0.75"
          >{machine.next ? `waits for ${machine.next.number}` : 'no job'}</text
        >
      {/if}
    {/each}
  </svg>
</div>
