<script lang="ts">
  import { page } from '$app/state';
  import Changer from '$lib/Changer.svelte';
  import EmptyPlace from '$lib/machine/EmptyPlace.svelte';
  import LoadedPlace from '$lib/machine/LoadedPlace.svelte';
  import Disc from '$lib/Disc.svelte';
  import { CHANGER_WORDS, placeWord } from '$lib/words';

  let { data } = $props();
  const asked = $derived(Number(page.url.searchParams.get('tool')));
  let picked = $state<number | null>(null);
  const selected = $derived(
    picked ?? data.places.find((place) => asked > 0 && place.tool === asked)?.id ?? null,
  );
  const place = $derived(data.places.find((each) => each.id === selected) ?? null);
  const loaded = $derived(data.places.filter((each) => each.assembly));
  const shape = $derived({
    kind: data.machine.changerKind,
    places: data.machine.places,
    pitch: data.machine.pitch,
  });
  const spindle = $derived(data.places.find((each) => each.kind === 'spindle'));
</script>

<svelte:head><title>{data.machine.name} · Tin Almanac</title></svelte:head>

<div class="mt-4 grid gap-6 lg:grid-cols-[1.35fr_1fr]">
  <section aria-labelledby="drawn">
    <h2 id="drawn" class="heading">{CHANGER_WORDS[data.machine.changerKind]}, to scale</h2>
    <Changer {shape} places={data.places} {selected} onselect={(id) => (picked = id)} />
    {#if spindle}
      <button
        type="button"
        class={['btn mt-2', spindle.id === selected && 'btn-accent']}
        onclick={() => (picked = spindle.id)}
        >Spindle: {spindle.assembly ? `T${spindle.tool} ${spindle.assembly.number}` : 'empty (T0)'}</button
      >
    {/if}
    <p class="small-words mt-2">
      Circles are the true widths across flange, holder or cutter. A crossed pocket is out of service; a
      dashed ring is a tool not measured since it was loaded.
    </p>
  </section>

  <section aria-live="polite">
    {#if place?.assembly}
      {#key place.id}<LoadedPlace
          machine={data.machine}
          {place}
          assembly={place.assembly}
          geometry={data.geometry}
          mayPlace={data.mayPlace}
          mayMeasure={data.mayMeasure}
          onGone={() => (picked = place.id)}
        />{/key}
    {:else if place}
      {#key place.id}<EmptyPlace
          machine={data.machine}
          {place}
          loose={data.loose}
          mayPlace={data.mayPlace}
          taken={loaded.map((each) => each.tool!)}
        />{/key}
    {:else}
      <h2 class="heading">In the machine</h2>
      <ul class="mt-1 border-t-[3px] border-double border-base-content">
        {#each loaded as each (each.id)}
          <li class="border-b border-base-300">
            <button
              type="button"
              class="flex min-h-11 w-full items-center gap-3 text-left hover:bg-base-300"
              onclick={() => (picked = each.id)}
            >
              <b class="w-10">T{each.tool}</b><span class="min-w-0 flex-1 truncate"
                >{each.assembly!.number} {each.assembly!.name}</span
              >
              <Disc
                remaining={each.assembly!.remaining}
                fullLife={each.assembly!.fullLife}
                basis={each.assembly!.basis}
                flag={each.assembly!.flag}
                measured={each.assembly!.measured}
                size={20}
              />
              <span class="small-words w-20 text-right"
                >{each.kind === 'spindle'
                  ? 'spindle'
                  : `${placeWord(data.machine.changerKind)} ${each.number}`}</span
              >
            </button>
          </li>
        {/each}
      </ul>
    {/if}
  </section>
</div>
