<script lang="ts">
  import ActionForm from '$lib/ActionForm.svelte';
  import { dayAndClock } from '$lib/time';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
  const asked = $derived(data.asked!);
  const keptAlready = $derived(
    data.kept !== null &&
      data.kept !== undefined &&
      data.kept.changeMinutes === asked.minutes &&
      data.kept.hourCents === Math.round(asked.rate * 100) &&
      data.kept.failureCents === Math.round(asked.failure * 100),
  );
  const FIELDS = [
    ['edge', 'An edge costs'],
    ['minutes', 'Minutes of a change'],
    ['rate', 'An hour of the machine'],
    ['failure', 'A failure costs beside: part, tool, stop'],
  ] as const;
</script>

<form class="grid gap-2" method="GET" aria-label="What a change costs">
  {#if data.groups!.length > 0}
    <label class="grid gap-1"
      ><span class="small-words">Edges of</span><select class="select" name="of"
        ><option value="">what it cuts now</option>{#each data.groups! as { value, label } (value)}<option
            {value}
            selected={value === data.of}>{label}</option
          >{/each}</select
      ></label
    >
  {/if}
  {#each FIELDS as [name, label] (name)}
    <label class="flex items-center gap-2"
      ><input class="input w-24" {name} inputmode="decimal" defaultValue={asked[name]} /><span>{label}</span
      ></label
    >
  {/each}
  <button class="btn justify-self-start">Work it out</button>
</form>
{#if data.mayAdopt && data.assembly.machine}
  <ActionForm action="?/keep" label="Keep these costs" keep>
    {#snippet children({ busy })}
      {#each ['minutes', 'rate', 'failure'] as const as name (name)}<input
          type="hidden"
          {name}
          value={asked[name]}
        />{/each}
      <button class="btn" disabled={busy || keptAlready}>Keep these for {data.assembly.machine}</button>
    {/snippet}
  </ActionForm>
{/if}
{#if data.kept}<p class="small-words">
    Kept for {data.assembly.machine} by {data.kept.person}, {dayAndClock(data.kept.at, data.cell!.timeZone)}.
  </p>{/if}
