<script lang="ts">
  import type { PageData } from './$types';

  /** A program that is not to be left to itself as it stands. */
  let { each }: { each: PageData['notReady'][number] } = $props();
</script>

<li class="py-1.5">
  <b class="text-accent">{each.program} {each.stops ? 'is not ready' : 'cannot be told to be ready'}.</b>
  {#each each.told as { sentence, remedy } (sentence)}
    <span class="block">{sentence} <span class="small-words">{remedy}</span></span>
  {/each}
  {#if each.more > 0}And {each.more} more.{/if}
  <a class="underline" href="/programs/{each.programId}">Program</a>
</li>
