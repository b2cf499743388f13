<script lang="ts">
  import type { LengthUnit } from '$core/units/length';

  import ActionForm from '../ActionForm.svelte';
  import NumberField from '../NumberField.svelte';

  /** What a row of the control shows, typed by whoever stands before it: the record starts from there. */
  let { row, unit, mayKey, why }: { row: number; unit: LengthUnit; mayKey: boolean; why: string } = $props();
  let cleared = $state<{ asRecorded: boolean } | null>(null);
  let shown = $state('');
</script>

{#if mayKey}
  <ActionForm
    action="?/clear"
    class="mt-3 grid gap-2"
    label="Read the row"
    onDone={(done: { asRecorded: boolean }) => (cleared = done)}
  >
    {#snippet children({ busy })}
      <p>{why}</p>
      <NumberField
        name="shown"
        label="What row {row} shows, {unit}"
        class="h-14 font-display text-2xl"
        bind:value={shown}
        required
      />
      <button class="btn" disabled={busy}>It shows this</button>
    {/snippet}
  </ActionForm>
{:else}<p class="mt-2">{why}</p>{/if}
{#if cleared}<p role="status" class="mt-2 font-semibold">
    {cleared.asRecorded
      ? 'It is as recorded. Look at the tool and at what the rougher leaves.'
      : 'Written down: the next reading starts from there.'}
  </p>{/if}
