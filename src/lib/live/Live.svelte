<script lang="ts">
  import { afterNavigate, invalidateAll } from '$app/navigation';
  import { navigating, page } from '$app/state';
  import { onMount } from 'svelte';
  import { hear } from '../machine/states.svelte';
  import { concerns, type Told } from './concerns';
  import { refresher } from './refresher';

  let lost = $state(false);
  /** Milliseconds until it is asked again whether the server is there, and whether the page stands still. */
  const [AGAIN, SOON] = [2000, 120];

  // data of a page that was left meanwhile are waited for by nobody
  let left: (() => void) | undefined;
  afterNavigate(() => left?.());

  // What one person changes, others see: entries of the ledger ring here, and a page that shows such things loads its data again.
  onMount(() => {
    let over = false;
    // what happened since these data were read is told first, and after each break what happened meanwhile
    const source = new EventSource(`/live?from=${page.data.told ?? 0}`);
    const wait = (milliseconds: number) => new Promise((resolve) => setTimeout(resolve, milliseconds));
    const load = async () => {
      while (!over) {
        // loading anew would cancel a page change that is under way, and data that cannot be had would put the page of the fault in the place of
        // this one, and what was typed with it
        const ready =
          !navigating.to &&
          (await fetch('/readyz').then(
            (answer) => answer.ok,
            () => false,
          ));
        // one may have begun meanwhile
        if (ready && !navigating.to)
          return Promise.race([invalidateAll(), new Promise<void>((resolve) => (left = resolve))]);
        await wait(navigating.to ? SOON : AGAIN);
      }
    };
    const pages = refresher(load);
    source.onmessage = ({ data }: MessageEvent<string>) => {
      // what a machine does is shown where it stands, and loads nothing anew
      if (hear(data)) return;
      if (concerns(JSON.parse(data) as Told, page.route.id ?? '', Number(page.params.id) || null))
        pages.tell();
    };
    source.onopen = () => {
      lost = false;
    };
    source.onerror = () => {
      lost = true;
    };
    return () => {
      over = true;
      pages.stop();
      source.close();
    };
  });
</script>

{#if lost}
  <p role="status" class="no-print bg-accent px-4 py-2 text-center font-medium text-accent-content">
    The server does not answer. What was confirmed is kept; this page goes on by itself when it is back.
  </p>
{/if}
