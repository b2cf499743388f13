<script lang="ts">
  import CheckRow from '$lib/breakage/CheckRow.svelte';
  import HeldBack from '$lib/breakage/HeldBack.svelte';

  let { data } = $props();
  const { machine } = $derived(data);
  const zone = $derived(data.cell!.timeZone);
  const byControl = $derived(new Map(data.control.lengths.map(({ tool, length }) => [tool, length])));
  const checked = $derived(data.checks.filter(({ moment, flag }) => moment !== 'none' || flag === 'broken'));
  const others = $derived(data.checks.filter((check) => !checked.includes(check)));
</script>

<svelte:head><title>Checks, {machine.name} · Tin Almanac</title></svelte:head>

<h2 class="mt-4 text-2xl">Checks for breakage</h2>
<p class="small-words mt-1">
  Too short is broken, too long is pulling out of its holder. Either way its part is suspect, and so are all
  since the last good check: they are held back, and no sister takes over. Measure only with the spindle
  stopped, as the machine’s manual says.
</p>
{#if data.control.problem}<p class="caution mt-2">{data.control.problem}</p>{/if}
{#if data.held.length > 0}
  <section class="mt-3" aria-labelledby="held">
    <h3 id="held" class="heading">Held back</h3>
    <ul class="ruled-list mt-1">
      {#each data.held as held (held.assemblyId)}<li><HeldBack {held} /></li>{/each}
    </ul>
  </section>
{/if}
{#snippet rows(checks: typeof data.checks)}
  <ul class="ruled-list mt-1">
    {#each checks as check (check.assemblyId)}
      <CheckRow
        {check}
        unit={machine.unit}
        lathe={machine.kind === 'lathe'}
        byControl={byControl.get(check.tool) ?? null}
        job={data.job}
        open={data.chosen === check.tool}
        mayDecide={data.mayDecide}
        mayCheck={data.mayCheck}
        now={data.now}
        {zone}
      />
    {/each}
  </ul>
{/snippet}
<section class="mt-4" aria-labelledby="checked">
  <h3 id="checked" class="heading">These are checked</h3>
  {#if checked.length === 0}<p>None of the tools in {machine.name} is likely to break.</p>{/if}
  {@render rows(checked)}
</section>
{#if others.length > 0}
  <section class="mt-4" aria-labelledby="others">
    <h3 id="others" class="heading">These need not be</h3>
    {@render rows(others)}
  </section>
{/if}
