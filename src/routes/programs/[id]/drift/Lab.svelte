<script lang="ts">
  import { capital } from '$core/words/capital';
  import { POLICY_WORDS, type Policy } from '$core/correction/policies';
  import ActionForm from '$lib/ActionForm.svelte';

  import type { LabShown } from './lab-shown';

  interface Props {
    feature: { id: number; policy: Policy; programId: number };
    able: boolean;
    mayAdopt: boolean;
    show: (value: number) => string;
    unit: string;
  }
  let { feature, able, mayAdopt, show, unit }: Props = $props();
  let shown = $state<LabShown | null>(null);
  const lab = $derived(shown?.featureId === feature.id && shown.policy === feature.policy ? shown : null);
  const pastOf = (policy: Policy) => lab!.past.find((each) => each.policy === policy)!;
  const every = $derived(lab?.tried.find(({ policy }) => policy === 'everyPart'));
  const best = $derived(lab?.tried.find(({ policy }) => policy === lab.best));
  const hurts = $derived(
    every && best && every.spread.low > best.spread.high
      ? `Correcting every part would spread them ${(every.spread.mean / best.spread.mean).toFixed(2)} times as wide: it answers the chance of one part with a change for the next.`
      : '',
  );
</script>

<section class="mt-8" aria-labelledby="lab">
  <h2 id="lab" class="text-2xl">Which school serves it best?</h2>
  {#if !able}
    <p class="mt-1">The lab tries sizes that answer to one row of their own, with two readings or more.</p>
  {:else}
    <ActionForm
      action="?/lab"
      class="mt-2"
      label="Try the schools"
      onDone={(done: LabShown) => (shown = done)}
    >
      {#snippet children({ busy })}
        <input type="hidden" name="feature" value={feature.id} />
        <button class="btn" disabled={busy}>{busy ? 'Trying …' : 'Try them all'}</button>
        <span class="small-words ml-2"
          >on its own past, and on 30 runs of 200 made-up parts with its spread, drift and edges</span
        >
      {/snippet}
    </ActionForm>
    {#if lab}
      <p class="mt-3 text-lg font-semibold" role="status">
        {#if lab.real}{capital(POLICY_WORDS[lab.best])} holds it closer than
          {POLICY_WORDS[lab.policy]}, and it is not chance.{:else}Keep it {POLICY_WORDS[lab.policy]}: nothing
          else is better by more than chance or a hair.{/if}
        {hurts}
      </p>
      <div class="relative mt-2 overflow-x-auto">
        <table class="ruled w-full">
          <thead
            ><tr
              ><th scope="col">Correct</th><th scope="col" class="number">Off the aim, {unit}</th><th
                scope="col"
                class="number">Bad in 1000</th
              ><th scope="col" class="number">Moves in 100</th><th scope="col" class="number"
                >Its past: off, {unit}</th
              ><th scope="col" class="number">out</th><th scope="col" class="number">moves</th
              >{#if mayAdopt}<th scope="col"><span class="sr-only">Adopt</span></th>{/if}</tr
            ></thead
          >
          <tbody>
            {#each lab.tried as each (each.policy)}
              {@const past = pastOf(each.policy)}
              <tr class={each.policy === lab.best ? 'bg-base-200' : ''}>
                <th scope="row"
                  ><a
                    class="inline-flex min-h-11 items-center underline"
                    href="/programs/{feature.programId}/drift/{each.policy}?feature={feature.id}"
                    >{POLICY_WORDS[each.policy]}</a
                  >{each.policy === lab.policy ? ' (in use)' : ''}{each.policy === lab.best ? ' ★' : ''}</th
                >
                <td class="number"
                  ><b>{show(each.spread.mean)}</b>
                  <span class="small-words">{show(each.spread.low)}–{show(each.spread.high)}</span></td
                >
                <td class="number"
                  >{each.bad.mean.toFixed(each.bad.mean < 10 ? 2 : 0)}
                  <span class="small-words"
                    >{Math.max(0, each.bad.low).toFixed(each.bad.mean < 10 ? 2 : 0)}–{each.bad.high.toFixed(
                      each.bad.mean < 10 ? 2 : 0,
                    )}</span
                  ></td
                >
                <td class="number">{each.moves.mean.toFixed(1)}</td>
                <td class="number">{show(past.spread)}</td>
                <td class="number">{past.out}</td>
                <td class="number">{past.moves}</td>
                {#if mayAdopt}<td
                    >{#if each.policy !== feature.policy}<ActionForm
                        action="?/adopt"
                        label="Correct {POLICY_WORDS[each.policy]}"
                      >
                        {#snippet children({ busy })}
                          <input type="hidden" name="feature" value={feature.id} />
                          <input type="hidden" name="policy" value={each.policy} />
                          <input type="hidden" name="was" value={feature.policy} />
                          <button class="btn btn-sm" disabled={busy}>Use it</button>
                        {/snippet}
                      </ActionForm>{/if}</td
                  >{/if}
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
    {/if}
  {/if}
</section>
