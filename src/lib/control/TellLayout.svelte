<script lang="ts">
  import {
    cellsOf,
    guessMapping,
    mappingRefusal,
    readMapped,
    type ColumnMeaning,
    type TableMapping,
  } from '$core/control/mapped-table';
  import { REGISTER_WORDS } from '$core/inspection/register-words';
  import type { LengthUnit } from '$core/units/length';
  import ActionForm from '../ActionForm.svelte';
  import Field from '../Field.svelte';
  import Scroll from '../Scroll.svelte';

  let { kinds, unit, names }: { kinds: string[]; unit: LengthUnit; names: string[] } = $props();
  let sample = $state('');
  let name = $state('');
  let mapping = $state<TableMapping | null>(null);
  let told = $state('');
  const SHOWN = 14;

  function guess() {
    mapping = sample.trim() === '' ? null : guessMapping(sample, kinds, unit);
  }
  async function fileChosen(event: Event) {
    const file = (event.currentTarget as HTMLInputElement).files?.[0];
    if (!file || file.size > 400_000) return;
    sample = await file.text();
    guess();
  }
  const shown = $derived(
    mapping === null
      ? []
      : sample
          .split(/\r\n|\r|\n/)
          .slice(0, mapping.skip + SHOWN)
          .map((line, i) => ({ head: i < mapping!.skip, cells: cellsOf(line, mapping!) })),
  );
  const read = $derived(mapping === null ? null : readMapped(sample, mapping));
  const refusal = $derived(mapping === null ? null : mappingRefusal(mapping));
  const rows = $derived(new Set(read?.values.map(({ row }) => row)).size);

  const SEPARATORS = {
    ';': 'semicolons',
    ',': 'commas',
    '\t': 'tabs',
    '|': 'bars',
    columns: 'fixed columns',
  };
  const keyOf = (meaning: ColumnMeaning) =>
    meaning === null ? '' : meaning.what === 'row' ? 'row' : meaning.kind;
  function setColumn(i: number, key: string) {
    mapping!.columns[i] =
      key === ''
        ? null
        : key === 'row'
          ? { what: 'row' }
          : { what: 'register', kind: key, times: 1, turned: false };
  }
  /** As many columns as its cut has; what was said of the first ones stays. */
  function recut(change: Partial<TableMapping>) {
    const next = { ...$state.snapshot(mapping!), ...change } as TableMapping;
    const cells = sample
      .split(/\r\n|\r|\n/)
      .slice(next.skip, next.skip + SHOWN)
      .map((line) => cellsOf(line, next).length);
    const width = Math.max(1, ...cells);
    next.columns = Array.from({ length: Math.min(width, 60) }, (_, i) => next.columns[i] ?? null);
    mapping = next;
  }
</script>

<ActionForm
  action="?/keep"
  class="mt-3 grid gap-3"
  label="Layout of a table"
  onDone={({ rows: count }: { rows: number }) => {
    told = `Kept: the sample has ${count} ${count === 1 ? 'row' : 'rows'} that read so.`;
    mapping = null;
    sample = name = '';
  }}
>
  {#snippet children({ busy })}
    <Field label="A file"
      ><input class="file-input min-h-11 w-full" type="file" onchange={fileChosen} /></Field
    >
    <Field label="or pasted"
      ><textarea
        class="textarea font-mono text-sm"
        name="sample"
        rows="6"
        spellcheck="false"
        wrap="off"
        bind:value={sample}
        oninput={guess}
        required></textarea></Field
    >
    {#if told}<p role="status">{told}</p>{/if}
    {#if mapping}
      <input type="hidden" name="mapping" value={JSON.stringify(mapping)} />
      <div class="grid gap-3 sm:grid-cols-4">
        <Field label="Parted by"
          ><select
            class="select"
            value={mapping.separator}
            onchange={(event) => recut({ separator: event.currentTarget.value as TableMapping['separator'] })}
            >{#each Object.entries(SEPARATORS) as [sign, words] (sign)}<option value={sign}>{words}</option
              >{/each}</select
          ></Field
        >
        <Field label="Lines of head"
          ><input
            class="input"
            type="number"
            min="0"
            max="1000"
            value={mapping.skip}
            onchange={(event) => recut({ skip: Math.max(0, event.currentTarget.valueAsNumber || 0) })}
          /></Field
        >
        <Field label="Unit"
          ><select class="select" bind:value={mapping.unit}
            ><option value="mm">mm</option><option value="in">in</option></select
          ></Field
        >
        <Field label="Decimal sign"
          ><select class="select" bind:value={mapping.decimal}
            ><option value="point">point</option><option value="comma">comma</option></select
          ></Field
        >
      </div>
      {#if mapping.separator === 'columns'}
        <Field label="Columns begin at (characters from the left, 0 is the first)"
          ><input
            class="input font-mono"
            value={mapping.begins.join(' ')}
            onchange={(event) =>
              recut({
                begins: event.currentTarget.value
                  .split(/\D+/)
                  .filter(Boolean)
                  .map(Number)
                  .filter((at) => at <= 2000)
                  .slice(0, 60),
              })}
          /></Field
        >
      {/if}
      <Scroll label="The sample as it is cut">
        <table class="table table-sm">
          <thead>
            <tr>
              {#each mapping.columns as meaning, i (i)}
                <th class="align-top"
                  ><div class="grid min-w-44 gap-1">
                    <select
                      class="select w-full"
                      aria-label="Column {i + 1} holds"
                      value={keyOf(meaning)}
                      onchange={(event) => setColumn(i, event.currentTarget.value)}
                      ><option value="">nothing of ours</option><option value="row">the row</option
                      >{#each kinds as kind (kind)}<option value={kind}>{REGISTER_WORDS[kind]}</option
                        >{/each}</select
                    >
                    {#if meaning?.what === 'register'}
                      <select
                        class="select w-full"
                        aria-label="Column {i + 1} is written"
                        value={`${meaning.times} ${meaning.turned}`}
                        onchange={(event) => {
                          const [times, turned] = event.currentTarget.value.split(' ');
                          mapping!.columns[i] = {
                            ...meaning,
                            times: Number(times) as 1 | 2 | 0.5,
                            turned: turned === 'true',
                          };
                        }}
                        ><option value="1 false">as we write it</option><option value="1 true"
                          >with its sign turned</option
                        ><option value="2 false">as half of ours (a radius)</option><option value="0.5 false"
                          >as twice ours (a diameter)</option
                        ></select
                      >
                    {/if}
                  </div></th
                >
              {/each}
            </tr>
          </thead>
          <tbody class="font-mono text-sm">
            {#each shown as line, i (i)}
              <tr class={line.head ? 'opacity-60' : ''}>
                {#each mapping.columns as _, c (c)}<td>{line.cells[c] ?? ''}</td>{/each}
              </tr>
            {/each}
          </tbody>
        </table>
      </Scroll>
      {#if refusal}<p class="caution">{refusal}</p>
      {:else if read && read.problems.length > 0}
        <ul class="caution">
          {#each read.problems.slice(0, 4) as problem (problem)}<li>{problem}</li>{/each}
        </ul>
      {:else}<p class="small-words">{rows} rows, {read?.values.length} registers read so.</p>{/if}
      <div class="flex flex-wrap items-end gap-3">
        <Field label="Name of this layout"
          ><input
            class="input"
            name="name"
            maxlength="60"
            bind:value={name}
            required
            autocomplete="off"
          /></Field
        >
        <button class="btn min-h-11 btn-primary" disabled={busy || refusal !== null}
          >{names.includes(name.trim()) ? 'Keep it in place of the old one' : 'Keep this layout'}</button
        >
      </div>
    {/if}
  {/snippet}
</ActionForm>
