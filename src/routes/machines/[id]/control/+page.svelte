<script lang="ts">
  import BringTable from '$lib/control/BringTable.svelte';
  import Differences from '$lib/control/Differences.svelte';
  import PocketsSeen from '$lib/control/PocketsSeen.svelte';
  import TakenFor from '$lib/control/TakenFor.svelte';
  import ThenAtControl from '$lib/control/ThenAtControl.svelte';
  import Lines from '$lib/program/Lines.svelte';
  import PaperSigns from '$lib/PaperSigns.svelte';
  import { dayAndClock } from '$lib/time';
  import Printer from '@lucide/svelte/icons/printer';

  let { data } = $props();
  const zone = $derived(data.cell!.timeZone);
</script>

<svelte:head><title>Control · {data.machine.name} · Tin Almanac</title></svelte:head>

<div class="mt-4 grid gap-8 lg:grid-cols-[1.6fr_1fr] print:block">
  <div class="grid min-w-0 content-start gap-5">
    {#if !data.look}
      <p class="text-xl" role="status">
        Nobody has read the table of {data.machine.name} off its control yet.
      </p>
    {:else}
      <div class="flex items-start gap-4">
        <p class="flex-1 text-lg" role="status">
          <b>{data.agree}</b>
          {data.agree === 1 ? 'register agrees' : 'registers agree'}{data.differences.length === 0
            ? ', and nothing differs'
            : ''}.
          <span class="small-words"
            >Read by {data.look.person}, {dayAndClock(data.look.at, zone)}, {data.look.fileName}.</span
          >
        </p>
        <button
          type="button"
          class="no-print btn btn-square"
          onclick={() => window.print()}
          aria-label="Print what differs"><Printer size={18} /></button
        >
      </div>
      {#if data.whole}<p class="caution text-lg font-semibold" role="alert">
          {data.whole.words}{#if data.whole.lost}&nbsp;<a
              class="underline"
              href="/machines/{data.machine.id}/control/put-back">Put a kept table back</a
            >{/if}
        </p>{/if}
      {#if data.moved.length > 0}<p class="small-words">
          Recorded since then, so this look says nothing of it any more: {data.moved.join(', ')}.
        </p>{/if}
      {#each data.elsewhere as { look, at, differing } (look)}<p class="caution">
          This look did not read {differing === 1 ? 'one register' : `${differing} registers`} that differed on
          {dayAndClock(at, zone)}:
          <a class="underline" href="?look={look}">answer {differing === 1 ? 'it' : 'them'} there</a>.
        </p>{/each}
      {#if data.differences.length > 0}
        {#key data.look.id}<Differences
            look={data.look.id}
            unit={data.machine.unit}
            differences={data.differences}
            mayAnswer={data.mayAnswer}
            stranger={data.whole?.stranger ?? false}
            {zone}
          />{/key}
      {/if}
      {#if data.apart.length > 0}
        <section aria-labelledby="apart">
          <h2 id="apart" class="heading">Record and control agree, and a program needs something else</h2>
          <ul class="ruled-list mt-1">
            {#each data.apart as each (each.id)}
              <li class="py-2">
                <div class="flex flex-wrap gap-x-4">
                  <b>{each.words}</b><span class="ml-auto">both <b>{each.record}</b></span>
                </div>
                <TakenFor programs={each.programs} />
              </li>
            {/each}
          </ul>
        </section>
      {/if}
      {#if data.keyText}
        <div>
          <Lines
            title="To be keyed: the record is right"
            lines={data.keyText}
            words="Look at each row before it is keyed, and bring the table in again when it is."
          />
          <p class="caution mt-2">
            A text that sets registers is run with no tool in cut and somebody who has read it. The machine’s
            manual and the site’s rules come first.
          </p>
        </div>
      {/if}
    {/if}
    {#if data.then}<ThenAtControl then={data.then} />{/if}
    {#if data.between}
      <section aria-labelledby="between">
        <h2 id="between" class="heading">
          What the control holds otherwise than on {dayAndClock(data.between.at, zone)}
        </h2>
        <ul class="ruled-list mt-1">
          {#each data.between.changes as change (change.id)}
            <li class="flex flex-wrap gap-x-4 py-2">
              {change.words}<span class="ml-auto">{change.from} → <b>{change.to}</b></span>
            </li>
          {:else}<li class="py-2">Nothing.</li>{/each}
        </ul>
      </section>
    {/if}
    {#if data.pockets}<PocketsSeen pockets={data.pockets} machineId={data.machine.id} {zone} />{/if}
    <PaperSigns who={['Looked at the control', 'Answered']} />
  </div>
  <div class="no-print grid content-start gap-6">
    {#if data.mayBring}<BringTable
        machine={data.machine.name}
        machineId={data.machine.id}
        kinds={data.kinds}
        mappings={data.mappings}
        agent={data.agent}
        mayTell={data.mayAnswer}
      />{/if}
    <section aria-labelledby="keep">
      <h2 id="keep" class="heading">Keep it</h2>
      <p class="mt-2">
        <a class="btn" href="/machines/{data.machine.id}/control/table" download>The record as a text</a>
        {#if data.mayAnswer}<a class="btn" href="/machines/{data.machine.id}/control/put-back">Put one back</a
          >{/if}
      </p>
      <p class="small-words mt-1">
        Whole, absolute, in this machine’s words, with whose it is, when, and a hash of its lines. Back up a
        control’s table before it is changed.
      </p>
    </section>
    {#if data.looks.length > 0}
      <section aria-labelledby="looks">
        <h2 id="looks" class="heading">Looks</h2>
        <ul class="ruled-list mt-1">
          {#each data.looks as look (look.id)}
            <li class="flex flex-wrap items-center gap-x-4">
              <a
                class="flex min-h-11 flex-1 flex-wrap items-center gap-x-3 underline"
                aria-current={look.id === data.look?.id ? 'true' : undefined}
                href="?look={look.id}">{dayAndClock(look.at, zone)}, {look.person}</a
              >
              {#if data.look && look.id < data.look.id}<a
                  class="btn"
                  href="?look={data.look.id}&since={look.id}">What changed since</a
                >{/if}
            </li>
          {/each}
        </ul>
      </section>
    {/if}
  </div>
</div>
