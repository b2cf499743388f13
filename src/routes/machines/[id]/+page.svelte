<script lang="ts">
  import { traitsOf } from '$core/changer/traits';
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { sweptRadius } from '$core/assembly/silhouette';
  import { clashes, hangingRadius } from '$core/changer/clearance';
  import Changer from '$lib/changer/Changer.svelte';
  import AsItStood from '$lib/machine/AsItStood.svelte';
  import Bears from '$lib/machine/Bears.svelte';
  import EmptyPlace from '$lib/machine/EmptyPlace.svelte';
  import PocketTable from '$lib/machine/PocketTable.svelte';
  import SpindleDoubt from '$lib/machine/SpindleDoubt.svelte';
  import InMachine from '$lib/machine/InMachine.svelte';
  import LoadedPlace from '$lib/machine/LoadedPlace.svelte';
  import { roomWords } from '$lib/machine/room-words';

  let { data } = $props();
  const asked = $derived(Number(page.url.searchParams.get('tool')));
  const pocket = $derived(Number(page.url.searchParams.get('pocket')));
  let picked = $state<number | null>(null);
  const selected = $derived(
    picked ??
      data.places.find(
        (place) =>
          (asked > 0 && place.tool === asked) ||
          (pocket > 0 && place.kind === 'pocket' && place.number === pocket),
      )?.id ??
      null,
  );
  // a pocket that was come to by its T stays chosen when the T leaves it
  $effect(() => {
    if (picked === null && selected !== null) picked = selected;
  });
  const place = $derived(data.places.find((each) => each.id === selected) ?? null);
  const loaded = $derived(data.places.filter((each) => each.assembly));
  const shape = $derived(data.shape);
  const near = $derived(
    clashes(
      shape,
      loaded
        .filter((each) => each.kind === 'pocket')
        .map((each) => ({
          pocket: each.number,
          tool: each.tool!,
          radius: hangingRadius(shape, each.assembly!),
          mass: null,
        })),
    ),
  );
  /** A chain and a rack are long: they take the whole width. */
  const long = $derived(traitsOf(shape).drawn === 'wheels' || traitsOf(shape).drawn === 'row');
  /** The pockets about the chosen one are seen from the side, or about the widest tool. */
  const fromSide = $derived.by(() => {
    if (!traitsOf(shape).hangs) return null;
    if (place && place.number > 0) return place.number;
    const pockets = loaded.filter((each) => each.kind === 'pocket');
    const widest = pockets.reduce<(typeof pockets)[number] | null>(
      (best, each) =>
        best === null || sweptRadius(each.assembly!) > sweptRadius(best.assembly!) ? each : best,
      null,
    );
    return widest?.number ?? 1;
  });
  /** A drag to or from the spindle is a call; one from pocket to pocket is worked out as calls. */
  function dragged(from: number, to: number) {
    if (from === 0 || to === 0) picked = data.places.find((each) => each.number === from + to)?.id ?? null;
    else void goto(`/machines/${data.machine.id}/room?from=${from}&to=${to}`);
  }
  const spindle = $derived(data.places.find((each) => each.kind === 'spindle'));
</script>

<svelte:head><title>{data.machine.name} · Tin Almanac</title></svelte:head>

{#if data.at}<p class="caution mt-3 text-lg" role="status">
    As it stood on {data.at.toLocaleString('en-GB', { dateStyle: 'full', timeStyle: 'short' })}. Nothing can
    be recorded here.
  </p>{/if}
<div class="mt-4 grid gap-6 lg:grid-cols-[1.35fr_1fr]">
  <section aria-labelledby="drawn" class={long ? 'lg:col-span-2' : ''}>
    <h2 id="drawn" class="heading">{traitsOf({ kind: data.machine.changerKind }).words}, to scale</h2>
    <!-- a chain keeps the size of a finger and is panned on a narrow screen -->
    <div class={traitsOf(shape).drawn === 'wheels' ? 'overflow-x-auto' : ''}>
      <div class={traitsOf(shape).drawn === 'wheels' ? 'min-w-[56rem]' : ''}>
        <Changer
          {shape}
          places={data.places}
          {selected}
          {fromSide}
          onselect={(id) => (picked = id)}
          ondragged={data.mayPlace ? dragged : undefined}
          loading={data.machine.loadingPlaces === null
            ? null
            : { places: data.machine.loadingPlaces, staged: data.staged }}
        />
      </div>
    </div>
    {#if spindle}
      <button
        type="button"
        class={['btn mt-2', spindle.id === selected && 'btn-accent']}
        onclick={() => (picked = spindle.id)}
        >Spindle: {spindle.assembly ? `T${spindle.tool} ${spindle.assembly.number}` : 'empty (T0)'}</button
      >
    {/if}
    <SpindleDoubt
      machine={data.machine}
      loose={data.loose}
      mayPlace={data.mayPlace && spindle !== undefined}
    />
    <Bears
      machine={data.machine}
      bearing={data.bearing}
      byHand={data.byHand}
      reckoned={data.reckoned}
      {near}
      pockets={traitsOf(shape).hangs}
    />
    <AsItStood at={data.at} />
    <p class="small-words mt-2">
      Circles show true widths across flange, holder or cutter. A crossed pocket is out of service; a dashed
      ring is a tool not measured since it was loaded. A wide dashed circle is a pocket declared wide, a
      weight marks a heavy one; hatched pockets beside it stay empty. The tools around the chosen pocket hang
      from their gauge line, to the same scale. Drag a tool to the spindle and back, or use the keys on the
      buttons.
    </p>
  </section>

  <section aria-live="polite">
    {#if place?.assembly}
      {#key place.id}<LoadedPlace
          machine={data.machine}
          {place}
          assembly={place.assembly}
          geometry={data.geometry}
          used={data.used.get(place.tool!) ?? [place.tool!]}
          left={data.left.get(place.tool!) ?? []}
          making={data.making?.tools.includes(place.tool!) ? data.making : null}
          mayPlace={data.mayPlace}
          mayMeasure={data.mayMeasure}
          onGone={() => (picked = place.id)}
        /><PocketTable machine={data.machine} {place} {spindle} mayPlace={data.mayPlace} />{/key}
    {:else if place}
      {#key place.id}<EmptyPlace
          machine={data.machine}
          {place}
          loose={data.loose}
          mayPlace={data.mayPlace}
          room={roomWords(shape, data.places, data.machine.unit, place)}
          taken={loaded.map((each) => each.tool!)}
        /><PocketTable machine={data.machine} {place} {spindle} mayPlace={data.mayPlace} />{/key}
    {:else}
      <InMachine {loaded} changer={data.machine.changerKind} onpick={(id) => (picked = id)} />
    {/if}
  </section>
</div>
