<script lang="ts">
  import { failed, sudden, type EdgeLife } from '$core/life/edge-lives';

  interface Props {
    edges: (EdgeLife & { assembly: string })[];
    survival: { at: number; survival: number; low: number; high: number }[];
    curve: { at: number; lasts: number; cost: number }[];
    longest: number;
    limit: number;
    proposed: number | null;
    /** Limits that are as good as the cheapest; null: not known. */
    flat: { from: number; to: number } | null;
    show: (value: number) => string;
    words: string;
  }
  let { edges, survival, curve, longest, limit, proposed, flat, show, words }: Props = $props();
  const [LEFT, TOP, CURVE] = [46, 22, 150];
  /** As wide as its place: a picture that is shrunk has letters that nobody reads. */
  let place = $state(900);
  const width = $derived(Math.max(300, place));
  const sorted = $derived([...edges].sort((a, b) => a.life - b.life));
  /** Strokes are as far apart as there is room for. */
  const gap = $derived(Math.max(3.5, Math.min(12, 260 / Math.max(1, sorted.length))));
  const below = $derived(TOP + CURVE + 24);
  const height = $derived(below + sorted.length * gap + 34);
  const x = (value: number) => LEFT + (value / longest) * (width - LEFT - 12);
  const y = (share: number) => TOP + CURVE * (1 - share);
  /** The cost curve is drawn from its least to three times as much. */
  const least = $derived(Math.min(...curve.map(({ cost }) => cost)));
  const costY = (cost: number) =>
    TOP + CURVE * (1 - Math.min(1, Math.max(0, (cost / least - 1) / 2) * 0.92 + 0.04));
  const seen = $derived(
    survival.reduce((path, { at, survival: share }) => `${path}H${x(at)}V${y(share)}`, `M${x(0)} ${y(1)}`),
  );
  const line = (points: { at: number; value: number }[]) =>
    points
      .map(({ at, value }, i) => `${i === 0 ? 'M' : 'L'}${x(at).toFixed(1)} ${value.toFixed(1)}`)
      .join('');
  const ticks = $derived(
    (width < 560 ? [0, 0.5, 1] : [0, 0.25, 0.5, 0.75, 1]).map((share) => share * longest),
  );
</script>

<figure bind:clientWidth={place}>
  <svg viewBox="0 0 {width} {height}" class="w-full" role="img" aria-label={words}>
    {#each [0, 0.5, 1] as share (share)}
      <text x={LEFT - 6} y={y(share) + 4} text-anchor="end" font-size="13" fill="currentColor"
        >{share * 100} %</text
      >
      <line x1={LEFT} x2={width - 12} y1={y(share)} y2={y(share)} stroke="var(--color-base-300)" />
    {/each}
    {#each survival as { at, low, high } (at)}
      <line x1={x(at)} x2={x(at)} y1={y(low)} y2={y(high)} stroke="var(--color-base-300)" stroke-width="3" />
    {/each}
    <path d={seen} fill="none" stroke="currentColor" stroke-width="2" />
    {#if curve.length > 0}
      <path
        d={line(curve.map(({ at, lasts }) => ({ at, value: y(lasts) })))}
        fill="none"
        stroke="currentColor"
        stroke-dasharray="2 3"
      />
      <path
        d={line(curve.map(({ at, cost }) => ({ at, value: costY(cost) })))}
        fill="none"
        stroke="var(--color-accent)"
        stroke-width="2.5"
      />
    {/if}
    {#each sorted as edge, i (i)}
      {@const at = below + (i + 0.5) * gap}
      <line
        x1={x(0)}
        x2={x(edge.life)}
        y1={at}
        y2={at}
        stroke="currentColor"
        stroke-width={Math.min(3, gap * 0.45)}
        opacity={failed(edge) ? 1 : 0.45}
      />
      {#if sudden(edge)}
        <path
          d="M{x(edge.life) - 4} {at - 4}L{x(edge.life) + 4} {at + 4}M{x(edge.life) - 4} {at + 4}L{x(
            edge.life,
          ) + 4} {at - 4}"
          stroke="var(--color-accent)"
          stroke-width="2.5"
        />
      {:else if failed(edge)}
        <circle cx={x(edge.life)} cy={at} r="3.4" fill="currentColor" />
      {/if}
    {/each}
    <line x1={x(limit)} x2={x(limit)} y1={TOP - 6} y2={height - 24} stroke="currentColor" stroke-width="2" />
    <text
      x={x(limit)}
      y={TOP - 9}
      text-anchor={x(limit) > width - 60 ? 'end' : 'middle'}
      font-size="14"
      fill="currentColor">{show(limit)} now</text
    >
    {#if proposed !== null}
      <line
        x1={x(proposed)}
        x2={x(proposed)}
        y1={TOP - 2}
        y2={height - 24}
        stroke="var(--color-accent)"
        stroke-width="2"
        stroke-dasharray="6 4"
      />
      <text
        x={x(proposed)}
        y={height - 8}
        text-anchor="middle"
        font-size="14"
        font-weight="600"
        fill="var(--color-accent)">{show(proposed)}</text
      >
    {/if}
    {#if flat}<line
        x1={x(flat.from)}
        x2={x(Math.min(longest, flat.to))}
        y1={y(0)}
        y2={y(0)}
        stroke="var(--color-accent)"
        stroke-width="6"
      />{/if}
    {#each ticks as tick, i (tick)}
      <text
        x={x(tick)}
        y={below - 6}
        text-anchor={i === ticks.length - 1 ? 'end' : i === 0 ? 'start' : 'middle'}
        font-size="12"
        fill="currentColor"
        opacity="0.75">{show(tick)}</text
      >
    {/each}
  </svg>
  <figcaption class="small-words mt-1">
    Above: the share that lasts, as seen (steps, with their limits) and as learnt (dots); in colour the cost
    of a use, the lower the better; thick, the limits that are as good as the cheapest. Below: each edge along
    its life. Cross: chipped or broken. Dot: worn. Pale: taken out before its end.
  </figcaption>
</figure>
