<script lang="ts">
  import { answerHead } from './answer-head';
  import { HARMLESS } from '$core/correction/took';
  import { REGISTER_WORDS } from '$core/inspection/register-words';
  import { formatLength } from '$core/units/format-length';
  import type { Length, LengthUnit } from '$core/units/length';
  import Arithmetic from '../Arithmetic.svelte';
  import { registerShow } from '../register';
  import type { Answered } from './answered';

  let {
    answer,
    machine,
  }: { answer: Answered; machine: { name: string; unit: LengthUnit; increment: Length } } = $props();
  const said = $derived(answer.answer);
  const show = $derived(registerShow(machine));
</script>

<div class="plate" role="status" aria-label="Answer">
  {#if answer.took}
    <p class={['mb-2 font-semibold', !HARMLESS.includes(answer.took.verdict) && 'caution']}>
      Last correction: {answer.took.sentence}
    </p>
  {/if}
  {#if said.partOut && said.verdict !== 'measureAgain'}<p class="caution mb-2 text-lg font-semibold">
      This part is outside its limits: hold it.
    </p>{/if}
  {#if answer.conformity === 'cannotTell'}<p class="caution mb-2 font-semibold">
      Whether this part is in its limits nobody can tell: it is nearer to the limit than the gauge is sure of.
      Measure it with a finer one.
    </p>{/if}
  {#if said.verdict === 'change'}
    {#each said.rows as row (row.register)}
      <p class="font-display text-3xl leading-tight font-bold">
        {REGISTER_WORDS[row.role]}, row {row.row}: {show(row.change)}
      </p>
      <p class="mt-1 font-display text-xl">
        from {show(row.from)} to <b>{show(row.to)}</b>
        {machine.unit} on {machine.name}
      </p>
    {/each}
  {:else}
    <p class="font-display text-3xl font-bold">
      {answerHead(said)}
    </p>
  {/if}
  <p class="mt-2 text-lg">{said.reason}</p>
  {#if said.verdict === 'change' && said.foretold.length > 1}
    <table class="ruled mt-2">
      <thead
        ><tr><th scope="col">What the row cuts</th><th scope="col" class="number">Then expected</th></tr
        ></thead
      >
      <tbody>
        {#each said.foretold as each (each.name)}
          <tr
            ><th scope="row">{each.name}</th><td class={['number', !each.in && 'font-semibold text-accent']}
              >{formatLength(each.size, machine.unit)}{each.in ? '' : ', out'}</td
            ></tr
          >
        {/each}
      </tbody>
    </table>
  {/if}
  {#if answer.proposalIds.length > 0}<p class="mt-3 flex flex-wrap gap-2">
      {#each answer.proposalIds as id, i (id)}<a
          class={['btn', i === 0 && 'btn-primary']}
          href="/corrections/{id}">To the correction{answer.proposalIds.length > 1 ? ` ${i + 1}` : ''}</a
        >{/each}
    </p>{/if}
  <Arithmetic steps={said.arithmetic} />
</div>
