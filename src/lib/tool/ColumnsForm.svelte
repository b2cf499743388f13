<script lang="ts">
  import Field from '$lib/Field.svelte';
  import type { Question } from '$core/formats/headings';
  import ActionForm from '../ActionForm.svelte';
  import { Proposed } from '../proposed.svelte';
  import { askPage } from '../ask-page';

  interface Props {
    draft: number;
    question: Question;
    columns: { name: string; words: string; needed?: boolean | undefined }[];
  }
  let { draft, question, columns }: Props = $props();
  // as guessed until somebody says otherwise
  const given = new Proposed(() => question.headings.map(({ guess }) => guess));
  const missing = $derived(columns.filter((column) => column.needed && !given.value.includes(column.name)));
</script>

<!-- A table of other people's: which column is what is said once, by its own cells, and remembered. -->
<ActionForm action="?/read" keep class="mt-4" label="What the columns are">
  {#snippet children({ busy })}
    <input type="hidden" name="draft" value={draft} />
    <div class="flex flex-wrap gap-x-8 gap-y-3">
      <Field label="It holds"
        ><select
          class="select w-56"
          name="kind"
          value={question.kind}
          onchange={(event) => {
            given.release();
            askPage({ kind: event.currentTarget.value });
          }}
          ><option value="assemblies">tool assemblies</option><option value="components">components</option
          ></select
        ></Field
      >
      <fieldset>
        <legend class="font-semibold">Its numbers are written</legend>
        <div class="flex min-h-11 items-center gap-4">
          {#each [['point', '1.5'], ['comma', '1,5']] as const as [sign, words] (sign)}<label
              class="flex min-h-11 items-center gap-2"
              ><input
                class="radio"
                type="radio"
                name="decimal"
                value={sign}
                checked={question.decimal === sign}
              />
              {words}</label
            >{/each}
        </div>
      </fieldset>
      <fieldset>
        <legend class="font-semibold">Lengths without a unit are in</legend>
        <div class="flex min-h-11 items-center gap-4">
          {#each ['mm', 'in'] as const as unit (unit)}<label class="flex min-h-11 items-center gap-2"
              ><input class="radio" type="radio" name="unit" value={unit} checked={question.unit === unit} />
              {unit}</label
            >{/each}
        </div>
      </fieldset>
    </div>
    {#if question.decimal === null}<p class="caution mt-2 font-semibold">
        Its numbers can be read two ways: is 1.000 one, or a thousand? Choose above.
      </p>{/if}
    <table class="ruled mt-4">
      <thead
        ><tr><th scope="col">In the file</th><th scope="col">Its first cells</th><th scope="col">Is</th></tr
        ></thead
      >
      <tbody>
        {#each question.headings as { heading, samples }, i (heading)}
          <tr
            ><th scope="row">{heading || '(no heading)'}</th><td class="max-w-60 truncate"
              >{samples.join(' · ')}</td
            ><td
              ><select
                class="select"
                name="column {heading}"
                aria-label="What {heading} is"
                value={given.value[i]}
                onchange={(event) => (given.value = given.value.with(i, event.currentTarget.value))}
                ><option value="">leave it out</option>{#each columns as column (column.name)}<option
                    value={column.name}>{column.words}</option
                  >{/each}</select
              ></td
            ></tr
          >
        {/each}
      </tbody>
    </table>
    {#if missing.length > 0}<p class="caution mt-2" role="status">
        Still needed: {missing.map((column) => column.words.toLowerCase()).join(', ')}.
      </p>{/if}
    <button class="btn mt-3 btn-primary" disabled={busy}>Read it like this</button>
    <p class="small-words mt-1">The next file with these headings is read the same way without asking.</p>
  {/snippet}
</ActionForm>
