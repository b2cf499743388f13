<script lang="ts">
  import { rowAnswerWords, type RowAnswer } from '$core/correction/read-back';
  import { readPastedTable } from '$core/correction/register-text';
  import { REGISTER_WORDS } from '$core/inspection/register-words';
  import { formatLength } from '$core/units/format-length';
  import ActionForm from '$lib/ActionForm.svelte';
  import FirstPart from '$lib/correction/FirstPart.svelte';
  import NcText from '$lib/correction/NcText.svelte';
  import NumberField from '$lib/NumberField.svelte';

  import KeyTable from './KeyTable.svelte';
  let { data } = $props();
  const { machine } = $derived(data);
  let keyed = $state(false);
  let answers = $state<RowAnswer[]>([]);
  let typed = $state<Record<number, string>>({});
  let twice = $state<Record<number, string>>({});
  let pasted = $state('');
  let page = $state('');
  let read = $state<{ found: number; problems: string[] } | null>(null);
  const kinds = $derived([...new Set(data.corrections.map((each) => each.registerKind))]);
  const answerOf = (id: number) => answers.find((each) => each.proposalId === id);

  /** Puts what a pasted table says into the rows that are asked for; one that moves far is still typed a second time. */
  function fill() {
    const table = readPastedTable(pasted, machine.dialect, machine.unit);
    let found = 0;
    for (const each of data.corrections) {
      const row = table.rows.find(
        ({ kind, row: number }) => number === each.row && (kind ?? (page || kinds[0])) === each.registerKind,
      );
      if (!row) continue;
      typed[each.id] = formatLength(row.value, machine.unit, { minus: '-', decimals: 6 });
      found += 1;
    }
    read = { found, problems: table.problems };
  }
</script>

<svelte:head><title>Key · {machine.name} · Tin Almanac</title></svelte:head>

{#if data.corrections.length === 0}
  <p class="mt-5 text-lg">
    Nothing to key{data.waiting > 0
      ? `: ${data.waiting === 1 ? 'one correction waits' : `${data.waiting} corrections wait`} for approval`
      : ''}.
  </p>
  <a class="btn mt-3" href="/corrections">Corrections</a>
{:else}
  <div class="mt-5 max-w-3xl">
    <h2 class="text-2xl">{keyed ? 'Read it off the control' : 'Key in this order'}</h2>
    {#if keyed}<p class="mt-1">
        The numbers are put away: type what each row shows, not what it should show. A row left empty stays to
        be keyed.
        <button type="button" class="underline" onclick={() => (keyed = false)}>Show them again</button>
      </p>{/if}
    {#if !keyed}
      <KeyTable corrections={data.corrections} {machine} />
      {#if data.text}<NcText text={data.text} name="{machine.name} rows" />{/if}
      <p class="caution mt-3 text-sm">
        Check each row twice. Where a row does not show what stands here, leave it alone and ask.
      </p>
      {#if data.mayKey}<button
          type="button"
          class="btn mt-4 h-14 w-full text-lg btn-primary"
          onclick={() => (keyed = true)}>I have keyed them</button
        >{/if}
    {:else}
      <ActionForm
        action="?/readBack"
        class="mt-3 grid gap-3"
        label="Read back"
        keep
        onDone={(done: RowAnswer[]) => {
          answers = done;
          for (const { proposalId, kept } of done) if (kept) typed[proposalId] = twice[proposalId] = '';
          if (done.every((each) => each.kept)) keyed = false;
        }}
      >
        {#snippet children({ busy })}
          {#each data.corrections as each (each.id)}
            {@const answer = answerOf(each.id)}
            <div class="grid gap-x-4 gap-y-1 border-t border-base-300 pt-2 sm:grid-cols-2">
              <NumberField
                name="shown.{each.id}"
                label="{REGISTER_WORDS[each.registerKind]}, row {each.row}"
                class="h-14 font-display text-2xl"
                bind:value={() => typed[each.id] ?? '', (text) => (typed[each.id] = text)}
              />
              {#if each.twice}<NumberField
                  name="again.{each.id}"
                  label="It moves far: once more"
                  class="h-14 font-display text-2xl"
                  bind:value={() => twice[each.id] ?? '', (text) => (twice[each.id] = text)}
                />{/if}
              {#if answer && !answer.kept}<p role="alert" class="caution sm:col-span-2">
                  {rowAnswerWords(answer)}
                </p>{/if}
            </div>
          {/each}
          <FirstPart cut={data.cut} />
          <button class="btn h-14 text-lg btn-primary" disabled={busy}>The control shows this</button>
        {/snippet}
      </ActionForm>
      <details class="mt-4">
        <summary class="inline-flex min-h-11 cursor-pointer items-center underline"
          >Paste the control’s table instead</summary
        >
        <div class="mt-1 grid gap-2">
          {#if kinds.length > 1}
            <select class="select max-w-xs" aria-label="Page of the table" bind:value={page}>
              {#each kinds as kind (kind)}<option value={kind}>{REGISTER_WORDS[kind]}</option>{/each}
            </select>
          {/if}
          <textarea
            class="textarea w-full font-mono"
            rows="5"
            aria-label="Table of the control"
            placeholder="3   0.022&#10;4  -0.010"
            bind:value={pasted}></textarea>
          <button type="button" class="btn justify-self-start" onclick={fill}>Fill in the rows</button>
          {#if read}<div role="status">
              <p>{read.found} of {data.corrections.length} rows found in it.</p>
              {#each read.problems.slice(0, 5) as problem (problem)}<p class="small-words">
                  {problem}
                </p>{/each}
            </div>{/if}
        </div>
      </details>
    {/if}
  </div>
{/if}
