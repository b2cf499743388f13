<script lang="ts">
  import type { AssemblyShape } from '$core/assembly/silhouette';
  import type { ChangerShape } from '$core/changer/layout';
  import type { LoadStep } from '$core/changer/load-plan';
  import type { StepWords } from '$core/changer/load-words';
  import type { PlaceRow } from '$core/changer/place';
  import type { Snippet } from 'svelte';
  import ActionForm from '../ActionForm.svelte';
  import Changer from '../changer/Changer.svelte';
  import Silhouette from '../Silhouette.svelte';

  interface Props {
    plan: number;
    said: StepWords & { key: string; step: LoadStep };
    /** Its number in the whole plan. */
    order: number;
    shape: ChangerShape;
    places: PlaceRow[];
    /** The tool in the hand, drawn. */
    tool: AssemblyShape | null;
    mayTick: boolean;
    /** A form of its own instead of the tick: measuring. */
    own?: Snippet | undefined;
  }
  let { plan, said, order, shape, places, tool, mayTick, own }: Props = $props();

  /** The pocket of the table that the picture points at. */
  const pocket = $derived('pocket' in said.step ? said.step.pocket : said.step.wanted.pocket);
  /** What stands in it: the changer cannot bring that any more when the pocket is broken. */
  const standing = $derived(
    places.find((place) => place.kind === 'pocket' && place.number === pocket && place.assembly),
  );
  let confirmed = $state<boolean[]>([]);
  const all = $derived(said.confirm.every((_, i) => confirmed[i]));
  // what was confirmed holds for this step and these words, whatever else changes meanwhile
  const key = $derived([said.key, ...said.confirm].join('\n'));
  $effect(() => {
    void key;
    confirmed = [];
  });
</script>

<section class="plate mt-4" aria-label="The next step" data-goes-on>
  <div class="grid gap-x-6 gap-y-3 md:grid-cols-[3fr_2fr]">
    <div class="grid content-start">
      <p class="text-2xl leading-snug">
        <b class="mr-2 font-display text-4xl">{order}</b>{said.title}
      </p>
      {#if said.cautions.length > 0}<ul class="caution mt-2 grid gap-0.5 text-base leading-snug">
          {#each said.cautions as caution (caution)}<li>{caution}</li>{/each}
        </ul>{/if}
      {#if own}{@render own()}
      {:else if mayTick}
        <ActionForm
          action="?/tick"
          class="mt-3 grid gap-1"
          label="Step {order}"
          keptAs={() => `Step ${order}: ${said.title}`}
        >
          {#snippet children({ busy })}
            <input type="hidden" name="plan" value={plan} />
            <input type="hidden" name="step" value={said.key} />
            <input type="hidden" name="turned" value={said.turned ?? ''} />
            {#each said.confirm as line, i (line)}
              <label class="flex min-h-11 items-center gap-3 border-t border-base-300 text-lg leading-tight"
                ><input class="checkbox" type="checkbox" name="confirm{i}" bind:checked={confirmed[i]} />
                {line}</label
              >
            {/each}
            <button class="btn mt-1 min-h-14 text-lg btn-primary" disabled={busy || !all} data-key="n"
              >{all ? 'Done' : 'Confirm each line first'}
              <span class="key-hint" aria-hidden="true">n</span></button
            >
          {/snippet}
        </ActionForm>
      {/if}
      {#if mayTick}
        <details class="mt-2">
          <summary class="btn">That’s not what I see</summary>
          <ActionForm action="?/wrong" class="mt-2 flex flex-wrap gap-2" label="That’s not what I see">
            {#snippet children({ busy })}
              <input type="hidden" name="plan" value={plan} />
              <input type="hidden" name="step" value={said.key} />
              <input
                class="input min-w-60 flex-1"
                name="why"
                maxlength="200"
                aria-label="What you found instead"
                placeholder="what you found instead"
                required
              />
              <button class="btn" disabled={busy}>Stop here</button>
            {/snippet}
          </ActionForm>
          {#if pocket > 0}
            <ActionForm action="?/broken" class="mt-3 flex flex-wrap gap-2" label="Pocket is broken">
              {#snippet children({ busy })}
                <input type="hidden" name="plan" value={plan} />
                <input type="hidden" name="step" value={said.key} />
                <input type="hidden" name="pocket" value={pocket} />
                <input
                  class="input min-w-60 flex-1"
                  name="why"
                  maxlength="200"
                  aria-label="What is wrong with pocket {pocket}"
                  placeholder="what is wrong with pocket {pocket}"
                  required
                />
                {#if standing}<label class="flex min-h-11 w-full items-center gap-3"
                    ><input class="checkbox" type="checkbox" name="out" value="yes" />
                    T{standing.tool}
                    {standing.assembly?.number} has been taken out of it by hand, as the machine’s manual says</label
                  >{/if}
                <button class="btn" disabled={busy}>Pocket {pocket} is broken</button>
              {/snippet}
            </ActionForm>
            <p class="small-words mt-1">
              A broken pocket is taken out of service at once; its tool gets another pocket where there is
              one, and the rest of the plan goes on.
            </p>
          {/if}
          <p class="small-words mt-1">
            The plan stops until the record is put right; then it is worked out again from what is really
            there.
          </p>
        </details>
      {/if}
    </div>
    <div class="grid content-start justify-items-center gap-2">
      {#if tool}<Silhouette shape={tool} dimensioned height={170} />{/if}
      <Changer {shape} {places} called={pocket} still />
    </div>
  </div>
</section>
