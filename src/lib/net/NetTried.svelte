<script lang="ts">
  import type { Tried } from '$core/safety-net/try-net';

  let { tried, tools }: { tried: { wrongly: number[]; slips: readonly Tried[] }; tools: number } = $props();
  const list = (numbers: readonly number[]) =>
    `${numbers
      .slice(0, 6)
      .map((tool) => `T${tool}`)
      .join(', ')}${numbers.length > 6 ? ` and ${numbers.length - 6} more` : ''}`;
</script>

<section aria-labelledby="tried">
  <h3 id="tried" class="heading">Tried here on {tools} {tools === 1 ? 'tool' : 'tools'}</h3>
  {#if tried.wrongly.length > 0}
    <p class="caution mt-1">Stops what is right: {list(tried.wrongly)}.</p>
  {:else}
    <p class="mt-1">Every tool that is whole and has a length goes by as it is on record.</p>
  {/if}
  <table class="ruled mt-1">
    <thead><tr><th>A length that is</th><th class="num">stopped</th><th>not seen</th></tr></thead>
    <tbody>
      {#each tried.slips as { words, caught, missed } (words)}
        <tr
          ><td>{words}</td><td class="num">{caught}</td><td>{missed.length === 0 ? '' : list(missed)}</td></tr
        >
      {/each}
    </tbody>
  </table>
  <p class="small-words mt-1">
    Not seen at all: a tool put into the wrong pocket by hand that is as long as the right one, a program that
    calls another tool’s row, a boring bar put in the wrong way round.
  </p>
</section>
