<script lang="ts">
  import type { Shift } from '$core/shift/calendar';
  import Disc from '../Disc.svelte';
  import { clock, shortTime } from '../time';
  import { mostUrgent } from '$core/shift/run-out';
  import type { MachineForecast } from '$core/shift/leaf';
  import { likelyWords, sinceTold, toldWords } from '$core/shift/likely-made';

  interface Props {
    forecast: MachineForecast[];
    shift: Shift;
    now: Date;
    zone: string;
  }
  let { forecast, shift, now, zone }: Props = $props();

  const all = $derived(
    forecast.flatMap((machine) => machine.runsOut.map((tool) => ({ ...tool, machine }))).sort(mostUrgent),
  );
  /** When somebody has to see to it: of what runs out while nobody is there, as they go. */
  const within = ({ at, gone }: { at: Date | null; gone: Date | null }) =>
    at !== null && ((gone && gone > now ? gone : at) < shift.end || gone?.getTime() === shift.end.getTime());
  const before = $derived(all.filter(within));
  const later = $derived(all.filter((tool) => !within(tool)).slice(0, 6));
  const after = $derived(before.filter(({ at }) => at! >= shift.end).length);
  const headline = $derived(
    before.length === 0
      ? 'Nothing runs out before the bell'
      : `${before.length === after ? 'Nothing runs' : `${before.length - after} ${before.length - after === 1 ? 'tool runs' : 'tools run'}`} out before the bell${after > 0 ? `, ${after} ${before.length === after ? '' : 'more '}after it with nobody here` : ''}`,
  );
  const nextJobs = $derived(forecast.filter((machine) => machine.next));
  /** Machines of which nobody, and no control, counted what they cut since, as far as a tool of theirs stands here. */
  const behind = $derived(
    forecast.filter(
      ({ machineId, likely }) =>
        likely && sinceTold(likely) > 0 && all.some(({ machine }) => machine.machineId === machineId),
    ),
  );
</script>

{#snippet meanwhile(tool: (typeof all)[number])}
  {#if tool.flag === 'broken'}inspect the part first
  {:else if tool.gone}renew it before {clock(tool.gone, zone)}, nobody is here then{tool.sister
      ? `: ${tool.sister}`
      : ''}
  {:else if tool.sister}load {tool.sister}
  {:else}build another{/if}{#if tool.afterParts > 0}, part {tool.machine.job!.made + tool.afterParts} is its last{/if}
{/snippet}

<section aria-labelledby="runs-out">
  <h2 id="runs-out" class="heading">{headline}</h2>
  {#if all.length > 0}
    <div class="mt-1 overflow-x-auto">
      <table class="ruled">
        <thead>
          <tr
            ><th scope="col">At</th><th scope="col">Machine</th><th scope="col">T</th><th scope="col">Tool</th
            ><th scope="col">Left</th><th scope="col" class="max-sm:hidden">Meanwhile</th></tr
          >
        </thead>
        <tbody>
          {#each [...before, ...later] as tool (tool.assemblyId)}
            <tr class={within(tool) ? '' : 'opacity-80'}>
              <td
                class={[
                  'font-display text-lg font-semibold whitespace-nowrap',
                  within(tool) && 'text-accent',
                ]}
              >
                {#if tool.flag === 'expired'}now{:else if tool.byNow}by now{:else if tool.flag}{tool.flag}{:else if tool.at}{within(
                    tool,
                  )
                    ? clock(tool.at, zone)
                    : shortTime(tool.at, now, zone)}{:else}–{/if}
              </td>
              <td
                ><a class="underline" href="/machines/{tool.machine.machineId}">{tool.machine.machine}</a></td
              >
              <td class="font-semibold">{tool.tool}</td>
              <td
                ><a class="underline" href="/tools/{tool.assemblyId}">{tool.number}</a>
                {tool.name}<span class="block text-sm sm:hidden">{@render meanwhile(tool)}</span></td
              >
              <td
                ><Disc
                  remaining={tool.remaining}
                  fullLife={tool.fullLife}
                  basis={tool.basis}
                  flag={tool.flag}
                  size={18}
                /></td
              >
              <td class="max-sm:hidden">{@render meanwhile(tool)}</td>
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
  {/if}
  {#if behind.length > 0}
    <p class="small-words mt-2">
      Reckoned from the last count, as if the machines had run on: {behind
        .map(
          (each) =>
            `${each.machine} ${toldWords(each.likely!.from, now, zone)}, ${likelyWords(each.likely!)}`,
        )
        .join('; ')}.
    </p>
  {/if}
  {#if nextJobs.length > 0}
    <ul class="mt-3 grid gap-1 font-narrow">
      {#each nextJobs as machine (machine.machineId)}
        <li>
          <b>{machine.machine}</b> next:
          <a class="underline" href="/programs/{machine.next!.programId}?quantity={machine.next!.quantity}"
            >{machine.next!.number} {machine.next!.title}</a
          >,
          {#if machine.next!.verdict === 'ready'}ready
          {:else}<span class={machine.next!.verdict === 'look' ? '' : 'font-semibold text-accent'}
              >{{ stop: 'not ready', unknown: 'cannot tell', look: 'to be looked at' }[
                machine.next!.verdict
              ]}, {machine.next!.findings}
              {machine.next!.findings === 1 ? 'finding' : 'findings'}</span
            >{/if}{#if machine.ends && machine.job}; {machine.job.number} ends {shortTime(
              machine.ends,
              now,
              zone,
            )}{/if}
        </li>
      {/each}
    </ul>
  {/if}
</section>
