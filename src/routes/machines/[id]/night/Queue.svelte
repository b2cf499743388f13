<script lang="ts">
  import ActionForm from '$lib/ActionForm.svelte';
  import NumberField from '$lib/NumberField.svelte';
  import Scroll from '$lib/Scroll.svelte';
  import { clock } from '$lib/time';
  import type { PageData } from './$types';

  interface Props {
    pallets: PageData['pallets'];
    steps: PageData['play']['steps'];
    begins: Date;
    /** The job that runs, and how many parts of it are made. */
    made: { programId: number; parts: number } | null;
    /** The control counted what was made since the last count; else it is reckoned, as if the machine had run on. */
    counting: boolean;
    mayRun: boolean;
    zone: string;
  }
  let { pallets, steps, begins, made, counting, mayRun, zone }: Props = $props();
  const at = (ms: number) => new Date(begins.getTime() + ms);
  const likely = $derived(counting ? '' : 'likely ');
  const ofStep = (id: number) => steps.find((step) => step.pallet === id);
  let aside = $state<number | null>(null);
  let off = $state<number | null>(null);
</script>

<section class="mt-4" aria-labelledby="queue">
  <h3 id="queue" class="text-xl">The queue</h3>
  <Scroll label="Pallets">
    <table class="ruled mt-1">
      <thead
        ><tr
          ><th scope="col">Pallet</th><th scope="col">Program</th><th scope="col" class="number">Parts</th><th
            scope="col">Is cut</th
          >{#if mayRun}<th scope="col"><span class="sr-only">Move</span></th>{/if}</tr
        ></thead
      >
      <tbody>
        {#each pallets as pallet, i (pallet.id)}
          {@const step = ofStep(pallet.id)}
          <tr>
            <th scope="row" class="font-display text-lg">{pallet.number}</th>
            <td
              ><a class="underline" href="/programs/{pallet.programId}">{pallet.program}</a>
              {pallet.title}</td
            >
            <td class="number">{pallet.parts}</td>
            <td
              >{#if pallet.isolated}set aside: {pallet.why}{:else if pallet.counted >= pallet.parts}cut and
                counted{:else if pallet.cut >= pallet.parts}{likely}cut, not counted yet{:else if !step}not
                any more{:else if step.stopped}<b class="text-accent"
                  >{step.made} of {pallet.parts}, then it stops</b
                >{:else}{pallet.cut > 0
                  ? `${pallet.cut > pallet.counted ? likely : ''}${pallet.cut} cut, the rest`
                  : clock(at(step.from), zone)} to
                {clock(at(step.to), zone)}{/if}</td
            >
            {#if mayRun}<td class="whitespace-nowrap">
                {#each [['-1', 'Earlier', i > 0], ['1', 'Later', i < pallets.length - 1]] as const as [by, word, can] (by)}
                  <ActionForm
                    action="?/move"
                    class="inline-block"
                    label="{word}: pallet {pallet.number}"
                    keep
                  >
                    {#snippet children({ busy })}
                      <input type="hidden" name="pallet" value={pallet.id} />
                      <input type="hidden" name="by" value={by} />
                      <button class="min-h-11 px-2 underline disabled:opacity-40" disabled={busy || !can}
                        >{word}</button
                      >
                    {/snippet}
                  </ActionForm>
                {/each}
                {#if pallet.isolated}
                  <ActionForm action="?/isolate" class="inline-block" label="Back: pallet {pallet.number}">
                    {#snippet children({ busy })}
                      <input type="hidden" name="pallet" value={pallet.id} /><input
                        type="hidden"
                        name="aside"
                        value="no"
                      />
                      <button class="min-h-11 min-w-11 px-2 underline" disabled={busy}
                        >Back into the queue</button
                      >
                    {/snippet}
                  </ActionForm>
                {:else}<button
                    type="button"
                    class="min-h-11 min-w-11 px-2 underline"
                    aria-expanded={aside === pallet.id}
                    onclick={() => (aside = aside === pallet.id ? null : pallet.id)}>Set aside</button
                  >{/if}
                <button
                  type="button"
                  class="min-h-11 min-w-11 px-2 underline"
                  aria-expanded={off === pallet.id}
                  onclick={() => (off = off === pallet.id ? null : pallet.id)}>Off</button
                >
              </td>{/if}
          </tr>
          {#if off === pallet.id}
            <tr
              ><td colspan="5"
                ><ActionForm
                  action="?/take"
                  class="flex flex-wrap items-end gap-2"
                  label="Off: pallet {pallet.number}"
                  onDone={() => (off = null)}
                >
                  {#snippet children({ busy })}
                    <input type="hidden" name="pallet" value={pallet.id} />
                    {#if made && made.programId === pallet.programId}
                      <input type="hidden" name="before" value={made.parts} />
                      <NumberField
                        name="made"
                        label={pallet.counted > 0
                          ? `Parts made of it and not counted yet; ${pallet.counted} are`
                          : 'Parts made of it, recorded with its job'}
                        whole
                        value={String(pallet.parts - pallet.counted)}
                      />
                      <button class="btn" disabled={busy}>Take it off</button>
                    {:else}
                      <p>No job of {pallet.program} runs: it comes off, and no parts are recorded.</p>
                      <button class="btn" disabled={busy}>Take it off</button>
                    {/if}
                  {/snippet}
                </ActionForm></td
              ></tr
            >
          {/if}
          {#if aside === pallet.id}
            <tr
              ><td colspan="5"
                ><ActionForm
                  action="?/isolate"
                  class="flex flex-wrap items-end gap-2"
                  label="Set pallet {pallet.number} aside"
                  onDone={() => (aside = null)}
                >
                  {#snippet children({ busy })}
                    <input type="hidden" name="pallet" value={pallet.id} /><input
                      type="hidden"
                      name="aside"
                      value="yes"
                    />
                    <input
                      class="input min-w-60 flex-1"
                      name="why"
                      maxlength="200"
                      aria-label="Why pallet {pallet.number} is set aside"
                      placeholder="why"
                      required
                    />
                    <button class="btn" disabled={busy}>Set it aside</button>
                  {/snippet}
                </ActionForm></td
              ></tr
            >
          {/if}
        {/each}
      </tbody>
    </table>
  </Scroll>
</section>
