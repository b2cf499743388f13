<script lang="ts">
  import ActionForm from '../ActionForm.svelte';
  import Field from '../Field.svelte';
  import NumberField from '../NumberField.svelte';
  import { formatWithUnit } from '$core/units/format-length';
  import { dayAndClock, shortTime } from '../time';
  import type { HeldPart } from '$core/breakage/quarantine';

  interface Props {
    parts: HeldPart[];
    jobs: { id: number; number: string; quantity: number; setUpAt: Date | null }[];
    /** How many are held, of which the list shows some. */
    open: number;
    /** The part to look at next, and how many looks find the break at most. */
    next: { job: number; part: number; looks: number; clears: number } | null;
    mayInspect: boolean;
    closed: boolean;
    now: Date;
    zone: string;
  }
  let { parts, jobs, open, next, mayInspect, closed, now, zone }: Props = $props();
  const OUTCOMES = [
    ['good', 'Good'],
    ['rework', 'Rework'],
    ['scrap', 'Scrap'],
  ] as const;
  /** A program may have run as several jobs: the one of 90, set up on the 14th. */
  const jobWords = (id: number) => {
    const job = jobs.find((each) => each.id === id)!;
    return `${job.number}, job of ${job.quantity}${job.setUpAt ? ` set up ${dayAndClock(job.setUpAt, zone)}` : ''}`;
  };
  const shownOpen = $derived(parts.filter(({ answer }) => !answer).length);
  let changing = $state('');
</script>

{#snippet readings(part: HeldPart)}
  {#each part.read as each, i (i)}
    <span class="block"
      >{each.feature}
      {formatWithUnit(each.measured, each.unit)}, {each.measured < each.lower || each.measured > each.upper
        ? 'out of tolerance'
        : 'within tolerance'}{each.own ? '' : ' (another tool’s size)'}</span
    >
  {:else}<span>nothing was measured on it</span>{/each}
{/snippet}

{#if next && mayInspect && !closed && open > 1}
  <ActionForm action="?/parts" class="plate mt-2 grid gap-2" label="Look at part {next.part} next">
    {#snippet children({ busy })}
      <p>
        <b class="font-display text-xl"
          >Look at part {next.part}{jobs.length > 1 ? ` of ${jobWords(next.job)}` : ''} next.</b
        >
        {#if next.clears > 0}A broken tool does not mend itself: where this part is good, so {next.clears ===
          1
            ? 'is the one'
            : `are the ${next.clears}`} cut before it. {next.looks === 1
            ? 'One look'
            : `${next.looks} looks at most`}
          find where it broke.{:else}Every part that is left may be spoilt.{/if}
      </p>
      <input type="hidden" name="job" value={next.job} />
      <input type="hidden" name="from" value={next.part} /><input type="hidden" name="to" value={next.part} />
      {#if next.clears > 0}<label class="flex min-h-11 items-center gap-2"
          ><input type="checkbox" class="checkbox" name="allBefore" checked /> if good, all before it are too</label
        >{/if}
      <span class="flex flex-wrap gap-2">
        <input
          class="input h-14 min-w-44 flex-1"
          name="found"
          aria-label="What was found on part {next.part}"
          placeholder="what was found"
          maxlength="300"
        />
        {#each OUTCOMES as [outcome, words] (outcome)}<button
            class="btn h-14 px-5"
            name="outcome"
            value={outcome}
            disabled={busy}>{words}</button
          >{/each}
      </span>
    {/snippet}
  </ActionForm>
{/if}
<ol class="ruled-list mt-1">
  {#each parts as part (`${part.job}/${part.part}`)}
    {@const key = `${part.job}/${part.part}`}
    <li class="grid gap-x-4 gap-y-1 py-2 md:grid-cols-[minmax(9rem,1fr)_auto] md:items-center">
      <div>
        <p class="font-display text-xl font-semibold">
          Part {part.part}
          {#if jobs.length > 1}<span class="small-words font-normal">{jobWords(part.job)}</span>{/if}
        </p>
        <p class="small-words">
          {#if part.inMachine}<b class="block">in the machine when it was found</b>{/if}
          {@render readings(part)}
        </p>
      </div>
      {#if part.answer && changing !== key}
        <p class="max-w-md">
          <b
            >{part.answer.outcome === 'good'
              ? 'Good'
              : part.answer.outcome === 'rework'
                ? 'Rework'
                : 'Scrap'}</b
          >{part.answer.found ? `: ${part.answer.found}` : ''}
          <span class="small-words">{part.answer.person}, {shortTime(part.answer.at, now, zone)}</span>
          {#if mayInspect && !closed}<button type="button" class="btn btn-sm" onclick={() => (changing = key)}
              >Change</button
            >{/if}
        </p>
      {:else if mayInspect && !closed}
        <ActionForm
          action="?/parts"
          class="flex flex-wrap items-center gap-2"
          label="Part {part.part}{jobs.length > 1 ? ` of ${jobWords(part.job)}` : ''}"
          onDone={() => (changing = '')}
        >
          {#snippet children({ busy })}
            <input type="hidden" name="job" value={part.job} />
            <input type="hidden" name="from" value={part.part} /><input
              type="hidden"
              name="to"
              value={part.part}
            />
            {#if part.answer}<input type="hidden" name="again" value="on" />{/if}
            <input
              class="input w-44 max-md:w-full"
              name="found"
              aria-label="What was found"
              placeholder="what was found"
              maxlength="300"
            />
            {#each OUTCOMES as [outcome, words] (outcome)}<button
                class="btn"
                name="outcome"
                value={outcome}
                disabled={busy}>{words}</button
              >{/each}
          {/snippet}
        </ActionForm>
      {:else}<p>not inspected yet</p>{/if}
    </li>
  {/each}
</ol>
{#if open > shownOpen}<p class="caution mt-2">
    {open - shownOpen} more are held back and not listed: answer them in a range.
  </p>{/if}
{#if mayInspect && !closed && open > 3}
  <ActionForm
    action="?/parts"
    class="mt-3 grid gap-2 sm:grid-cols-[10rem_7rem_7rem_8rem_1fr_auto] sm:items-end"
    label="Several parts at once"
  >
    {#snippet children({ busy })}
      <Field label="Several at once"
        ><select class="select" name="job"
          >{#each jobs as job (job.id)}<option value={job.id}>{jobWords(job.id)}</option>{/each}</select
        ></Field
      >
      <NumberField name="from" label="from part" whole required />
      <NumberField name="to" label="to part" whole required />
      <Field label="are"
        ><select class="select" name="outcome"
          >{#each OUTCOMES as [outcome, words] (outcome)}<option value={outcome}>{words.toLowerCase()}</option
            >{/each}</select
        ></Field
      >
      <Field label="What was found"><input class="input w-full" name="found" maxlength="300" /></Field>
      <button class="btn" disabled={busy}>Answer them</button>
    {/snippet}
  </ActionForm>
{/if}
