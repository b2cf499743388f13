<script lang="ts">
  import { nanometres } from '$core/units/length';
  import { invalidateAll } from '$app/navigation';
  import { page } from '$app/state';
  import { formatLength } from '$core/units/format-length';
  import { clock, dayAndClock } from '$lib/time';
  import { isDirection, REGISTER_WORDS } from '$core/inspection/register-words';
  import { lifeWords } from '$lib/words';

  let { data } = $props();
  const kinds = {
    register: 'registers',
    life: 'life',
    placement: 'placements',
    correction: 'corrections',
    reading: 'readings',
    parts: 'parts made',
    assembly: 'tools',
    program: 'programs and jobs',
    machine: 'machines',
    leaf: 'leaves',
    people: 'people',
    cell: 'the cell',
    component: 'the catalogue',
    stock: 'stock',
    pocket: 'pockets',
  };
  const older = $derived(
    Object.entries({ ...data.asked, before: String(data.older) })
      .map(([name, value]) => `${name}=${encodeURIComponent(value)}`)
      .join('&'),
  );
  type Entry = Pick<(typeof data.entries)[number], 'kind' | 'registerKind' | 'unit' | 'basis'>;
  const show = (entry: Entry, value: number | null, sign: 'always' | 'negative' = 'negative') => {
    if (value === null) return '';
    if (entry.kind === 'life' && entry.basis)
      return (sign === 'always' && value > 0 ? '+' : '') + lifeWords(value, entry.basis);
    if (entry.kind === 'register' && !isDirection(entry.registerKind ?? ''))
      return formatLength(nanometres(value), entry.unit ?? 'mm', { sign });
    return String(value);
  };
  // while all entries are being read for the first time, the answer is asked for again until it is there
  $effect(() => {
    if (data.checked) return;
    const timer = setTimeout(() => void invalidateAll(), 3000);
    return () => clearTimeout(timer);
  });
</script>

<svelte:head><title>Ledger · Tin Almanac</title></svelte:head>

<div class="mt-5 flex flex-wrap items-end gap-4">
  <h1 class="text-3xl">Ledger</h1>
  {#if data.checked}
    <p class={['pb-1', data.checked.wrong > 0 && 'caution font-semibold']}>
      {data.checked.wrong === 0
        ? 'Every register and counter is the sum of its entries.'
        : `${data.checked.wrong} registers or counters are not the sum of their entries. Stop and call for help.`}
      <span class="small-words">All entries were read at {clock(data.checked.at, data.cell!.timeZone)}.</span>
    </p>
  {:else}
    <p class="pb-1">Whether every register and counter is the sum of its entries is being looked at.</p>
  {/if}
  <a class="btn ml-auto" href="/ledger/archive">Archive</a>
  <a class="btn" href="/ledger/csv{page.url.search}" download>Export as CSV</a>
</div>
<form
  class="mt-3 grid grid-cols-2 gap-2 md:grid-cols-4 xl:grid-cols-[1fr_5rem_1fr_1fr_13rem_13rem_auto]"
  method="GET"
  aria-label="Filter the ledger"
>
  <select class="select" name="machine" aria-label="Machine" value={data.asked.machine ?? ''}
    ><option value="">all machines</option>{#each data.machines as machine (machine.id)}<option
        value={String(machine.id)}>{machine.name}</option
      >{/each}</select
  >
  <input
    class="input"
    name="tool"
    inputmode="numeric"
    placeholder="T"
    aria-label="T number"
    defaultValue={data.asked.tool ?? ''}
  />
  <select class="select" name="person" aria-label="Person" value={data.asked.person ?? ''}
    ><option value="">everybody</option>{#each data.people as person (person.id)}<option
        value={String(person.id)}>{person.name}</option
      >{/each}</select
  >
  <select class="select" name="kind" aria-label="Kind" value={data.asked.kind ?? ''}
    ><option value="">every kind</option>{#each Object.entries(kinds) as [kind, label] (kind)}<option
        value={kind}>{label}</option
      >{/each}</select
  >
  <input
    class="input"
    type="datetime-local"
    name="from"
    aria-label="From"
    defaultValue={data.asked.from ?? ''}
  />
  <input class="input" type="datetime-local" name="to" aria-label="To" defaultValue={data.asked.to ?? ''} />
  <button class="btn">Show</button>
</form>
<div class="mt-4 overflow-x-auto">
  <table class="ruled min-w-[62rem] table-fixed">
    <colgroup
      ><col class="w-36" /><col class="w-32" /><col class="w-24" /><col class="w-14" /><col /><col
        class="w-20"
      /><col class="w-20" /><col class="w-20" /></colgroup
    >
    <thead
      ><tr
        ><th scope="col">When</th><th scope="col">Who</th><th scope="col">Machine</th><th scope="col">T</th
        ><th scope="col">What</th><th scope="col" class="number">Before</th><th scope="col" class="number"
          >Change</th
        ><th scope="col" class="number">After</th></tr
      ></thead
    >
    <tbody>
      {#each data.entries as entry (entry.id)}
        <tr>
          <td class="whitespace-nowrap">{dayAndClock(entry.at, data.cell!.timeZone)}</td><td
            class="whitespace-nowrap">{entry.person}</td
          ><td>{entry.machine ?? ''}</td><td>{entry.tool ?? ''}</td>
          <td
            >{#if entry.registerKind}<b class="mr-1"
                >{REGISTER_WORDS[entry.registerKind]}, row {entry.registerRow}.</b
              >
            {/if}{#if entry.proposalId}<a class="underline" href="/corrections/{entry.proposalId}"
                >{entry.said}</a
              >{:else}{entry.said}{/if}{#if entry.why}<span class="small-words block">{entry.why}</span
              >{/if}</td
          >
          <td class="number">{show(entry, entry.before)}</td><td class="number font-semibold"
            >{show(entry, entry.change, 'always')}</td
          ><td class="number">{show(entry, entry.after)}</td>
        </tr>
      {/each}
    </tbody>
  </table>
  {#if data.entries.length === 0}<p class="py-3">
      {#if data.register}{REGISTER_WORDS[data.register.kind]}, row {data.register.row} of {data.register
          .machine}
        holds {show(
          { kind: 'register', registerKind: data.register.kind, unit: data.register.unit, basis: null },
          data.register.value,
        )} since the machine was put on record: nobody has measured, keyed or found anything there{data.asked
          .from ||
        data.asked.to ||
        data.asked.before
          ? ' in this time'
          : ''}.
      {:else}Nothing was found.{/if}
    </p>{/if}
</div>
{#if data.older}<p class="mt-3"><a class="btn" href="?{older}">Older entries</a></p>{/if}
