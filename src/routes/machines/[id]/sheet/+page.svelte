<script lang="ts">
  import { goto } from '$app/navigation';
  import type { GaugeLine } from '$core/formats/gauge-line';
  import {
    inLaterCycle,
    mostAsked,
    palletOf,
    placeOfPart,
    placeWords,
    sameCycle,
    type InCycle,
  } from '$core/inspection/cycle-place';
  import Field from '$lib/Field.svelte';
  import NumberField from '$lib/NumberField.svelte';
  import SetUpAgain from '$lib/now/SetUpAgain.svelte';
  import { Proposed } from '$lib/proposed.svelte';
  import SheetSize from '$lib/sheet/SheetSize.svelte';
  import { typingElsewhere } from '$lib/typing';
  import { onMount } from 'svelte';

  let { data } = $props();
  const { machine, measuring } = $derived(data);
  // the part that is measured is the last one made that most sizes are on, or the first of a new set-up, unless somebody says another
  const last = $derived(
    String(
      mostAsked(measuring?.features.flatMap((each) => (each.inCycle.parts > 1 ? [each.part] : [])) ?? []) ??
        measuring?.part ??
        measuring?.features[0]?.part ??
        1,
    ),
  );
  // a sheet is of one part: it stays from the first size that is typed until the next part is asked for
  const part = new Proposed(() => last);
  // where the same rows cut several at once: as the number of the part has it, unless somebody who has it in the hand says another
  const places = $derived(Math.max(1, ...(measuring?.features.map((each) => each.places) ?? [])));
  const place = new Proposed(() =>
    Number(part.value) > 0 && measuring?.features.some((each) => each.inTurn)
      ? String(placeOfPart(Number(part.value), places))
      : 'unknown',
  );
  const pallets = $derived([...new Set(measuring?.pallets.map(({ pallet }) => pallet))]);
  const pallet = new Proposed(() =>
    String(palletOf(measuring?.pallets ?? [], Number(part.value)) ?? 'unknown'),
  );
  let sheet = $state(0);
  let begun = $state(false);
  // another part of the same cycle, whose turn it is next, is no later one
  const together = $derived(Math.max(1, ...(measuring?.features.map(({ inCycle }) => inCycle.parts) ?? [])));
  const later = $derived(inLaterCycle(Number(last), Number(part.value), together));
  const firstOff = new Proposed(() => {
    const setUp = measuring?.setUp ?? null;
    return setUp !== null && (setUp.parts?.includes(part.value) ?? true);
  });
  let typed = $state<Record<number, string>>({});
  const fields = $state<Record<number, HTMLInputElement | undefined>>({});
  let heard = $state('');

  function fill(id: number, text: string) {
    typed[id] = text;
    if (text === '') return;
    part.hold();
    firstOff.hold();
    begun = true;
  }
  /** Where the part before was cut says nothing of another. */
  function typePart(text: string) {
    part.value = text;
    place.release();
    pallet.release();
  }
  function nextPart() {
    part.release();
    firstOff.release();
    place.release();
    pallet.release();
    typed = {};
    begun = false;
    sheet += 1;
  }

  /** Which part of the cycle a size is of, where that is not the part of this sheet. */
  function onOther({ inCycle, inTurn }: { inCycle: InCycle; inTurn: boolean }): string | null {
    const number = Number(part.value);
    if (!Number.isInteger(number) || number < 1) return null;
    const { place, parts } = inCycle;
    return inTurn || placeOfPart(number, parts) === place
      ? null
      : `on the ${placeWords(place, parts)}: part ${sameCycle(number, inCycle)}`;
  }

  /** After a size is answered the next one that is empty is typed. */
  function next(after: number) {
    const features = measuring?.features ?? [];
    const place = features.findIndex((each) => each.id === after);
    const following = [...features.slice(place + 1), ...features.slice(0, place)].find(
      (each) => (typed[each.id] ?? '') === '' && onOther(each) === null,
    );
    if (!following) return;
    // unless somebody is typing elsewhere by then: the next part's number, say
    setTimeout(() => {
      if (!typingElsewhere(fields[after])) fields[following.id]?.focus();
    }, 50);
  }

  /** What a gauge sends goes into the field that is being typed, where that is measured with it; else into the only one that is. */
  function take(line: GaugeLine) {
    if (!line.ok) {
      heard = line.reason;
      return;
    }
    const own = (measuring?.features ?? []).filter(
      (each) => each.gauge.toLowerCase() === line.gauge.toLowerCase(),
    );
    const chosen =
      own.find((each) => fields[each.id] === document.activeElement) ??
      (own.length === 1 ? own[0] : undefined);
    const shown = `${line.value} ${line.unit}`;
    if (!chosen) {
      heard =
        own.length === 0
          ? `${line.gauge} sent ${shown}: no size here is measured with it.`
          : `${line.gauge} sent ${shown}: touch the field of the size it is.`;
      return;
    }
    const before = (typed[chosen.id] ?? '').trim();
    fill(chosen.id, before === '' ? shown : `${before.replace(/;$/, '')}; ${shown}`);
    // another size that is half typed is typed to its end
    const half = Object.entries(fields).some(
      ([id, field]) =>
        field === document.activeElement && Number(id) !== chosen.id && field?.value.trim() !== '',
    );
    if (!half) fields[chosen.id]?.focus();
    heard = `${line.gauge} sent ${shown}.`;
  }
  onMount(() => {
    if (!data.gauges || !data.mayMeasure) return;
    const source = new EventSource(`/machines/${machine.id}/sheet/gauges`);
    source.onmessage = ({ data: line }) => take(JSON.parse(String(line)) as GaugeLine);
    return () => source.close();
  });
</script>

<svelte:head><title>Sheet · {machine.name} · Tin Almanac</title></svelte:head>

{#if !measuring || measuring.features.length === 0}
  <p class="mt-5 text-lg">
    There is no measuring plan for {machine.name}.
    <a class="underline" href="/programs">Bring one in</a> with the program.
  </p>
{:else}
  <div class="mt-4 flex flex-wrap items-end gap-x-6 gap-y-2">
    <h2 class="text-2xl">One part of {measuring.program.number} {measuring.program.title}</h2>
    {#if data.programs.length > 1}
      <select
        class="select w-auto"
        aria-label="Program"
        value={measuring.program.id}
        onchange={(event) => {
          nextPart();
          void goto(`?program=${event.currentTarget.value}`);
        }}
      >
        {#each data.programs as each (each.id)}<option value={each.id}>{each.number} {each.title}</option
          >{/each}
      </select>
    {/if}
  </div>
  <div class="mt-2 flex flex-wrap items-end gap-x-6 gap-y-2">
    <div class="w-32">
      <NumberField name="part" label="Part" whole bind:value={() => part.value, typePart} />
    </div>
    {#if places > 1}
      <Field label="Place in the cycle">
        <select class="select w-52" bind:value={place.value}>
          {#each { length: places }, i (i)}<option value={String(i + 1)}>{placeWords(i + 1, places)}</option
            >{/each}
          <option value="unknown">nobody knows which</option>
        </select>
      </Field>
    {/if}
    {#if pallets.length > 0}
      <Field label="Pallet">
        <select class="select w-40" bind:value={pallet.value}>
          {#each pallets as each (each)}<option value={String(each)}>pallet {each}</option>{/each}
          <option value="unknown">nobody knows which</option>
        </select>
      </Field>
    {/if}
    <label class="flex min-h-11 items-center gap-2"
      ><input class="checkbox" type="checkbox" bind:checked={firstOff.value} /> after a set-up (first-off)</label
    >
    {#if begun}<button type="button" class="btn" onclick={nextPart}>Next part</button>{/if}
    {#if begun && later}<p class="small-words">
        By now it would be part {last}.
      </p>{/if}
    <p class="small-words">Sums, mm and in may be typed; a scanner or a gauge ends with Enter.</p>
  </div>
  {#if heard}<p role="status" class="mt-2 font-semibold">{heard}</p>{/if}
  {#if measuring.cut}<SetUpAgain
      machine={machine.id}
      cut={measuring.cut}
      off={measuring.off}
      mayRun={data.mayRun}
    />{/if}
  {#if data.mayMeasure}
    <ol class="mt-3 border-t-2 border-base-content">
      {#each measuring.features as feature (`${sheet} ${feature.id}`)}
        <SheetSize
          {machine}
          {feature}
          programId={measuring.program.id}
          jobId={measuring.job?.id ?? null}
          part={part.value}
          place={feature.places > 1 ? place.value : ''}
          pallet={pallets.length > 0 ? pallet.value : ''}
          other={onOther(feature)}
          firstOff={firstOff.value}
          gauges={data.gauges}
          bind:typed={() => typed[feature.id] ?? '', (text) => fill(feature.id, text)}
          bind:field={fields[feature.id]}
          onAnswered={() => next(feature.id)}
        />
      {/each}
    </ol>
  {:else}<p class="mt-4">Operators, setters and inspectors type readings.</p>{/if}
{/if}
