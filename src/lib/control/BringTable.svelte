<script lang="ts">
  import { REGISTER_WORDS } from '$core/inspection/register-words';
  import ActionForm from '../ActionForm.svelte';
  import Field from '../Field.svelte';

  interface Props {
    machine: string;
    /** Registers that the machine has words for. */
    kinds: string[];
    /** Layouts that were kept for its tables. */
    mappings: { id: number; name: string }[];
    machineId: number;
    /** It has an agent that can be asked. */
    agent: boolean;
    mayTell: boolean;
  }
  let { machine, kinds, mappings, machineId, agent, mayTell }: Props = $props();
</script>

<section class="plate" aria-labelledby="bring-table">
  <h2 id="bring-table" class="text-xl">Bring its table in</h2>
  <p class="small-words mt-1">
    The offset table as {machine} punches it out, or row and number, one under the other. It is taken whole or not
    at all, and changes nothing: it is laid beside the record.
  </p>
  <ActionForm action="?/bring" class="mt-3 grid gap-3" label="Bring its table in" multipart>
    {#snippet children({ busy })}
      <Field label="A file"><input class="file-input min-h-11 w-full" type="file" name="file" /></Field>
      <Field label="or pasted"
        ><textarea class="textarea font-mono" name="text" rows="4" spellcheck="false"></textarea></Field
      >
      <Field label="Lines that only name a row hold, or its layout"
        ><select class="select" name="kind"
          ><option value="">–</option>{#each mappings as mapping (mapping.id)}<option
              value="layout {mapping.id}">laid out as {mapping.name}</option
            >{/each}{#each kinds as kind (kind)}<option value={kind}>{REGISTER_WORDS[kind]}</option
            >{/each}<option value="pockets">which T stands in a pocket</option></select
        ></Field
      >
      <label class="flex min-h-11 items-center gap-2"
        ><input class="checkbox" type="checkbox" name="part" value="yes" /> Only a part was read</label
      >
      <button class="btn btn-primary" disabled={busy}>Lay it beside the record</button>
    {/snippet}
  </ActionForm>
  {#if agent}
    <ActionForm action="?/agent" class="mt-2" label="Ask its agent">
      {#snippet children({ busy })}
        <div class="grid gap-2 sm:grid-cols-2">
          <button class="btn min-h-11" name="what" value="registers" disabled={busy}
            >Ask its agent for the table</button
          >
          <button class="btn min-h-11" name="what" value="pockets" disabled={busy}
            >Ask it for the pockets</button
          >
        </div>
      {/snippet}
    </ActionForm>
  {/if}
  <p class="mt-2">
    <a class="inline-flex min-h-11 items-center underline" href="/machines/{machineId}/control/rows"
      >Read it off the screen, row by row</a
    >
  </p>
  {#if mayTell}<p>
      <a class="inline-flex min-h-11 items-center underline" href="/machines/{machineId}/control/layout"
        >A table in columns: tell its layout on a sample</a
      >
    </p>{/if}
</section>
