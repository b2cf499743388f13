<script lang="ts">
  import ActionForm from '$lib/ActionForm.svelte';
  import { countsWhole, PER_SHOWN } from '$core/life/count';
  import { inUnit } from '$core/units/length';
  import { lifeWords } from '$lib/words';
  import EdgesTable from './EdgesTable.svelte';
  import EdgeStrokes from './EdgeStrokes.svelte';
  import LifeCosts from './LifeCosts.svelte';
  import SizeWitnesses from './SizeWitnesses.svelte';
  import SpeedAndLife from './SpeedAndLife.svelte';
  import Trial from './Trial.svelte';
  import WhichEdges from './WhichEdges.svelte';

  let { data } = $props();
  const { assembly } = $derived(data);
  const basis = $derived(assembly.basis ?? 'pieces');
  const limit = $derived(assembly.fullLife ?? 0);
  const show = (value: number) => lifeWords(countsWhole(basis) ? Math.round(value) : value, basis);
  const unit = $derived({ pieces: 'piece', holes: 'hole', minutes: 'minute', wear: 'mm' }[basis]);
  const per = $derived(PER_SHOWN[basis]);
  const cents = (value: number) => `${(value * per).toFixed(2)} ct`;
  const money = (value: number) => (value / 100).toFixed(0);
  const revolutions = (speed: number) => speed / ((Math.PI * inUnit(assembly.diameter, 'mm')) / 1000);
  const known = $derived(data.mixed ? null : (data.learnt?.learnt ?? null));
  /** What a control takes: whole uses, whole minutes, thousandths of wear. */
  const step = $derived(basis === 'wear' ? per / 1000 : per);
  const whole = (value: number) => Math.max(step, Math.round(value / step) * step);
  const proposed = $derived(known?.best.limit ? whole(known.best.limit) : null);
  const counts = $derived(
    !data.learnt
      ? ''
      : data.learnt.before === 0
        ? `Of ${data.learnt.edges} ${data.learnt.edges === 1 ? 'edge' : 'edges'} none failed before ${show(limit)}`
        : `Of ${data.learnt.edges} edges ${data.learnt.before} failed before ${show(limit)}: ${data.learnt.suddenBefore} chipped or broke, ${data.learnt.before - data.learnt.suddenBefore} wore out`,
  );
</script>

<svelte:head><title>Life of {assembly.number} · Tin Almanac</title></svelte:head>

<header class="mt-4 flex flex-wrap items-end gap-x-5 border-b-[3px] border-double border-base-content pb-2">
  <h1 class="text-3xl">How long its edges last</h1>
  <p class="text-xl">
    <a class="underline" href="/tools/{assembly.id}">{assembly.number}</a>
    {assembly.name}
  </p>
</header>

{#if data.witnesses}<SizeWitnesses witnesses={data.witnesses} {limit} {show} />{/if}
{#if !data.learnt}
  <p class="mt-4">Its life is not counted, so nothing can be learnt of it. Set a limit first.</p>
{:else if data.learnt.edgesKnown.length === 0}
  <p class="mt-4">
    No edge of this kind and size was renewed yet. At each renewal it is asked with one tap how the edge
    ended: the limit is learnt from that.
  </p>
{:else}
  <p class="mt-3 text-lg font-semibold" role="status">
    {data.learnt.edges === 0 ? 'No edge speaks for what it cuts next' : counts}.
    {#if data.mixed}
      How long they last depends on what they cut: no limit is told for all of them.
    {:else if !known}
      Too few to tell a limit: three that wore, chipped or broke are the least.
    {:else if known.worth && proposed !== null}
      At {show(proposed)} it would cost {cents(known.best.cost)} a {unit} instead of {cents(known.present)}:
      about
      {money(known.gain * data.learnt.perMonth)} a month saved ({money(
        known.gainBetween.low * data.learnt.perMonth,
      )} to
      {money(known.gainBetween.high * data.learnt.perMonth)}).
    {:else if known.worth}
      They do not wear out before they fail: changing them by a limit costs more than it saves.
    {:else}
      Keep {show(limit)}: nothing else is cheaper by more than chance or a hair.
    {/if}
  </p>
  <WhichEdges {data} />
  {#if data.learnt.unknown > 0 && known}<p class="small-words mt-1">
      How {data.learnt.unknown === 1 ? 'one' : data.learnt.unknown} of them ended was not said: the figures here
      hold whether they were good or worn. If you know, say it at the edges below.
    </p>{/if}
  <div class="mt-3 grid gap-6 lg:grid-cols-[1fr_19rem]">
    <EdgeStrokes
      edges={data.learnt.edgesSeen}
      survival={data.learnt.survival}
      curve={data.mixed ? [] : data.learnt.curve}
      longest={data.learnt.longest}
      {limit}
      proposed={known?.worth ? proposed : null}
      flat={known && known.best.limit !== null ? known.best.flat : null}
      {show}
      words="{data.learnt.edges} edges along their lives"
    />
    <div class="grid content-start gap-4">
      {#if known}
        <dl class="grid gap-x-4 gap-y-1">
          <dt class="small-words">Last to {show(limit)}</dt>
          <dd class="font-display text-2xl">
            {(100 * known.lasts).toFixed(0)} %
            <span class="text-base"
              >{(100 * known.lastsBetween.low).toFixed(0)} to {(100 * known.lastsBetween.high).toFixed(0)} %</span
            >
          </dd>
          <dt class="small-words">Cheapest limit</dt>
          <dd class="font-display text-2xl">
            {known.best.limit === null ? 'none' : show(known.best.limit)}
            {#if known.best.limit !== null}<span class="text-base"
                >as good: {show(known.best.flat.from)} to {show(known.best.flat.to)}</span
              >{/if}
          </dd>
          <dt class="small-words">Shape</dt>
          <dd class="text-lg">
            {known.life.shape.toFixed(1)}
            <span class="small-words"
              >{known.shape.low.toFixed(1)} to {known.shape.high.toFixed(1)}; {known.life.shape > 1.3
                ? 'it wears'
                : 'as likely early as late'}{known.borrowed ? ', mostly by similar tools' : ''}</span
            >
          </dd>
        </dl>
        {#if known.worth && proposed !== null && data.mayAdopt}
          <ActionForm action="?/adopt" label="Take {show(proposed)} as its limit">
            {#snippet children({ busy })}
              <input type="hidden" name="limit" value={proposed / per} />
              <input type="hidden" name="was" value={limit} />
              <input type="hidden" name="why" value="Learnt: {counts}." />
              <button class="btn btn-primary" disabled={busy}>Take {show(proposed)} as its limit</button>
              <p class="small-words mt-1">
                For {assembly.number}. Key it on the control at the next renewal, or at once if it should
                count now.
              </p>
            {/snippet}
          </ActionForm>
        {/if}
      {/if}
      {#if data.learnt.trial}<Trial
          trial={data.learnt.trial}
          longer={whole(data.learnt.trial.limit)}
          {limit}
          {per}
          {show}
          number={assembly.number}
          may={data.mayAdopt}
        />{/if}
      <LifeCosts {data} />
    </div>
  </div>
  {#if data.learnt.otherSpeed}<p class="small-words mt-2">
      {data.learnt.otherSpeed} edges that ran at another cutting speed are left out of this; they stand below.
    </p>{/if}
  {#if data.learnt.edges >= data.learnt.most}<p class="small-words mt-2">
      The newest {data.learnt.most} edges are looked at; older ones are left out.
    </p>{/if}
  {#if data.speeds}<SpeedAndLife run={data.speeds} revolutions={data.turns ? revolutions : null} />{/if}
  <EdgesTable
    edges={data.learnt.edgesKnown}
    speaking={data.learnt.edgesSeen.map(({ id }) => id)}
    mayTell={data.mayTell}
    {show}
    timeZone={data.cell!.timeZone}
  />
{/if}
