<script lang="ts">
  import Field from '$lib/Field.svelte';
  import { goto } from '$app/navigation';
  import ActionForm from '$lib/ActionForm.svelte';
  import { traitsOf, type ChangerKind } from '$core/changer/traits';

  let { data } = $props();
  let kind = $state<'mill' | 'lathe'>('mill');
  let unit = $state<'mm' | 'in'>('mm');
  let changer = $state<ChangerKind>('randomAccess');
  let school = $state('gaugeLength');
  let places = $state(24);
  const place = $derived(data.changers.find((each) => each.kind === changer)!.place);
  const usual = $derived({
    pitch: unit === 'mm' ? '80' : '3.15',
    step: unit === 'mm' ? '0.001' : '0.0001',
    rows: kind === 'mill' ? 200 : 64,
  });
  // a lathe has a turret until somebody says otherwise, and the other way round
  function turned(to: 'mill' | 'lathe') {
    kind = to;
    changer = to === 'lathe' ? 'turret' : 'randomAccess';
    places = to === 'lathe' ? 12 : 24;
    school = to === 'lathe' ? 'touchOff' : 'gaugeLength';
  }
</script>

<svelte:head><title>Add a machine · Tin Almanac</title></svelte:head>

<h1 class="mt-5 text-3xl">Add a machine</h1>
<p class="mt-1 max-w-prose">
  What its plate, its manual and its parameters say. Limits of the changer and the words of its programs come
  next, under Machine; anything can be read off the machine later, and nothing is assumed until it is.
</p>

<ActionForm
  action="?/add"
  class="mt-4 grid gap-6 lg:grid-cols-2"
  label="Add a machine"
  onDone={(done: { id: number }) => void goto(`/machines/${done.id}/plate`)}
>
  {#snippet children({ busy })}
    <section class="plate grid content-start gap-3" aria-labelledby="part0">
      <h2 id="part0" class="text-xl">The machine</h2>
      <Field label="What it is called"><input class="input" name="name" maxlength="40" required /></Field>
      <Field label="What it is"
        ><input class="input" name="words" maxlength="200" placeholder="vertical mill, bar lathe …" /></Field
      >
      <div class="grid grid-cols-2 gap-3">
        <Field label="Kind"
          ><select
            class="select"
            name="kind"
            value={kind}
            onchange={(event) => turned(event.currentTarget.value as 'mill' | 'lathe')}
            ><option value="mill">mill</option><option value="lathe">lathe</option></select
          ></Field
        >
        <Field label="It shows"
          ><select class="select" name="unit" bind:value={unit}
            ><option value="mm">millimetres</option><option value="in">inches</option></select
          ></Field
        >
        <label class="grid gap-1"
          ><span>{kind === 'mill' ? 'Spindle taper' : 'Tool shank'}</span><select
            class="select"
            name="interface"
            value={kind === 'mill' ? 'steep 40' : 'shank 25'}
            >{#each data.ends as end (end.name)}<option value={end.name}>{end.words}</option>{/each}</select
          ></label
        >
        <Field label="Highest speed, rpm"
          ><input class="input" name="highestSpeed" inputmode="numeric" required /></Field
        >
      </div>
      {#if kind === 'mill'}
        <Field label="Retention knob it needs"
          ><input
            class="input"
            name="knob"
            maxlength="20"
            placeholder="as marked on it; empty when it takes none"
          /></Field
        >
        <label class="flex min-h-11 items-center gap-3"
          ><input class="checkbox" type="checkbox" name="throughCoolant" /> It pumps coolant through the spindle</label
        >
      {/if}
    </section>

    <section class="plate grid content-start gap-3" aria-labelledby="part1">
      <h2 id="part1" class="text-xl">Its changer</h2>
      <Field label="Kind"
        ><select class="select" name="changer" bind:value={changer}
          >{#each data.changers as each (each.kind)}<option value={each.kind}>{each.words}</option
            >{/each}</select
        ></Field
      >
      <div class="grid grid-cols-2 gap-3">
        <label class="grid gap-1"
          ><span>How many {place}s</span><input
            class="input"
            name="places"
            inputmode="numeric"
            bind:value={places}
            required
          /></label
        >
        <label class="grid gap-1"
          ><span>From one to the next, {unit}</span><input
            class="input"
            name="pitch"
            autocomplete="off"
            value={usual.pitch}
            required
          /></label
        >
        <Field label="Highest T"
          ><input
            class="input"
            name="highestTool"
            inputmode="numeric"
            value={traitsOf({ kind: changer }).exchanges ? 200 : places}
            required
          /></Field
        >
      </div>
      <p class="small-words">
        Measure from the middle of one {place} to the middle of the next: what hangs there is drawn and held against
        it.
      </p>
    </section>

    <section class="plate grid content-start gap-3" aria-labelledby="part2">
      <h2 id="part2" class="text-xl">Its numbers</h2>
      <Field label="A length is"
        ><select class="select" name="school" bind:value={school}
          >{#each data.schools as each (each.school)}<option value={each.school}>{each.words}</option
            >{/each}</select
        ></Field
      >
      {#if school !== 'gaugeLength' && kind === 'mill'}
        <label class="grid gap-1"
          ><span
            >{school === 'touchOff'
              ? `Plane constant, ${unit}: machine Z of the gauge line at the plane, negative of travel left`
              : `Length of the master tool, ${unit}`}</span
          ><input class="input" name="reference" autocomplete="off" required /></label
        >
      {:else}<input type="hidden" name="reference" value={school === 'masterTool' ? '' : '0'} />{/if}
      <div class="grid grid-cols-2 gap-3">
        <Field label="Cutter rows hold"
          ><select class="select" name="cutter"
            ><option value="radius">the radius</option><option value="diameter">the diameter</option></select
          ></Field
        >
        <label class="grid gap-1"
          ><span>Least step, {unit}</span><input
            class="input"
            name="increment"
            autocomplete="off"
            value={usual.step}
            required
          /></label
        >
        <Field label="Offset rows"
          ><input class="input" name="rows" inputmode="numeric" value={usual.rows} required /></Field
        >
        <Field label="A life counter runs out"
          ><select class="select" name="expiry"
            ><option value="atZero">at zero</option><option value="belowZero">below zero</option></select
          ></Field
        >
      </div>
    </section>
    <div class="grid content-end gap-2">
      <button class="btn h-14 text-lg btn-primary" disabled={busy}>Add it</button>
      <p class="small-words">
        Machines also come in as JSON files, under Programs, with everything that a plate says at once.
      </p>
    </div>
  {/snippet}
</ActionForm>
