<script lang="ts">
  import { page } from '$app/state';
  import { dayAndClock } from './time';

  /** Who signs on paper, each with what they did. */
  let { who }: { who: readonly string[] } = $props();
</script>

<footer class="mt-8 hidden break-inside-avoid print:block">
  <div class="grid grid-cols-3 gap-x-8 gap-y-10">
    {#each who as did (did)}
      <p class="border-t border-base-content pt-1 text-sm">{did}, name and time</p>
    {/each}
  </div>
  <p class="small-words mt-3">
    As it was on {dayAndClock(page.data.now, page.data.cell?.timeZone ?? 'UTC')}. What was recorded since then
    stands on the screen, not here.
  </p>
</footer>
