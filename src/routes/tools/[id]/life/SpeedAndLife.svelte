<script lang="ts">
  import Scroll from '$lib/Scroll.svelte';
  import type { SpeedsRun } from '$core/life/speeds-run';
  import { lifeAt } from '$core/life/speed-and-life';

  interface Props {
    run: SpeedsRun;
    /** Revolutions a minute for a speed; null: not a tool that turns. */
    revolutions: ((speed: number) => number) | null;
  }
  let { run, revolutions }: Props = $props();
  const { best, taylor, speeds, present } = $derived(run);
  const at = (speed: number) =>
    `${speed.toFixed(0)} m/min${revolutions ? ` (S${(Math.round(revolutions(speed) / 10) * 10).toFixed(0)})` : ''}`;
  const per = (steepness: number) => steepness.toFixed(1);
  const percent = (share: number) => (100 * share).toFixed(0);
  const saving = $derived(best ? 1 - best.within.costs : 0);
  /** A saving of less than this share is a hair. */
  const HAIR = 0.02;

  const [HEIGHT, LEFT, FOOT, TOP] = [300, 54, 34, 14];
  let place = $state(620);
  const width = $derived(Math.max(300, Math.min(672, place)));
  const lives = $derived(run.edges.map(({ life }) => life));
  const range = $derived({
    from: Math.min(...run.edges.map(({ speed }) => speed)) * 0.88,
    to: Math.max(...run.edges.map(({ speed }) => speed)) * 1.14,
    least: Math.min(...lives) * 0.8,
    most: Math.max(...lives) * 1.25,
  });
  const share = (value: number, from: number, to: number) => Math.log(value / from) / Math.log(to / from);
  const x = (speed: number) => LEFT + share(speed, range.from, range.to) * (width - LEFT - 10);
  const y = (minutes: number) =>
    HEIGHT - FOOT - share(minutes, range.least, range.most) * (HEIGHT - FOOT - TOP);
  /** Round numbers between two. */
  const ticks = (from: number, to: number) =>
    [1, 10, 100, 1000]
      .flatMap((ten) => [1, 1.5, 2, 3, 4, 5, 7].map((each) => each * ten))
      .filter((each) => each >= from && each <= to);
  const points = $derived(
    run.edges.map((edge, i) => ({ ...edge, i, over: edge.failed, x: x(edge.speed), y: y(edge.life) })),
  );
</script>

<section class="mt-6" aria-labelledby="speed">
  <h2 id="speed" class="text-xl">Speed and life</h2>
  <p class="mt-1 font-semibold">
    {#if speeds.length < 2}
      All edges of {run.program} whose speed is known ran at {at(present)}: of another speed they say nothing.
    {:else if !best}
      Edges of {run.program} ran at {speeds.map(({ speed }) => speed.toFixed(0)).join(', ')} m/min, and too few
      of them ended to tell how life falls with speed.
    {:else if saving < HAIR}
      {at(present)} is as cheap as any speed that was run in {run.program}.
    {:else}
      {at(best.within.speed)} would cost {percent(saving)} % less a metre of cut in {run.program} than {at(
        present,
      )} now, edges and machine together.
    {/if}
  </p>
  <div class="mt-2 grid gap-6 lg:grid-cols-[1.6fr_1fr]">
    <figure bind:clientWidth={place}>
      <svg
        viewBox="0 0 {width} {HEIGHT}"
        class="w-full max-w-2xl"
        role="img"
        aria-label="Minutes in cut of {run.edges.length} edges over their cutting speed, both by ratio"
      >
        {#each ticks(range.least, range.most) as minutes (minutes)}
          <line
            x1={LEFT}
            x2={width - 10}
            y1={y(minutes)}
            y2={y(minutes)}
            stroke="var(--color-base-300)"
          /><text x={LEFT - 6} y={y(minutes) + 4} text-anchor="end" font-size="13" fill="currentColor"
            >{minutes}</text
          >
        {/each}
        {#each [...speeds.map(({ speed }) => speed)] as speed (speed)}
          <text x={x(speed)} y={HEIGHT - 12} text-anchor="middle" font-size="13" fill="currentColor"
            >{speed.toFixed(0)} m/min</text
          >
        {/each}
        <text x="4" y="12" font-size="13" fill="currentColor">min in cut</text>
        {#if taylor && best}
          <line
            x1={x(taylor.from)}
            y1={y(lifeAt(taylor, taylor.from))}
            x2={x(taylor.to)}
            y2={y(lifeAt(taylor, taylor.to))}
            stroke="currentColor"
            stroke-width="2"
          />
          <line
            x1={x(best.within.speed)}
            x2={x(best.within.speed)}
            y1={TOP}
            y2={HEIGHT - FOOT}
            stroke="var(--color-primary)"
            stroke-width="2"
            stroke-dasharray="5 4"
          />
        {/if}
        {#each points as { i, over, x: left, y: down } (i)}
          {#if over}<circle cx={left} cy={down} r="4" fill="currentColor" />{:else}<path
              d="M{left - 4} {down + 3}L{left} {down - 5}L{left + 4} {down + 3}Z"
              fill="none"
              stroke="currentColor"
            />{/if}
        {/each}
      </svg>
      <figcaption class="small-words">
        Dots came to their end; triangles were taken out good and would have lasted longer.{best
          ? ' Line: the life that the edges say, as far as speeds were run. Dashed: the cheapest of these.'
          : ''}
      </figcaption>
    </figure>
    <div class="grid content-start gap-3">
      <Scroll label="Speeds that were run">
        <table class="ruled">
          <thead
            ><tr
              ><th scope="col" class="number">m/min</th><th scope="col" class="number">Edges</th><th
                scope="col"
                class="number">Came to an end</th
              ></tr
            ></thead
          ><tbody
            >{#each speeds as { speed, edges, ends } (speed)}<tr
                ><td class="number">{speed.toFixed(0)}</td><td class="number">{edges}</td><td class="number"
                  >{ends}</td
                ></tr
              >{/each}</tbody
          >
        </table>
      </Scroll>
      {#if best && taylor}
        <p>
          One per cent faster costs {per(1 / taylor.n)} % of life ({per(taylor.steepness.low)} to {per(
            taylor.steepness.high,
          )}).
        </p>
        {#each [['Cheapest', best.cheapest], ['Fastest', best.fastest]] as const as [word, { speed, minutes, run: wasRun, between }] (word)}
          <p>
            <strong>{word}: {at(speed)}</strong>, {between.low.toFixed(0)} to {between.high.toFixed(0)} by what
            may be supposed, {minutes.toFixed(0)} min in cut an edge.
            {#if !wasRun}Nobody ran that: it lies {speed < taylor.from ? 'below' : 'above'} what was run, and is
              a guess. Try a step towards it, with a look at each edge.{/if}
          </p>
        {/each}
        <p class="small-words">
          The tool’s and the machine’s limits, the finish and the part come first; a new speed makes the
          program one that is not proven.
        </p>
      {/if}
    </div>
  </div>
</section>
