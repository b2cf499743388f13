<script lang="ts">
  import { atLeast, legible } from '$lib/legible';
  import { clock } from '$lib/time';

  interface Props {
    begins: Date;
    steps: { pallet: number; from: number; to: number; made: number; stopped: object | null }[];
    pallets: { id: number; number: number; program: string; parts: number }[];
    away: { from: Date; to: Date } | null;
    stop: { at: number } | null;
    zone: string;
    words: string;
  }
  let { begins, steps, pallets, away, stop, zone, words }: Props = $props();
  const HOUR = 3_600_000;
  const [WIDTH, TOP, BAR] = [1000, 26, 54];
  const end = $derived(
    Math.max(HOUR, steps.at(-1)?.to ?? 0, away ? away.to.getTime() - begins.getTime() : 0) * 1.02,
  );
  const x = (at: number) => 8 + (at / end) * (WIDTH - 16);
  const byId = $derived(new Map(pallets.map((pallet) => [pallet.id, pallet])));
  const between = (date: Date) => date.getTime() - begins.getTime();
  /** Full hours, as many as there is room for. */
  const hours = $derived.by(() => {
    const every = [1, 2, 3, 6, 12, 24, 48].find((each) => end / (each * HOUR) <= 12) ?? 96;
    const first = Math.ceil(begins.getTime() / HOUR) * HOUR;
    const marks = [];
    for (let at = first; at - begins.getTime() < end * 0.975; at += every * HOUR) marks.push(at);
    return marks;
  });
</script>

<figure class="relative overflow-x-auto">
  <svg
    use:legible
    viewBox="0 0 {WIDTH} {TOP + BAR + 28}"
    class="w-full min-w-160"
    role="img"
    aria-label={words}
  >
    {#if away}
      <rect
        x={x(Math.max(0, between(away.from)))}
        y={TOP - 18}
        width={Math.max(0, x(between(away.to)) - x(Math.max(0, between(away.from))))}
        height={BAR + 26}
        fill="var(--color-base-300)"
        opacity="0.6"
      />
      <text x={x(Math.max(0, between(away.from))) + 6} y={TOP - 5} font-size={atLeast(13)} fill="currentColor"
        >nobody here</text
      >
    {/if}
    {#each steps as step (step.pallet)}
      {@const pallet = byId.get(step.pallet)}
      {#if pallet}
        <rect
          x={x(step.from)}
          y={TOP}
          width={Math.max(2, x(step.to) - x(step.from) - 2)}
          height={BAR}
          fill={step.stopped ? 'none' : 'var(--color-base-200)'}
          stroke={step.stopped ? 'var(--color-accent)' : 'currentColor'}
          stroke-width={step.stopped ? 2.5 : 1}
        />
        {#if x(step.to) - x(step.from) > 44}
          <text
            x={x(step.from) + 7}
            y={TOP + 22}
            font-size={atLeast(16)}
            font-weight="700"
            fill="currentColor">{pallet.number === 0 ? pallet.program : pallet.number}</text
          >
          <text x={x(step.from) + 7} y={TOP + 42} font-size={atLeast(13)} fill="currentColor"
            >{step.made} of {pallet.parts}</text
          >
        {/if}
      {/if}
    {/each}
    {#if stop}
      <line
        x1={x(stop.at)}
        x2={x(stop.at)}
        y1={TOP - 10}
        y2={TOP + BAR + 8}
        stroke="var(--color-accent)"
        stroke-width="4"
      />
    {/if}
    {#each hours as at (at)}
      <line
        x1={x(at - begins.getTime())}
        x2={x(at - begins.getTime())}
        y1={TOP + BAR}
        y2={TOP + BAR + 6}
        stroke="currentColor"
      />
      <text
        x={x(at - begins.getTime())}
        y={TOP + BAR + 21}
        text-anchor="middle"
        font-size={atLeast(13)}
        fill="currentColor">{clock(new Date(at), zone)}</text
      >
    {/each}
  </svg>
</figure>
