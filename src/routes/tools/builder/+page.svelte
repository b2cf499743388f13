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
  {#if data.wanted.length > 0}
    <section class="mt-4 max-w-3xl" aria-labelledby="wanted">
      <h2 id="wanted" class="heading">What the next jobs lack</h2>
      <ul class="mt-1 border-t-[3px] border-double border-base-content">
        {#each data.wanted as each (`${each.programId} ${each.tool}`)}
          <li class="border-b border-base-300">
            <a
              class="flex min-h-12 flex-wrap items-center gap-x-3 hover:bg-base-300"
              href={each.words
                ? `?program=${each.programId}&tool=${each.tool}${each.machineId ? `&machine=${each.machineId}` : ''}`
                : `/programs/${each.programId}/tools`}
              ><b>{each.machine} T{each.tool}</b>
              <span class="flex-1"
                >{each.words ?? 'the program does not say what it is: define it first'}</span
              >
              <span class="small-words">{each.program}</span></a
            >
          </li>
        {/each}
      </ul>
    </section>
  {/if}
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
      <section>
        <h2 class="heading">Holder</h2>
        <PieceList
          offered={data.holders}
          chosen={data.holder?.id ?? null}
          onchoose={(id) => ask({ holder: id, adapter: null, knob: null, nut: null, second: null })}
          label="Holders"
        />
      </section>
      {#if data.holder && (data.adapters.length > 0 || data.adapter)}
        <section>
          <h2 class="heading">{data.holder.kind === 'colletChuck' ? 'Collet' : 'Sleeve'}</h2>
          <PieceList
            offered={data.adapters}
            chosen={data.adapter?.id ?? null}
            onchoose={(id) => ask({ adapter: id })}
            label="Collets"
          />
        </section>
      {/if}
      {#if data.extensions.length > 0}
        <section>
          <h2 class="heading">
            Extension {#if data.extension}<button
                type="button"
                class="btn btn-sm"
                onclick={() => ask({ extension: null, adapter: null })}>without</button
              >{/if}
          </h2>
          <PieceList
            offered={data.extensions}
            chosen={data.extension?.id ?? null}
            onchoose={(id) => ask({ extension: id, adapter: null })}
            label="Extensions"
          />
        </section>
      {/if}
      {#each [['nut', 'Nut, when not the holder’s own', data.nuts, data.nut], ['second', 'Second tool in the double holder', data.seconds, data.second]] as const as [role, words, offered, chosen] (role)}
        {#if offered.length > 0}
          <section>
            <h2 class="heading">
              {words}
              {#if chosen}<button type="button" class="btn btn-sm" onclick={() => ask({ [role]: null })}
                  >without</button
                >{/if}
            </h2>
            <PieceList
              offered={offered.map((component) => ({ component, refusal: null }))}
              chosen={chosen?.id ?? null}
              onchoose={(id) => ask({ [role]: id })}
              label={words}
            />
          </section>
        {/if}
      {/each}
      {#if data.inserts.length > 0}
        <section>
          <h2 class="heading">Inserts, {data.cutter.dimensions.ZEFP} seats</h2>
          <PieceList
            offered={data.inserts.map((component) => ({ component, refusal: null }))}
            chosen={data.insert?.id ?? null}
            onchoose={(id) => ask({ insert: id })}
            label="Inserts"
          />
        </section>
      {/if}
      {#if data.knobs.length > 0}
        <section>
          <h2 class="heading">
            Retention knob{data.machine?.knob
              ? `: ${data.machine.name} needs ${data.machine.knob}${data.machine.throughCoolant ? ', drilled' : ', solid'}`
              : ''}
          </h2>
          <PieceList
            offered={data.knobs.map((component) => ({ component, refusal: null }))}
            chosen={data.knob?.id ?? null}
            onchoose={(id) => ask({ knob: id })}
            label="Knobs"
          />
        </section>
      {/if}
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
                ><input class="input" name="number" required autocomplete="off" maxlength="20" /></Field
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
