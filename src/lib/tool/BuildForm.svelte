<script lang="ts">
  import { goto } from '$app/navigation';
  import type { Stack } from '$core/assembly/stack';
  import { INTERFACES, type Interface } from '$core/assembly/silhouette';
  import { kindFacts } from '$core/component/kinds';
  import { capital } from '$core/words/capital';
  import ActionForm from '../ActionForm.svelte';
  import Field from '../Field.svelte';

  interface Props {
    stack: Stack & { cutter: { id: number; name: string } };
    machineId: number | null;
    /** The stick-out as typed. */
    written: string;
    /** The next free number. */
    free: string;
    mayOverride: boolean;
  }
  let { stack, machineId, written, free, mayOverride }: Props = $props();
  const pieces = $derived([
    ['cutter', stack.cutter],
    ['holder', stack.holder],
    ['extension', stack.extension],
    ['nut', stack.nut],
    ['second', stack.second],
    ['adapter', stack.adapter],
    ['insert', stack.inserts?.component],
    ['second_insert', stack.secondInserts?.component],
    ['knob', stack.knob],
  ] as const);
</script>

<ActionForm
  action="?/build"
  class="plate grid gap-2"
  label="Build it"
  onDone={(done: { id: number }) => void goto(`/tools/${done.id}/card`)}
>
  {#snippet children({ busy })}
    {#each pieces as [role, piece] (role)}
      <input type="hidden" name={role} value={piece?.id ?? ''} />
    {/each}
    <input type="hidden" name="machine" value={machineId ?? ''} />
    <input type="hidden" name="stickOut" value={written} />
    <div class="grid grid-cols-[8rem_1fr] gap-2">
      <Field label="Number"
        ><input
          class="input"
          name="number"
          defaultValue={free}
          required
          autocomplete="off"
          maxlength="20"
        /></Field
      >
      <Field label="Name"
        ><input
          class="input"
          name="name"
          required
          maxlength="80"
          defaultValue={stack.cutter.name}
          autocomplete="off"
        /></Field
      >
    </div>
    {#if mayOverride}<Field label="Against a rule? The reason stays visible on the tool." small
        ><input class="input" name="override" maxlength="300" autocomplete="off" /></Field
      >{/if}
    <p class="small-words">
      {capital(kindFacts(stack.cutter.kind).words)} in {stack.holder.name}, {INTERFACES[
        stack.holder.interface as Interface
      ].words}. Its pieces are issued from the crib.
    </p>
    <button class="btn btn-primary" disabled={busy}>Build it</button>
  {/snippet}
</ActionForm>
