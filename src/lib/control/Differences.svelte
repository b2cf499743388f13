<script lang="ts">
  import type { ExplanationCode } from '$core/control/held';
  import { reasonFor } from '$core/control/words';
  import ActionForm from '../ActionForm.svelte';
  import { dayAndClock } from '../time';
  import TakenFor from './TakenFor.svelte';

  interface Difference {
    id: number;
    words: string;
    record: string;
    control: string;
    /** What programs that are still to run take it for. */
    programs: { words: string; misses: boolean }[];
    /** The last look in which it agreed, and the first in which it did not. */
    parted: { agreed: Date; differed: Date } | null;
    told: boolean;
    explanations: { code: ExplanationCode; share: number; words: string }[];
    answer: { answer: string; why: string; person: string; at: Date } | null;
  }
  interface Props {
    look: number;
    unit: string;
    differences: Difference[];
    mayAnswer: boolean;
    /** The table is another machine's: nothing of it is taken for right. */
    stranger: boolean;
    zone: string;
  }
  let { look, unit, differences, mayAnswer, stranger, zone }: Props = $props();

  const open = $derived(differences.filter(({ answer }) => answer === null));
  let ticked = $state<number[]>([]);
  const chosen = $derived(open.filter(({ id }) => ticked.includes(id)));
  let why = $state('');
  const ANSWERED: Record<string, string> = {
    record: 'the record is right, to be keyed',
    open: 'not understood, on the leaf',
    control: 'the control is right',
  };
  /** What is true of all of them; where it cannot be told what happened to one, nobody's word is taken for it. */
  const reasonOf = (of: readonly Difference[]) =>
    (of.every(({ told }) => told) && reasonFor(of.map(({ explanations }) => explanations[0]!))) || '';
  /** All that have the same likeliest explanation are ticked at once. */
  const alike = $derived(
    [...new Set(open.filter(({ told }) => told).map(({ explanations }) => explanations[0]!.code))].flatMap(
      (code) => {
        const of = open.filter((each) => each.told && each.explanations[0]!.code === code);
        return of.length > 1 ? [{ code, of, words: reasonOf(of) }] : [];
      },
    ),
  );
  function tick(of: readonly Difference[]) {
    ticked = of.map(({ id }) => id);
    why = reasonOf(of);
  }
</script>

<section aria-labelledby="differs">
  <h2 id="differs" class="heading">
    {differences.length}
    {differences.length === 1 ? 'register differs' : 'registers differ'}, in {unit}
  </h2>
  {#if mayAnswer && alike.length > 0}
    <p class="no-print mt-2 flex flex-wrap gap-2">
      {#each alike as { code, of, words } (code)}<button type="button" class="btn" onclick={() => tick(of)}
          >Tick {of.length}: {words}</button
        >{/each}
    </p>
  {/if}
  <ul class="ruled-list mt-1">
    {#each differences as each (each.id)}
      <li class="break-inside-avoid py-2">
        <div class="flex flex-wrap items-center gap-x-4">
          {#if mayAnswer && each.answer === null}
            <label class="flex min-h-11 min-w-11 items-center gap-3 font-semibold"
              ><input
                class="no-print checkbox"
                type="checkbox"
                value={each.id}
                bind:group={ticked}
                onchange={() => (why = reasonOf(chosen))}
              />
              {each.words}</label
            >
          {:else}<b>{each.words}</b>{/if}
          <span class="ml-auto whitespace-nowrap"
            >record <b>{each.record}</b>, control <b class="text-accent">{each.control}</b></span
          >
        </div>
        <TakenFor programs={each.programs} />
        <p>
          {#if each.told}{each.explanations[0]!.words}
          {:else}<b>Cannot tell.</b>
            {#each each.explanations as explanation, i (i)}{i > 0 ? ' Or: ' : ''}{explanation.words}
              <span class="small-words">({explanation.share} %)</span>{/each}{/if}
        </p>
        {#if each.parted}<p class="small-words">
            The control held {each.record} at {dayAndClock(each.parted.agreed, zone)}, and something else at
            {dayAndClock(each.parted.differed, zone)}.
          </p>{/if}
        {#if each.answer}<p class="small-words">
            {ANSWERED[each.answer.answer]}: {each.answer.why}
            {each.answer.person}, {dayAndClock(each.answer.at, zone)}
          </p>{:else}<p class="hidden gap-x-8 print:flex" aria-hidden="true">
            <span>At the control now: ______________</span><span>☐ record right</span><span
              >☐ control right</span
            ><span>☐ nobody knows</span>
          </p>{/if}
      </li>
    {/each}
  </ul>
  {#if mayAnswer && open.length > 0}
    <ActionForm
      action="?/answer"
      class="no-print plate mt-3 grid gap-3"
      label="Which is right"
      keep
      onDone={() => (ticked = [])}
    >
      {#snippet children({ busy })}
        <input type="hidden" name="look" value={look} />
        <input type="hidden" name="registers" value={chosen.map(({ id }) => id).join(' ')} />
        <p class="font-semibold">
          {chosen.length === 0
            ? 'Tick what you answer'
            : `Of ${chosen.length === 1 ? chosen[0]!.words : `${chosen.length} registers`}`}
        </p>
        <input
          class="input"
          name="why"
          aria-label="Why"
          placeholder="why"
          maxlength="300"
          required
          bind:value={why}
        />
        <div class="flex flex-wrap gap-2">
          <button class="btn btn-primary" name="answer" value="record" disabled={busy || chosen.length === 0}
            >The record is right</button
          >
          {#if !stranger}<button
              class="btn"
              name="answer"
              value="control"
              disabled={busy || chosen.length === 0}>The control is right</button
            >{/if}
          <button class="btn" name="answer" value="open" disabled={busy || chosen.length === 0}
            >Nobody knows: onto the leaf</button
          >
        </div>
      {/snippet}
    </ActionForm>
  {/if}
</section>
