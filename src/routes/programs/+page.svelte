<script lang="ts">
  import Field from '$lib/Field.svelte';
  import ActionForm from '$lib/ActionForm.svelte';
  import DropFile from '$lib/DropFile.svelte';
  import LongTable from '$lib/LongTable.svelte';
  import SearchField from '$lib/SearchField.svelte';
  import PlanLook from '$lib/program/PlanLook.svelte';
  import ReadingsLook from '$lib/program/ReadingsLook.svelte';
  import type { PlanLookSeen, ReadingsLookSeen } from '$lib/program/looks';
  import { minutesAndSeconds } from '$core/shift/clock';

  let { data } = $props();
  type Taken =
    | { kind: 'plan'; look: PlanLookSeen; text: string }
    | { kind: 'readings'; look: ReadingsLookSeen; text: string; part: number | null }
    | { kind: string; id: number | null; sentence: string };
  let taken = $state<Taken | null>(null);
  const WORDS: Record<string, string> = {
    program: 'NC programs',
    plan: 'measuring plans (CSV or .xlsx)',
    readings: 'readings (CSV, .xlsx, QIF)',
    machine: 'machines (JSON)',
  };
</script>

<svelte:head><title>Programs · Tin Almanac</title></svelte:head>

<div class="mt-5 flex flex-wrap items-end gap-x-5 gap-y-2">
  <h1 class="text-3xl">Programs</h1>
  <SearchField
    label="Find a program"
    placeholder="number, title, machine, material"
    value={data.words}
    class="ml-auto w-72"
  />
</div>
{#key taken}{#if taken && 'look' in taken}
    {#if taken.kind === 'plan'}<PlanLook look={taken.look as PlanLookSeen} text={taken.text} />
    {:else if taken.kind === 'readings'}<ReadingsLook
        look={taken.look as ReadingsLookSeen}
        text={taken.text}
        part={'part' in taken ? taken.part : null}
      />{/if}
  {/if}{/key}
<div class="mt-4 grid gap-8 lg:grid-cols-[1.6fr_1fr]">
  <div class="min-w-0">
    <LongTable
      total={data.total}
      first={data.found}
      more="/programs/rows?words={encodeURIComponent(data.words)}"
      rowHeight={44}
      columns={['w-20', 'w-64', 'w-12', 'w-14', 'w-16', 'w-20', 'w-28']}
      label="Programs"
    >
      {#snippet head()}<tr
          ><th scope="col">Machine</th><th scope="col">Program</th><th scope="col" class="number">Rev.</th><th
            scope="col"
            class="number">Tools</th
          ><th scope="col" class="number">In cut</th><th scope="col" class="number">Features</th><th
            scope="col">Brought in</th
          ></tr
        >{/snippet}
      {#snippet row(program)}
        <tr class="h-11">
          <td>{program.machine}</td>
          <th scope="row" class="truncate" title={program.title}
            ><a class="underline" href="/programs/{program.id}">{program.number}</a>
            <span class="font-normal">{program.title}</span></th
          >
          <td class="number">{program.revision}</td><td class="number">{program.tools}</td><td class="number"
            >{minutesAndSeconds(program.cutMilliseconds)}</td
          ><td class="number">{program.features}</td>
          <td class="truncate">{program.broughtInBy}</td>
        </tr>
      {/snippet}
    </LongTable>
    {#if data.total === 0}<p class="py-3">
        {data.words === '' ? 'There is no program yet.' : `No program matches “${data.words}”.`}
      </p>{/if}
  </div>

  {#if data.kinds.length > 0}
    <section aria-labelledby="bring" class="plate self-start">
      <h2 id="bring" class="text-xl">Bring a file in</h2>
      <p class="small-words mt-1">
        You may bring in {data.kinds.map((kind) => WORDS[kind]).join(', ')}. A file is saved whole, or not at
        all; plans and readings are looked at first.
      </p>
      <ActionForm
        action="?/bringIn"
        class="mt-3 grid gap-3"
        label="Bring a file in"
        multipart
        onDone={(done) => (taken = done as Taken)}
      >
        {#snippet children({ busy })}
          <DropFile name="file" most={128} />
          <Field label="For an NC program: the machine"
            ><select class="select" name="machine"
              ><option value="">–</option>{#each data.machines as machine (machine.id)}<option
                  value={machine.id}>{machine.name}</option
                >{/each}</select
            ></Field
          >
          <Field label="and how many parts one cycle makes"
            ><input class="input" name="partsPerCycle" inputmode="numeric" value="1" /></Field
          >
          <Field label="For a measuring plan or readings: the program"
            ><select class="select" name="program"
              ><option value="">–</option>{#each data.choices as program (program.id)}<option
                  value={program.id}>{program.machine}: {program.number} {program.title}</option
                >{/each}</select
            ></Field
          >
          <Field label="For readings that do not say it: the part"
            ><input class="input" name="part" inputmode="numeric" /></Field
          >
          <button class="btn btn-primary" disabled={busy}>{busy ? 'Reading …' : 'Read it'}</button>
        {/snippet}
        {#snippet behind({
          busy,
          key,
        })}{#if busy}{#await import('$lib/program/HowFar.svelte') then { default: HowFar }}<HowFar
                of={key}
              />{/await}{/if}{/snippet}
      </ActionForm>
      {#if taken && 'sentence' in taken}<p role="status" class="mt-3 font-semibold">
          {taken.sentence}
          {#if taken.id && taken.kind === 'program'}<a class="underline" href="/programs/{taken.id}"
              >Open it</a
            >{/if}
        </p>{/if}
    </section>
  {/if}
</div>
