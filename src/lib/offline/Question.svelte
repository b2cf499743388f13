<script lang="ts">
  import ActionForm from '../ActionForm.svelte';
  import { clock, dayAndClock } from '../time';
  import { outbox, PATIENCE, type Kept } from './outbox.svelte';

  interface Props {
    form: Kept;
    /** Whether whoever is signed in typed it. */
    own: boolean;
    zone: string;
  }
  /** Something that was typed without a network and was not taken when it was sent: what happened meanwhile, and what is to become of it. */
  let { form, own, zone }: Props = $props();
  interface Meanwhile {
    more: boolean;
    entries: { id: number; at: string; person: string; said: string }[];
  }
  // by its address: the form is read anew from the device with each change there, and is no other one by that
  const address = $derived(
    form.machine === null || form.seen === 0
      ? null
      : `/machines/${form.machine}/meanwhile?after=${form.seen}`,
  );
  const meanwhile = $derived(
    address === null
      ? null
      : fetch(address, { signal: AbortSignal.timeout(PATIENCE) }).then((answer) =>
          answer.ok ? (answer.json() as Promise<Meanwhile>) : null,
        ),
  );
  const typed = $derived(
    Number.isFinite(form.typedAt) ? `, by this device’s clock at ${clock(new Date(form.typedAt), zone)}` : '',
  );
</script>

<div role="alert" aria-label="Not taken: {form.words}" class="no-print caution mt-2 grid gap-2">
  <p>
    What was typed{form.person ? ` by ${form.person}` : ''} without a network{typed}, <b>{form.words}</b>, was
    <b>not taken</b>:
  </p>
  <p class="text-lg font-semibold">{form.question}</p>
  {#await meanwhile}
    <p class="small-words">Asking what happened at the machine meanwhile …</p>
  {:then found}
    {#if found && found.entries.length > 0}
      <div>
        <p>Meanwhile at the machine{found.more ? ', the latest first' : ''}:</p>
        <ul class="ruled-list">
          {#each found.entries as each (each.id)}<li class="py-1">
              {dayAndClock(new Date(each.at), zone)}, {each.person}: {each.said}
            </li>{/each}
        </ul>
      </div>
    {:else if found}<p>Nothing else was entered at the machine meanwhile.</p>{/if}
    {@render answers()}
  {:catch}<p class="small-words">What happened meanwhile cannot be asked just now.</p>
    {@render answers()}
  {/await}
</div>

<!-- once it is known what happened meanwhile: buttons that move away as it comes are missed by a finger -->
{#snippet answers()}
  <div class="flex flex-wrap gap-2">
    <a class="btn" href={form.page}>Look at its page</a>
    {#if own}
      {#each form.ask ?? [] as answer (answer.words)}
        <button type="button" class="btn" onclick={() => void outbox.again(form, answer)}
          >{answer.words}</button
        >
      {:else}
        <button type="button" class="btn" onclick={() => void outbox.again(form)}>Send it again</button>
      {/each}
      {#if form.machine !== null}
        <ActionForm
          action="/machines/{form.machine}/now?/callFor"
          label="Ask on the leaf"
          onDone={() => void outbox.putAside(form)}
        >
          {#snippet children({ busy })}
            <input
              type="hidden"
              name="text"
              value={`Typed without a network and not taken: ${form.words}. ${form.question}`.slice(0, 300)}
            />
            <button class="btn" disabled={busy}>Ask about it on the leaf</button>
          {/snippet}
        </ActionForm>
      {/if}
      <button type="button" class="btn" onclick={() => void outbox.putAside(form)}>It is settled</button>
    {:else}<p class="small-words self-center">
        {form.person || 'Whoever typed it'} answers this when signed in.
      </p>{/if}
  </div>
{/snippet}
