<script lang="ts">
  import Field from '$lib/Field.svelte';
  import ActionForm from '../ActionForm.svelte';
  import ChooseLoose from './ChooseLoose.svelte';
  import type { Loose } from './loose';

  interface Props {
    machine: { id: number; name: string; spindleSure: boolean };
    loose: Loose;
    mayPlace: boolean;
  }
  let { machine, loose, mayPlace }: Props = $props();
</script>

{#if !machine.spindleSure}
  <section class="caution mt-4 grid gap-2 text-lg" role="alert">
    <p>
      <b>Nobody is sure what is in the spindle of {machine.name}.</b> Nothing is planned or recorded until somebody
      has looked and says what the control shows.
    </p>
    {#if mayPlace}
      <ActionForm action="?/found" class="flex flex-wrap items-end gap-3" label="What is in the spindle">
        {#snippet children({ busy })}
          <Field label="The control shows T"
            ><input
              class="input w-28 text-xl"
              name="tool"
              inputmode="numeric"
              placeholder="0 = none"
              required
            /></Field
          >
          <ChooseLoose label="If the record has no such T: which assembly" machineId={machine.id} {loose} />
          <button class="btn btn-primary" disabled={busy}>I have looked: this is there</button>
        {/snippet}
      </ActionForm>
    {/if}
  </section>
{:else if mayPlace}
  <details class="mt-2">
    <summary class="small-words min-h-11 cursor-pointer py-2.5 underline"
      >Not sure what is in the spindle?</summary
    >
    <ActionForm action="?/doubt" class="mt-2 flex gap-2" label="Not sure">
      {#snippet children({ busy })}
        <input class="input" name="why" maxlength="200" aria-label="Why nobody is sure" placeholder="why" />
        <button class="btn" disabled={busy}>Nobody is sure</button>
      {/snippet}
    </ActionForm>
  </details>
{/if}
