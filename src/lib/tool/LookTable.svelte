<script lang="ts">
  import type { PlannedRow } from '$core/formats/import-plan';

  interface Props {
    rows: PlannedRow[];
    /** How many rows the file has; the first of them are shown. */
    all: number;
  }
  let { rows, all }: Props = $props();
  const MARK = { added: '+', changed: '~', left: '·', same: '=', refused: '×' };
  const WORDS = {
    added: 'added',
    changed: 'changed',
    left: 'left as it is',
    same: 'so already',
    refused: 'refused',
  };
</script>

<table class="ruled mt-4">
  <thead
    ><tr
      ><th scope="col" class="number">Line</th><th scope="col">Number</th><th scope="col">Would be</th><th
        scope="col">What</th
      ></tr
    ></thead
  >
  <tbody>
    {#each rows as row (row.line)}
      <tr
        ><td class="number">{row.line}</td><th scope="row">{row.number}</th><td
          class={row.verdict === 'refused' ? 'font-semibold text-accent' : ''}
          ><span aria-hidden="true">{MARK[row.verdict]}</span>
          {WORDS[row.verdict]}</td
        ><td
          >{#if row.doubt}<b class="block text-accent">Look at it: {row.doubt}.</b>{/if}{row.words}</td
        ></tr
      >
    {/each}
  </tbody>
</table>
{#if all > rows.length}<p class="small-words py-2">
    The first {rows.length} rows; those that need a look come first.
  </p>{/if}
