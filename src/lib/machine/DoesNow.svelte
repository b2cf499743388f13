<script lang="ts">
  import { CLOCK_OFF, doing, stateWords, type MachineState } from '$core/agent/machine-state';
  import { shortTime } from '../time';
  import { states } from './states.svelte';

  interface Props {
    machineId: number;
    /** As it was when the page was loaded; what is heard since takes its place. */
    heard: {
      state: MachineState;
      problem: string | null;
      gap: string | null;
      gapAt: Date | null;
      clockOff: number | null;
      seenAt: Date;
    };
    now: Date;
    zone: string;
    /** The next tool that runs out. */
    next?: { tool: number; at: Date | null } | null;
    /** On a list only what it does. */
    short?: boolean;
  }
  let { machineId, heard, now, zone, next = null, short = false }: Props = $props();
  const current = $derived(states[machineId] ?? heard);
  const since = $derived(current.state.since === null ? NaN : Date.parse(current.state.since));
  const minutes = $derived(
    next?.at ? Math.max(0, Math.round((next.at.getTime() - now.getTime()) / 60_000)) : null,
  );
  /** A shift later nobody is helped by it. */
  const GAP_TOLD = 8 * 3_600_000;
  const recent = $derived(heard.gapAt !== null && now.getTime() - heard.gapAt.getTime() < GAP_TOLD);
  const warnings = $derived(current.state.alarms.filter(({ level }) => level === 'Warning'));
</script>

{#if current.problem !== null}
  <p class="caution" data-doing="unheard">
    Its control is not heard. {current.problem}
    {#if !short}What it did last: {stateWords(current.state)}{#if current === heard}, {shortTime(
          heard.seenAt,
          now,
          zone,
        )}{/if}.{/if}
  </p>
{:else}
  <p
    class={[
      doing(current.state) === 'stopped' && 'text-accent',
      doing(current.state) !== 'unknown' && 'font-semibold',
    ]}
    data-doing={doing(current.state)}
  >
    {stateWords(current.state)}{#if doing(current.state) !== 'cutting' && !Number.isNaN(since)}<span
        class="font-normal">, since {shortTime(new Date(since), now, zone)}</span
      >{/if}
    {#if minutes !== null && doing(current.state) === 'cutting'}<span class="small-words ml-2 font-normal"
        >T{next!.tool} runs out {minutes === 0
          ? 'now'
          : minutes < 90
            ? `in ${minutes} min`
            : shortTime(next!.at!, now, zone)}</span
      >{/if}
  </p>
  {#if !short}
    {#if warnings.length > 0}<p class="small-words">
        Its control warns: {warnings.map(({ text }) => text).join('; ')}
      </p>{/if}
    {#if recent}<p class="small-words">{heard.gap} ({shortTime(heard.gapAt!, now, zone)})</p>{/if}
    {#if heard.clockOff !== null && Math.abs(heard.clockOff) > CLOCK_OFF}<p class="small-words">
        The clock of its control is {Math.round(Math.abs(heard.clockOff) / 60_000)} min
        {heard.clockOff > 0 ? 'ahead' : 'behind'}.
      </p>{/if}
  {/if}
{/if}
