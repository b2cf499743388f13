<script lang="ts">
  interface Props {
    /** What the control said when its agent gave the table out. */
    then: { lines: string[]; lives: { tool: number; words: string }[] };
  }
  let { then }: Props = $props();
</script>

<section aria-labelledby="then">
  <h2 id="then" class="heading">The control then</h2>
  <ul class="mt-2 flex flex-wrap gap-x-6 gap-y-1">
    {#each then.lines as line (line)}<li>{line}</li>{/each}
  </ul>
  {#if then.lives.length > 0}
    <details class="mt-1">
      <summary class="inline-flex min-h-11 cursor-pointer items-center underline"
        >{then.lives.length} lives as it counted them</summary
      >
      <ul class="grid gap-x-6 font-narrow sm:grid-cols-2">
        {#each then.lives as life (`${life.tool} ${life.words}`)}<li
            class="flex gap-3 border-b border-base-300 py-1"
          >
            <b>T{life.tool}</b><span class="ml-auto">{life.words}</span>
          </li>{/each}
      </ul>
    </details>
  {/if}
</section>
