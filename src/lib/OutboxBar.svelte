<script lang="ts">
  import { onMount } from 'svelte';

  import { outbox } from './outbox.svelte';

  /** What was typed while there was no server: it waits in this browser and goes by itself. */
  let { personId }: { personId: number } = $props();
  /** How often it is tried, milliseconds. */
  const EVERY = 3_000;
  const own = $derived(outbox.waiting.filter((each) => each.personId === personId));
  const others = $derived(outbox.waiting.length - own.length);

  onMount(() => {
    outbox.look();
    const timer = setInterval(() => {
      if (outbox.waiting.length > 0) void outbox.send(personId);
    }, EVERY);
    return () => clearInterval(timer);
  });
</script>

{#if outbox.waiting.length > 0}
  <div role="status" aria-label="Waits to be sent" class="no-print caution mx-3 mt-2 md:mx-6">
    {#each own as each (each.key)}<p><b>{each.words}</b> waits on this device, and goes by itself.</p>{/each}
    {#if others > 0}<p>
        {others === 1 ? 'A reading' : `${others} readings`} of somebody else {others === 1 ? 'waits' : 'wait'} here
        until they sign in.
      </p>{/if}
  </div>
{/if}
{#each outbox.sent as each (each.key)}
  <div
    role="status"
    aria-label="Sent late"
    class="no-print plate mx-3 mt-2 flex flex-wrap items-center gap-3 md:mx-6"
  >
    <p class="flex-1">
      <b>{each.words}</b> was sent. {each.answer} <a class="underline" href={each.href}>Look</a>
    </p>
    <button
      type="button"
      class="btn"
      onclick={() => (outbox.sent = outbox.sent.filter((other) => other.key !== each.key))}>Seen</button
    >
  </div>
{/each}
