<script lang="ts">
  import { answerHead } from '../machine/answer-head';
  import LookedAgain from '../machine/LookedAgain.svelte';
  import { FEATURE_WORDS, type FeatureKind, type Limits } from '$core/inspection/feature';
  import { nextReadingWords, type NextReading } from '$core/inspection/next-reading';
  import { REGISTER_WORDS } from '$core/inspection/register-words';
  import { formatLength } from '$core/units/format-length';
  import type { Length, LengthUnit } from '$core/units/length';
  import ActionForm from '../ActionForm.svelte';
  import type { Answered } from '../machine/answered';
  import NumberField from '../NumberField.svelte';
  import { registerShow } from '../register';
  import { typingElsewhere } from '../typing';

  interface Props {
    machine: { id: number; unit: LengthUnit; increment: Length };
    feature: Limits &
      Omit<NextReading, 'id'> & {
        readings: { part: number; measured: Length; person: string }[];
        id: number;
        name: string;
        kind: FeatureKind;
        tool: number;
        row: number;
        gauge: string;
      };
    programId: number;
    jobId: number | null;
    part: string;
    /** In which place of the cycle; empty: there is but one. */
    place: string;
    /** On which pallet; empty: there are none. */
    pallet: string;
    /** Which part of the cycle it is on, where that is not this one; null: it is on this. */
    other: string | null;
    firstOff: boolean;
    typed: string;
    field: HTMLInputElement | undefined;
    /** The gauges are connected, and one of them can be asked. */
    gauges: boolean;
    onAnswered: () => void;
  }
  /** One size on the sheet of a part: its limits, its field, and the answer beside it. */
  let {
    machine,
    feature,
    programId,
    jobId,
    part,
    place,
    pallet,
    other,
    firstOff,
    typed = $bindable(),
    field = $bindable(),
    gauges,
    onAnswered,
  }: Props = $props();
  const { unit } = $derived(machine);
  const show = $derived(registerShow(machine));
  let answer = $state<Answered | null>(null);
  const last = $derived(feature.readings.at(-1));
  const said = $derived(answer?.answer);
  let item = $state<HTMLElement>();
  /** What the gauge sends is answered from the field, unless somebody types elsewhere. */
  const goTo = () => {
    if (!typingElsewhere(item)) field?.focus();
  };
  function again() {
    if (typed.trim() !== '' && !typed.trim().endsWith(';')) typed = `${typed.trim()}; `;
    field?.focus();
  }
</script>

<li
  bind:this={item}
  class="grid gap-x-5 gap-y-2 border-b border-base-300 py-3 md:grid-cols-[13rem_1fr_1.2fr]"
>
  <div>
    <h3 class="font-display text-lg leading-tight font-bold">{feature.name}</h3>
    <p class="number">
      {formatLength(feature.nominal, unit)}
      {formatLength(feature.upper, unit, { sign: 'always' })}/{formatLength(feature.lower, unit, {
        sign: 'always',
      })}
    </p>
    <p class="small-words">
      {FEATURE_WORDS[feature.kind]}, T{feature.tool} row {feature.row}{feature.gauge
        ? `, ${feature.gauge}`
        : ''}<br />{other === null ? nextReadingWords(feature) : ''}
    </p>
    {#if other !== null}<p class="font-semibold">{other}</p>{/if}
  </div>
  <div class="grid content-start gap-2">
    <ActionForm
      action="/machines/{machine.id}/now?/take"
      class="grid gap-2"
      label={feature.name}
      keep
      onDone={(done: Answered, sent) => {
        answer = done;
        if (done.readingId === null || sent.get('measured') !== typed) return;
        typed = '';
        onAnswered();
      }}
      keptAs={() => `${feature.name}, part ${part}: ${typed} ${unit}`}
      onKept={() => {
        typed = '';
        answer = null;
        onAnswered();
      }}
    >
      {#snippet children({ busy })}
        <input type="hidden" name="feature" value={feature.id} />
        <input type="hidden" name="program" value={programId} />
        <input type="hidden" name="job" value={jobId ?? ''} />
        <input type="hidden" name="part" value={part} />
        <input type="hidden" name="place" value={place} />
        <input type="hidden" name="pallet" value={pallet} />
        {#if firstOff}<input type="hidden" name="firstOff" value="on" />{/if}
        <div class="flex items-end gap-2">
          <div class="flex-1">
            <NumberField
              name="measured"
              label="{feature.name}, {unit}"
              bare
              class="h-14 w-full font-display text-2xl"
              bind:value={typed}
              bind:field
              oninput={() => (answer = null)}
            />
          </div>
          <button class="btn h-14 px-5 btn-primary" disabled={busy || typed.trim() === ''}>Answer</button>
        </div>
        {#if answer && said?.verdict === 'measureAgain'}
          <LookedAgain about={said.about} />
        {/if}
      {/snippet}
    </ActionForm>
    <div class="flex flex-wrap gap-2">
      <button type="button" class="btn" disabled={typed.trim() === ''} onclick={again}
        >One more reading of it</button
      >
      {#if gauges && feature.gauge}
        <ActionForm action="?/press" label="Ask the gauge for {feature.name}" onDone={goTo}>
          {#snippet children({ busy })}
            <input type="hidden" name="feature" value={feature.id} />
            <button class="btn" disabled={busy} onclick={() => field?.focus()}>Ask the gauge</button>
          {/snippet}
        </ActionForm>
      {/if}
    </div>
  </div>
  <div role="status" aria-label="Answer to {feature.name}">
    {#if !answer && last}<p class="small-words">
        Last: {formatLength(last.measured, unit)}, part {last.part}, {last.person}
      </p>{/if}
    {#if answer && said}
      {#if said.partOut && said.verdict !== 'measureAgain'}<p class="font-semibold text-accent">
          Outside its limits: hold this part.
        </p>{/if}
      {#if answer.conformity === 'cannotTell'}<p class="font-semibold">
          In or out nobody can tell with this gauge.
        </p>{/if}
      {#if said.verdict === 'change'}
        {#each said.rows as row (row.register)}<p class="font-display text-xl font-bold">
            {REGISTER_WORDS[row.role]}, row {row.row}: {show(row.change)}
          </p>{/each}
      {:else}<p class="font-display text-xl font-bold">
          {answerHead(said)}
        </p>{/if}
      <p>{said.reason}</p>
      {#each answer.proposalIds as id, i (id)}<a
          class="mr-4 inline-flex min-h-11 items-center underline"
          href="/corrections/{id}">To the correction{answer.proposalIds.length > 1 ? ` ${i + 1}` : ''}</a
        >{/each}
    {/if}
  </div>
</li>
