<script lang="ts">
  import type { Verdict } from '$core/readiness/check';
  import { mayStand } from '$core/readiness/waivers';
  import type { Finding } from '$core/readiness/question';
  import LetStand from './LetStand.svelte';
  import Settle from './Settle.svelte';

  interface Props {
    findings: Finding[];
    verdict: Verdict;
    quantity: number;
    /** Jobs that are made first, with what is left of each. */
    ahead: readonly { number: string; left: number }[];
    machine: { id: number; name: string };
    /** Tool calls that were read. */
    tools: number;
    maySettle: boolean;
    /** May say what the machine's codes are. */
    mayEdit: boolean;
    /** May let stand what is only to be looked at. */
    mayWaive: boolean;
    onLine: (line: number) => void;
  }
  let { findings, verdict, tools, quantity, ahead, machine, maySettle, mayEdit, mayWaive, onLine }: Props =
    $props();
  const heads = {
    ready: 'Ready',
    look: 'Somebody must look',
    unknown: 'Cannot tell',
    stop: 'Not ready',
  };
  const MARKS = {
    stop: ['■', 'stops the job'],
    unknown: ['?', 'cannot be told'],
    look: ['□', 'to be looked at'],
    settled: ['✓', 'settled'],
  } as const;
  const MENDED_AT_MACHINE = new Set(['missing', 'notMeasured', 'zeroLength', 'broken', 'expired', 'locked']);
  /** Doubts that are shown at once. */
  const SHOWN = 30;
  let all = $state(false);
  const shown = $derived(all ? findings : findings.slice(0, SHOWN));
  const settled = $derived(findings.filter(({ weight }) => weight === 'settled').length);
</script>

<section aria-labelledby="ready">
  <div class="flex flex-wrap items-center gap-x-4 gap-y-2">
    <h2
      id="ready"
      class={[
        'font-display text-2xl font-bold',
        (verdict === 'stop' || verdict === 'unknown') && 'text-accent',
      ]}
    >
      {tools === 0 ? 'A subprogram' : heads[verdict]}
    </h2>
    <form class="flex items-center gap-2" method="GET">
      <label class="flex items-center gap-2"
        >for <input
          class="input w-24"
          name="quantity"
          inputmode="numeric"
          defaultValue={quantity}
          aria-label="Parts to be made"
        />
        parts on {machine.name}</label
      >
      <button class="btn">Check</button>
    </form>
  </div>
  {#if ahead.length > 0}<p class="small-words mt-1">
      Lives are counted after what is made first: {ahead
        .map(({ number, left }) => `${number}, ${left} to go`)
        .join('; ')}.
    </p>{/if}
  {#if tools === 0}<p class="mt-2">
      It calls no tool by itself: it is read with whatever program calls it.
    </p>{:else if verdict === 'ready'}<p class="mt-2">
      Every tool is in, measured on its own row, whole, and has life enough for all {quantity} parts{settled >
      0
        ? `, with what people have said of ${settled === 1 ? 'one line' : `${settled} lines`} below`
        : ''}.
    </p>{:else if verdict === 'unknown'}<p class="mt-2">
      Nothing speaks against it that is known, and not all of it is known: what is marked with ? could change
      a tool, a row, a speed, a depth or a life.
    </p>{/if}
  <ul class="ruled-list mt-2">
    {#each shown as finding, i (i)}
      {@const [mark, words] = MARKS[finding.weight]}
      <li
        class="grid grid-cols-[2.6rem_minmax(0,1fr)_auto] items-start gap-x-3 py-2"
        data-finding={finding.line}
        tabindex="-1"
      >
        <span class="font-display text-lg font-semibold"
          >{finding.tool === null ? '' : `T${finding.tool}`}</span
        >
        <div>
          <p class={finding.weight === 'stop' || finding.weight === 'unknown' ? 'font-semibold' : ''}>
            <span
              class={finding.weight === 'stop' || finding.weight === 'unknown' ? 'text-accent' : ''}
              role="img"
              aria-label={words}>{mark}</span
            >
            {finding.sentence}
          </p>
          <p class="small-words">{finding.remedy}</p>
          {#if finding.doubt && finding.weight !== 'settled' && maySettle}{#key `${finding.line} ${finding.sentence}`}<Settle
                doubt={finding.doubt}
                machine={mayEdit ? machine.name : null}
              />{/key}{/if}
          {#if mayStand(finding) && mayWaive}{#key finding.sentence}<LetStand
                code={finding.code}
                sentence={finding.sentence}
              />{/key}{/if}
        </div>
        <div class="flex gap-1.5">
          {#if MENDED_AT_MACHINE.has(finding.code)}<a
              class="btn btn-sm"
              href="/machines/{machine.id}?tool={finding.tool}">Machine</a
            >{/if}
          <button type="button" class="btn btn-sm" onclick={() => onLine(finding.line)}
            >Line {finding.line}</button
          >
        </div>
      </li>
    {/each}
  </ul>
  {#if findings.length > SHOWN}<button type="button" class="btn mt-2" onclick={() => (all = !all)}
      >{all ? 'Show fewer' : `Show all ${findings.length}`}</button
    >{/if}
</section>
