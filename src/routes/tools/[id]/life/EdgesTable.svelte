<script lang="ts">
  import Scroll from '$lib/Scroll.svelte';
  import ActionForm from '$lib/ActionForm.svelte';
  import { EDGE_ENDS, EDGE_END_WORDS, WEAR_SIGNS, type EdgeEnd } from '$core/life/edge-lives';
  import { dayAndClock } from '$lib/time';
  import type { PageData } from './$types';

  interface Props {
    edges: NonNullable<PageData['learnt']>['edgesKnown'];
    /** Those that speak, by their ids. */
    speaking: readonly number[];
    mayTell: boolean;
    show: (value: number) => string;
    timeZone: string;
  }
  let { edges, speaking, mayTell, show, timeZone }: Props = $props();
  const own = $derived(new Set(speaking));
  /** The one that is told anew. */
  let telling = $state<number | null>(null);
  let end = $state<EdgeEnd>('unknown');
</script>

<details class="mt-5">
  <summary class="inline-flex min-h-11 cursor-pointer items-center font-semibold underline">The edges</summary
  >
  <Scroll label="Edges">
    <table class="ruled">
      <thead
        ><tr
          ><th scope="col">When</th><th scope="col">Tool</th><th scope="col">Program</th><th scope="col"
            >Material</th
          ><th scope="col" class="number">m/min</th><th scope="col" class="number">Had cut</th><th
            scope="col"
            class="number">Limit then</th
          ><th scope="col">Ended</th><th scope="col">Told by</th>{#if mayTell}<th scope="col"
              ><span class="sr-only">Tell it</span></th
            >{/if}</tr
        ></thead
      >
      <tbody>
        {#each [...edges].reverse() as edge (edge.id)}
          <tr class={[!own.has(edge.id) && 'opacity-70']}>
            <td>{dayAndClock(edge.at, timeZone)}</td><td>{edge.assembly}</td><td>{edge.program ?? ''}</td><td
              >{edge.material ?? ''}</td
            >
            <td class="number">{edge.speed?.toFixed(0) ?? ''}</td><td class="number">{show(edge.life)}</td><td
              class="number">{show(edge.limit)}</td
            >
            <td>{EDGE_END_WORDS[edge.end]}{edge.sign ? `, by its ${edge.sign}` : ''}</td><td>{edge.person}</td
            >
            {#if mayTell}<td
                ><button
                  type="button"
                  class={['btn', edge.end !== 'unknown' && 'btn-ghost']}
                  aria-expanded={telling === edge.id}
                  aria-label="Say how the edge of {edge.assembly} of {dayAndClock(edge.at, timeZone)} ended"
                  onclick={() => {
                    telling = telling === edge.id ? null : edge.id;
                    end = edge.end;
                  }}>{edge.end === 'unknown' ? 'Say how' : 'Change'}</button
                ></td
              >{/if}
          </tr>
          {#if telling === edge.id}
            <tr
              ><td colspan="10">
                <ActionForm
                  action="?/ended"
                  label="How it ended"
                  class="flex flex-wrap items-end gap-3 py-1"
                  onDone={() => (telling = null)}
                >
                  {#snippet children({ busy })}
                    <input type="hidden" name="id" value={edge.id} />
                    <input type="hidden" name="was" value={edge.end} />
                    <label class="grid gap-1"
                      ><span class="small-words">It ended</span><select
                        class="select w-56"
                        name="end"
                        bind:value={end}
                        >{#each EDGE_ENDS as each (each)}<option value={each}>{EDGE_END_WORDS[each]}</option
                          >{/each}</select
                      ></label
                    >
                    {#if end === 'worn'}<label class="grid gap-1"
                        ><span class="small-words">What told of it</span><select
                          class="select w-36"
                          name="sign"
                          value={edge.sign ?? ''}
                          ><option value="">not said</option>{#each WEAR_SIGNS as sign (sign)}<option
                              value={sign}>{sign}</option
                            >{/each}</select
                        ></label
                      >{/if}
                    <button class="btn btn-primary" disabled={busy}>Put it on record</button>
                  {/snippet}
                </ActionForm>
              </td></tr
            >
          {/if}
        {/each}
      </tbody>
    </table>
  </Scroll>
</details>
