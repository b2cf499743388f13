<script lang="ts">
  import { ACTS, ACT_WORDS, may, ROLE_WORDS, ROLES } from '$core/people/roles';
  import { dayAndClock } from '$lib/time';
  import PersonPlate from '$lib/people/PersonPlate.svelte';

  let { data } = $props();
  let chosen = $state<number | null>(null);
  const person = $derived(data.people.find((each) => each.id === chosen) ?? null);
  const groups = $derived(
    ROLES.map((role) => ({ role, people: data.people.filter((each) => each.active && each.role === role) })),
  );
  const gone = $derived(data.people.filter((each) => !each.active));
</script>

<svelte:head><title>People · Tin Almanac</title></svelte:head>

{#snippet name(each: (typeof data.people)[number])}
  <button
    class={[
      'flex min-h-11 w-full flex-wrap items-baseline gap-x-2 px-1 py-2 text-left',
      chosen === each.id && 'bg-base-300',
    ]}
    aria-pressed={chosen === each.id}
    onclick={() => (chosen = chosen === each.id ? null : each.id)}
  >
    <span class="text-lg underline">{each.name}</span>
    <span class="small-words whitespace-nowrap">badge {each.badge}</span>
    <span class="small-words ml-auto sm:whitespace-nowrap"
      >{each.lastSeen
        ? `last entry ${dayAndClock(each.lastSeen, data.cell!.timeZone)}`
        : 'no entry yet'}</span
    >
  </button>
{/snippet}

<header class="mt-5 flex flex-wrap items-end gap-4">
  <h1 class="text-3xl">People</h1>
  <a class="btn ml-auto" href="/people/sessions">Signed in</a>
  <a class="btn" href="/connections">Other systems</a>
  <a class="btn" href="/cell">Cell and shifts</a>
</header>
<p class="small-words mt-1">Every entry in the ledger carries one of these names. Nobody is ever deleted.</p>
<div class="mt-4 grid gap-8 lg:grid-cols-[1.5fr_1fr]">
  <div class="min-w-0">
    {#each groups as { role, people } (role)}
      <section
        class="grid grid-cols-[5rem_1fr] gap-x-4 border-t border-base-content py-1 sm:grid-cols-[8rem_1fr]"
        aria-label={ROLE_WORDS[role]}
      >
        <h2 class="pt-2 font-display font-semibold">{ROLE_WORDS[role]}</h2>
        <ul class="min-w-0">
          {#each people as each (each.id)}<li>{@render name(each)}</li>{:else}<li class="small-words py-3">
              nobody
            </li>{/each}
        </ul>
      </section>
    {/each}
    {#if gone.length > 0}
      <section
        class="grid grid-cols-[5rem_1fr] gap-x-4 border-t border-base-content py-1 sm:grid-cols-[8rem_1fr]"
        aria-label="No longer here"
      >
        <h2 class="pt-2 font-display font-semibold">no longer here</h2>
        <ul class="min-w-0">
          {#each gone as each (each.id)}<li>{@render name(each)}</li>{/each}
        </ul>
      </section>
    {/if}
    <h2 class="mt-6 text-xl">Who may do what</h2>
    <div class="relative mt-2 overflow-x-auto">
      <table class="ruled">
        <thead
          ><tr
            ><th scope="col">Act</th>{#each ROLES as role (role)}<th scope="col" class="text-center!"
                >{ROLE_WORDS[role]}</th
              >{/each}</tr
          ></thead
        >
        <tbody>
          {#each ACTS as act (act)}
            <tr
              ><th scope="row" class="font-normal">{ACT_WORDS[act]}</th>{#each ROLES as role (role)}<td
                  class="text-center!"
                  >{#if may(role, act)}<span aria-hidden="true">●</span><span class="sr-only">yes</span
                    >{:else}<span class="sr-only">no</span>{/if}</td
                >{/each}</tr
            >
          {/each}
        </tbody>
      </table>
    </div>
  </div>
  <div class="plate self-start lg:sticky lg:top-4">
    {#key chosen}<PersonPlate {person} plant={data.plant} onDone={() => (chosen = null)} />{/key}
  </div>
</div>
