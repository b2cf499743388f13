<script lang="ts">
  import { dayAndClock } from '$lib/time';

  let { data } = $props();
  const words = (parted: { since: Date; atLeast: boolean } | null) =>
    parted === null
      ? 'not on record'
      : `${parted.atLeast ? 'at least since' : 'since'} ${dayAndClock(parted.since, data.timeZone)}`;
</script>

<svelte:head><title>Families · Tin Almanac</title></svelte:head>

<header
  class="mt-4 flex flex-wrap items-end gap-x-5 gap-y-2 border-b-[3px] border-double border-base-content pb-2"
>
  <h1 class="text-3xl">Families</h1>
  {#if data.family}
    <form class="no-print ml-auto flex flex-wrap items-end gap-3" aria-label="Which family">
      <label class="grid"
        ><span class="small-words">Program</span><select class="select" name="program"
          >{#each data.families as { number, title } (number)}<option
              value={number}
              selected={number === data.family.number}>{number} {title}</option
            >{/each}</select
        ></label
      >
      <label class="grid"
        ><span class="small-words">Lengths may differ by, mm</span><input
          class="input w-32"
          name="within"
          inputmode="decimal"
          autocomplete="off"
          defaultValue={data.typed}
          aria-invalid={data.fault !== null}
        /></label
      >
      <button class="btn btn-primary">Lay side by side</button>
    </form>
  {/if}
</header>
{#if data.fault}<p class="caution mt-2" role="alert">{data.fault}</p>{/if}

{#if data.family === null}
  <p class="mt-4 max-w-prose text-lg">
    No program runs on more than one machine. Bring a program in for a second machine, under its number: then
    this page says where the two part, by how much and since when.
  </p>
{:else}
  <p class="mt-3 text-lg" role="status">
    {#if data.partings.length === 0}{data.family.number} is the same on {data.family.machines
        .map(({ name }) => name)
        .join(' and ')}: tools, rows, text, plan and lives.
    {:else}{data.family.number}
      {data.family.title} parts in {data.partings.length}
      {data.partings.length === 1 ? 'thing' : 'things'}, what may spoil a part first.{/if}
  </p>
  {#if data.partings.length > 0}
    <div class="mt-3 overflow-x-auto">
      <table class="ruled w-full font-narrow">
        <thead
          ><tr
            ><th>Of</th><th>What</th>{#each data.family.machines as machine (machine.id)}<th
                ><a class="underline" href="/programs/{machine.programId}">{machine.name}</a></th
              >{/each}<th>By</th><th>Since when</th></tr
          ></thead
        >
        <tbody>
          {#each data.partings as parting (`${parting.of} ${parting.what}`)}
            <tr>
              <th class="text-left" scope="row">{parting.of}</th>
              <td>{parting.what}</td>
              {#each data.family.machines as { id, name } (id)}
                <td>{parting.sides.find((side) => side.machine === name)?.words ?? ''}</td>
              {/each}
              <td>{parting.by ?? ''}</td>
              <td>{words(parting.since)}</td>
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
    <p class="mt-4 flex flex-wrap gap-3">
      <a class="btn" href="/machines/across?{data.family.machines.map(({ id }) => `machine=${id}`).join('&')}"
        >Their T side by side</a
      >
      {#each data.family.machines.slice(1) as { id, name } (id)}
        <a class="btn" href="/programs/{data.family.machines[0]!.programId}/elsewhere/{id}"
          >Move the job from {data.family.machines[0]!.name} to {name}</a
        >
      {/each}
    </p>
  {/if}
{/if}
