<script lang="ts">
  import { REGISTER_WORDS } from '$core/inspection/register-words';
  import { formatLength } from '$core/units/format-length';
  import type { Length, LengthUnit } from '$core/units/length';

  import ActionForm from '../ActionForm.svelte';
  import { registerShow } from '../register';

  interface Props {
    correction: Parameters<typeof registerShow>[0] & {
      registerKind: string;
      row: number;
      unit: LengthUnit;
      change: Length;
      from: Length;
      to: Length;
      operatorLimit: Length;
    };
    mayApprove: boolean;
    /** Why it could not be approved; empty where it was. */
    onDone: (why: string) => void;
  }
  let { correction, mayApprove, onDone }: Props = $props();
  const { unit } = $derived(correction);
  const signed = $derived(registerShow(correction));
</script>

<section class="plate">
  <h2 class="text-xl">
    {mayApprove ? 'To approve' : 'Wait for the lead'}: {REGISTER_WORDS[correction.registerKind]}, row {correction.row}
  </h2>
  <p class="mt-2 font-display text-5xl font-bold">
    {signed(correction.change)} <span class="text-xl font-normal">{unit}</span>
  </p>
  <p class="font-display text-xl">from {signed(correction.from)} to {signed(correction.to)}</p>
  {#if mayApprove}
    <ActionForm
      action="?/approve"
      class="mt-4"
      label="Approve"
      onDone={(done: { done: boolean; reason?: string }) => onDone(done.done ? '' : (done.reason ?? ''))}
    >
      {#snippet children({ busy })}<button
          class="btn h-14 w-full text-lg btn-primary"
          disabled={busy}
          data-key="a">Approve <span class="key-hint" aria-hidden="true">a</span></button
        >{/snippet}
    </ActionForm>
  {:else}
    <p class="caution mt-4">
      This is over the {formatLength(correction.operatorLimit, unit)}
      {unit} that may be approved at the machine. It waits for the cell lead.
    </p>
  {/if}
</section>
