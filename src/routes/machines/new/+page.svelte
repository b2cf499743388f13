<script lang="ts">
  import Field from '$lib/Field.svelte';
  import { goto } from '$app/navigation';
  import ActionForm from '$lib/ActionForm.svelte';
  import NewChanger from '$lib/machine/NewChanger.svelte';
  import NewNumbers from '$lib/machine/NewNumbers.svelte';
  import type { ChangerKind } from '$core/changer/traits';

  let { data } = $props();
  let kind = $state<'mill' | 'lathe'>('mill');
  let unit = $state<'mm' | 'in'>('mm');
  let changer = $state<ChangerKind>('randomAccess');
  let school = $state('gaugeLength');
  let places = $state(24);
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
        <Field label={kind === 'mill' ? 'Spindle taper' : 'Tool shank'}
          ><select class="select" name="interface" value={kind === 'mill' ? 'steep 40' : 'shank 25'}
            >{#each data.ends as end (end.name)}<option value={end.name}>{end.words}</option>{/each}</select
          ></Field
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

    <NewChanger kinds={data.changers} {unit} bind:changer bind:places />
    <NewNumbers schools={data.schools} {kind} {unit} bind:school />
    <div class="grid content-end gap-2">
      <button class="btn h-14 text-lg btn-primary" disabled={busy}>Add it</button>
      <p class="small-words">
        Machines also come in as JSON files, under Programs, with everything that a plate says at once.
      </p>
    </div>
  {/snippet}
</ActionForm>
