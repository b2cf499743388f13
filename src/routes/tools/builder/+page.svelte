<script lang="ts">
  import Field from '$lib/Field.svelte';
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { stackFacts } from '$core/assembly/stack';
  import { INTERFACES, type Interface } from '$core/assembly/silhouette';
  import { kindFacts } from '$core/component/kinds';
  import { stickOutRefusal } from '$core/holding/fits';
  import { formatLength } from '$core/units/format-length';
  import { nanometres } from '$core/units/length';
  import { parseLength } from '$core/units/parse-length';
  import ActionForm from '$lib/ActionForm.svelte';
  import PieceList from '$lib/crib/PieceList.svelte';
  import WantedTools from '$lib/tool/WantedTools.svelte';
  import PieceChoices from '$lib/tool/PieceChoices.svelte';
  import StackSheet from '$lib/tool/StackSheet.svelte';

  import { changedQuery } from '$lib/query';

  let { data } = $props();
  let typed = $state<string | null>(null);

  const ask = (change: Record<string, number | string | null>) =>
    void goto(changedQuery(page.url.search, change), { keepFocus: true, noScroll: true, replaceState: true });
  let timer: ReturnType<typeof setTimeout> | undefined;
  const search = (words: string) => {
    clearTimeout(timer);
    timer = setTimeout(() => ask({ words }), 150);
  };

  /** Flutes clear and, where the cutter allows it, two more millimetres. */
  const usual = $derived.by(() => {
    const { LCF: flutes, LF: length, OAL: overall, DCONMS: shank } = data.cutter?.dimensions ?? {};
    // a turning tool stands out a quarter more than it is high (common practice, no source)
    if (flutes === undefined || overall === undefined)
      return data.holder?.kind.startsWith('turning') ? 1.25 * (shank ?? 0) : (length ?? 0);
    const most = overall - 2 * (shank ?? 0);
    return Math.max(flutes, Math.min(Math.max(flutes + 2_000_000, data.asks?.reach ?? 0), most));
  });
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
          inserts: data.insert ? { component: data.insert, count: data.cutter.dimensions.ZEFP ?? 1 } : null,
          stickOut,
        }
      : null,
  );
  const facts = $derived(stack && stackFacts(stack));
  const wrong = $derived(
    !parsed.ok ? parsed.reason : data.cutter ? (stickOutRefusal(data.cutter, stickOut)?.reason ?? '') : '',
  );
  const interfaceWords = $derived(data.holder ? INTERFACES[data.holder.interface as Interface].words : '');
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
    <label class="grid gap-1"
      ><span class="text-lg">Which cutter?</span><input
        class="input"
        type="search"
        placeholder="10 end mill, M8, drill 6.8 …"
        value={data.search}
        oninput={(event) => search(event.currentTarget.value)}
      /></label
    >
    <PieceList
      offered={data.cutters}
      chosen={null}
      onchoose={(id) => ask({ cutter: id, words: null })}
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
            ask({
              machine: event.currentTarget.value,
              holder: null,
              adapter: null,
              knob: null,
              nut: null,
              second: null,
            })}
          ><option value="">any of them</option>{#each data.machines as machine (machine.id)}<option
              value={String(machine.id)}>{machine.name}, {INTERFACES[machine.interface].words}</option
            >{/each}</select
        ></label
      >
      <PieceChoices {...data} cutter={data.cutter} {ask} />
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
        <ActionForm
          action="?/build"
          class="plate grid gap-2"
          label="Build it"
          onDone={(done: { id: number }) => void goto(`/tools/${done.id}/card`)}
        >
          {#snippet children({ busy })}
            {#each [['cutter', data.cutter], ['holder', data.holder], ['extension', data.extension], ['nut', data.nut], ['second', data.second], ['adapter', data.adapter], ['insert', data.insert], ['knob', data.knob]] as const as [role, piece] (role)}
              <input type="hidden" name={role} value={piece?.id ?? ''} />
            {/each}
            <input type="hidden" name="machine" value={data.machine?.id ?? ''} />
            <input type="hidden" name="stickOut" value={written} />
            <div class="grid grid-cols-[8rem_1fr] gap-2">
              <Field label="Number"
                ><input
                  class="input"
                  name="number"
                  value={data.free ?? ''}
                  required
                  autocomplete="off"
                  maxlength="20"
                /></Field
              >
              <Field label="Name"
                ><input
                  class="input"
                  name="name"
                  required
                  maxlength="80"
                  value={data.cutter!.name}
                  autocomplete="off"
                /></Field
              >
            </div>
            {#if data.mayOverride}<Field label="Against a rule? The reason stays visible on the tool." small
                ><input class="input" name="override" maxlength="300" autocomplete="off" /></Field
              >{/if}
            <p class="small-words">
              {kindFacts(data.cutter!.kind).words} in {data.holder!.name}, {interfaceWords}. Its pieces are
              issued from the crib.
            </p>
            <button class="btn btn-primary" disabled={busy}>Build it</button>
          {/snippet}
        </ActionForm>
      {:else}
        <p class="text-lg">Choose a holder: those it may not go into say why.</p>
      {/if}
    </div>
  </div>
{/if}
