<script lang="ts">
  import Field from '$lib/Field.svelte';
  import { traitsOf } from '$core/changer/traits';
  import { lengthOf } from '$core/units/length';
  import { goto } from '$app/navigation';
  import type { FoundLayout } from '$core/changer/plan-search';
  import type { PlaceRow } from '$core/changer/place';
  import type { Wanted } from '$core/changer/wanted';
  import ActionForm from '$lib/ActionForm.svelte';
  import Changer from '$lib/changer/Changer.svelte';
  import Becomes from '$lib/planner/Becomes.svelte';
  import Planner from '$lib/planner/Planner.svelte';
  import ProgramChooser from '$lib/program/ProgramChooser.svelte';
  import { placeWord } from '$lib/words';

  let { data } = $props();
  const task = $derived(data.task);
  const shape = $derived(data.shape);
  const fixed = $derived(traitsOf(shape).ownPlaces);
  const place = $derived(placeWord(shape.kind));

  /** What becomes of each tool. */
  const rowsOf = ({ layout }: FoundLayout) =>
    layout
      .map((pocket, i) => ({ pocket, tool: task!.question.tools[i]!, piece: task!.pieces[i]! }))
      .map((row) => ({
        ...row,
        act:
          row.pocket === 0
            ? ('out' as const)
            : row.tool.now === null
              ? ('in' as const)
              : row.tool.now === row.pocket || row.tool.now === 0
                ? ('stays' as const)
                : ('moves' as const),
        becomes: fixed && row.pocket > 0 ? row.pocket : row.tool.tool,
      }))
      .sort((a, b) => a.becomes - b.becomes);
  const wantedOf = (found: FoundLayout): Wanted => ({
    tools: rowsOf(found)
      .filter((row) => row.pocket > 0)
      .map(({ pocket, becomes, tool, piece }) => ({
        assemblyId: piece.assemblyId,
        number: piece.number,
        name: piece.name,
        tool: becomes,
        pocket,
        wide: tool.wide,
        heavy: tool.heavy,
        radius: piece.assemblyId === null ? null : tool.radius,
        orientation: piece.orientation,
        asked: piece.assemblyId === null ? piece.asked : null,
      })),
    out: rowsOf(found).flatMap((row) =>
      row.pocket === 0 && row.piece.assemblyId ? [row.piece.assemblyId] : [],
    ),
  });
  /** The magazine as it would stand; what must be built is not drawn. */
  function pictured(found: FoundLayout): PlaceRow[] {
    const rows = rowsOf(found);
    return data.places.map((each) => {
      const row = each.kind === 'pocket' ? rows.find((other) => other.pocket === each.number) : undefined;
      const standing = row && data.places.find((other) => other.assembly?.id === row.piece.assemblyId);
      return {
        ...each,
        wide: row ? row.tool.wide : each.wide && rows.every((other) => other.piece.tool !== each.tied),
        tied: row?.tool.wide ? row.becomes : each.tied,
        tool: row?.becomes ?? null,
        assembly: row ? (standing?.assembly ?? drawn(row)) : null,
      };
    });
  }
  const drawn = (row: ReturnType<typeof rowsOf>[number]): PlaceRow['assembly'] => {
    const round = lengthOf(2 * row.tool.radius, 'mm');
    return {
      id: row.piece.assemblyId ?? 0,
      number: row.piece.number,
      name: row.piece.name,
      kind: 'endMill',
      interface: data.machine.interface,
      gaugeLength: lengthOf(100, 'mm'),
      stickOut: lengthOf(40, 'mm'),
      holderDiameter: round,
      diameter: round,
      flag: null,
      basis: null,
      remaining: null,
      fullLife: null,
      speedLimit: null,
      mass: row.tool.mass,
      moment: null,
      measured: false,
    };
  };
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
        value={data.locked.join(', ')}
      /></Field
    >
    <button class="btn justify-self-start">Choose</button>
  </div>
</form>

{#if task}
  {#each task.remarks as remark (remark)}<p class="caution mt-3">{remark}</p>{/each}
  <Planner question={task.question} {fixed} begin={data.begin}>
    {#snippet children(found: FoundLayout)}
      {@const rows = rowsOf(found)}
      {@const edits = rows.filter(
        (row) => row.pocket > 0 && row.becomes !== row.tool.tool && row.tool.called,
      )}
      <div class="mt-5 grid gap-6 lg:grid-cols-[5fr_6fr]">
        <div>
          <h2 class="heading">As it would stand</h2>
          <Changer {shape} places={pictured(found)} still large />
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
                <input type="hidden" name="wanted" value={JSON.stringify(wantedOf(found))} />
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
