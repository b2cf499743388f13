<script lang="ts">
  import { HARMLESS } from '$core/correction/took';
  import { tookInShort } from '$core/correction/took-words';
  import { registerShow } from '$lib/register';
  import Ladder from '$lib/Ladder.svelte';
  import SetUpOff from '$lib/now/SetUpOff.svelte';
  import { shortTime } from '$lib/time';
  import { REGISTER_WORDS } from '$core/inspection/register-words';

  let { data } = $props();
  const zone = $derived(data.cell!.timeZone);
  const STATES = {
    proposed: 'Waits for approval',
    approved: 'Approved: to be keyed',
    applied: 'made',
    refused: 'not made',
    superseded: 'overtaken',
  };
</script>

<svelte:head><title>Corrections · Tin Almanac</title></svelte:head>

<h1 class="mt-5 text-3xl">Corrections</h1>
{#if data.open.length === 0}<p class="mt-3 text-lg">No correction waits.</p>{/if}
{#each data.off as off (off.machineId)}<SetUpOff
    machine={off.machine}
    found={off.found}
    look={off.look}
  />{/each}
<ul class="mt-4 grid gap-4 md:grid-cols-2 xl:grid-cols-3">
  {#each data.open as correction (correction.id)}
    <li class="plate grid gap-2">
      <p class={['font-semibold', correction.state === 'approved' && 'text-accent']}>
        {correction.held === null ? STATES[correction.state] : 'Held back: the row is to be read first'}
      </p>
      <h2 class="text-xl">
        <a class="hover:underline" href="/corrections/{correction.id}"
          >{correction.machine} T{correction.tool}, {correction.feature}</a
        >
      </h2>
      <div class="flex items-center gap-3">
        <div class="w-44 shrink-0">
          <Ladder
            {...correction}
            reading={correction.measured}
            expected={correction.expectedSize}
            unit={correction.unit}
            height={170}
          />
        </div>
        <div>
          <p class="small-words">{REGISTER_WORDS[correction.registerKind]}, row {correction.row}</p>
          <p class="font-display text-2xl font-bold whitespace-nowrap">
            {registerShow(correction)(correction.change)}
          </p>
          <p class="font-narrow whitespace-nowrap">
            to {registerShow(correction)(correction.to)}
            {correction.unit}
          </p>
        </div>
      </div>
      {#if correction.held}<p class="caution text-sm">{correction.held}</p>{/if}
      {#if correction.lastStop}<p class="caution text-sm">{correction.lastStop}</p>{/if}
      <a class="btn btn-primary" href="/corrections/{correction.id}"
        >{correction.held !== null
          ? 'Read the row'
          : correction.state === 'approved'
            ? 'Key it'
            : 'Look at it'}</a
      >
    </li>
  {/each}
</ul>

<h2 class="heading mt-8">Closed lately</h2>
<div class="mt-1 overflow-x-auto">
  <table class="ruled">
    <thead
      ><tr
        ><th scope="col">When</th><th scope="col">Machine</th><th scope="col">Feature</th><th scope="col"
          >Register</th
        ><th scope="col" class="number">Change</th><th scope="col">What came of it</th><th scope="col"
          >Did it take</th
        ></tr
      ></thead
    >
    <tbody>
      {#each data.closed as correction (correction.id)}
        <tr>
          <td class="whitespace-nowrap">{shortTime(correction.appliedAt ?? correction.at, data.now, zone)}</td
          ><td>{correction.machine} T{correction.tool}</td>
          <th scope="row"
            ><a class="underline" href="/corrections/{correction.id}">{correction.feature}</a></th
          ><td>{REGISTER_WORDS[correction.registerKind]}, row {correction.row}</td>
          <td class="number">{registerShow(correction)(correction.change)}</td><td
            >{STATES[correction.state]}{correction.appliedBy ? ` by ${correction.appliedBy}` : ''}</td
          >
          <td
            class={correction.took && !HARMLESS.includes(correction.took) ? 'font-semibold text-accent' : ''}
            >{correction.state === 'applied'
              ? tookInShort(correction.took, correction.movedOn !== null)
              : ''}</td
          >
        </tr>
      {/each}
    </tbody>
  </table>
</div>
