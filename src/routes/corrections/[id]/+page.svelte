<script lang="ts">
  import Arithmetic from '$lib/Arithmetic.svelte';
  import Approve from '$lib/correction/Approve.svelte';
  import KeyCard from '$lib/correction/KeyCard.svelte';
  import ReadRow from '$lib/correction/ReadRow.svelte';
  import { HARMLESS } from '$core/correction/took';
  import { tookSentence } from '$core/correction/took-words';
  import ActionForm from '$lib/ActionForm.svelte';
  import { REGISTER_WORDS } from '$core/inspection/register-words';
  import { registerShow } from '$lib/register';
  import Ladder from '$lib/Ladder.svelte';
  import SetUpOff from '$lib/now/SetUpOff.svelte';
  import { shortTime } from '$lib/time';

  let { data } = $props();
  const { correction } = $derived(data);
  const { unit } = $derived(correction);
  const signed = $derived(registerShow(correction));
  const wrong = $derived(
    correction.took !== null && !HARMLESS.includes(correction.took) && !correction.cleared,
  );
  let blind = $state(false);
  let decided = $state('');
  const stages = ['proposed', 'approved', 'applied'] as const;
  const reached = $derived(
    correction.took === 'took' ? 4 : Math.max(1, stages.indexOf(correction.state as 'proposed') + 1),
  );
</script>

<svelte:head
  ><title>{correction.machine} T{correction.tool}, {correction.feature} · Tin Almanac</title></svelte:head
>

<header class="mt-4 flex flex-wrap items-end gap-x-5 border-b-[3px] border-double border-base-content pb-2">
  <h1 class="text-3xl">{correction.machine} T{correction.tool}</h1>
  <p class="text-xl">{correction.feature}</p>
  <ol class="flex flex-wrap gap-x-4 font-narrow sm:ml-auto" aria-label="Where it stands">
    {#each ['worked out', 'approved', 'keyed and read back', 'took'] as stage, i (stage)}
      <li
        class={['whitespace-nowrap', i < reached ? 'font-semibold' : 'opacity-80']}
        aria-current={i === reached - 1 ? 'step' : undefined}
      >
        {i < reached ? '●' : '○'}
        {stage}
      </li>
    {/each}
  </ol>
</header>

{#if data.off}<SetUpOff found={data.off.found} look={data.off.look} />{/if}
<div class="mt-5 grid gap-8 lg:grid-cols-[1fr_1.25fr]">
  <section
    aria-labelledby="why"
    class={[correction.state === 'approved' && (correction.held !== null ? 'hidden' : blind && 'invisible')]}
  >
    <h2 id="why" class="heading">Why</h2>
    <p class="mt-1 text-lg">{correction.reason}</p>
    <p class="small-words mt-1">
      {correction.program}, part {correction.part}, measured by {correction.measuredBy}
      {shortTime(correction.at, data.now, data.cell!.timeZone)}.
    </p>
    <div class="mt-3">
      <Ladder
        {...correction}
        reading={correction.measured}
        expected={correction.expectedSize}
        {unit}
        height={230}
      />
    </div>
    <Arithmetic steps={correction.arithmetic} />
  </section>

  <div class="grid content-start gap-4 max-lg:order-first">
    {#each data.together as other (other.id)}
      <p class="caution">
        Together with <a class="underline" href="/corrections/{other.id}"
          >{REGISTER_WORDS[other.registerKind]} of row {other.row}, to {registerShow(other)(other.to)}</a
        >: they are approved and turned down as one. Key both before the next part; one alone may put it
        further off.
      </p>
    {/each}
    {#if correction.state === 'proposed'}
      <Approve {correction} mayApprove={data.mayApprove} onDone={(why) => (decided = why)} />
    {:else if correction.state === 'approved'}
      <KeyCard
        {correction}
        cut={data.cut}
        text={data.text}
        mayKey={data.mayKey}
        twice={data.twice}
        bind:keyed={blind}
      />
    {:else if correction.state === 'applied'}
      <section class="plate">
        <h2 class="text-xl">
          {correction.movedOn === null ? 'The control shows' : 'It was keyed to'}
          {signed(correction.to)}
          {unit}
        </h2>
        <p class="mt-1">
          Approved by {correction.approvedBy}; keyed and read back by {correction.appliedBy}{correction.appliedAt
            ? `, ${shortTime(correction.appliedAt, data.now, data.cell!.timeZone)}`
            : ''}.
        </p>
        {#if correction.movedOn !== null}<p class="mt-2">
            After it: {correction.movedOn} Row {correction.row} holds {signed(correction.present)}
            {unit} now, as far as is recorded.
          </p>{/if}
        <p class={['mt-3 text-lg font-semibold', wrong && 'caution']}>
          {tookSentence(correction.took, correction.tookWords, correction.movedOn !== null)}
        </p>
        {#if correction.cleared && correction.movedOn === null}<p class="mt-1">
            The row was read off the control since.
          </p>{/if}
        {#if wrong}<ReadRow
            {...correction}
            mayKey={data.mayKey}
            why="Nothing more is proposed for this row until somebody has read it off the control."
          />{/if}
        <a
          class={['btn mt-3', correction.movedOn === null && 'btn-primary']}
          href="/machines/{correction.machineId}/now?feature={correction.featureId}">Type the next reading</a
        >
      </section>
    {:else}
      <section class="plate">
        <h2 class="text-xl">
          {correction.state === 'refused'
            ? 'This correction was not made.'
            : 'This correction was overtaken.'}
        </h2>
        {#if correction.withdrawn}<p class="mt-1">{correction.withdrawn}</p>{/if}
        {#if correction.state === 'superseded' && correction.approvedBy}<ReadRow
            {...correction}
            mayKey={data.mayKey}
            why="The record has {signed(
              correction.present,
            )} in row {correction.row}. If somebody keyed this correction all the same, say what the row shows."
          />{/if}
        <p class="mt-1">
          <a class="underline" href="/machines/{correction.machineId}/now?feature={correction.featureId}"
            >Measure a part</a
          >, and it will be worked out again.
        </p>
      </section>
    {/if}
    {#if decided}<p role="alert" class="caution font-semibold">{decided}</p>{/if}
    {#if data.mayRefuse && (correction.state === 'proposed' || correction.state === 'approved')}
      <details>
        <summary class="inline-flex min-h-11 cursor-pointer items-center underline">Don’t make it</summary>
        <ActionForm action="?/refuse" class="mt-1 grid grid-cols-[1fr_auto] gap-2" label="Don’t make it">
          {#snippet children({ busy })}<input
              class="input"
              name="why"
              aria-label="Why not"
              placeholder="why not"
              maxlength="300"
              required
            /><button class="btn" disabled={busy}>Close it</button>{/snippet}
        </ActionForm>
      </details>
    {/if}
  </div>
</div>
