<script lang="ts">
  import Field from '$lib/Field.svelte';
  import { ASSEMBLY_KINDS, ASSEMBLY_WORDS } from '$core/assembly/silhouette';
  import type { Definition } from '$core/definition/read-definition';
  import { formatLength } from '$core/units/format-length';
  import type { Length, LengthUnit } from '$core/units/length';
  import ActionForm from '../ActionForm.svelte';

  interface Props {
    tool: number;
    definition: Definition | null;
    unit: LengthUnit;
    onDone: () => void;
  }
  let { tool, definition, unit, onDone }: Props = $props();
  const show = (value: Length | null | undefined) => (value ? formatLength(value, unit, { minus: '-' }) : '');
  const hand = $derived(
    { true: 'left', false: 'right', null: '' }[
      String(definition?.leftHand ?? null) as 'true' | 'false' | 'null'
    ],
  );
  const sizes = $derived([
    ['diameter', `Diameter, ${unit}`, show(definition?.diameter)],
    ['cornerRadius', `Corner radius, ${unit}`, show(definition?.cornerRadius)],
    ['reach', `Reach at least, ${unit}`, show(definition?.reach)],
    ['teeth', 'Teeth at least', definition?.teeth ? String(definition.teeth) : ''],
    ['thread', 'Thread', definition?.thread ?? ''],
    [
      'leastLife',
      'Life left at least, %',
      definition?.leastLife ? String(Math.round(definition.leastLife * 100)) : '',
    ],
  ] as const);
</script>

<ActionForm
  action="?/write"
  class="plate mt-2 grid gap-2 sm:grid-cols-3"
  label="What T{tool} is to be"
  {onDone}
  keep
>
  {#snippet children({ busy })}
    <input type="hidden" name="tool" value={tool} />
    <Field label="Kind" small class="sm:col-span-3"
      ><select class="select" name="kind" value={definition?.kind ?? 'endMill'}
        >{#each ASSEMBLY_KINDS as kind (kind)}<option value={kind}>{ASSEMBLY_WORDS[kind]}</option
          >{/each}</select
      ></Field
    >
    {#each sizes as [name, label, value] (name)}
      <label class="grid gap-1"
        ><span class="small-words">{label}</span><input
          class="input"
          {name}
          defaultValue={value}
          autocomplete="off"
        /></label
      >
    {/each}
    <Field label="Hand" small
      ><select class="select" name="hand" value={hand}
        ><option value="">not asked</option><option value="right">right-hand</option><option value="left"
          >left-hand</option
        ></select
      ></Field
    >
    <button class="btn btn-primary sm:col-span-3" disabled={busy}>Write it down</button>
  {/snippet}
</ActionForm>
