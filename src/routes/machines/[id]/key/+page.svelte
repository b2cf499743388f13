<script lang="ts">
  import { chaseWords } from '$core/correction/chase';
  import { rowAnswerWords, type RowAnswer } from '$core/correction/read-back';
  import { readPastedTable } from '$core/correction/register-text';
  import { REGISTER_WORDS } from '$core/inspection/register-words';
  import { formatLength } from '$core/units/format-length';
  import FirstPart from '$lib/correction/FirstPart.svelte';
  import NcText from '$lib/correction/NcText.svelte';
  import ReadRows from '$lib/correction/ReadRows.svelte';
  import RowsToKey from '$lib/correction/RowsToKey.svelte';
  import { outbox } from '$lib/offline/outbox.svelte';
  import { readBackWaits } from '$lib/offline/waits';
  let { data } = $props();
  const { machine } = $derived(data);
  /** Those that are not keyed yet: what the control shows of the others waits to be sent. */
  const toKey = $derived(data.corrections.filter(({ id }) => !readBackWaits(outbox.untold, id)));
  const wait = $derived(data.corrections.length - toKey.length);
  let keyed = $state(false);
  let typed = $state<Record<number, string>>({});
  let pasted = $state('');
  let page = $state('');
  let read = $state<{ found: number; problems: string[] } | null>(null);
  const kinds = $derived([...new Set(toKey.map((each) => each.registerKind))]);

  /** Puts what a pasted table says into the rows that are asked for; one that moves far is still typed a second time. */
  function fill() {
    const table = readPastedTable(pasted, machine.dialect, machine.unit);
    let found = 0;
    for (const each of toKey) {
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

{#if wait > 0}<p class="caution mt-5">
    What the control shows in {wait === 1 ? 'one row' : `${wait} rows`} waits on this device to be sent; it is compared
    then.
  </p>{/if}
{#each data.apart as each (each.id)}
  <p class="caution mt-5">
    <a class="font-semibold underline" href="/corrections/{each.id}"
      >{REGISTER_WORDS[each.registerKind]}, row {each.row}, T{each.tool}</a
    >: {each.ending ?? each.held}
  </p>
{/each}
{#if toKey.length === 0}
  <p class="mt-5 text-lg">
    Nothing to key{data.waiting > 0
      ? `: ${data.waiting === 1 ? 'one correction waits' : `${data.waiting} corrections wait`} for approval`
      : ''}.
  </p>
  <a class="btn mt-3" href="/corrections">Corrections</a>
{:else}
  <div class="mt-5 max-w-3xl">
    <h2 class="text-2xl">{keyed ? 'Read it off the control' : 'Key in this order'}</h2>
    {#if !keyed}
      <RowsToKey rows={toKey} {machine} last="For">
        {#snippet note(each)}<a class="underline" href="/corrections/{each.id}"
            >T{each.tool}, {each.feature}</a
          >{#if chaseWords(each)}<br />{chaseWords(each)}{/if}{/snippet}
      </RowsToKey>
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
      <ReadRows
        rows={toKey}
        action="?/readBack"
        keptAs={machine.name}
        bind:typed
        onShow={() => (keyed = false)}
        read={(done: RowAnswer[]) =>
          done.map((each) => ({ id: each.proposalId, kept: each.kept, said: rowAnswerWords(each) }))}
        onKept={() => (keyed = false)}
      >
        {#snippet extra()}<FirstPart cut={data.cut} />{/snippet}
      </ReadRows>
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
              <p>{read.found} of {toKey.length} rows found in it.</p>
              {#each read.problems.slice(0, 5) as problem (problem)}<p class="small-words">
                  {problem}
                </p>{/each}
            </div>{/if}
        </div>
      </details>
    {/if}
  </div>
{/if}
