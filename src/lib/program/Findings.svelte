<script lang="ts">
  import type { Finding } from '$core/readiness/question';

  interface Props {
    findings: Finding[];
    verdict: 'ready' | 'look' | 'stop';
    quantity: number;
    machine: { id: number; name: string };
    onLine: (line: number) => void;
  }
  let { findings, verdict, quantity, machine, onLine }: Props = $props();
  const heads = { ready: 'Ready', look: 'Somebody must look', stop: 'Not ready' };
  const MENDED_AT_MACHINE = new Set(['missing', 'notMeasured', 'zeroLength', 'broken', 'expired', 'locked']);
</script>

<section aria-labelledby="ready">
  <div class="flex flex-wrap items-center gap-x-4 gap-y-2">
    <h2 id="ready" class={['font-display text-2xl font-bold', verdict === 'stop' && 'text-accent']}>
      {heads[verdict]}
    </h2>
    <form class="flex items-center gap-2" method="GET">
      <label class="flex items-center gap-2"
        >for <input
          class="input w-24"
          name="quantity"
          inputmode="numeric"
          value={quantity}
          aria-label="Parts to be made"
        />
        parts on {machine.name}</label
      >
      <button class="btn">Check</button>
    </form>
  </div>
  {#if findings.length === 0}<p class="mt-2">
      Every tool is in, measured on its own row, whole, and has life enough for all {quantity} parts.
    </p>{/if}
  <ul class="ruled-list mt-2">
    {#each findings as finding, i (i)}
      <li class="grid grid-cols-[2.6rem_1fr_auto] items-start gap-x-3 py-2">
        <span class="font-display text-lg font-semibold">T{finding.tool}</span>
        <div>
          <p class={finding.weight === 'stop' ? 'font-semibold' : ''}>
            {#if finding.weight === 'stop'}<span class="text-accent" aria-label="stops the job">■</span
              >{:else}<span aria-label="to be looked at">□</span>{/if}
            {finding.sentence}
          </p>
          <p class="small-words">{finding.remedy}</p>
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
</section>
