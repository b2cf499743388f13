<script lang="ts">
  import { invalidateAll } from '$app/navigation';
  import { navigating } from '$app/state';
  import { onMount } from 'svelte';
  import { hear } from './machine/states.svelte';

  let lost = $state(false);
  /** Milliseconds until it is asked again whether the server is there. */
  const AGAIN = 2000;

  // What one person changes, others see: every ledger entry rings here and the page's data are loaded again.
  onMount(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    let wasLost = false;
    const source = new EventSource('/live');
    // loading anew would cancel a page change that is under way, so it waits for that
    const load = async () => {
      if (navigating.to) return void (timer = setTimeout(() => void load(), 120));
      // data that cannot be had would put the page of the fault in the place of this one, and what was typed with it
      const ready = await fetch('/readyz').then(
        (answer) => answer.ok,
        () => false,
      );
      // one may have begun meanwhile
      if (navigating.to) timer = setTimeout(() => void load(), 120);
      else if (ready) void invalidateAll();
      else timer = setTimeout(() => void load(), AGAIN);
    };
    const refresh = () => {
      clearTimeout(timer);
      timer = setTimeout(() => void load(), 120);
    };
    source.onmessage = ({ data }: MessageEvent<string>) => {
      // what a machine does is shown where it stands, and loads nothing anew
      if (!hear(data)) refresh();
    };
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
