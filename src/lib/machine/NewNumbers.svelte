<script lang="ts">
  import Field from '../Field.svelte';

  interface Props {
    schools: readonly { school: string; words: string }[];
    kind: 'mill' | 'lathe';
    unit: 'mm' | 'in';
    school: string;
  }
  let { schools, kind, unit, school = $bindable() }: Props = $props();
</script>

<section class="plate grid content-start gap-3" aria-labelledby="part2">
  <h2 id="part2" class="text-xl">Its numbers</h2>
  <Field label="A length is"
    ><select class="select" name="school" bind:value={school}
      >{#each schools as each (each.school)}<option value={each.school}>{each.words}</option>{/each}</select
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
        defaultValue={unit === 'mm' ? '0.001' : '0.0001'}
        required
      /></label
    >
    <Field label="Offset rows"
      ><input
        class="input"
        name="rows"
        inputmode="numeric"
        defaultValue={kind === 'mill' ? 200 : 64}
        required
      /></Field
    >
    <Field label="A life counter runs out"
      ><select class="select" name="expiry"
        ><option value="atZero">at zero</option><option value="belowZero">below zero</option></select
      ></Field
    >
  </div>
</section>
