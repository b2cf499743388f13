<script lang="ts">
  import { goto, invalidateAll } from '$app/navigation';
  import ActionForm from '$lib/ActionForm.svelte';
  import DropFile from '$lib/DropFile.svelte';
  import ColumnsForm from '$lib/tool/ColumnsForm.svelte';
  import { dayAndClock } from '$lib/time';

  let { data } = $props();
  const running = $derived(data.draft?.state === 'running' || data.draft?.state === 'cancelling');
  $effect(() => {
    if (!running) return;
    const timer = setInterval(() => void invalidateAll(), 400);
    return () => clearInterval(timer);
  });
  const MARK = { added: '+', changed: '~', same: '=', refused: '×' };
  const FORMATS = ['csv', 'json', 'xml'] as const;
</script>

<svelte:head><title>Tools in and out · Tin Almanac</title></svelte:head>

<h1 class="mt-5 text-3xl">Tools in and out</h1>
{#if !data.draft}
  <div class="mt-4 grid gap-8 lg:grid-cols-2">
    <section class="plate" aria-labelledby="in">
      <h2 id="in" class="text-xl">In</h2>
      <p class="small-words mt-1">
        Assemblies or components as CSV or JSON, assemblies as MTConnect cutting-tool assets (XML). A table of
        other headings, units or decimal commas will do: you say once what its columns are. The file is looked
        at first: nothing is saved until you have seen what it would do.
      </p>
      <ActionForm
        action="?/look"
        class="mt-3 grid gap-3"
        label="Look at a file"
        multipart
        onDone={(done: { id: number }) => void goto(`?draft=${done.id}`)}
      >
        {#snippet children({ busy })}
          <DropFile name="file" />
          <button class="btn btn-primary" disabled={busy}>{busy ? 'Reading …' : 'Look at it'}</button>
        {/snippet}
      </ActionForm>
    </section>
    <section class="plate" aria-labelledby="out">
      <h2 id="out" class="text-xl">Out</h2>
      <p class="small-words mt-1">
        Exact to the last digit: what goes out comes back in the same. Dimensions carry their ISO 13399 names.
      </p>
      <div class="mt-3 flex flex-wrap gap-2">
        {#each FORMATS as format (format)}<a class="btn" href="/tools/export/{format}" download
            >Assemblies, {format.toUpperCase()}</a
          >{/each}
      </div>
      <div class="mt-2 flex flex-wrap gap-2">
        {#each ['csv', 'json'] as const as format (format)}<a
            class="btn"
            href="/crib/export/{format}"
            download>Components, {format.toUpperCase()}</a
          >{/each}
      </div>
      <h3 class="mt-4 font-display font-semibold">Empty ones to fill in</h3>
      <p class="small-words">All headings, and one example on a line that is left out when it is read.</p>
      <div class="mt-2 flex flex-wrap gap-2">
        <a class="btn" href="/tools/export/csv?template" download>Assemblies, template</a>
        <a class="btn" href="/crib/export/csv?template" download>Components, template</a>
      </div>
    </section>
  </div>
  <section class="mt-6" aria-labelledby="past">
    <h2 id="past" class="heading">The last files</h2>
    <ul class="mt-1 border-t-[3px] border-double border-base-content">
      {#each data.past as file (file.id)}
        <li class="flex flex-wrap gap-x-4 border-b border-base-300 py-1.5">
          <b>{file.fileName}</b>
          <span class={['flex-1', file.state !== 'done' && 'text-accent']}
            >{file.rowsAll} {file.kind}: {file.answer || 'stopped before it was saved'}</span
          >
          <span class="small-words">{file.person}, {dayAndClock(file.at, data.cell!.timeZone)}</span>
        </li>
      {:else}<li class="py-2">No file of tools was brought in yet.</li>{/each}
    </ul>
  </section>
{:else}
  <p class="mt-3 text-lg">
    <b>{data.draft.fileName}</b>{data.question ? '' : `: ${data.draft.rowsAll} ${data.draft.kind}`}
  </p>
  {#if running}
    <div class="mt-3 max-w-xl">
      <progress
        class="progress w-full"
        value={data.draft.rowsDone}
        max={data.draft.rowsAll}
        aria-label="Rows taken"
      ></progress>
      <p>{data.draft.rowsDone} of {data.draft.rowsAll}</p>
      <ActionForm action="?/cancel" label="Stop">
        {#snippet children({ busy })}
          <input type="hidden" name="draft" value={data.draft!.id} />
          <button class="btn mt-2" disabled={busy || data.draft!.state === 'cancelling'}
            >Stop: save none of it</button
          >
        {/snippet}
      </ActionForm>
    </div>
  {:else if data.question}
    <p class="mt-2">
      {data.question.decimal === null
        ? 'Its columns or its numbers could mean more than one thing.'
        : 'Its headings are not this program’s own: say what each column is.'}
    </p>
    <ColumnsForm draft={data.draft.id} question={data.question} columns={data.columns!} />
  {:else if data.look}
    <p class="mt-2 text-lg">
      <b>{data.look.counts.added}</b> would be added, <b>{data.look.counts.changed}</b> changed, {data.look
        .counts.same} already the same,
      <b class={data.look.counts.refused > 0 ? 'text-accent' : ''}>{data.look.counts.refused}</b> are refused.
    </p>
    <div class="mt-3 flex flex-wrap gap-2">
      {#if data.look.counts.refused === 0 && data.look.counts.added + data.look.counts.changed > 0}
        <ActionForm action="?/take" label="Take it">
          {#snippet children({ busy })}
            <input type="hidden" name="draft" value={data.draft!.id} />
            <button class="btn btn-primary" disabled={busy}>Save all of it</button>
          {/snippet}
        </ActionForm>
      {:else if data.look.counts.refused > 0}<p class="caution">
          A file is saved whole, or not at all: fix the refused rows first.
        </p>{/if}
      {#if data.draft.reading}
        <ActionForm action="?/again" label="Other columns">
          {#snippet children({ busy })}
            <input type="hidden" name="draft" value={data.draft!.id} />
            <button class="btn" disabled={busy}>Its columns are others</button>
          {/snippet}
        </ActionForm>
      {/if}
      <a class="btn" href="/tools/import">Another file</a>
    </div>
    <table class="ruled mt-4">
      <thead
        ><tr
          ><th scope="col" class="number">Line</th><th scope="col">Number</th><th scope="col">Would be</th><th
            scope="col">What</th
          ></tr
        ></thead
      >
      <tbody>
        {#each data.look.rows as row (row.line)}
          <tr
            ><td class="number">{row.line}</td><th scope="row">{row.number}</th><td
              class={row.verdict === 'refused' ? 'font-semibold text-accent' : ''}
              ><span aria-hidden="true">{MARK[row.verdict]}</span>
              {row.verdict === 'same' ? 'so already' : row.verdict}</td
            ><td>{row.words}</td></tr
          >
        {/each}
      </tbody>
    </table>
    {#if data.draft.rowsAll > data.look.rows.length}<p class="small-words py-2">
        The first {data.look.rows.length} rows; those that need a look come first.
      </p>{/if}
  {:else}
    <p class={['mt-3 text-lg', data.draft.state !== 'done' && 'caution']} role="status">
      {data.draft.answer || 'Stopped.'}
    </p>
    <div class="mt-3 flex gap-2">
      <a class="btn" href={data.draft.kind === 'assemblies' ? '/tools' : '/crib'}>Look at them</a><a
        class="btn"
        href="/tools/import">Another file</a
      >
    </div>
  {/if}
{/if}
