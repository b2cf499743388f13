<script lang="ts">
  import type { Making } from '$core/shift/likely-made';
  import type { ChangerKind } from '$core/changer/traits';
  import type { PlacedAssembly } from '$core/changer/place';
  import { notItsOwn, type LeftGeometry } from '$core/readiness/row-geometry';
  import type { LengthSchool } from '$core/length/schools';
  import type { Length, LengthUnit } from '$core/units/length';
  import ActionForm from '../ActionForm.svelte';
  import Disc from '../Disc.svelte';
  import Silhouette from '../Silhouette.svelte';
  import Size from '../Size.svelte';
  import MadeUntilNow from '../MadeUntilNow.svelte';
  import MeasureForm from './MeasureForm.svelte';
  import { REGISTER_WORDS } from '$core/inspection/register-words';
  import { placeWord } from '../words';

  interface Props {
    machine: {
      kind: 'mill' | 'lathe';
      unit: LengthUnit;
      changerKind: ChangerKind;
      lengthSchool: LengthSchool;
      planeConstant: Length;
      masterLength: Length;
    };
    place: { id: number; kind: string; number: number; tool: number | null };
    assembly: PlacedAssembly;
    geometry: { row: number; kind: string; value: Length }[];
    /** Rows that the tool is used with, its own first. */
    used: readonly number[];
    /** Geometry of them that is not known to be its own. */
    left: readonly LeftGeometry[];
    /** What it is cutting; null: nothing. */
    making: Making | null;
    mayPlace: boolean;
    mayMeasure: boolean;
    onGone: () => void;
  }
  let { machine, place, assembly, geometry, used, left, making, mayPlace, mayMeasure, onGone }: Props =
    $props();

  const rows = $derived(used.flatMap((row) => geometry.filter((register) => register.row === row)));
  const LEFT_WORDS: Readonly<Record<LeftGeometry['why'], string>> = {
    before: 'from before it came',
    copy: 'copied before that row moved',
    again: 'set before the other row was set again',
    putBack: 'put back from a table kept earlier',
  };
  const where = $derived(
    place.kind === 'spindle' ? 'the spindle' : `${placeWord(machine.changerKind)} ${place.number}`,
  );
</script>

<h2 class="text-2xl">T{place.tool} <span class="font-sans text-base font-normal">in {where}</span></h2>
<p class="text-lg"><a class="underline" href="/tools/{assembly.id}">{assembly.number}</a> {assembly.name}</p>
<div class="mt-2 flex items-start gap-4">
  <Silhouette shape={assembly} unit={machine.unit} dimensioned height={230} />
  <div class="grid content-start gap-1">
    <Disc
      remaining={assembly.remaining}
      fullLife={assembly.fullLife}
      basis={assembly.basis}
      flag={assembly.flag}
      measured={assembly.measured}
      size={44}
    />
    {#if assembly.flag}<p class="font-semibold text-accent">{assembly.flag}</p>{/if}
    <p class={assembly.measured ? '' : 'font-semibold text-accent'}>
      {!assembly.measured
        ? 'Not measured since it was loaded'
        : left.some((each) => each.why === 'putBack' && notItsOwn(each))
          ? 'Measured since it was loaded, and set back since'
          : left.some(notItsOwn)
            ? 'Measured since it was loaded, and not in each of its rows'
            : 'Measured since it was loaded'}
    </p>
    {#each rows as register (`${register.row} ${register.kind}`)}
      {@const why = left.find(({ row, kind }) => row === register.row && kind === register.kind)?.why}
      <p>
        {REGISTER_WORDS[register.kind]}, row {register.row}:
        <b><Size value={register.value} unit={machine.unit} /></b>
        {#if why && assembly.measured && register.value !== 0}<span class="font-semibold text-accent"
            >{LEFT_WORDS[why]}</span
          >{/if}
      </p>
    {/each}
  </div>
</div>

{#if mayMeasure}
  <MeasureForm
    {machine}
    {assembly}
    tool={place.tool!}
    rows={used}
    {geometry}
    left={left.map(({ row }) => row)}
    action="?/measure"
  />
{/if}

{#if mayPlace}
  <ActionForm action="?/takeOut" class="mt-4 grid gap-2" label="Take out" onDone={onGone}>
    {#snippet children({ busy })}
      <input type="hidden" name="place" value={place.id} />
      <input type="hidden" name="assembly" value={assembly.id} />
      <p class="caution text-sm">
        Hold the holder below the flange first, then press release: the tool drops. Keep clear of cutter and
        taper; eye protection on. The machine’s manual and site rules come first.
      </p>
      {#if making}<MadeUntilNow {making} />{/if}
      <div class="grid grid-cols-[1fr_auto] gap-2">
        <input
          class="input"
          name="why"
          aria-label="Why it is taken out"
          placeholder="why (optional)"
          maxlength="200"
        />
        <button class="btn" disabled={busy} data-key="x"
          >Take it out <span class="key-hint" aria-hidden="true">x</span></button
        >
      </div>
      <p class="small-words">Then tell the control: the tool table must show this place as empty.</p>
    {/snippet}
  </ActionForm>
{/if}
