<script lang="ts">
  import { invalidateAll } from '$app/navigation';
  import { navigating } from '$app/state';
  import { onMount } from 'svelte';

  let lost = $state(false);

  // What one person changes, others see: every ledger entry rings here and the page's data are loaded again.
  onMount(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    let wasLost = false;
    const source = new EventSource('/live');
    // loading anew would cancel a page change that is under way, so it waits for that
    const load = () => {
      if (navigating.to) timer = setTimeout(load, 120);
      else void invalidateAll();
    };
    const refresh = () => {
      clearTimeout(timer);
      timer = setTimeout(load, 120);
    };
    source.onmessage = refresh;
    source.onopen = () => {
      if (wasLost) refresh();
      wasLost = lost = false;
    };
    source.onerror = () => {
      wasLost = lost = true;
    };
    return () => {
      clearTimeout(timer);
      source.close();
    };
  });
</script>

{#if lost}
  <p role="status" class="no-print bg-accent px-4 py-2 text-center font-medium text-accent-content">
    The server does not answer. What was confirmed is kept; this page goes on by itself when it is back.
  </p>
{/if}
