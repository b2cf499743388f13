<script lang="ts">
  import type { CutByNow } from '$core/shift/likely-made';
  import LookedAgain from '../machine/LookedAgain.svelte';
  import { goto } from '$app/navigation';
  import type { FeatureAim } from '$core/correction/propose';
  import { onPallet, palletOf, whereCut, type InCycle, type OnPallet } from '$core/inspection/cycle-place';
  import { FEATURE_WORDS } from '$core/inspection/feature';
  import { nextReadingWords, type NextReading } from '$core/inspection/next-reading';
  import { formatLength } from '$core/units/format-length';
  import { nanometres, type Length, type LengthUnit } from '$core/units/length';
  import ActionForm from '../ActionForm.svelte';
  import Ladder from '../Ladder.svelte';
  import NumberField from '../NumberField.svelte';
  import { outbox } from '../offline/outbox.svelte';
  import { partsThatWait } from '../offline/waits';
  import { Proposed } from '../proposed.svelte';
  import type { Answered } from '../machine/answered';
  import ReadingAnswer from '../machine/ReadingAnswer.svelte';
  import { onDestroy, tick } from 'svelte';
  import SetUpAgain from './SetUpAgain.svelte';
  import WrongReading from './WrongReading.svelte';

  interface Feature extends FeatureAim, Pick<NextReading, 'why' | 'ago' | 'every'> {
    id: number;
    name: string;
    tool: number;
    row: number;
    gauge: string;
    /** The part that is likely measured next. */
    part: number;
    inCycle: InCycle;
    readings: { id: number; part: number; measured: Length; at: Date; person: string }[];
  }
  interface Props {
    machine: { id: number; name: string; unit: LengthUnit; increment: Length };
    program: { id: number; number: string; title: string };
    job: { id: number; made: number } | null;
    /** The last part of it that is counted or measured. */
    cut: CutByNow | null;
    /** It was set up anew, and no other parts than these, of one cycle, were measured since (null: none was); null: it was not, or others were. */
    setUp: { parts: string[] | null } | null;
    /** All its rows need the same, in words; null: nothing speaks for it. */
    off: { found: string; look: string } | null;
    /** On which pallets the parts of the job were cut, and are next. */
    pallets: OnPallet[];
    features: Feature[];
    programs: { id: number; number: string; title: string }[];
    /** The feature that the address asks for. */
    asked: number | null;
    mayMeasure: boolean;
    mayRun: boolean;
    /** Something was typed for a size that is not measured here any more. */
    onAside: (typed: { typed: string; name: string }) => void;
  }
  let {
    machine,
    program,
    job,
    cut,
    setUp,
    off,
    pallets,
    features,
    programs,
    asked,
    mayMeasure,
    mayRun,
    onAside,
  }: Props = $props();
  const { unit } = $derived(machine);

  let picked = $state<number | null>(null);
  // what was picked, or asked for, stays on the screen while the order of urgency changes under it
  let held = $state<number | null>(null);
  const among = (id: number | null) => features.find((each) => each.id === id);
  const feature = $derived(among(picked) ?? among(asked) ?? among(held) ?? features[0]!);
  let answer = $state<Answered | null>(null);
  let typed = $state('');
  // the part that is measured is the last one made that the size is on, or the first cut since its row was moved, unless somebody says another
  const lastOf = (made: number) => made - ((made - feature.inCycle.place) % feature.inCycle.parts);
  const since = $derived(job && feature.part === lastOf(job.made) ? partsThatWait(outbox.untold, job.id) : 0);
  const part = new Proposed(() => String(since ? lastOf(job!.made + since) : feature.part));
  const where = $derived.by(() => {
    const number = Number(part.value);
    const placed = feature.inCycle.parts > 1 && number === lastOf(number) ? feature.inCycle : null;
    const at = onPallet(placed, palletOf(pallets, number));
    return at && whereCut(at);
  });
  const firstOff = new Proposed(() => setUp !== null && (setUp.parts?.includes(part.value) ?? true));
  /** It was asked for once: what was typed there stays, open or not. */
  let warm = $state(false);
  let field = $state<HTMLInputElement>();
  let said = $state<HTMLElement>();

  /** What somebody begins to type is meant for the size and the part that stand beside it, whatever comes first meanwhile. */
  let begun = $state.raw<{ id: number; name: string } | null>(null);
  function begin() {
    answer = null;
    held = feature.id;
    begun = feature;
    part.hold();
    firstOff.hold();
  }
  /** Another part, or another size, is measured next. */
  function another() {
    part.release();
    firstOff.release();
  }
  const leave = () => {
    if (begun !== null && typed.trim() !== '') onAside({ typed, name: begun.name });
  };
  // another program runs: what was typed for the last is no size of this one, and is not lost unsaid
  $effect.pre(() => {
    if (begun === null || features.some(({ id }) => id === begun!.id)) return;
    leave();
    typed = '';
    begun = null;
    another();
  });

  // nor where nothing at all is measured of the next
  onDestroy(leave);

  function choose(id: number) {
    picked = id;
    answer = null;
    typed = '';
    another();
    field?.focus();
  }
  function answered(done: Answered, sent: FormData) {
    held = feature.id;
    answer = done;
    if (done.readingId !== null && sent.get('measured') === typed) {
      typed = '';
      another();
    }
    // the answer is what the reading was typed for: it stands in the middle of the screen
    void tick().then(() => said?.scrollIntoView({ block: 'center' }));
  }
  function next() {
    held = null;
    picked = features[0]!.id === feature.id ? (features[1]?.id ?? feature.id) : features[0]!.id;
    answer = null;
    field?.focus();
  }
  const limits = (each: Feature) =>
    `${formatLength(each.nominal, unit)} ${formatLength(each.upper, unit, { sign: 'always' })}/${formatLength(each.lower, unit, { sign: 'always' })}`;
</script>

<section class="plate @container" aria-labelledby="measure">
  <div class="flex flex-wrap items-baseline gap-x-4">
    <h2 id="measure" class="text-xl">{feature.name}</h2>
    <p class="small-words">{nextReadingWords(feature)}</p>
  </div>
  <p class="small-words">
    {limits(feature)}
    {unit}, {FEATURE_WORDS[feature.kind]}, T{feature.tool} row {feature.row}{#if feature.gauge}, with
      <a class="underline" href="/gauges">{feature.gauge}</a>{/if}
  </p>
  <div class="mt-2 grid gap-4 @md:grid-cols-[1fr_13rem]">
    <div class="grid content-start gap-3">
      {#if mayMeasure}
        {#key feature.id}
          <ActionForm
            action="?/take"
            class="grid gap-3"
            label="Type a reading"
            keep
            onDone={answered}
            keptAs={() => `${feature.name}, part ${part.value}: ${typed} ${unit}`}
            onKept={() => {
              typed = '';
              answer = null;
              another();
            }}
          >
            {#snippet children({ busy })}
              <input type="hidden" name="feature" value={feature.id} />
              <input type="hidden" name="program" value={program.id} />
              <input type="hidden" name="job" value={job?.id ?? ''} />
              <NumberField
                name="measured"
                label="Reading, {unit}"
                class="h-16 font-display text-3xl"
                bind:value={typed}
                bind:field
                hint="mm, in or thou may follow it; sums such as 1.3791-0.0004 too."
                oninput={begin}
                required
              />
              <div class="flex flex-wrap items-end gap-4">
                <div class="w-24">
                  <NumberField
                    name="part"
                    label="Part"
                    whole
                    bind:value={
                      () => part.value,
                      (text) => {
                        part.value = text;
                        held = feature.id;
                      }
                    }
                    required
                  />
                </div>
                {#if where && part.value}<p class="pb-3">{where}</p>{/if}
                <label class="flex min-h-11 items-center gap-2"
                  ><input class="checkbox" type="checkbox" name="firstOff" bind:checked={firstOff.value} /> after
                  a set-up (first-off)</label
                >
                <label class="flex min-h-11 items-center gap-2"
                  ><input class="checkbox" type="checkbox" name="recut" /> cut again since the last correction</label
                >
              </div>
              <details ontoggle={() => (warm = true)}>
                <summary class="inline-flex min-h-11 cursor-pointer items-center underline"
                  >Measured warm?</summary
                >
                {#if warm}
                  {#await import('./Warm.svelte') then { default: Warm }}<Warm />{/await}
                {/if}
              </details>
              {#if answer?.answer.verdict === 'measureAgain'}
                <LookedAgain about={answer.answer.about} />
              {/if}
              <button class="btn h-14 text-lg btn-primary" disabled={busy}>What do I do?</button>
            {/snippet}
          </ActionForm>
        {/key}
      {:else}<p>Operators, setters and inspectors type readings.</p>{/if}
    </div>
    <div class="max-sm:hidden">
      <Ladder
        {...feature}
        {unit}
        reading={feature.readings.at(-1)?.measured ?? null}
        uncertainty={nanometres(Math.round(feature.deadBand / 2))}
        expected={answer?.answer.verdict === 'change' ? answer.answer.expectedSize : null}
        height={220}
      />
    </div>
  </div>
  {#if answer}
    <div class="mt-3 mb-5 grid gap-2" bind:this={said}>
      <ReadingAnswer {answer} {machine} />
      {#if answer.readingId !== null && features.length > 1}<button
          type="button"
          class="btn h-12 justify-self-start px-6"
          onclick={next}>Next feature</button
        >{/if}
    </div>
  {/if}
  {#if feature.readings.length > 1}
    <!-- the drawing of charts is the largest part of this page, and the last that anybody looks for -->
    {#await import('../machine/RunChart.svelte')}<div
        class="h-60"
      ></div>{:then { default: RunChart }}<RunChart {feature} {unit} />{/await}
    <a
      class="inline-flex min-h-11 items-center underline"
      href="/programs/{program.id}/drift?feature={feature.id}">Where it goes, and how often to measure</a
    >{/if}

  {#if mayMeasure}<WrongReading
      machine={machine.id}
      readings={feature.readings}
      {unit}
      name={feature.name}
    />{/if}
  {#if cut}<SetUpAgain machine={machine.id} {cut} {off} {mayRun} />{/if}
  <details class="mt-2" open={features.length > 1}>
    <summary class="inline-flex min-h-11 cursor-pointer items-center font-semibold">
      {program.number}
      {program.title}: what is measured
    </summary>
    {#if programs.length > 1}
      <select
        class="select mt-1"
        aria-label="Program"
        value={program.id}
        onchange={(event) => void goto(`?program=${event.currentTarget.value}`)}
      >
        {#each programs as each (each.id)}<option value={each.id}>{each.number} {each.title}</option>{/each}
      </select>
    {/if}
    <ul class="ruled-list mt-1">
      {#each features as each (each.id)}
        <li>
          <button
            type="button"
            class={[
              'flex min-h-12 w-full flex-wrap items-center gap-x-3 px-2 text-left',
              each.id === feature.id ? 'bg-primary text-primary-content' : 'hover:bg-base-300',
            ]}
            aria-pressed={each.id === feature.id}
            onclick={() => choose(each.id)}
          >
            <span class="flex-1 font-semibold">{each.name}</span>
            <span class="font-narrow text-sm"
              >{each.why === 'afterCorrection'
                ? 'corrected'
                : each.why === 'afterRenewal'
                  ? 'new edge'
                  : each.why === 'due'
                    ? 'due'
                    : each.ago === null || each.why === 'placeNotYet' || each.why === 'palletNotYet'
                      ? 'not yet'
                      : each.ago === 0
                        ? 'this part'
                        : `${each.ago} ago`}</span
            >
          </button>
        </li>
      {/each}
    </ul>
  </details>
</section>
