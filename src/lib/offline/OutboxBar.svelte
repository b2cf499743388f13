<script lang="ts">
  import { invalidateAll } from '$app/navigation';
  import { browser } from '$app/environment';
  import { page } from '$app/state';
  import { onMount } from 'svelte';
  import { dayAndClock } from '../time';
  import { outbox, type Kept } from './outbox.svelte';
  import Question from './Question.svelte';

  /** What was typed while there was no server: it waits on this device and goes by itself; what was not taken is asked about. */
  let { personId, zone = 'UTC' }: { personId: number | null; zone?: string } = $props();
  /** How often it is tried, milliseconds. */
  const EVERY = 3_000;
  const own = $derived(outbox.waiting.filter((each) => each.personId === personId));
  const ofOthers = $derived(outbox.waiting.filter((each) => each.personId !== personId));
  const others = $derived(ofOthers.filter((each) => outbox.untold.includes(each)));
  const arrived = $derived(ofOthers.filter((each) => !outbox.untold.includes(each)));
  const sent = $derived(outbox.sent.filter((each) => each.personId === personId));
  const things = (all: readonly Kept[]) =>
    `${all.length === 1 ? 'One thing' : `${all.length} things`} entered by ${[...new Set(all.map(({ person }) => person || 'somebody else'))].join(', ')}`;

  // a page that the server made counts with what it had by then; one that this device kept does not
  const keptPage =
    browser && document.documentElement.dataset.kept ? (page.data.now as Date).getTime() : null;
  $effect(() => {
    if (personId !== null && (page.data.now as Date).getTime() !== keptPage)
      void outbox.ask().catch(() => {});
  });

  onMount(() => {
    let over = false;
    const goOn = async () => {
      if (!over && personId !== null && own.length > 0 && (await outbox.send(personId)) && !over)
        await invalidateAll();
    };
    // a browser that keeps nothing has nothing that waits
    outbox.look().then(goOn, () => {});
    const timer = setInterval(() => void goOn(), EVERY);
    const back = () => void goOn();
    addEventListener('online', back);
    return () => {
      over = true;
      clearInterval(timer);
      removeEventListener('online', back);
    };
  });
</script>

{#if outbox.waiting.length > 0}
  <div role="status" aria-label="Waits to be sent" class="no-print caution mt-2">
    {#each own as each (each.key)}<p><b>{each.words}</b>: waits on this device, and goes by itself.</p>{/each}
    {#if others.length > 0}<p>
        {things(others)}
        {others.length === 1 ? 'waits' : 'wait'} here until they sign in.
      </p>{/if}
    {#if arrived.length > 0}<p>
        {things(arrived)}
        {arrived.length === 1 ? 'has' : 'have'} reached the server; they see its answer when they sign in.
      </p>{/if}
  </div>
{/if}
{#each personId === null ? [] : outbox.questions as each (each.key)}<Question
    form={each}
    own={each.personId === personId}
    {zone}
  />{/each}
{#each sent as each (each.key)}
  <div role="status" aria-label="Sent late" class="no-print plate mt-2 flex flex-wrap items-center gap-3">
    <p class="flex-1">
      Sent on {dayAndClock(new Date(each.at), zone)}: <b>{each.words}</b>. {each.answer || 'It is recorded.'}
      <a class="underline" href={each.href}>Look</a>
    </p>
    <button type="button" class="btn" onclick={() => void outbox.seen([each])}>Seen</button>
  </div>
{/each}
{#if sent.length > 1}
  <button type="button" class="no-print btn mt-2" onclick={() => void outbox.seen(sent)}>All seen</button>
{/if}
