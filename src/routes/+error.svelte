<script lang="ts">
  import { page } from '$app/state';
  import { onMount } from 'svelte';

  const away = $derived(page.error?.code === 'away');
  const later = $derived(away || page.error?.code === 'busy' || page.status === 503);
  onMount(() => {
    const timer = setInterval(() => {
      if (later)
        void fetch('/readyz').then(
          (answer) => answer.ok && location.reload(),
          () => undefined,
        );
    }, 2000);
    return () => clearInterval(timer);
  });
</script>

<svelte:head><title>{page.status} · Tin Almanac</title></svelte:head>
<div class="mx-auto mt-16 max-w-xl">
  <h1 class="text-3xl">
    {away
      ? 'The database is away'
      : later
        ? 'The server is busy'
        : page.status === 404
          ? 'No such page'
          : page.status}
  </h1>
  <p class="mt-3 text-lg">{page.error?.message}</p>
  {#if later}<p class="small-words mt-2">
      This page tries again every two seconds and goes on by itself.
    </p>{/if}
  {#if page.error?.code && !later}<p class="small-words mt-2">In the log it is {page.error.code}.</p>{/if}
  <p class="mt-6"><a class="btn" href="/">To the leaf</a></p>
</div>
