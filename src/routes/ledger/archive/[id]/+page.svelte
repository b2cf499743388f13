<script lang="ts">
  import Field from '$lib/Field.svelte';
  import { dayAndClock, monthOf } from '$lib/time';
  import { ARCHIVE_WORDS, unreadWords } from '../words';

  let { data } = $props();
  const HEADS: Record<string, string> = {
    machine: 'Machine',
    program: 'Program',
    revision: 'Rev.',
    job: 'Job',
    part: 'Part',
    feature: 'Feature',
    value: 'Measured',
    unit: 'Unit',
    person: 'Who',
    at: 'When',
    question: 'Question',
    file: 'File',
    registers: 'Registers',
  };
  /** What is asked for by a word; of the rest nobody searches. */
  const FILTERS = ['machine', 'program', 'feature', 'part', 'person', 'file'];
  const NUMBERS = ['revision', 'part', 'value', 'registers'];
  /** As on every other page; the file has it exact. */
  const said = (name: string, line: Record<string, string>) => {
    const text = line[name] ?? '';
    if (name === 'at') return dayAndClock(new Date(text), data.cell!.timeZone);
    return name === 'value' ? Number(text).toFixed(line.unit === 'mm' ? 3 : 4) : text;
  };
</script>

<svelte:head><title>{monthOf(data.archived.month)} · Archive · Tin Almanac</title></svelte:head>

<div class="mt-5 flex flex-wrap items-end gap-4">
  <h1 class="text-3xl">{monthOf(data.archived.month)}</h1>
  <p class="pb-1">{data.archived.lines} {ARCHIVE_WORDS[data.archived.kind]}, in {data.archived.file}</p>
  <a class="btn ml-auto" href="/ledger/archive">Archive</a>
  {#if data.lines}<a class="btn" href="/ledger/archive/{data.archived.id}/file" download>The file</a>{/if}
</div>

{#if data.unread}
  <p class="caution mt-4" role="alert">{unreadWords(data.unread, data.archived.file)}</p>
{:else if data.lines}
  <form class="mt-3 flex flex-wrap items-end gap-3" method="GET" aria-label="Find in this month">
    {#each FILTERS.filter((name) => data.columns.includes(name)) as name (name)}
      <Field label={HEADS[name]!}
        ><input class="input w-36" {name} defaultValue={data.asked[name] ?? ''} autocomplete="off" /></Field
      >
    {/each}
    <button class="btn btn-primary">Find</button>
  </form>
  <p class="mt-3 text-lg" role="status">
    {#if data.lines.count === 0}Nothing of this month is that.
    {:else}{data.lines.count === data.archived.lines ? 'All' : `${data.lines.count} of`}
      {data.archived.lines}{data.lines.count > data.lines.first.length
        ? `, the first ${data.lines.first.length} shown; the rest is in the file`
        : ''}.{/if}
  </p>
  {#if data.lines.first.length > 0}
    <div class="mt-2 overflow-x-auto">
      <table class="ruled">
        <thead
          ><tr
            >{#each data.columns as name (name)}<th scope="col" class={NUMBERS.includes(name) ? 'number' : ''}
                >{HEADS[name]}</th
              >{/each}</tr
          ></thead
        >
        <tbody>
          {#each data.lines.first as line, i (i)}
            <tr
              >{#each data.columns as name (name)}<td class={NUMBERS.includes(name) ? 'number' : ''}
                  >{said(name, line)}</td
                >{/each}</tr
            >
          {/each}
        </tbody>
      </table>
    </div>
  {/if}
{/if}
