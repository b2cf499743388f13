<script lang="ts">
  import type { Column } from '$core/formats/columns';
  import ActionForm from '../ActionForm.svelte';
  import { Proposed } from '../proposed.svelte';

  interface Props {
    columns: readonly Column[];
    /** What is on record, or a start for a new one. */
    cells: Readonly<Record<string, string>>;
    /** On record already: its number and what entries of their own move stay. */
    known: boolean;
    /** Columns that the chosen kind needs, beside those that every tool needs. */
    needs?: (kind: string) => readonly string[];
    action: string;
    onDone: (done: { id: number; number: string }) => void;
  }
  let { columns, cells, known, needs = () => [], action, onDone }: Props = $props();

  const offered = $derived(columns.filter((column) => !known || (!column.first && column.name !== 'number')));
  const kinds = $derived(columns.find((column) => column.name === 'kind')?.choices ?? []);
  const kind = new Proposed(() => cells.kind ?? '');
  const kindValue = $derived(kinds.find((choice) => choice.words === kind.value)?.value ?? kind.value);
  const needed = $derived(needs(kindValue));
  const asked = (column: Column) => column.needed === true || needed.includes(column.name);
  const first = $derived(offered.filter((column) => asked(column) || (cells[column.name] ?? '') !== ''));
  const rest = $derived(offered.filter((column) => !first.includes(column)));
</script>

{#snippet field(column: Column)}
  <label class="grid content-start gap-1"
    ><span class="font-semibold"
      >{column.words}{#if column.type === 'length'}<span class="small-words font-normal">, mm</span
        >{/if}</span
    >
    {#if column.name === 'kind'}
      <select class="select" name={column.name} bind:value={kind.value} required
        ><option value="">choose</option>{#each kinds as choice (choice.value)}<option value={choice.words}
            >{choice.words}</option
          >{/each}</select
      >
    {:else if column.choices}
      <select
        class="select"
        name={column.name}
        value={column.choices.find((choice) =>
          [choice.value, choice.words].includes(cells[column.name] ?? ''),
        )?.value ?? ''}
        required={asked(column)}
        ><option value="">{asked(column) ? 'choose' : '–'}</option
        >{#each column.choices as choice (choice.value)}<option value={choice.value}>{choice.words}</option
          >{/each}</select
      >
    {:else if column.type === 'yes'}
      <select class="select" name={column.name} value={cells[column.name] ?? ''}
        ><option value={cells[column.name] === 'no' ? 'no' : ''}>no</option><option value="yes">yes</option
        ></select
      >
    {:else}
      <input
        class="input"
        name={column.name}
        defaultValue={cells[column.name] ?? ''}
        inputmode={column.type === 'whole' ? 'numeric' : column.type === 'number' ? 'decimal' : undefined}
        data-pad={column.type === 'length' ? 'length' : undefined}
        required={asked(column)}
        autocomplete="off"
      />
    {/if}
  </label>
{/snippet}

<ActionForm {action} keep class="mt-4" label="The tool" {onDone}>
  {#snippet children({ busy })}
    <input type="hidden" name="shown" value={known ? JSON.stringify(cells) : ''} />
    {#if known}<input type="hidden" name="number" value={cells.number} />{/if}
    <div class="grid gap-x-4 gap-y-3 sm:grid-cols-2 lg:grid-cols-3">
      {#each first as column (column.name)}{@render field(column)}{/each}
    </div>
    {#if rest.length > 0}
      <details class="mt-3">
        <summary class="inline-flex min-h-11 cursor-pointer items-center underline">More about it</summary>
        <div class="mt-2 grid gap-x-4 gap-y-3 sm:grid-cols-2 lg:grid-cols-3">
          {#each rest as column (column.name)}{@render field(column)}{/each}
        </div>
      </details>
    {/if}
    <button class="btn mt-4 btn-primary" disabled={busy}
      >{known ? 'Record the change' : 'Put it on record'}</button
    >
  {/snippet}
</ActionForm>
