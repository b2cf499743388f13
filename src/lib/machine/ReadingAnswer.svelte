<script lang="ts">
  import { formatLength } from '$core/units/format-length';
  import type { LengthUnit } from '$core/units/length';
  import Arithmetic from '../Arithmetic.svelte';
  import { REGISTER_WORDS } from '$core/inspection/register-words';
  import type { Answered } from './answered';

  let { answer, unit, row, machine }: { answer: Answered; unit: LengthUnit; row: number; machine: string } =
    $props();
  const said = $derived(answer.answer);
  const heads = {
    leave: 'Leave it',
    measureAgain: 'Measure again',
    noRegister: 'Not a matter of wear',
    change: 'Change it',
  };
</script>

<div class="plate" role="status" aria-label="Answer">
  {#if answer.took}
    <p
      class={[
        'mb-2 font-semibold',
        answer.took.verdict === 'took' || answer.took.verdict === 'tooSmallToTell' ? '' : 'caution',
      ]}
    >
      Last correction: {answer.took.sentence}
    </p>
  {/if}
  {#if said.partOut && said.verdict !== 'measureAgain'}<p class="caution mb-2 text-lg font-semibold">
      This part is outside its limits: hold it.
    </p>{/if}
  {#if said.verdict === 'change'}
    <p class="font-display text-3xl leading-tight font-bold">
      {REGISTER_WORDS[said.role]}, row {row}: {formatLength(said.change, unit, { sign: 'always' })}
    </p>
    <p class="mt-1 font-display text-xl">
      from {formatLength(said.from, unit, { sign: 'always' })} to
      <b>{formatLength(said.to, unit, { sign: 'always' })}</b>
      {unit} on {machine}
    </p>
  {:else}
    <p class="font-display text-3xl font-bold">{heads[said.verdict]}</p>
  {/if}
  <p class="mt-2 text-lg">{said.reason}</p>
  {#if answer.proposalId}<p class="mt-3">
      <a class="btn btn-primary" href="/corrections/{answer.proposalId}">To the correction</a>
    </p>{/if}
  <Arithmetic steps={said.arithmetic} />
</div>
