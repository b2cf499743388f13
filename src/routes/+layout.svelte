<script lang="ts">
  import '@fontsource-variable/besley';
  import '@fontsource/barlow/400.css';
  import '@fontsource/barlow/600.css';
  import '@fontsource/barlow-semi-condensed/400.css';
  import '@fontsource/barlow-semi-condensed/600.css';
  import '../app.css';
  import { afterNavigate } from '$app/navigation';
  import { page } from '$app/state';
  import { showAsked } from '$lib/asked';
  import Live from '$lib/live/Live.svelte';
  import { forgetKept } from '$lib/offline/keeper';
  import OutboxBar from '$lib/offline/OutboxBar.svelte';
  import RunningHead from '$lib/RunningHead.svelte';
  import ThumbIndex from '$lib/ThumbIndex.svelte';

  import { onMount, type Component } from 'svelte';

  let { data, children } = $props();
  let finding = $state(false);
  let Pad = $state.raw<Component | null>(null);
  let Find = $state.raw<Component<{ open: boolean }, object, 'open'> | null>(null);

  // a form that is sent shows what is asked already
  afterNavigate(({ type, from, to }) => {
    const samePage = from?.url.pathname === to?.url.pathname && from?.url.search !== to?.url.search;
    if (samePage && (type === 'link' || type === 'popstate')) showAsked(document);
  });

  // nobody waits for what they do not use: the pad is for fingers, finding for who has signed in
  const find = async () => (Find ??= (await import('$lib/Find.svelte')).default);
  $effect(() => void (data.person && find()));
  onMount(async () => {
    if (!data.person) forgetKept();
    if (window.matchMedia('(pointer: coarse)').matches) Pad = (await import('$lib/Pad.svelte')).default;
    if (data.person) await find();
    // told to whoever drives the page: from now on it answers to clicks
    document.documentElement.dataset.ready = 'yes';
  });
</script>

{#if data.person && data.cell}
  <Live />
  <a
    href="#page"
    class="sr-only bg-accent p-3 text-accent-content focus:not-sr-only focus:absolute focus:z-50"
    >Skip to the page</a
  >
  <RunningHead
    cell={data.cell}
    person={data.person}
    shift={data.shift}
    now={data.now}
    rate={data.rate}
    theme={data.theme}
    mayPeople={data.mayPeople}
    onFind={() => (finding = true)}
  />
  <!-- the index's room is kept from the first byte on: it comes after the page, which would move aside for it -->
  <div class="mx-auto max-w-[1500px] items-start md:grid md:grid-cols-[minmax(0,1fr)_2.75rem] print:block">
    <main id="page" tabindex="-1" class="min-w-0 px-3 pb-28 outline-none md:px-6 md:pb-10">
      <OutboxBar personId={data.person.id} zone={data.cell.timeZone} />
      <!-- another machine, tool or program is another page: what was typed for one does not stand in the fields of the next -->
      {#key page.url.pathname}{@render children()}{/key}
    </main>
    <ThumbIndex waiting={data.waiting} />
  </div>
  {#if Find}<Find bind:open={finding} />{/if}
{:else}
  <main id="page" class="px-4">
    <OutboxBar personId={null} />
    {@render children()}
  </main>
{/if}
{#if Pad}<Pad />{/if}
