<script lang="ts">
  interface Props {
    /** What programs that are still to run take a register for; first what it does not hold. */
    programs: readonly { words: string; misses: boolean }[];
  }
  const SHOWN = 3;
  let { programs }: Props = $props();
</script>

{#if programs.length > 0}
  <p class="small-words">
    Programs to run: {#each programs.slice(0, SHOWN) as { words, misses }, i (words)}{i > 0
        ? ' · '
        : ''}{#if misses}<b class="rounded-sm bg-warning px-1 text-warning-content">{words}</b
        >{:else}{words}{/if}{/each}{#if programs.length > SHOWN}
      and {programs.length - SHOWN} more{/if}
  </p>
{/if}
