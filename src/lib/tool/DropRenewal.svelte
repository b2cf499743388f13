<script lang="ts">
  import type { RenewalStep } from '$core/life/renewal';
  import ActionForm from '../ActionForm.svelte';

  interface Props {
    number: string;
    /** Steps that were taken. */
    steps: readonly RenewalStep[];
    inserts: boolean;
  }
  /** Drops a renewal that was begun at the wrong tool. */
  let { number, steps, inserts }: Props = $props();
</script>

<details class="mt-2">
  <summary class="inline-flex min-h-11 cursor-pointer items-center underline">Wrong tool?</summary>
  <p>
    {#if steps.length === 0}Nothing of {number} has changed yet.{:else}{number} goes on with the edge it has: its
      life and its flag go back to what they were, less what it has cut since.{/if}
    {#if steps.includes('lifeSet')}Set the life back on the control too.{/if}
    {#if steps.includes('measured')}The length that was typed stays: see that it is this tool’s.{/if}
    {#if inserts && steps.includes('changed')}Inserts that were booked as turned stay booked: count the shelf.{/if}
  </p>
  <ActionForm action="?/dropRenewal" class="mt-1 flex flex-wrap gap-2" label="Drop the renewal">
    {#snippet children({ busy })}
      <input
        class="input h-14 min-w-52 flex-1"
        name="why"
        maxlength="200"
        aria-label="Why it is dropped"
        placeholder="which tool it was meant for"
        required
      />
      <button class="btn h-14" disabled={busy}>Drop the renewal</button>
    {/snippet}
  </ActionForm>
</details>
