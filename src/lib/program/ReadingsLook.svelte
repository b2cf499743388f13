<script lang="ts">
  import Scroll from '../Scroll.svelte';
  import { formatWithUnit } from '$core/units/format-length';
  import ActionForm from '../ActionForm.svelte';
  import { page } from '$app/state';
  import { shortTime } from '../time';
  import type { ReadingsLookSeen } from './looks';

  interface Props {
    look: ReadingsLookSeen;
    text: string;
    part: number | null;
  }
  /** What a file of readings would add, before it is taken. */
  let { look, text, part }: Props = $props();
  interface Taken {
    taken: number;
    same: number;
    left: number;
    again: string[];
    corrections: number[];
  }
  let taken = $state<Taken | null>(null);
  const count = (verdict: string) => look.readings.filter((each) => each.verdict === verdict).length;
  const added = $derived(count('added'));
  const refused = $derived(count('refused'));
  /** Some say when they were measured. */
  const timed = $derived(look.readings.some(({ time }) => time !== null));
  const MOST = 60;
  type Looked = ReadingsLookSeen['readings'][number];
  /** It would be taken, and something about it is to be looked at. */
  const doubted = ({ verdict, words }: Looked) => verdict === 'added' && words !== '';
  const weight = (each: Looked) => (each.verdict === 'refused' ? 2 : Number(doubted(each)));
  const shown = $derived(
    look.readings.toSorted((a, b) => weight(b) - weight(a) || a.line - b.line).slice(0, MOST),
  );
  const many = (n: number) => (n === 1 ? 'one reading' : `${n} readings`);
</script>

<section class="plate mt-4" aria-labelledby="readings-look">
  <h2 id="readings-look" class="text-xl">Readings of {look.program}</h2>
  <p class="small-words">
    {look.job ? `Taken for the running job: ${look.job}.` : 'No job of it runs: taken for none.'}
  </p>
  {#if taken}
    <p role="status" class="mt-2 font-semibold">
      {many(taken.taken)} taken{taken.same > 0 ? `, ${taken.same} stood already` : ''}{taken.left > 0
        ? `, ${taken.left} left`
        : ''}.
      {#if taken.corrections.length > 0}<a class="underline" href="/corrections"
          >{taken.corrections.length === 1
            ? 'One correction waits'
            : `${taken.corrections.length} corrections wait`}</a
        >.{/if}
    </p>
    {#each taken.again as words (words)}<p class="caution mt-2">Measure again: {words}</p>{/each}
  {:else}
    <Scroll label="Readings of the file" class="mt-2 max-h-96 overflow-y-auto">
      <table class="ruled">
        <thead
          ><tr
            ><th scope="col" class="number">Line</th><th scope="col">Size</th><th scope="col" class="number"
              >Part</th
            ><th scope="col" class="number">Value</th>{#if timed}<th scope="col">Measured</th>{/if}<th
              scope="col">Would be</th
            ></tr
          ></thead
        >
        <tbody>
          {#each shown as each (each.line)}
            <tr>
              <td class="number">{each.line}</td>
              <th scope="row">{each.feature}</th>
              <td class="number">{each.part ?? '?'}</td>
              <td class="number">{formatWithUnit(each.value, look.unit)}</td>
              {#if timed}<td class="whitespace-nowrap"
                  >{each.time ? shortTime(each.time, look.now, page.data.cell!.timeZone) : ''}</td
                >{/if}
              <td class={each.verdict === 'refused' || doubted(each) ? 'font-semibold text-accent' : ''}
                >{each.verdict !== 'added'
                  ? each.words
                  : doubted(each)
                    ? `taken. ${each.words}`
                    : 'taken'}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    </Scroll>
    {#if look.readings.length > MOST}<p class="small-words">
        The first {MOST} of {look.readings.length}; those that need a look come first.
      </p>{/if}
    {#if refused > 0}<p class="mt-2 font-semibold" role="alert">
        Nothing is taken: {many(refused)} cannot be. Put the file right and bring it in again.
      </p>
    {:else if added === 0}<p class="mt-2 font-semibold">
        {count('left') > 0 ? 'Nothing in it is new and counts.' : 'All of them stand already.'}
      </p>
    {:else}
      <ActionForm
        action="?/takeReadings"
        class="mt-3"
        label="Take the readings"
        onDone={(done: Taken) => (taken = done)}
      >
        {#snippet children({ busy })}
          <input type="hidden" name="program" value={look.programId} />
          <input type="hidden" name="part" value={part ?? ''} />
          <input type="hidden" name="text" value={text} />
          <button class="btn btn-primary" disabled={busy}>Take {many(added)}</button>
        {/snippet}
      </ActionForm>
    {/if}
  {/if}
</section>
