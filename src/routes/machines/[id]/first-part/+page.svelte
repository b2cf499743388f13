<script lang="ts">
  import type { RowRead } from '$core/correction/read-back';
  import { FIRST_SCHOOL_WORDS } from '$core/correction/first-part-plan';
  import ActionForm from '$lib/ActionForm.svelte';
  import NcText from '$lib/correction/NcText.svelte';
  import ReadRows from '$lib/correction/ReadRows.svelte';
  import RowsToKey from '$lib/correction/RowsToKey.svelte';
  import Field from '$lib/Field.svelte';
  import Begin from '$lib/first-part/Begin.svelte';
  import MeasureFirst from '$lib/first-part/MeasureFirst.svelte';
  import SoFar from '$lib/first-part/SoFar.svelte';

  let { data } = $props();
  const { machine, open } = $derived(data);
  const step = $derived(open?.state.step);
  let keyed = $state(false);
  let typed = $state<Record<number, string>>({});
</script>

<svelte:head><title>First part · {machine.name} · Tin Almanac</title></svelte:head>

{#snippet drop(id: number)}
  <details class="mt-6">
    <summary class="inline-flex min-h-11 cursor-pointer items-center underline">Drop it</summary>
    <ActionForm action="?/end" class="mt-1 flex flex-wrap items-end gap-3" label="Drop it">
      {#snippet children({ busy })}
        <input type="hidden" name="id" value={id} />
        <input type="hidden" name="dropped" value="on" />
        <Field label="Why"><input class="input w-80" name="why" maxlength="300" required /></Field>
        <button class="btn" disabled={busy}>Drop it</button>
      {/snippet}
    </ActionForm>
    <p class="small-words mt-1">What was keyed stays in the rows: look at them before the next part.</p>
  </details>
{/snippet}

{#snippet soFar()}
  {#if open}<SoFar
      plan={open.plan}
      findings={open.state.findings}
      done={open.done}
      zone={data.cell!.timeZone}
    />{/if}
{/snippet}

{#if !open || !step}
  {#if data.may.run}<Begin begin={data.begin} unit={machine.unit} />
  {:else}<p class="mt-5 text-lg">
      No first part is being brought to size. Setters and the lead begin one.
    </p>{/if}
{:else}
  <h2 class="mt-5 text-2xl">First part of {open.program}</h2>
  <p class="small-words">
    {FIRST_SCHOOL_WORDS[open.plan.school].name}, begun by {open.begunBy}. Anybody may take it up from here.
  </p>
  {#if open.disturbed}
    <div class="caution mt-4" role="alert">
      <p class="text-lg font-semibold">Its rows or tools were changed by others meanwhile.</p>
      <p>{open.disturbed}</p>
      <p>What was measured was cut with other offsets: drop this first part and begin anew.</p>
    </div>
  {:else if step.do === 'key'}
    <p class="mt-3 max-w-3xl text-lg font-semibold" role="status">{step.words}</p>
    <div class="mt-2 max-w-3xl">
      {#if !keyed}
        <RowsToKey rows={open.toKey} {machine} last="Why" add>
          {#snippet note(each)}{each.why}{/snippet}
        </RowsToKey>
        {#if open.text}<NcText text={open.text} name="{machine.name} first part" />{/if}
        <p class="caution mt-3 text-sm">
          Check each row twice. Where a row does not show what stands here, leave it alone and ask. First run
          after it: single block, rapids low, a hand on feed hold.
        </p>
        {#if data.may.run}<button
            type="button"
            class="btn mt-4 h-14 w-full text-lg btn-primary"
            onclick={() => (keyed = true)}>I have keyed them</button
          >{:else}<p class="mt-3">Setters and the lead key a first part.</p>{/if}
      {:else}
        <ReadRows
          rows={open.toKey.map(({ registerId, row, registerKind }) => ({
            id: registerId,
            row,
            registerKind,
          }))}
          action="?/readBack"
          hidden={{ id: open.id }}
          bind:typed
          onShow={() => (keyed = false)}
          read={(done: RowRead[]) => done.map(({ registerId, ...each }) => ({ id: registerId, ...each }))}
          onKept={() => (keyed = false)}
        />
      {/if}
    </div>
  {:else if step.do === 'measure'}
    <p class="mt-3 max-w-3xl text-lg font-semibold" role="status">{step.words}</p>
    <MeasureFirst
      id={open.id}
      plan={open.plan}
      tasks={step.tasks}
      stops={open.stops}
      mayMeasure={data.may.measure}
      below={soFar}
    />
  {:else if step.do === 'halt'}
    <div class="caution mt-4 max-w-3xl" role="alert">
      <p class="text-xl font-semibold">Stop. {step.reason}</p>
      <p class="text-lg">{step.remedy}</p>
    </div>
    {#if !step.final && data.may.run}
      <ActionForm action="?/looked" class="mt-3 grid max-w-xl gap-3" label="What was found">
        {#snippet children({ busy })}
          <input type="hidden" name="id" value={open.id} />
          <Field label="What was found"
            ><input class="input h-14 w-full" name="found" maxlength="300" required /></Field
          >
          <button class="btn h-14 text-lg btn-primary" disabled={busy}>I have looked: measure again</button>
        {/snippet}
      </ActionForm>
    {/if}
  {:else}
    <div class="plate mt-4 max-w-3xl" role="status">
      <p class="font-display text-3xl font-bold">
        {step.right ? 'Brought to size' : 'Ended, and not all of it is known to be right'}
      </p>
      {#each step.words as words (words)}<p class="mt-2 text-lg">{words}</p>{/each}
      {#if data.may.run}
        <ActionForm action="?/end" class="mt-3" label="Finish">
          {#snippet children({ busy })}
            <input type="hidden" name="id" value={open.id} />
            <button class="btn h-14 px-8 text-lg btn-primary" disabled={busy}>Finish</button>
          {/snippet}
        </ActionForm>
      {/if}
    </div>
  {/if}
  {#if open.disturbed || step.do !== 'measure'}<div class="max-w-3xl">{@render soFar()}</div>{/if}
  {#if data.may.run && step.do !== 'done'}{@render drop(open.id)}{/if}
{/if}
