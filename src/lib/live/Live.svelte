<script lang="ts">
  import { afterNavigate, goto, invalidateAll } from '$app/navigation';
  import { navigating, page } from '$app/state';
  import { onMount } from 'svelte';
  import { hear } from '../machine/states.svelte';
  import { keeper } from '../offline/keeper';
  import { outbox } from '../offline/outbox.svelte';
  import { clock } from '../time';
  import { concerns, type Told } from './concerns';
  import { isOwn, whenMissed } from './own-acts';
  import { refresher } from './refresher';

  let lost = $state(false);
  let signedOut = $state(false);
  /** Milliseconds until it is asked again whether the server is there, and whether the page stands still. */
  const [AGAIN, SOON] = [2000, 120];

  const signInAgain = $derived(`/sign-in?to=${encodeURIComponent(page.url.pathname + page.url.search)}`);

  /** When the page that is shown came from what this device keeps, as it was then; null: it came from the server. */
  let keptNow = $state<Date | null>(null);
  onMount(() => void (keptNow = document.documentElement.dataset.kept ? (page.data.now as Date) : null));
  const kept = $derived(keptNow !== null && keptNow.getTime() === (page.data.now as Date).getTime());

  let keeping: ReturnType<typeof keeper> | undefined;
  afterNavigate(() => keeping?.moved());

  // data of a page that was left meanwhile are waited for by nobody
  let left: (() => void) | undefined;
  afterNavigate(() => left?.());

  /** Whether somebody typed on this page since it came. */
  let typed = $state(false);
  afterNavigate(() => (typed = false));

  // What one person changes, others see: entries of the ledger ring here, and a page that shows such things loads its data again.
  onMount(() => {
    let over = false;
    const wait = (milliseconds: number) => new Promise((resolve) => setTimeout(resolve, milliseconds));
    const load = async () => {
      await outbox.settled();
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
    whenMissed(pages.tell);
    keeping = keeper(
      () => (page.route.id === '/machines/[id]/now' ? Number(page.params.id) : page.data.standsAt),
      () => page.data.person.id,
    );
    let source: EventSource;
    let heard = '';
    const entryOf = (mark: string) => Number.parseInt(mark, 10) || 0;
    const open = () => {
      // what happened since these data were read is told first, and after each break what happened meanwhile
      const { told = 0, line = 0 } = page.data;
      source = new EventSource(`/live?from=${entryOf(heard) > told ? heard : `${told}.${line}`}`);
      source.onmessage = ({ data, lastEventId }: MessageEvent<string>) => {
        if (lastEventId !== '') heard = lastEventId;
        // what a machine does is shown where it stands, and loads nothing anew
        if (hear(data)) return;
        const told = JSON.parse(data) as Told;
        keeping?.told(told);
        if (isOwn(told.act)) return;
        if (concerns(told, page.route.id ?? '', Number(page.params.id) || null)) pages.tell();
      };
      source.onopen = () => {
        lost = false;
        if (kept) pages.tell();
      };
      source.onerror = () => void broken();
    };
    const broken = async () => {
      lost = !signedOut;
      // a stream that broke off comes again by itself; one that was refused does not
      if (source.readyState !== EventSource.CLOSED) return;
      const answer = await fetch('/live', { method: 'HEAD' }).catch(() => null);
      if (over) return;
      if (answer?.status === 401) {
        lost = false;
        if (!typed) return void goto(signInAgain);
        // what somebody is typing is left to them: they sign in beside it, and this page goes on
        signedOut = true;
      }
      await wait(AGAIN);
      if (over) return;
      if (signedOut && !answer?.ok) return void broken();
      signedOut = false;
      open();
    };
    open();
    return () => {
      over = true;
      keeping?.stop();
      pages.stop();
      source.close();
    };
  });
</script>

<svelte:document oninput={() => (typed = true)} />

{#if kept && keptNow}
  <p role="status" class="no-print bg-accent px-4 py-2 text-center font-medium text-accent-content">
    No network: this page is as it was at {clock(keptNow, page.data.cell.timeZone)}. What is entered is kept
    on this device, signed by {page.data.person.name}, and sent when the network is back. Before you key a
    number, ask whether it still stands.
  </p>
{:else if lost}
  <p role="status" class="no-print bg-accent px-4 py-2 text-center font-medium text-accent-content">
    The server does not answer. What was confirmed is kept; this page goes on by itself when it is back.
  </p>
{/if}
{#if signedOut}
  <p role="status" class="no-print bg-accent px-4 py-2 text-center font-medium text-accent-content">
    You are signed out on this tablet. What you typed is still here:
    <a class="underline" href={signInAgain} target="_blank">sign in beside it</a>, and this page goes on.
  </p>
{/if}
