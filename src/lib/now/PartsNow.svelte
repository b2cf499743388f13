<script lang="ts">
  import { page } from '$app/state';
  import { countedSince } from '$core/shift/job';
  import ActionForm from '../ActionForm.svelte';
  import NumberField from '../NumberField.svelte';
  import { outbox } from '../offline/outbox.svelte';
  import { partsThatWait } from '../offline/waits';
  import ReasonForm from './ReasonForm.svelte';
  import { minutesAndSeconds } from '$core/shift/clock';
  import { dayAndClock } from '../time';

  interface Props {
    job: {
      id: number;
      programId: number;
      number: string;
      title: string;
      made: number;
      scrapped: number;
      quantity: number;
      cycleMilliseconds: number;
      partsPerCycle: number;
      pace: number | null;
      /** What the control showed when it was started; null: nobody asked it. */
      countFrom: number | null;
    };
    control: { ok: true; count: number } | { ok: false; reason: string } | null;
    /** The last count that stands. */
    counted: { id: number; parts: number; person: string; at: Date } | null;
    /** T in the order in which the program calls them. */
    called: number[];
    zone: string;
    mayRecord: boolean;
    mayRun: boolean;
  }
  let { job, control, counted, called, zone, mayRecord, mayRun }: Props = $props();
  let parts = $state('1');
  let expired = $state<string[]>([]);
  // what is seldom asked for comes when it is
  let wrongOpen = $state(false);
  let scrapOpen = $state(false);
  let brokenOpen = $state(false);
  /** What the control has counted of this job. */
  const own = $derived(control?.ok ? countedSince(control.count, job.countFrom) : 0);
  /** Parts that are counted on this device, and wait to be sent. */
  const waits = $derived(partsThatWait(outbox.untold, job.id));
  const made = $derived(job.made + waits);
  /** What is counted by the time that a count entered now arrives. */
  const before = $derived(job.made + partsThatWait(outbox.untold, job.id, page.data.person?.id));
  /** It was counted otherwise than its cycle says. */
  const paced = $derived(job.pace !== null && Math.abs(job.pace / job.cycleMilliseconds - 1) > 0.05);
  const ahead = $derived(control?.ok ? own - made : 0);
  const beyond = $derived(made + ahead > job.quantity);
  const told = (done: { expired: string[] } | null) => (expired = done?.expired ?? []);
  const partsWords = (count: number) => `${count} ${count === 1 ? 'part' : 'parts'} of ${job.number}`;
  const step = (by: number) => (parts = String(Math.max(1, (Number(parts) || 0) + by)));
</script>

<section class="plate" aria-labelledby="job">
  <h2 id="job" class="text-xl">
    <a class="underline" href="/programs/{job.programId}">{job.number}</a>
    {job.title}
  </h2>
  <p class="mt-2 font-display text-5xl font-bold">
    {made} <span class="text-2xl font-normal">of {job.quantity}</span>
  </p>
  {#if waits > 0}<p class="caution">
      {waits} of them {waits === 1 ? 'waits' : 'wait'} on this device to be sent.
    </p>{/if}
  <progress class="progress mt-2 w-full" value={made} max={job.quantity} aria-label="Parts made"></progress>
  <p class="small-words">
    One cycle takes {minutesAndSeconds(job.cycleMilliseconds)} and makes {job.partsPerCycle}
    {job.partsPerCycle === 1 ? 'part' : 'parts'}{paced
      ? `; as counted lately, ${minutesAndSeconds(job.pace!)}${job.pace! < job.cycleMilliseconds ? ', and what is told is reckoned by that' : ''}`
      : ''}.
  </p>

  {#if mayRecord}
    {#if control?.ok && ahead > 0}
      <ActionForm
        action="?/parts"
        class="mt-4"
        label="Record the control's count"
        onDone={told}
        keptAs={() => partsWords(ahead)}
      >
        {#snippet children({ busy })}
          <input type="hidden" name="job" value={job.id} />
          <input type="hidden" name="before" value={before} />
          <input type="hidden" name="parts" value={ahead} />
          <input type="hidden" name="source" value="from the control's count" />
          <p>
            The control has counted {own}{own !== control.count
              ? ` since this job was started (it shows ${control.count})`
              : ''}, the record {made}.
          </p>
          {#if beyond}<p class="caution">
              That would be {made + ahead} of {job.quantity}: does it still count the job before?
            </p>{/if}
          <button
            class={['btn mt-1 h-14 w-full text-lg', !beyond && 'btn-primary']}
            disabled={busy}
            data-key={beyond ? undefined : 'r'}
            >Record {ahead}
            {ahead === 1 ? 'part' : 'parts'}{#if !beyond}
              <span class="key-hint" aria-hidden="true">r</span>{/if}</button
          >
        {/snippet}
      </ActionForm>
    {:else if control?.ok && ahead < 0}
      <p class="caution mt-4">
        The control has counted {own}, fewer than the record: was it reset? Write a question on the leaf if
        nobody knows.
      </p>
    {:else if control}
      <p class="small-words mt-4">
        {control.ok ? 'The control’s count agrees with the record.' : control.reason}
      </p>
    {/if}
    <ActionForm
      action="?/parts"
      class="mt-4"
      label="Record parts"
      onDone={told}
      keptAs={() => partsWords(Number(parts))}
      onKept={() => (parts = '1')}
    >
      {#snippet children({ busy })}
        <input type="hidden" name="job" value={job.id} />
        <input type="hidden" name="before" value={before} />
        <input type="hidden" name="source" value="typed" />
        <div class="grid grid-cols-[3.5rem_1fr_3.5rem_auto] items-start gap-2">
          <button type="button" class="btn h-14 text-2xl" aria-label="One fewer" onclick={() => step(-1)}
            >−</button
          >
          <NumberField
            name="parts"
            label="Parts made"
            bare
            whole
            class="h-14 text-center text-2xl"
            bind:value={parts}
            required
          />
          <button type="button" class="btn h-14 text-2xl" aria-label="One more" onclick={() => step(1)}
            >+</button
          >
          <button class="btn h-14" disabled={busy}>Record</button>
        </div>
      {/snippet}
    </ActionForm>
    {#if counted}
      <details class="mt-2" bind:open={wrongOpen}>
        <summary class="inline-flex min-h-11 cursor-pointer items-center underline"
          >Counted wrongly? The last count: {counted.parts === 0
            ? 'a cycle broken off'
            : `${counted.parts} ${counted.parts === 1 ? 'part' : 'parts'}`}, {counted.person}, {dayAndClock(
            counted.at,
            zone,
          )}</summary
        >
        {#if wrongOpen}
          {#await import('./WrongCount.svelte') then { default: WrongCount }}<WrongCount
              {job}
              {counted}
            />{/await}
        {/if}
      </details>
    {/if}
    {#if job.made > 0}
      <details class="mt-2" bind:open={scrapOpen}>
        <summary class="inline-flex min-h-11 cursor-pointer items-center underline"
          >{job.scrapped > 0 ? `${job.scrapped} of them scrap` : 'Some are scrap'}</summary
        >
        {#if scrapOpen}
          {#await import('./ScrappedForm.svelte') then { default: ScrappedForm }}<ScrappedForm
              {job}
            />{/await}
        {/if}
      </details>
    {/if}
    {#if called.length > 0}
      <details class="mt-2" bind:open={brokenOpen}>
        <summary class="inline-flex min-h-11 cursor-pointer items-center underline"
          >A cycle was broken off</summary
        >
        {#if brokenOpen}
          {#await import('./BrokenOff.svelte') then { default: BrokenOff }}<BrokenOff
              {job}
              {called}
            />{/await}
        {/if}
      </details>
    {/if}
    {#if expired.length > 0}
      <p role="alert" class="caution mt-3 text-lg font-semibold">
        {expired.join(', ')}
        {expired.length === 1 ? 'has' : 'have'} now run out. The part in the machine may be finished with it; renew
        it before the next.
      </p>
    {/if}
  {/if}
  {#if mayRun}
    {#if job.made >= job.quantity}
      <ActionForm action="?/move" class="mt-4" label="Finish the job">
        {#snippet children({ busy })}
          <input type="hidden" name="job" value={job.id} /><input type="hidden" name="move" value="finish" />
          <button class="btn h-14 btn-primary" disabled={busy}>This job is finished</button>
        {/snippet}
      </ActionForm>
    {/if}
    <details class="mt-2">
      <summary class="inline-flex min-h-11 cursor-pointer items-center underline"
        >Pause {job.number}{job.made < job.quantity ? ', or stop it short' : ''}</summary
      >
      <ReasonForm
        action="?/move"
        fields={{ job: job.id, move: 'pause' }}
        label="Pause {job.number}"
        button="Pause"
      />
      {#if job.made < job.quantity}
        <ReasonForm
          action="?/move"
          fields={{ job: job.id, move: 'finish' }}
          label="Stop {job.number} short"
          button="Stop at {job.made}"
        />
      {/if}
      <p class="small-words mt-1">
        What is paused keeps its count and comes back on the list; what is stopped is over.
      </p>
    </details>
  {/if}
</section>
