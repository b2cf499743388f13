<script lang="ts">
  import type { CutByNow } from '$core/shift/likely-made';
  import type { ReadBackAnswer } from '$core/correction/read-back';
  import type { Length, LengthUnit } from '$core/units/length';
  import ActionForm from '../ActionForm.svelte';
  import NumberField from '../NumberField.svelte';
  import { outbox } from '../offline/outbox.svelte';
  import { readBackWaits } from '../offline/waits';
  import { registerShow } from '../register';
  import FirstPart from './FirstPart.svelte';
  import NcText from './NcText.svelte';
  import { REGISTER_WORDS } from '$core/inspection/register-words';

  interface Props {
    correction: {
      id: number;
      machine: string;
      row: number;
      registerKind: string;
      tool: number;
      from: Length;
      change: Length;
      to: Length;
      unit: LengthUnit;
      increment: Length;
      approvedBy: string | null;
      lastStop: string | null;
      held: string | null;
      ending: string | null;
    };
    /** The last part that is counted or measured on the running job; null where none runs. */
    cut: CutByNow | null;
    text: string | null;
    mayKey: boolean;
    /** It moves far: what the row shows is typed twice. */
    twice: boolean;
    /** It was keyed, and is being read back: nothing on the page says what it should show. */
    keyed: boolean;
  }
  let { correction, cut, text, mayKey, twice, keyed = $bindable() }: Props = $props();
  const { unit } = $derived(correction);
  let answer = $state<ReadBackAnswer | null>(null);
  /** What it shows was typed, and waits to be sent. */
  const waits = $derived(readBackWaits(outbox.untold, correction.id));
  let shown = $state('');
  let again = $state('');
  const signed = $derived(registerShow(correction));
  /** Parts since speak against it: what the row shows is asked before anything is keyed. */
  const held = $derived(correction.held !== null);
</script>

<section class="plate" aria-labelledby="key-card">
  <h2 id="key-card" class="text-xl">
    {held ? `Read row ${correction.row} of ${correction.machine} first` : `Key on ${correction.machine}`}
  </h2>
  {#if waits}
    <p class="mt-2 text-lg">
      Keyed. What row {correction.row} shows waits on this device to be sent; it is compared then. Nothing more
      is keyed on it until that is answered.
    </p>
  {:else if held}
    <p class="caution mt-2 text-lg">{correction.held}</p>
    <p class="mt-2">
      {REGISTER_WORDS[correction.registerKind]}, <b>row {correction.row}</b>, T{correction.tool}
    </p>
  {:else if !keyed}
    {#if correction.ending}<p class="caution mt-2 text-lg">{correction.ending}</p>{/if}
    <dl class="mt-2 grid grid-cols-[auto_1fr] items-baseline gap-x-5">
      <dt>Page</dt>
      <dd class="font-display text-2xl font-semibold">{REGISTER_WORDS[correction.registerKind]}</dd>
      <dt>Row</dt>
      <dd class="font-display text-4xl font-bold">{correction.row}</dd>
      <dt>It shows</dt>
      <dd class="font-display text-2xl">{signed(correction.from)}</dd>
      <dt>Make it</dt>
      <dd class="font-display text-6xl leading-tight font-bold text-accent">{signed(correction.to)}</dd>
      <dt>which is</dt>
      <dd class="text-lg">{signed(correction.change)} {unit}, approved by {correction.approvedBy}</dd>
    </dl>
    {#if text}
      <NcText {text} name="{correction.machine} row {correction.row}" />
    {/if}
    <p class="caution mt-3 text-sm">
      Check T{correction.tool} and row {correction.row} twice. If “it shows” is not what you see, key nothing and
      ask.
    </p>

    {#if mayKey}<button
        type="button"
        class="btn mt-4 h-14 w-full text-lg btn-primary"
        onclick={() => (keyed = true)}>I have keyed it</button
      >{/if}
  {:else}
    <p class="mt-2 text-lg">
      {REGISTER_WORDS[correction.registerKind]}, <b>row {correction.row}</b>. The numbers are put away: type
      what the screen shows, not what it should show.
      <button type="button" class="underline" onclick={() => (keyed = false)}>Show them again</button>
    </p>
  {/if}
  {#if mayKey && (keyed || held) && !waits}
    <ActionForm
      action="?/readBack"
      class="mt-4 grid gap-2"
      label="Read back"
      keep
      onDone={(done: ReadBackAnswer) => (answer = done)}
      keptAs={() => `${correction.machine}, row ${correction.row} shows ${shown}`}
      onKept={() => {
        shown = again = '';
        keyed = false;
      }}
    >
      {#snippet children({ busy })}
        <NumberField
          name="shown"
          label="{held ? 'Read' : 'Now read'} row {correction.row} off the control and type what it shows"
          class="h-16 font-display text-3xl"
          bind:value={shown}
          oninput={() => (answer = null)}
          required
        />
        {#if twice}<NumberField
            name="again"
            label="It moves far: look away, look again, and type it once more"
            class="h-16 font-display text-3xl"
            bind:value={again}
            oninput={() => (answer = null)}
            required
          />{/if}
        {#if held}<FirstPart {cut} label="If it was keyed: first part cut with it" unknown />{:else}<FirstPart
            {cut}
          />{/if}
        <button class="btn h-14 text-lg btn-primary" disabled={busy}>The control shows this</button>
      {/snippet}
    </ActionForm>
    {#if answer && !answer.kept}
      <div role="alert" class="caution mt-3">
        <p class="text-lg font-semibold">
          {'reading' in answer ? `Stop. ${answer.reading.reason}` : answer.overtaken}
        </p>
        {#if 'reading' in answer}<p>{answer.reading.remedy}</p>{/if}
      </div>
    {:else if correction.lastStop}<p class="caution mt-3">Last try: {correction.lastStop}</p>{/if}
  {/if}
</section>
