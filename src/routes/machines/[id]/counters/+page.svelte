<script lang="ts">
  import CounterRow from '$lib/group/CounterRow.svelte';

  let { data } = $props();
  const { machine } = $derived(data);
  /** What differs first, and of that what nothing explains. */
  const weight = ({ difference }: (typeof data.counters)[number]) =>
    !difference || difference.reason === 'same'
      ? 3
      : difference.reason === 'notRecorded'
        ? 2
        : difference.reason === 'unknown'
          ? 0
          : 1;
  const counters = $derived(data.counters.toSorted((a, b) => weight(a) - weight(b) || a.tool - b.tool));
  const late = $derived(counters.filter((each) => weight(each) === 2).length);
  const differ = $derived(counters.filter((each) => weight(each) < 2).length);
</script>

<svelte:head><title>Counters, {machine.name} · Tin Almanac</title></svelte:head>

<h2 class="mt-4 text-2xl">Life counters, here and on the control</h2>
<p class="mt-1 text-lg font-semibold" role="status">
  {#if data.problem}{data.problem}
  {:else if !data.linked}{machine.name} has no link to its control: read its counters off and type them.
  {:else if differ + late === 0}The record and the control agree.
  {:else if differ === 0}The record and the control agree, but for parts that are not recorded.
  {:else}{differ === 1 ? 'One counter differs' : `${differ} counters differ`} from the record{late > 0
      ? `, ${late} more only by parts that are not recorded`
      : ''}.{/if}
</p>
{#if data.unrecorded}<p class="mt-1">
    The control has counted {data.unrecorded === 1 ? 'one cycle' : `${data.unrecorded} cycles`} that
    {data.unrecorded === 1 ? 'is' : 'are'} not recorded:
    <a class="underline" href="/machines/{machine.id}/now">record the parts first</a>.
  </p>{/if}
<p class="small-words mt-1">
  The control of {machine.name} expires a tool {machine.expiry === 'atZero'
    ? 'at zero: it shows the uses that are left'
    : 'below zero: of pieces and holes it shows one less than are left'}.
</p>
<ul class="ruled-list mt-3">
  {#each counters as counter (counter.assemblyId)}
    <CounterRow
      {counter}
      lathe={machine.kind === 'lathe'}
      mayTake={data.mayTake}
      unrecorded={(data.unrecorded ?? 0) > 0}
    />
  {:else}<li class="py-2">No tool in {machine.name} is counted.</li>{/each}
</ul>
