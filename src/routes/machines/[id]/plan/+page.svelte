<script lang="ts">
  import Field from '$lib/Field.svelte';
  import { traitsOf } from '$core/changer/traits';
  import { goto } from '$app/navigation';
  import type { FoundLayout } from '$core/changer/plan-search';
  import { placesAsPlanned, plannedTools, wantedByPlan } from '$core/changer/planned';
  import ActionForm from '$lib/ActionForm.svelte';
  import Changer from '$lib/changer/Changer.svelte';
  import Becomes from '$lib/planner/Becomes.svelte';
  import Planner from '$lib/planner/Planner.svelte';
  import ShortLived from '$lib/planner/ShortLived.svelte';
  import ProgramChooser from '$lib/program/ProgramChooser.svelte';
  import { placeWord } from '$lib/words';

  let { data } = $props();
  const task = $derived(data.task);
  const shape = $derived(data.shape);
  const fixed = $derived(traitsOf(shape).ownPlaces);
  const place = $derived(placeWord(shape.kind));
</script>

<svelte:head><title>Plan the magazine · {data.machine.name} · Tin Almanac</title></svelte:head>

<form
  class="no-print mt-4 grid gap-x-8 gap-y-3 lg:grid-cols-[1fr_auto]"
  data-sveltekit-keepfocus
  data-sveltekit-noscroll
>
  <ProgramChooser
    programs={data.programs}
    chosen={data.chosen}
    legend="For which jobs"
    machine={data.machine.name}
  />
  <div class="grid content-start gap-3">
    <Field label="Also keep where they are"
      ><input
        class="input w-56"
        name="stay"
        placeholder="T, as 3, 12"
        defaultValue={data.locked.join(', ')}
      /></Field
    >
    <button class="btn justify-self-start">Choose</button>
  </div>
  {#if data.short.length > 0}<ShortLived
      short={data.short}
      beside={data.beside}
      machineId={data.machine.id}
    />{/if}
</form>

{#if task}
  {#each task.remarks as remark (remark)}<p class="caution mt-3">{remark}</p>{/each}
  <Planner question={task.question} {fixed} begin={data.begin}>
    {#snippet children(found: FoundLayout)}
      {@const rows = plannedTools(task, found.layout, fixed)}
      {@const edits = rows.filter(
        (row) => row.pocket > 0 && row.becomes !== row.tool.tool && row.tool.called,
      )}
      <div class="mt-5 grid gap-6 lg:grid-cols-[5fr_6fr]">
        <div>
          <h2 class="heading">As it would stand</h2>
          <Changer {shape} places={placesAsPlanned(data.places, rows, data.machine.interface)} still large />
          {#if traitsOf(shape).exchanges}<p class="small-words mt-1">
              A swing arm puts each tool away where it fetched the next: this is how it stands at the start.
              Only wide tools, and those with a pocket of their own, go home.
            </p>{/if}
        </div>
        <section>
          <Becomes {rows} {place} {edits} />
          {#if data.mayPlan && rows.some((row) => row.act !== 'stays')}
            <ActionForm
              action="/machines/{data.machine.id}/load?/make"
              class="mt-4"
              label="Load plan"
              onDone={() => goto(`/machines/${data.machine.id}/load`)}
            >
              {#snippet children({ busy })}
                <input type="hidden" name="wanted" value={JSON.stringify(wantedByPlan(rows))} />
                <button class="btn btn-primary" disabled={busy}>Make it the load plan</button>
              {/snippet}
            </ActionForm>
          {/if}
        </section>
      </div>
    {/snippet}
  </Planner>
{:else}<p class="mt-5 text-lg">
    {data.programs.length === 0
      ? 'Bring a program in first.'
      : 'No job is open here: tick those of a shift or a week.'}
  </p>{/if}
