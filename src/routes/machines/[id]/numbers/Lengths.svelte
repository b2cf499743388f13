<script lang="ts">
  import Scroll from '$lib/Scroll.svelte';
  import { goto } from '$app/navigation';
  import { METHOD_WORDS } from '$core/length/transfer';
  import { formatLength } from '$core/units/format-length';
  import LengthSchool from '$lib/machine/LengthSchool.svelte';
  import Size from '$lib/Size.svelte';
  import TouchOff from '$lib/machine/TouchOff.svelte';
  import TransferCard from '$lib/machine/TransferCard.svelte';
  import { shortTime } from '$lib/time';

  import type { PageData } from './$types';
  import Rebase from './Rebase.svelte';

  let { data }: { data: PageData } = $props();
  const { machine } = $derived(data);
  const unit = $derived(machine.unit);
  const zone = $derived(data.cell!.timeZone);
</script>

{#if machine.kind === 'lathe'}
  <TouchOff tools={data.turned} {unit} />
{:else}
  {#if data.mixed}<p class="caution mt-4 text-lg">{data.mixed}</p>{/if}
  <div class="mt-4 grid gap-8 lg:grid-cols-[1.35fr_1fr]">
    <section aria-labelledby="lengths">
      <h2 id="lengths" class="heading">What the control holds, and what it means</h2>
      <Scroll label="Lengths">
        <table class="ruled mt-1">
          <thead
            ><tr
              ><th scope="col">T</th><th scope="col">Tool</th><th scope="col" class="number"
                >Register {unit}</th
              ><th scope="col" class="number">Gauge length {unit}</th><th scope="col">How, when</th></tr
            ></thead
          >
          <tbody>
            {#each data.lengths as each (each.tool)}
              <tr
                ><th scope="row">{each.tool}</th><td
                  ><a class="underline" href="/tools/{each.assemblyId}">{each.number}</a> {each.name}</td
                ><td class={['number font-semibold', each.gaugeLength === null && 'text-accent']}
                  >{each.gaugeLength === null ? 'empty' : formatLength(each.register, unit)}</td
                ><td class="number"
                  >{#if each.own && each.gaugeLength !== null}<Size
                      value={each.gaugeLength}
                      {unit}
                      bare
                    />{/if}</td
                ><td
                  class={['text-sm', !each.own && each.gaugeLength !== null && 'font-semibold text-accent']}
                  >{!each.own && each.gaugeLength !== null
                    ? 'not known to be its own: measure it'
                    : each.method
                      ? METHOD_WORDS[each.method]
                      : each.gaugeLength === null
                        ? 'not measured'
                        : 'not said'}{each.at && (each.own || each.gaugeLength === null)
                    ? `, ${shortTime(each.at, data.now, zone)}`
                    : ''}</td
                ></tr
              >
            {/each}
          </tbody>
        </table>
      </Scroll>
      {#if data.lengths.length === 0}<p class="py-3">There is no tool in this machine.</p>{/if}
    </section>
    <LengthSchool {machine} />
  </div>

  <section class="mt-8" aria-labelledby="transfer">
    <div class="flex flex-wrap items-end gap-3">
      <h2 id="transfer" class="text-2xl">Carry these lengths to</h2>
      <select
        class="select max-w-xs"
        aria-label="To which machine"
        value={String(data.to?.id ?? '')}
        onchange={(event) =>
          void goto(event.currentTarget.value ? `?to=${event.currentTarget.value}` : '?', { noScroll: true })}
        ><option value="">another machine</option>{#each data.others as other (other.id)}<option
            value={String(other.id)}>{other.name}</option
          >{/each}</select
      >
    </div>
    {#if data.to}{#key data.to.id}<TransferCard
          from={machine}
          to={data.to}
          card={data.card}
          mayTransfer={data.mayTransfer}
        />{/key}{/if}
  </section>

  {#if machine.lengthSchool !== 'gaugeLength'}
    <Rebase {data} />
  {/if}
{/if}
