<script lang="ts">
  import { definitionWords } from '$core/definition/read-definition';
  import DefinitionForm from '$lib/program/DefinitionForm.svelte';
  import { formatWithUnit } from '$core/units/format-length';
  import type { Length } from '$core/units/length';

  let { data } = $props();
  const unit = $derived(data.machine.unit);
  const show = (value: Length) => formatWithUnit(value, unit);
  let open = $state<number | null>(null);
  const lacking = $derived(
    data.asked.filter((each) => each.definition && !each.fulfilments.some((f) => f.misses.length === 0)),
  );
</script>

<svelte:head><title>Tools for {data.program.number} · Tin Almanac</title></svelte:head>

<header class="mt-4 flex flex-wrap items-end gap-x-5 border-b-[3px] border-double border-base-content pb-2">
  <h1 class="text-3xl"><a href="/programs/{data.program.id}" class="underline">{data.program.number}</a></h1>
  <p class="text-lg">{data.program.title}: what it asks for, and what will do</p>
  <p class="small-words ml-auto">{data.machine.name}</p>
</header>
{#if lacking.length > 0}
  <p class="caution mt-3 text-lg">
    Nothing will do for {lacking.map((each) => `T${each.tool}`).join(', ')} as asked for.
  </p>
{/if}
<ol class="mt-4 grid gap-x-8 lg:grid-cols-2">
  {#each data.asked as each (each.tool)}
    {@const good = each.fulfilments.filter((f) => f.misses.length === 0)}
    <li class="border-t border-base-content py-3">
      <div class="flex items-baseline gap-3">
        <b class="font-display text-2xl">T{each.tool}</b>
        <p class="flex-1 text-lg">
          {each.definition ? definitionWords(each.definition, show) : 'not known'}
          <span class="small-words block"
            >{each.written ? 'as written down' : `read from “${each.comment}”, line ${each.line}`}</span
          >
        </p>
        {#if data.mayWrite}<button class="btn" onclick={() => (open = open === each.tool ? null : each.tool)}
            >{each.definition ? 'Change' : 'Write it down'}</button
          >{/if}
      </div>
      {#if open === each.tool}<DefinitionForm
          tool={each.tool}
          definition={each.definition}
          {unit}
          onDone={() => (open = null)}
        />{/if}
      {#each each.reground as cutter (cutter.id)}<p class="caution mt-1">
          {cutter.from} was reground: <a class="underline" href="/crib?item={cutter.id}">{cutter.number}</a>
          is
          {show(cutter.diameter)} across and will not do here. {cutter.left} left of the old size.
        </p>{/each}
      <ul class="mt-1 font-narrow">
        {#each each.fulfilments.slice(0, Math.max(3, good.length)) as { candidate, misses, remarks, doubts } (candidate.id)}
          <li class="grid grid-cols-[1.2rem_5rem_1fr] gap-x-2 py-0.5">
            <span aria-hidden="true" class={misses.length > 0 ? 'text-accent' : ''}
              >{misses.length > 0 ? '×' : doubts > 0 ? '?' : '●'}</span
            >
            <a class="underline" href="/tools/{candidate.id}">{candidate.number}</a>
            <span
              >{#if misses.length > 0}{misses.join(
                  '; ',
                )}{:else if candidate.machine === data.machine.name && candidate.tool === each.tool}is there{:else}{doubts >
                0
                  ? 'may'
                  : 'can'}
                serve{candidate.machine === null ? ', loose: a sister' : ''}{/if}{#if remarks.length > 0}<span
                  class="small-words">, {remarks.join(', ')}</span
                >{/if}</span
            >
          </li>
        {:else}<li class="small-words">
            {each.definition ? 'No assembly of this kind.' : 'Its comment names no kind of tool.'}
          </li>{/each}
      </ul>
      {#if each.definition && good.length === 0}<a
          class="btn mt-2"
          href="/tools/builder?machine={data.machine.id}&program={data.program.id}&tool={each.tool}"
          >Build one</a
        >{/if}
    </li>
  {/each}
</ol>
