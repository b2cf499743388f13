<script lang="ts">
  import { insertsOf } from '$core/assembly/inserts';
  import { nanometres } from '$core/units/length';
  import { formatLength } from '$core/units/format-length';
  import Disc from '$lib/Disc.svelte';
  import Silhouette from '$lib/Silhouette.svelte';
  import { shortTime } from '$lib/time';
  import BuiltFrom from '$lib/tool/BuiltFrom.svelte';
  import FlagForm from '$lib/tool/FlagForm.svelte';
  import LifeLimit from '$lib/tool/LifeLimit.svelte';
  import Renewal from '$lib/tool/Renewal.svelte';
  import ToolFacts from '$lib/tool/ToolFacts.svelte';
  import { lifeWords } from '$lib/words';

  import { SCHOOL_WORDS } from '$core/length/schools';

  let { data } = $props();
  const { assembly } = $derived(data);
  const unit = $derived(data.machine?.unit ?? 'mm');
  const zone = $derived(data.cell!.timeZone);
  const amount = (entry: (typeof data.history)[number]) => {
    if (entry.change === null) return '';
    if (entry.kind === 'life' && entry.basis)
      return `${lifeWords(entry.before!, entry.basis)} → ${lifeWords(entry.after!, entry.basis)}`;
    if (entry.kind === 'register')
      return `${formatLength(nanometres(entry.before!), entry.unit ?? 'mm')} → ${formatLength(nanometres(entry.after!), entry.unit ?? 'mm')}`;
    return '';
  };
</script>

<svelte:head><title>{assembly.number} {assembly.name} · Tin Almanac</title></svelte:head>

<header class="mt-4 flex flex-wrap items-end gap-x-5 border-b-[3px] border-double border-base-content pb-2">
  <h1 class="text-3xl">{assembly.number}</h1>
  <p class="text-xl">{assembly.name}</p>
  <p class="ml-auto">
    {#if data.machine}<a class="underline" href="/machines/{data.machine.id}?tool={assembly.tool}"
        >{data.machine.name} T{assembly.tool}</a
      >{:else}on the rack{/if}
  </p>
</header>

{#if assembly.override}<p class="caution mt-3 font-semibold">
    Built against a rule, on the lead’s authority: {assembly.override}
  </p>{/if}
<div class="mt-4 grid gap-8 lg:grid-cols-[auto_1fr_1.2fr]">
  <Silhouette shape={assembly} {unit} dimensioned height={420} />
  <section class="grid content-start gap-3" aria-label="State">
    <Disc
      remaining={assembly.remaining}
      fullLife={assembly.fullLife}
      basis={assembly.basis}
      flag={assembly.flag}
      size={92}
      number={false}
    />
    {#if assembly.basis}<p class="font-display text-2xl font-bold">
        {lifeWords(assembly.remaining!, assembly.basis)}
        <span class="text-base font-normal">of {lifeWords(assembly.fullLife!, assembly.basis)}</span>
      </p>{:else}<p>Its life is not counted.</p>{/if}
    {#if data.mayLife}<LifeLimit {assembly} watchable={data.watchable} watched={data.watched} />{/if}
    {#if assembly.basis}<p>
        <a class="inline-flex min-h-11 items-center underline" href="/tools/{assembly.id}/life"
          >What its edges say of that limit</a
        >
      </p>{/if}
    {#if data.group !== null && data.machine}<p>
        <a class="inline-flex min-h-11 items-center underline" href="/machines/{data.machine.id}/groups"
          >Group {data.group} of {data.machine.name}</a
        >
      </p>{/if}
    {#if data.keyed !== null && data.machine}<p class="small-words">
        For its full life key <b>{data.keyed}</b> on {data.machine.name}, which expires {data.machine
          .expiry === 'atZero'
          ? 'at zero'
          : 'below zero'}.
      </p>{/if}
    {#if assembly.flag}<p class="caution text-lg font-semibold">
        {assembly.flag === 'broken'
          ? 'Broken. The part it was in is suspect: inspect it, and all since the last good check.'
          : assembly.flag === 'expired'
            ? 'Expired.'
            : 'Locked.'}
      </p>{/if}
    <ToolFacts {assembly} {unit} />
    {#if data.mayWrite}<p class="flex flex-wrap gap-x-4">
        <a
          class="inline-flex min-h-11 items-center underline"
          href="/tools/write?number={encodeURIComponent(assembly.number)}">Change its description</a
        >
        <a
          class="inline-flex min-h-11 items-center underline"
          href="/tools/write?like={encodeURIComponent(assembly.number)}">Another like it</a
        >
      </p>{/if}
    {#if data.keyedAs.length > 0}
      <div>
        <h2 class="heading">Its length is keyed as</h2>
        <ul class="font-narrow">
          {#each data.keyedAs as each (each.id)}<li class="grid grid-cols-[5.5rem_1fr] gap-x-3">
              <span>{each.name}</span><span
                ><b>{formatLength(each.register, each.unit, { sign: 'always' })} {each.unit}</b>
                <span class="small-words">{SCHOOL_WORDS[each.school]}</span></span
              >
            </li>{/each}
        </ul>
      </div>
    {/if}
    {#if data.mayFlag && assembly.flag !== 'expired'}<FlagForm
        flag={assembly.flag}
        assemblyId={assembly.id}
      />{/if}
  </section>
  <div class="grid content-start gap-6">
    {#if data.mayRenew || data.renewal}<Renewal
        {assembly}
        machine={data.machine}
        renewal={data.renewal}
        registers={data.registers}
        wear={data.wear}
        others={data.others}
        keyed={data.keyed}
        making={data.making}
        inserts={insertsOf(data.parts)}
        mayRenew={data.mayRenew}
        {zone}
        now={data.now}
      />{/if}
    <section aria-labelledby="history">
      <h2 id="history" class="heading">What happened to it</h2>
      <ol class="ruled-list mt-1 font-narrow">
        {#each data.history as entry (entry.id)}
          <li class="py-1">
            {entry.said}
            {#if amount(entry)}<b>{amount(entry)}</b>{/if}
            <span class="small-words"
              >{entry.person}, {shortTime(entry.at, data.now, zone)}{entry.why ? `. ${entry.why}` : ''}</span
            >
          </li>
        {/each}
      </ol>
      {#if data.mayLookLedger}<p class="small-words mt-1">
          <a class="underline" href="/ledger?assembly={assembly.id}"
            >{data.older ? 'Older ones, and what' : 'What'} each count used up of it: the ledger</a
          >
        </p>{:else if data.older}<p class="small-words mt-1">Older ones stand in the ledger.</p>{/if}
    </section>
  </div>
</div>
{#if data.stack && data.facts}<BuiltFrom
    {assembly}
    parts={data.parts}
    stack={data.stack}
    facts={data.facts}
    machines={data.machines}
    edgeCost={data.edgeCost}
    mayBuild={data.mayBuild}
  />{/if}
