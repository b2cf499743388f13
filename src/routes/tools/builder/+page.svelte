<script lang="ts">
  import { INTERFACES } from '$core/assembly/silhouette';
  import { stackFacts } from '$core/assembly/stack';
  import { seatsOf, stickOutRefusal } from '$core/holding/fits';
  import { usualStickOut } from '$core/holding/offers';
  import { formatLength } from '$core/units/format-length';
  import { nanometres } from '$core/units/length';
  import { parseLength } from '$core/units/parse-length';
  import { askPage } from '$lib/ask-page';
  import PieceList from '$lib/crib/PieceList.svelte';
  import SearchField from '$lib/SearchField.svelte';
  import WantedTools from '$lib/tool/WantedTools.svelte';
  import BuildForm from '$lib/tool/BuildForm.svelte';
  import PieceChoices from '$lib/tool/PieceChoices.svelte';
  import StackSheet from '$lib/tool/StackSheet.svelte';

  let { data } = $props();
  let typed = $state<string | null>(null);

  const usual = $derived(data.cutter ? usualStickOut(data.cutter, data.holder, data.asks?.reach ?? null) : 0);
  const written = $derived(typed ?? formatLength(nanometres(usual), 'mm', { minus: '-' }));
  const parsed = $derived(parseLength(written, 'mm'));
  const stickOut = $derived(parsed.ok ? parsed.value : nanometres(usual));
  const stack = $derived(
    data.cutter && data.holder
      ? {
          cutter: data.cutter,
          holder: data.holder,
          extension: data.extension,
          nut: data.nut,
          second: data.second,
          adapter: data.adapter,
          knob: data.knob,
          inserts: data.insert ? { component: data.insert, count: seatsOf(data.cutter) } : null,
          secondInserts:
            data.second && data.secondInsert
              ? { component: data.secondInsert, count: seatsOf(data.second) }
              : null,
          stickOut,
        }
      : null,
  );
  const facts = $derived(stack && stackFacts(stack));
  const wrong = $derived(
    !parsed.ok ? parsed.reason : data.cutter ? (stickOutRefusal(data.cutter, stickOut)?.reason ?? '') : '',
  );
</script>

<svelte:head><title>Build an assembly · Tin Almanac</title></svelte:head>

<header
  class="mt-4 flex flex-wrap items-end gap-x-5 gap-y-2 border-b-[3px] border-double border-base-content pb-2"
>
  <h1 class="text-3xl">Build an assembly</h1>
  {#if data.asks}<p class="text-lg">
      for <a class="underline" href="/programs/{data.asks.programId}/tools"
        >{data.asks.program} T{data.asks.tool}</a
      >: {data.asks.words}
    </p>{/if}
  {#if data.cutter}<p class="text-xl">{data.cutter.number} {data.cutter.name}</p>
    <a class="btn ml-auto" href="/tools/builder{data.machine ? `?machine=${data.machine.id}` : ''}"
      >Another cutter</a
    >{/if}
</header>

{#if !data.cutter}
  <WantedTools wanted={data.wanted} />
  <div class="mt-4 max-w-3xl">
    <div class="grid gap-1">
      <span class="text-lg" aria-hidden="true">Which cutter?</span><SearchField
        label="Which cutter?"
        placeholder="10 end mill, M8, drill 6.8 …"
        value={data.search}
      />
    </div>
    <PieceList
      offered={data.cutters}
      chosen={null}
      onchoose={(id) => askPage({ cutter: id, words: null })}
      label="Cutters"
    />
  </div>
{:else}
  <div class="mt-4 grid gap-8 lg:grid-cols-[1.1fr_1.25fr]">
    <div class="grid content-start gap-5">
      <label class="grid gap-1"
        ><span class="heading">For which machine</span><select
          class="select"
          value={String(data.machine?.id ?? '')}
          onchange={(event) =>
            askPage({
              machine: event.currentTarget.value,
              holder: null,
              adapter: null,
              knob: null,
              nut: null,
              second: null,
              second_insert: null,
            })}
          ><option value="">any of them</option>{#each data.machines as machine (machine.id)}<option
              value={String(machine.id)}>{machine.name}, {INTERFACES[machine.interface].words}</option
            >{/each}</select
        ></label
      >
      {#if data.offers}<PieceChoices
          {...data}
          {...data.offers}
          adapter={data.adapter}
          cutter={data.cutter}
          ask={askPage}
        />{/if}
    </div>

    <div class="grid content-start gap-5">
      {#if stack && facts}
        <label class="grid max-w-xs gap-1"
          ><span class="heading">Stick-out, mm</span><input
            class="input text-xl"
            value={written}
            oninput={(event) => (typed = event.currentTarget.value)}
            aria-invalid={wrong !== ''}
          /></label
        >
        {#if wrong}<p class="caution">{wrong}</p>{/if}
        <StackSheet {stack} {facts} machines={data.machines} number="" />
        <BuildForm
          {stack}
          machineId={data.machine?.id ?? null}
          {written}
          free={data.free ?? ''}
          mayOverride={data.mayOverride}
        />
      {:else}
        <p class="text-lg">Choose a holder: those it may not go into say why.</p>
      {/if}
    </div>
  </div>
{/if}
