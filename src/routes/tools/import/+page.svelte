<script lang="ts">
  import { goto, invalidateAll } from '$app/navigation';
  import ActionForm from '$lib/ActionForm.svelte';
  import DropFile from '$lib/DropFile.svelte';
  import ColumnsForm from '$lib/tool/ColumnsForm.svelte';
  import LookTable from '$lib/tool/LookTable.svelte';
  import PastFiles from '$lib/tool/PastFiles.svelte';

  let { data } = $props();
  const running = $derived(data.draft?.state === 'running' || data.draft?.state === 'cancelling');
  $effect(() => {
    if (!running) return;
    const timer = setInterval(() => void invalidateAll(), 400);
    return () => clearInterval(timer);
  });
  const FORMATS = ['csv', 'json', 'xml'] as const;
</script>

<svelte:head><title>Tools in and out · Tin Almanac</title></svelte:head>

<h1 class="mt-5 text-3xl">Tools in and out</h1>
{#if !data.draft}
  <div class="mt-4 grid gap-8 lg:grid-cols-2">
    <section class="plate" aria-labelledby="in">
      <h2 id="in" class="text-xl">In</h2>
      <p class="small-words mt-1">
        Assemblies or components as CSV, spreadsheet (.xlsx) or JSON, assemblies as MTConnect cutting-tool
        assets (XML). A table of other headings, units or decimal commas will do: you say once what its
        columns are. The file is looked at first: nothing is saved until you have seen what it would do.
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
      <p class="small-words mt-2">
        What the JSON may hold is written as a JSON Schema: <a class="underline" href="/tools/export/schema"
          >assemblies</a
        >, <a class="underline" href="/crib/export/schema">components</a>.
      </p>
      <h3 class="mt-4 font-display font-semibold">Empty ones to fill in</h3>
      <p class="small-words">All headings, and one example on a line that is left out when it is read.</p>
      <div class="mt-2 flex flex-wrap gap-2">
        <a class="btn" href="/tools/export/csv?template" download>Assemblies, template</a>
        <a class="btn" href="/crib/export/csv?template" download>Components, template</a>
      </div>
    </section>
  </div>
  <PastFiles files={data.past} zone={data.cell!.timeZone} />
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
    {#key data.draft.id}<ColumnsForm
        draft={data.draft.id}
        question={data.question}
        columns={data.columns!}
      />{/key}
  {:else if data.look}
    <p class="mt-2 text-lg">
      <b>{data.look.counts.added}</b> would be added, <b>{data.look.counts.changed}</b> changed, {data.look
        .counts.same} already the same,{#if data.look.counts.left > 0}
        {data.look.counts.left} left as they are, though the file says something else,{/if}
      <b class={data.look.counts.refused > 0 ? 'text-accent' : ''}>{data.look.counts.refused}</b> are refused.
    </p>
    <div class="mt-3 flex flex-wrap gap-2">
      {#if data.look.counts.refused === 0 && data.look.counts.added + data.look.counts.changed > 0}
        <ActionForm action="?/take" label="Take it">
          {#snippet children({ busy })}
            <input type="hidden" name="draft" value={data.draft!.id} />
            {#if data.look!.counts.doubtful > 0}
              <label class="caution mb-2 flex min-h-11 items-center gap-3"
                ><input class="checkbox" type="checkbox" name="sure" value="yes" required />
                {data.look!.counts.doubtful === 1
                  ? 'One row looks wrong: I have looked at it, and it is right.'
                  : `${data.look!.counts.doubtful} rows look wrong: I have looked at them, and they are right.`}</label
              >
            {/if}
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
    {#if data.look.open.length > 0}
      <section class="mt-4" aria-labelledby="open">
        <h2 id="open" class="heading">To be completed, and left out until then</h2>
        <ul class="ruled-list mt-1">
          {#each data.look.open as each (each.line)}
            <li class="flex flex-wrap items-center gap-x-4 py-1">
              <b>{each.number || `tool ${each.line}`}</b>
              {each.name}: no {each.missing.join(', no ')}
              <a class="btn ml-auto" href="/tools/write?draft={data.draft.id}&line={each.line}">Complete it</a
              >
            </li>
          {/each}
        </ul>
      </section>
    {/if}
    <LookTable rows={data.look.rows} all={data.draft.rowsAll} />
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
