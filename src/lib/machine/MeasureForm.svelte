<script lang="ts">
  import Field from '$lib/Field.svelte';
  import { REGISTER_WORDS } from '$core/inspection/register-words';
  import {
    referenceOf,
    gaugeLengthFromRegister,
    SCHOOL_WORDS,
    type LengthSchool,
  } from '$core/length/schools';
  import { METHOD_WORDS } from '$core/length/transfer';
  import { formatLength } from '$core/units/format-length';
  import type { Length, LengthUnit } from '$core/units/length';
  import ActionForm from '../ActionForm.svelte';
  import { Proposed } from '../proposed.svelte';
  import NumberField from '../NumberField.svelte';

  interface Props {
    machine: {
      kind: 'mill' | 'lathe';
      unit: LengthUnit;
      lengthSchool: LengthSchool;
      planeConstant: Length;
      masterLength: Length;
    };
    assembly: { id: number; gaugeLength: Length };
    tool: number;
    /** Rows that the tool is used with, its own first; and the geometry of the machine's rows. */
    rows: readonly number[];
    geometry: readonly { row: number; kind: string; value: Length }[];
    /** Rows that still hold the tool before. */
    left?: readonly number[];
    action: string;
    /** Further fields of the form. */
    also?: Record<string, string | number>;
    /** What it is, where it may be sent later. */
    keptAs?: string;
  }
  let { machine, assembly, tool, rows, geometry, left = [], action, also = {}, keptAs }: Props = $props();

  // what is still to be measured; whatever is measured meanwhile by somebody else, what is being typed stays of its row
  const chosen = new Proposed(() => rows.find((row) => left.includes(row)) ?? rows[0]!);
  const held = $derived(geometry.filter(({ row }) => row === chosen.value));

  const NOTHING = { gaugeLength: '', xGeometry: '', zGeometry: '' };
  let typed = $state<Record<string, string>>({ ...NOTHING });
</script>

<ActionForm
  {action}
  class="plate mt-4 grid gap-2"
  label="Measure"
  {...keptAs !== undefined && { keptAs: () => keptAs }}
  onDone={() => {
    typed = { ...NOTHING };
    chosen.release();
  }}
>
  {#snippet children({ busy })}
    <h3 class="font-display font-semibold">Measured length</h3>
    {#each Object.entries(also) as [name, value] (name)}<input type="hidden" {name} {value} />{/each}
    <input type="hidden" name="assembly" value={assembly.id} />
    {#if rows.length > 1}
      <Field label="Row, T{tool} has {rows.length}"
        ><select
          class="select"
          name="row"
          bind:value={chosen.value}
          onchange={() => (typed = { ...NOTHING })}
        >
          {#each rows as row (row)}<option value={row}>{row}</option>{/each}
        </select></Field
      >
    {:else}<input type="hidden" name="row" value={chosen.value} />{/if}
    <div class="grid gap-2" oninput={() => chosen.hold()}>
      {#if machine.kind === 'mill'}
        <NumberField
          name="gaugeLength"
          label="Gauge length, {machine.unit} (this machine keeps: {SCHOOL_WORDS[machine.lengthSchool]})"
          bind:value={typed.gaugeLength}
          placeholder={formatLength(
            held[0]?.value
              ? gaugeLengthFromRegister(held[0].value, referenceOf(machine))
              : assembly.gaugeLength,
            machine.unit,
            { minus: '-' },
          )}
          required
        />
        <Field label="How"
          ><select class="select" name="method">
            {#each ['presetter', 'toolSetter', 'touchOff'] as const as method (method)}<option value={method}
                >{METHOD_WORDS[method]}</option
              >{/each}
          </select></Field
        >
        <input type="hidden" name="before.gaugeLength" value={held[0]?.value ?? 0} />
      {:else}
        <p class="caution text-sm">Back off in Z only after the cut: move in X and the number is lost.</p>
        <div class="grid grid-cols-2 gap-2">
          {#each held as register (register.kind)}
            <NumberField
              name={register.kind}
              label="{REGISTER_WORDS[register.kind]}, {machine.unit}"
              bind:value={typed[register.kind]}
              placeholder={formatLength(register.value, machine.unit, { minus: '-' })}
              required
            />
            <input type="hidden" name="before.{register.kind}" value={register.value} />
          {/each}
        </div>
      {/if}
    </div>
    <p class="caution text-sm">
      First approach after this: single block, rapids low, a hand on feed hold, distance-to-go against a
      scale.
    </p>
    <button class="btn btn-primary" disabled={busy}>Write into row {chosen.value}</button>
  {/snippet}
</ActionForm>
