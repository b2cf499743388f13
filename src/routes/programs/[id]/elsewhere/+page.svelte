<script lang="ts">
  import type { ToolThere } from '$core/program/elsewhere';

  let { data } = $props();
  const { program } = $derived(data);
  const VERDICT = {
    asItIs: 'Nothing in its text speaks against it',
    changed: 'With changes',
    not: 'Not there',
  } as const;
  const STATE: Readonly<Record<ToolThere['state'], string>> = {
    there: 'stands there',
    otherT: 'stands there under another T',
    free: 'is free to be put in',
    elsewhere: 'is in use elsewhere',
    none: 'nothing on record serves',
    unknown: 'nobody has said what it is',
  };
  const COUNTED = {
    there: 'in place',
    otherT: 'under another T',
    free: 'free to be put in',
    elsewhere: 'in use elsewhere',
    none: 'to be built',
    unknown: 'not described',
  } as const;
  /** How its tools stand, in short. */
  const inShort = (tools: readonly ToolThere[]) =>
    (Object.keys(COUNTED) as ToolThere['state'][])
      .map((state) => [tools.filter((each) => each.state === state).length, COUNTED[state]] as const)
      .filter(([count]) => count > 0)
      .map(([count, words]) => `${count} ${words}`)
      .join(', ');
</script>

<svelte:head><title>{program.number} elsewhere · Tin Almanac</title></svelte:head>

<header class="mt-4 flex flex-wrap items-end gap-x-5 border-b-[3px] border-double border-base-content pb-2">
  <h1 class="text-3xl">Where else it could run</h1>
  <p class="text-lg">
    <a class="underline" href="/programs/{program.id}">{program.number}</a>
    {program.title}, at home on {program.machine}
  </p>
</header>
<p class="small-words mt-2">
  Read by each machine’s own words and its own store of programs. Fixture and how rigid it is nobody can read
  from a program: it is proven there like a new one.
</p>
<div class="mt-4 grid gap-x-8 gap-y-6 lg:grid-cols-2">
  {#each data.places as { id, name, found } (id)}
    <section aria-labelledby="m{id}">
      <h2 id="m{id}" class="heading">
        <a class="underline" href="/machines/{id}">{name}</a>
        <span class={['ml-2', found.verdict === 'not' && 'text-accent']}>{VERDICT[found.verdict]}</span>
      </h2>
      {#if found.verdict !== 'not'}<a
          class="inline-flex min-h-11 items-center underline"
          href="/programs/{program.id}/elsewhere/{id}">Move it there: one sheet</a
        >{/if}
      {#each found.against as text (text)}<p class="mt-1 font-semibold">{text}</p>{/each}
      {#if found.change.length > 0}
        <ul class="ruled-list mt-1">
          {#each found.change.slice(0, 12) as { text }, i (i)}<li class="py-1.5">{text}</li>{/each}
        </ul>
        {#if found.change.length > 12}<p class="small-words">And {found.change.length - 12} more.</p>{/if}
      {/if}
      {#if found.tools.length > 0}
        <details class="mt-1">
          <summary class="min-h-11 cursor-pointer py-2"
            >Of its {found.tools.length} tools {inShort(found.tools)}</summary
          >
          <table class="ruled">
            <thead><tr><th>T</th><th>Asked for</th><th>There</th></tr></thead>
            <tbody>
              {#each found.tools as { tool, words, state, serves } (tool)}
                <tr><td>T{tool}</td><td>{words}</td><td>{serves ? `${serves} ` : ''}{STATE[state]}</td></tr>
              {/each}
            </tbody>
          </table>
        </details>
      {/if}
    </section>
  {/each}
</div>
