<script lang="ts">
  import Field from '$lib/Field.svelte';
  import { MILLISECONDS_PER_MINUTE } from '$core/life/count';
  import { nanometres } from '$core/units/length';
  import { ASSEMBLY_WORDS, INTERFACES } from '$core/assembly/silhouette';
  import { formatLength } from '$core/units/format-length';
  import ActionForm from '$lib/ActionForm.svelte';
  import Disc from '$lib/Disc.svelte';
  import Silhouette from '$lib/Silhouette.svelte';
  import Size from '$lib/Size.svelte';
  import { shortTime } from '$lib/time';
  import StackSheet from '$lib/tool/StackSheet.svelte';
  import Renewal from '$lib/tool/Renewal.svelte';
  import { lifeWords } from '$lib/words';

  import { SCHOOL_WORDS } from '$core/length/schools';

  let { data } = $props();
  const { assembly } = $derived(data);
  const unit = $derived(data.machine?.unit ?? 'mm');
  const zone = $derived(data.cell!.timeZone);
  const fullLife = $derived(
    assembly.fullLife === null
      ? null
      : assembly.basis === 'minutes'
        ? assembly.fullLife / MILLISECONDS_PER_MINUTE
        : assembly.fullLife,
  );
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
    {#if data.mayLife}
      <details>
        <summary class="inline-flex min-h-11 cursor-pointer items-center underline"
          >{assembly.basis ? 'Change its life limit' : 'Count its life'}</summary
        >
        <ActionForm action="?/life" class="grid gap-2" label="Life limit">
          {#snippet children({ busy })}
            <div class="grid grid-cols-2 gap-2">
              <Field label="Good for"
                ><input
                  class="input"
                  name="limit"
                  inputmode="decimal"
                  value={fullLife ?? ''}
                  required
                /></Field
              >
              <Field label="Counted in"
                ><select class="select" name="basis" value={assembly.basis ?? 'pieces'}
                  ><option value="pieces">pieces</option><option value="holes">holes</option><option
                    value="minutes">minutes in cut</option
                  ></select
                ></Field
              >
            </div>
            <Field label="Left now, if it is counted another way than before"
              ><input class="input" name="left" inputmode="decimal" /></Field
            >
            <input class="input" name="why" maxlength="300" aria-label="Why" placeholder="why" required />
            <button class="btn justify-self-start" disabled={busy}>Set the limit</button>
            <p class="small-words">What it has cut stays cut: the new limit counts from there.</p>
          {/snippet}
        </ActionForm>
      </details>
    {/if}
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
    <dl class="grid grid-cols-[auto_1fr] gap-x-4 gap-y-0.5 font-narrow">
      <dt>Kind</dt>
      <dd class="font-semibold">{ASSEMBLY_WORDS[assembly.kind]}</dd>
      <dt>Diameter</dt>
      <dd class="font-semibold"><Size value={assembly.diameter} {unit} /></dd>
      {#if assembly.cornerRadius > 0}<dt>Corner radius</dt>
        <dd class="font-semibold"><Size value={assembly.cornerRadius} {unit} /></dd>{/if}
      <dt>Gauge length</dt>
      <dd class="font-semibold"><Size value={assembly.gaugeLength} {unit} /></dd>
      <dt>Stick-out</dt>
      <dd class="font-semibold"><Size value={assembly.stickOut} {unit} /></dd>
      <dt>End</dt>
      <dd class="font-semibold">{INTERFACES[assembly.interface].words}</dd>
      {#if assembly.holder}<dt>Holder</dt>
        <dd class="font-semibold">{assembly.holder}</dd>{/if}
      {#if assembly.teeth > 0}<dt>Teeth</dt>
        <dd class="font-semibold">{assembly.teeth}</dd>{/if}
    </dl>
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
    {#if data.mayFlag && assembly.flag !== 'expired'}
      <ActionForm action="?/flag" class="mt-2 grid gap-2" label="Flag">
        {#snippet children({ busy })}
          <input class="input" name="why" aria-label="Why" placeholder="why" maxlength="300" required />
          <div class="flex flex-wrap gap-2">
            {#if assembly.flag}<button class="btn" name="flag" value="none" disabled={busy}
                >{assembly.flag === 'broken' ? 'Part inspected, tool replaced: clear' : 'Unlock'}</button
              >
            {:else}<button class="btn" name="flag" value="broken" disabled={busy}>It is broken</button><button
                class="btn"
                name="flag"
                value="locked"
                disabled={busy}>Lock it</button
              >{/if}
          </div>
        {/snippet}
      </ActionForm>
    {/if}
  </section>
  <div class="grid content-start gap-6">
    {#if data.mayRenew || data.renewal}<Renewal
        {assembly}
        machine={data.machine}
        renewal={data.renewal}
        registers={data.registers}
        wear={data.wear}
        keyed={data.keyed}
        mayRenew={data.mayRenew}
        {zone}
        now={data.now}
      />{/if}
    <section aria-labelledby="history">
      <h2 id="history" class="heading">What happened to it</h2>
      <ol class="mt-1 border-t-[3px] border-double border-base-content font-narrow">
        {#each data.history as entry (entry.id)}
          <li class="border-b border-base-300 py-1">
            {entry.said}
            {#if amount(entry)}<b>{amount(entry)}</b>{/if}
            <span class="small-words"
              >{entry.person}, {shortTime(entry.at, data.now, zone)}{entry.why ? `. ${entry.why}` : ''}</span
            >
          </li>
        {/each}
      </ol>
    </section>
  </div>
</div>
{#if data.stack && data.facts}
  <div class="mt-8 grid gap-8 lg:grid-cols-[1fr_1.4fr]">
    <section aria-labelledby="pieces">
      <h2 id="pieces" class="heading">Built from</h2>
      <ul class="mt-1 border-t-[3px] border-double border-base-content font-narrow">
        {#each data.parts as part (part.role)}
          <li class="border-b border-base-300">
            <a class="flex min-h-11 items-center gap-3 hover:bg-base-300" href="/crib?item={part.id}"
              ><b class="w-24">{part.number}</b><span class="flex-1"
                >{part.count > 1
                  ? `${part.count} × `
                  : ''}{part.name}{#if part.role === 'insert' && part.edges}<span class="small-words block"
                    >edge {part.edgesUsed + 1} of {part.edges}</span
                  >{/if}</span
              ><span class="small-words">{part.shelf}</span></a
            >
          </li>
        {/each}
      </ul>
      {#if data.edgeCost !== null}<p class="small-words mt-2">
          An edge of it costs {(data.edgeCost / 100).toFixed(2)}.
        </p>{/if}
      <div class="mt-3 flex flex-wrap gap-2">
        <a class="btn" href="/tools/{assembly.id}/card">Build card and label</a>
        {#if data.mayBuild && data.parts.some((part) => part.role === 'insert')}
          <ActionForm action="?/index" label="Index the inserts">
            {#snippet children({ busy })}<button class="btn" disabled={busy}>Index the inserts</button
              >{/snippet}
          </ActionForm>
        {/if}
      </div>
    </section>
    <div class="grid content-start gap-4">
      <StackSheet
        stack={data.stack}
        facts={data.facts}
        machines={data.machines}
        number={assembly.number}
        measured={assembly.gaugeLength}
      />
    </div>
  </div>
{/if}
