<script lang="ts">
  import { formatWithUnit } from '$core/units/format-length';
  import PaperSigns from '$lib/PaperSigns.svelte';
  import Label from '$lib/label/Label.svelte';
  import Silhouette from '$lib/Silhouette.svelte';
  import Printer from '@lucide/svelte/icons/printer';

  let { data } = $props();
  const { assembly } = $derived(data);
</script>

<svelte:head><title>Build card {assembly.number} · Tin Almanac</title></svelte:head>

<header class="mt-4 flex flex-wrap items-end gap-x-5 border-b-[3px] border-double border-base-content pb-2">
  <h1 class="text-3xl">Build card {assembly.number}</h1>
  <p class="text-xl">{assembly.name}</p>
  <span class="no-print ml-auto flex gap-2">
    <a class="btn" href="/tools/{assembly.id}">The tool</a>
    <button class="btn btn-square" onclick={() => window.print()} aria-label="Print this card"
      ><Printer size={18} /></button
    >
  </span>
</header>
{#if assembly.override}<p class="caution mt-3 font-semibold">
    Built against a rule, on the lead’s authority: {assembly.override}
  </p>{/if}
<div class="mt-4 grid gap-8 lg:grid-cols-[auto_1fr_1.3fr] print:grid-cols-[auto_1fr_1.3fr]">
  <div class="grid content-start gap-4">
    <Silhouette shape={assembly} dimensioned height={380} />
    <Label
      size="large"
      number={assembly.number}
      name={assembly.name}
      more={formatWithUnit(assembly.gaugeLength, 'mm')}
      code={data.code}>{#snippet drawing()}<Silhouette shape={assembly} height={64} />{/snippet}</Label
    >
  </div>
  <section aria-labelledby="fetch">
    <h2 id="fetch" class="heading">Fetch</h2>
    <ul class="ruled-list mt-1 font-narrow">
      {#each data.parts as part (part.role)}
        <li class="grid grid-cols-[1.6rem_4.5rem_1fr] gap-2 py-1.5">
          <span aria-hidden="true">☐</span><b>{part.shelf || '–'}</b><span
            >{part.count > 1 ? `${part.count} × ` : ''}{part.number}<span class="small-words block"
              >{part.name}</span
            ></span
          >
        </li>
      {/each}
    </ul>
    <p class="mt-3">Stick-out <b>{formatWithUnit(assembly.stickOut, 'mm')}</b></p>
    <p>Nominal gauge length <b>{formatWithUnit(data.nominal, 'mm')}</b></p>
  </section>
  <section aria-labelledby="order">
    <h2 id="order" class="heading">In this order</h2>
    <ol class="ruled-list mt-1">
      {#each data.steps as step, i (i)}
        <li class="grid grid-cols-[2rem_1fr] py-2">
          <b class="font-display text-lg">{i + 1}</b>
          <div>
            {step.do}{#if step.caution}<p class="caution mt-1 text-sm">{step.caution}</p>{/if}
          </div>
        </li>
      {/each}
    </ol>
    <p class="small-words mt-2">
      The holder maker’s instructions, the machine’s manual and the site’s rules come first. Eye protection
      on.
    </p>
  </section>
</div>
<PaperSigns who={['Built', 'Measured', 'Put in the rack']} />
