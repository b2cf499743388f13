<script lang="ts">
  import { traitsOf, type ChangerKind } from '$core/changer/traits';
  import Field from '../Field.svelte';

  interface Props {
    kinds: readonly { kind: ChangerKind; words: string; place: string }[];
    unit: 'mm' | 'in';
    changer: ChangerKind;
    places: number;
  }
  let { kinds, unit, changer = $bindable(), places = $bindable() }: Props = $props();
  const place = $derived(kinds.find((each) => each.kind === changer)!.place);
</script>

<section class="plate grid content-start gap-3" aria-labelledby="part1">
  <h2 id="part1" class="text-xl">Its changer</h2>
  <Field label="Kind"
    ><select class="select" name="changer" bind:value={changer}
      >{#each kinds as each (each.kind)}<option value={each.kind}>{each.words}</option>{/each}</select
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
        defaultValue={unit === 'mm' ? '80' : '3.15'}
        required
      /></label
    >
    <Field label="Highest T"
      ><input
        class="input"
        name="highestTool"
        inputmode="numeric"
        defaultValue={traitsOf({ kind: changer }).exchanges ? 200 : places}
        required
      /></Field
    >
  </div>
  <p class="small-words">
    Measure from the middle of one {place} to the middle of the next: what hangs there is drawn and held against
    it.
  </p>
</section>
