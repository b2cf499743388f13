<script lang="ts">
  import { RULES, type ControlChart } from '$core/chart/control-chart';

  /** A control chart, drawn small: its points, its middle and limits, and the points that signal. */
  let { chart, title, show }: { chart: ControlChart; title: string; show: (value: number) => string } =
    $props();
  const [WIDTH, HEIGHT] = [320, 120];
  const all = $derived([...chart.points, chart.upper, chart.lower]);
  const [least, most] = $derived([Math.min(...all), Math.max(...all)]);
  const x = (i: number) => 6 + (i * (WIDTH - 12)) / Math.max(1, chart.points.length - 1);
  const y = (value: number) => HEIGHT - 8 - ((value - least) * (HEIGHT - 16)) / (most - least || 1);
  const line = $derived(chart.points.map((each, i) => `${x(i)},${y(each)}`).join(' '));
  const marked = $derived(new Set(chart.signals.map(({ at }) => at)));
  const said = $derived(
    [...new Set(chart.signals.map(({ rule }) => rule))].map(
      (rule) => `${RULES[rule]} (${chart.signals.filter((each) => each.rule === rule).length})`,
    ),
  );
</script>

<figure class="min-w-0">
  <figcaption class="font-semibold">{title}</figcaption>
  <svg
    viewBox="0 0 {WIDTH} {HEIGHT}"
    class="w-full"
    role="img"
    aria-label="{title}: {chart.points.length} points, middle {show(chart.centre)}, limits {show(
      chart.lower,
    )} and {show(chart.upper)}"
  >
    {#each [chart.upper, chart.lower] as limit, i (i)}<line
        x1="0"
        x2={WIDTH}
        y1={y(limit)}
        y2={y(limit)}
        stroke="currentColor"
      />{/each}
    <line
      x1="0"
      x2={WIDTH}
      y1={y(chart.centre)}
      y2={y(chart.centre)}
      stroke="currentColor"
      stroke-dasharray="6 4"
    />
    <polyline points={line} fill="none" stroke="currentColor" stroke-width="1.5" />
    {#each chart.points as point, i (i)}<circle
        cx={x(i)}
        cy={y(point)}
        r={marked.has(i) ? 4.5 : 2.2}
        class={marked.has(i) ? 'fill-accent' : 'fill-current'}
      />{/each}
  </svg>
  <p class="small-words">
    {show(chart.lower)} … {show(chart.upper)}{said.length > 0
      ? `. Look at: ${said.join('; ')}.`
      : '. No signal.'}
  </p>
</figure>
