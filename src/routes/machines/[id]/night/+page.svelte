<script lang="ts">
  import ActionForm from '$lib/ActionForm.svelte';
  import Disc from '$lib/Disc.svelte';
  import { clock, dayAndClock } from '$lib/time';
  import { lifeWords } from '$lib/words';
  import { countsWhole } from '$core/life/count';
  import type { NightWhy } from '$core/life/night';
  import { toldWords } from '$core/shift/likely-made';
  import { capital } from '$core/words/capital';
  import Alone from './Alone.svelte';
  import NightClock from './NightClock.svelte';
  import NightRules from './NightRules.svelte';
  import NotReady from './NotReady.svelte';
  import PutPallet from './PutPallet.svelte';
  import Queue from './Queue.svelte';
  import Unseen from './Unseen.svelte';

  let { data } = $props();
  const zone = $derived(data.cell!.timeZone);
  const unseen = $derived(
    data.unseen &&
      (data.unseen.sizes.length > 0 || data.unseen.begun.length > 0 || data.unseen.doubted.length > 0)
      ? data.unseen
      : null,
  );
  const { machine, play, best } = $derived(data);
  const at = (ms: number) => new Date(data.begins.getTime() + ms);
  const numberOf = (id: number) => data.pallets.find((pallet) => pallet.id === id)!.number;
  const cut = $derived(data.pallets.filter(({ isolated }) => !isolated));
  const whole = $derived(cut.reduce((sum, { parts }) => sum + parts, 0));
  /** Parts that are made already: those on record of a job, and those of the pallets that were cut since. */
  const before = $derived(data.job ? (data.made?.parts ?? 0) : 0);
  const done = $derived(data.pallets.reduce((sum, pallet) => sum + pallet.cut, 0));
  const WHY: Record<NightWhy, string> = {
    expired: 'has expired',
    out: 'has no sister left',
    broken: 'is broken',
    locked: 'is locked',
    missing: 'is not in the machine',
  };
  /** Stopped before the people are back is what the night is about. */
  const inTime = $derived(play.stop !== null && (data.away === null || at(play.stop.at) < data.away.to));
  const better = $derived(best.play.parts > play.parts);
  const basisOf = $derived(new Map(play.left.map(({ tool, basis }) => [tool, basis])));
  const uses = (tool: number, value: number) => {
    const basis = basisOf.get(tool);
    return basis
      ? lifeWords(countsWhole(basis) ? Math.ceil(value) : value, basis)
      : `${Math.ceil(value)} uses`;
  };
  const waning = $derived([...play.left].sort((a, b) => a.after / a.limit - b.after / b.limit));
</script>

<svelte:head><title>Night, {machine.name} · Tin Almanac</title></svelte:head>

<h2 class="mt-4 text-2xl">Will the night last?</h2>
{#if data.pallets.length === 0}
  <p class="mt-1">
    Nothing runs on {machine.name} and no pallet stands in its queue. Put them in as they are loaded.
  </p>
{:else}
  <p class={['mt-1 text-xl font-semibold', inTime && 'text-accent']} role="status">
    {#if play.stop}
      {at(play.stop.at) < data.now ? 'If it ran on, it stopped' : 'It stops'} at {clock(
        at(play.stop.at),
        zone,
      )}
      {data.job
        ? `in part ${before + done + play.parts + 1} of ${data.job}`
        : `on pallet ${numberOf(play.stop.pallet)}`}: {machine.kind === 'mill' ? 'T' : 'station '}{play.stop
        .tool}
      {WHY[play.stop.why]}. {before + done + play.parts} of {before + whole} parts are made by then.
    {:else if done + play.parts < whole}
      It runs on to {dayAndClock(at(play.to), zone)}, with {whole - done - play.parts} of {whole} parts left uncut.
    {:else if at(play.to) < data.now}
      If it ran on, all {whole} parts were made by {dayAndClock(at(play.to), zone)}.
    {:else}
      {data.notReady.length > 0 ? 'Its tools would last' : 'It runs through'}: {whole}
      {whole === 1 ? 'part' : 'parts'}, the last at {dayAndClock(at(play.to), zone)}.
    {/if}
  </p>
  {#if data.away}<p class="small-words">
      {data.likely
        ? `${capital(toldWords(data.likely.from, data.now, zone))}; played on from there.`
        : 'Begun now.'}
      Nobody is here from {dayAndClock(data.away.from, zone)} to {dayAndClock(data.away.to, zone)}{data.stands
        ? `, and by its hours ${machine.name} stands from ${clock(data.stands, zone)} on: what is told after that is as if it were left to run`
        : ''}.
    </p>{:else}<p class="small-words">
      By its shifts somebody is always here; <a class="underline" href="#alone"
        >ask for hours with nobody at it</a
      >.
    </p>{/if}
  {#if data.chance.known.length > 0}
    <p class="mt-1">
      By how earlier edges ended, {(100 * data.chance.chance).toFixed(data.chance.chance > 0.99 ? 1 : 0)} nights
      in 100 like this one pass without a chipped or broken {data.chance.known
        .map((tool) => `T${tool}`)
        .join(', ')}{data.chance.weakest && data.chance.known.length > 1
        ? `; it hangs on T${data.chance.weakest.tool}`
        : ''}.
      {#if data.chance.unknown.length > 0}<span class="small-words"
          >Of {data.chance.unknown.map((tool) => `T${tool}`).join(', ')} too few edges have ended to say.</span
        >{/if}
    </p>
  {/if}
  {#if data.guessed.length > 0}<p class="caution mt-1">
      No job says how long a part of {data.guessed.join(', ')} takes: its times are reckoned from its time in cut
      and may be far off.
    </p>{/if}
  <NightClock
    begins={data.begins}
    steps={play.steps}
    pallets={data.pallets}
    away={data.away}
    stop={play.stop}
    {zone}
    words="The pallets along the clock"
  />
  {#if data.notReady.length > 0 || data.shortages.length > 0 || better || data.waiting > 0 || unseen}
    <section aria-labelledby="before">
      <h3 id="before" class="mt-3 text-xl">Before you leave</h3>
      <ul class="ruled-list mt-1">
        {#each data.notReady as each (each.programId)}<NotReady {each} />{/each}
        {#each data.shortages as short (short.tool)}
          <li class="py-1.5">
            <b>{machine.kind === 'mill' ? 'T' : 'Station '}{short.tool}</b>
            {short.why === 'expired' || short.why === 'out'
              ? 'does not last'
              : WHY[short.why]}{#if short.lacking > 0}: {uses(short.tool, short.lacking)} are lacking for the whole
              queue{/if}.
            {#if short.sisters !== null}Load {short.sisters === 1
                ? 'one full sister'
                : `${short.sisters} full sisters`}{#if short.wasted !== null}, or change it now and throw {uses(
                  short.tool,
                  short.wasted,
                )} away{/if}.{:else if short.why === 'broken'}Inspect the part it was in and all since the
              last good check, replace it, then clear its flag. No sister takes over.{:else if short.why === 'missing'}Load
              it and measure it.{/if}
            <a class="underline" href="/machines/{machine.id}/groups">Groups</a>
          </li>
        {/each}
        {#if better}
          <li class="py-1.5">
            In the order {best.order.map(numberOf).join(', ')} it makes {done + best.play.parts} of {whole} parts
            instead of {play.parts}{best.proven
              ? ': no order makes more'
              : `: the best found; no order makes more than ${done + best.most}`}.
            {#if data.mayRun}
              <ActionForm action="?/order" class="inline-block" label="Take that order">
                {#snippet children({ busy })}
                  <input type="hidden" name="ids" value={best.order.join(' ')} />
                  <input type="hidden" name="seen" value={data.pallets.map(({ id }) => id).join(' ')} />
                  <button class="btn ml-2" disabled={busy}>Take that order</button>
                {/snippet}
              </ActionForm>
            {/if}
          </li>
        {/if}
        {#if data.waiting > 0}<li class="py-1.5">
            {data.waiting === 1 ? 'One correction waits' : `${data.waiting} corrections wait`} on {machine.name}:
            until it is keyed, all is cut with the old offset.
            <a class="underline" href="/machines/{machine.id}/key">Key</a>
          </li>{/if}
        {#if unseen}<Unseen {unseen} {machine} programId={data.made?.programId ?? null} {zone} />{/if}
      </ul>
    </section>
  {/if}
  {#if data.job}<p class="mt-2">
      No pallet stands in the queue: what is left of {data.job} is played to its end.
    </p>{:else}
    <Queue
      pallets={data.pallets}
      steps={play.steps}
      begins={data.begins}
      made={data.made}
      counting={data.likely?.counting ?? false}
      mayRun={data.mayRun}
      {zone}
    />
  {/if}
  {#if waning.length > 0}
    <section class="mt-4" aria-labelledby="waning">
      <h3 id="waning" class="text-xl">What its tools have left, now and then</h3>
      <ul class="mt-2 flex flex-wrap gap-x-6 gap-y-3">
        {#each waning as tool (tool.tool)}
          <li class="flex items-center gap-2">
            <b class="font-display text-lg">T{tool.tool}</b>
            <Disc remaining={tool.before} fullLife={tool.limit} basis={tool.basis} number={false} size={30} />
            <span aria-hidden="true">→</span>
            <Disc
              remaining={Math.max(0, countsWhole(tool.basis) ? Math.ceil(tool.after) : tool.after)}
              fullLife={tool.limit}
              basis={tool.basis}
              size={30}
            />
          </li>
        {/each}
      </ul>
    </section>
  {/if}
{/if}

{#if data.mayRun}
  <PutPallet programs={data.programs} last={data.pallets.at(-1)?.programId ?? null} />
{/if}
<Alone alone={data.alone} always={data.away === null} machine={machine.name} />
<NightRules {machine} school={data.school} runsOn={data.runsOn} mayChange={data.maySchool} />
