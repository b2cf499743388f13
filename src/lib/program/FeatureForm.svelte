<script lang="ts">
  import { POLICIES, POLICY_WORDS } from '$core/correction/policies';
  import {
    FEATURE_KINDS,
    FEATURE_WORDS,
    otherEnd,
    type FeatureKind,
    type MachineReckoning,
  } from '$core/inspection/feature';
  import { MOMENT_WORDS, MOMENTS } from '$core/inspection/next-reading';
  import { readWhole } from '$core/inspection/fit';
  import { formatWithUnit, plainDecimal } from '$core/units/format-length';
  import type { Length, LengthUnit } from '$core/units/length';
  import type { PlannedFeature } from '$core/formats/plan-file';
  import ActionForm from '../ActionForm.svelte';
  import Field from '../Field.svelte';
  import SizeSketch from './SizeSketch.svelte';

  interface Props {
    /** The feature to be changed; null: a new one. */
    feature: (PlannedFeature & { id: number }) | null;
    /** T that the program calls. */
    tools: number[];
    machine: MachineReckoning;
    unit: LengthUnit;
    onDone?: () => void;
  }
  let { feature, tools, machine, unit, onDone }: Props = $props();
  // a form begins from what stands on record and is the person's own from then on
  // svelte-ignore state_referenced_locally
  const begun = feature;
  const text = (value: Length | undefined) => (value === undefined ? '' : plainDecimal(value, unit));
  let nominal = $state(text(begun?.nominal));
  const whole = $derived(readWhole(nominal, unit));
  let kind = $state<FeatureKind | ''>(begun?.kind ?? '');
  // svelte-ignore state_referenced_locally
  let tool = $state(String(begun?.tool ?? (tools.length === 1 ? tools[0] : '')));
  let row = $state(begun && begun.row !== begun.tool ? String(begun.row) : '');
  let other = $state(String(begun?.other?.tool ?? ''));
  let otherRow = $state(begun?.other && begun.other.row !== begun.other.tool ? String(begun.other.row) : '');
  let rough = $state(String(begun?.rough?.tool ?? ''));
  const end = $derived(kind === '' ? null : otherEnd(kind));
  const bounds = $derived(
    kind === '' || tool === ''
      ? null
      : {
          kind,
          tool: Number(tool),
          row: Number(row || tool),
          other:
            end !== null && other !== '' ? { tool: Number(other), row: Number(otherRow || other) } : null,
        },
  );
</script>

<ActionForm
  action="?/feature"
  class="mt-1 grid items-end gap-3 sm:grid-cols-2 lg:grid-cols-4"
  label={begun ? `Change ${begun.name}` : 'New feature'}
  {onDone}
>
  {#snippet children({ busy })}
    <input type="hidden" name="id" value={begun?.id ?? ''} />
    <input type="hidden" name="seen" value={begun ? JSON.stringify(begun) : ''} />
    <Field label="What it is called on the drawing" class="sm:col-span-2"
      ><input
        class="input"
        name="feature"
        maxlength="60"
        defaultValue={begun?.name ?? ''}
        readonly={begun !== null}
        required
      /></Field
    >
    <Field label="What is measured" class="sm:col-span-2"
      ><select class="select" name="kind" bind:value={kind} required
        ><option value="">choose</option>{#each FEATURE_KINDS as each (each)}<option value={each}
            >{FEATURE_WORDS[each]}</option
          >{/each}</select
      ></Field
    >
    <Field label="Nominal, {unit}, a fit (25 H7) or both ends (25 +0.02/0)"
      ><input class="input" name="nominal" bind:value={nominal} autocomplete="off" required /></Field
    >
    {#each [['upper', 'Upper deviation'], ['lower', 'Lower deviation']] as const as [name, words] (name)}
      <Field label="{words}, {unit}"
        ><input
          class="input"
          {name}
          defaultValue={whole?.ok ? '' : text(begun?.[name])}
          placeholder={whole?.ok ? formatWithUnit(whole.limits[name], unit, { sign: 'always' }) : ''}
          data-pad="length"
          autocomplete="off"
          disabled={whole !== null}
          required={whole === null}
        /></Field
      >
    {/each}
    {#if whole && !whole.ok}<p class="caution sm:col-span-2 lg:col-span-4" role="status">
        {whole.reason}
      </p>{/if}
    <Field label="Aim, if not the middle"
      ><input
        class="input"
        name="target"
        defaultValue={text(begun?.target)}
        data-pad="length"
        autocomplete="off"
      /></Field
    >
    <Field label="Cut by"
      ><select class="select" name="tool" bind:value={tool} required
        ><option value="">choose</option>{#each tools as each (each)}<option value={String(each)}
            >T{each}</option
          >{/each}</select
      ></Field
    >
    <Field label="Offset row, if not the tool’s own"
      ><input class="input" name="row" inputmode="numeric" bind:value={row} /></Field
    >
    {#if end !== null}
      <Field label="And {end}, if cut here"
        ><select class="select" name="other_tool" bind:value={other}
          ><option value="">not cut here</option>{#each tools as each (each)}<option value={String(each)}
              >T{each}</option
            >{/each}</select
        ></Field
      >
      <Field label="Its row, if not the tool’s own"
        ><input
          class="input"
          name="other_row"
          inputmode="numeric"
          bind:value={otherRow}
          disabled={other === ''}
        /></Field
      >
    {/if}
    {#if bounds}<div class="sm:col-span-2 lg:col-span-4"><SizeSketch {bounds} {machine} {unit} /></div>{/if}
    <Field label="Roughed by"
      ><select class="select" name="rough_tool" bind:value={rough}
        ><option value="">not said</option>{#each tools as each (each)}<option value={String(each)}
            >T{each}</option
          >{/each}</select
      ></Field
    >
    <Field label="The rougher’s row, if not its own"
      ><input
        class="input"
        name="rough_row"
        inputmode="numeric"
        defaultValue={begun?.rough && begun.rough.row !== begun.rough.tool ? begun.rough.row : ''}
        disabled={rough === ''}
      /></Field
    >
    <Field label="Stock it leaves, {unit}, in the size" class="lg:col-span-2"
      ><input
        class="input"
        name="rough_stock"
        defaultValue={text(begun?.rough?.stock)}
        data-pad="length"
        autocomplete="off"
        disabled={rough === ''}
        required={rough !== ''}
      /></Field
    >
    <Field label="Measured every so many parts"
      ><input
        class="input"
        name="every"
        inputmode="numeric"
        placeholder="by turns"
        defaultValue={begun?.every ?? ''}
      /></Field
    >
    <fieldset class="flex flex-wrap gap-x-4 sm:col-span-2 lg:col-span-3">
      <legend class="small-words">And</legend>
      {#each MOMENTS as each (each)}<label class="flex min-h-11 items-center gap-2"
          ><input
            class="checkbox"
            type="checkbox"
            name="also_{each}"
            defaultChecked={begun?.also.includes(each)}
          />
          {MOMENT_WORDS[each]}</label
        >{/each}
    </fieldset>
    <Field label="Correct it"
      ><select class="select" name="policy" value={begun?.policy ?? 'model'}
        >{#each POLICIES as each (each)}<option value={each}>{POLICY_WORDS[each]}</option>{/each}</select
      ></Field
    >
    <Field label="Dead band, {unit}"
      ><input
        class="input"
        name="dead_band"
        defaultValue={text(begun?.deadBand)}
        data-pad="length"
        autocomplete="off"
      /></Field
    >
    <Field label="Readings in a mean"
      ><input
        class="input"
        name="average_of"
        inputmode="numeric"
        defaultValue={begun?.averageOf ?? ''}
      /></Field
    >
    <Field label="At the machine up to, {unit}"
      ><input
        class="input"
        name="operator_limit"
        defaultValue={text(begun?.operatorLimit)}
        data-pad="length"
        autocomplete="off"
      /></Field
    >
    <Field label="Gauge"
      ><input class="input" name="gauge" maxlength="60" defaultValue={begun?.gauge ?? ''} /></Field
    >
    <button class="btn self-end btn-primary" disabled={busy}>{begun ? 'Change it' : 'Add it'}</button>
  {/snippet}
</ActionForm>
