<script lang="ts">
  import ActionForm from '$lib/ActionForm.svelte';
  import Field from '$lib/Field.svelte';
  import NetProfile from '$lib/net/NetProfile.svelte';
  import NetTried from '$lib/net/NetTried.svelte';
  import { dayAndClock } from '$lib/time';
  import { formatLength, formatWithUnit } from '$core/units/format-length';
  import Lines from '$lib/program/Lines.svelte';

  let { data } = $props();
  const { machine, profile, kept } = $derived(data);
  const zone = $derived(data.cell!.timeZone);
  const usual = $derived(machine.unit === 'mm' ? '0.2' : '0.008');
  const lacking = $derived(data.programs.filter(({ without }) => without.length > 0));
</script>

<svelte:head><title>Net, {machine.name} · Tin Almanac</title></svelte:head>

<h2 class="mt-4 text-2xl">A check after each tool change</h2>
<p class="small-words mt-1">
  A subprogram that the machine runs itself: it stops where the length of the tool that is in is zero, is not
  as on record, or the tool is broken, locked or spent. It moves nothing.
</p>

{#if !profile}
  <p class="caution mt-3" role="status">
    Nobody has said yet how {machine.name} lets a program look at its offset table{data.mayEdit
      ? ': say it below, from its manual.'
      : '. The cell lead can.'}
  </p>
{:else}
  <div class="mt-3 grid gap-x-8 gap-y-6 lg:grid-cols-2">
    <div class="grid content-start gap-6">
      <section aria-labelledby="now">
        <h3 id="now" class="heading">{kept ? 'The one that was written last' : 'None was written yet'}</h3>
        {#if kept}
          <p class="mt-1" role="status">
            {kept.tools} tools, within {formatWithUnit(kept.tolerance, machine.unit)}; {kept.person}, {dayAndClock(
              kept.at,
              zone,
            )}.
            {data.since.length === 0
              ? 'The record is still as it was then.'
              : `${data.since.length === 1 ? 'One thing is' : `${data.since.length} things are`} otherwise now: write it anew.`}
          </p>
          {#if data.since.length > 0}
            <ul class="ruled-list mt-1">
              {#each data.since as change (change)}<li class="py-1.5">{change}</li>{/each}
            </ul>
          {/if}
          {#if kept.unmeasured.length > 0}
            <p class="caution mt-2">
              Not measured since loading, so that only a zero is caught: {kept.unmeasured
                .slice(0, 12)
                .map((tool) => `T${tool}`)
                .join(', ')}{kept.unmeasured.length > 12 ? ` and ${kept.unmeasured.length - 12} more` : ''}.
            </p>
          {/if}
        {/if}
        {#if data.mayWrite}
          <ActionForm action="?/write" label="Write the check" class="mt-3 flex flex-wrap items-end gap-3">
            {#snippet children({ busy })}
              <Field label="A length may differ by ({machine.unit})" small
                ><input
                  class="input w-28"
                  name="tolerance"
                  inputmode="decimal"
                  autocomplete="off"
                  required
                  defaultValue={kept ? formatLength(kept.tolerance, machine.unit) : usual}
                /></Field
              >
              <button class="btn btn-primary" disabled={busy}
                >{kept ? 'Write it anew' : 'Write it'} for {data.inMachine} tools</button
              >
            {/snippet}
          </ActionForm>
          <p class="small-words mt-1">
            Wide enough for what is corrected in the length itself, narrow enough for two digits that changed
            places. Wear rows are not looked at: they change all day.
          </p>
        {/if}
      </section>
      {#if data.tried && kept}<NetTried tried={data.tried} tools={kept.tools} />{/if}
      <section aria-labelledby="programs">
        <h3 id="programs" class="heading">Programs that call it</h3>
        {#if data.programs.length === 0}<p class="mt-1">No program of {machine.name} is on record.</p>{/if}
        <ul class="ruled-list mt-1">
          {#each data.programs as { id, number, changes, without } (id)}
            <li class="flex flex-wrap gap-x-3 py-1.5">
              <a class="font-semibold underline" href="/programs/{id}">{number}</a>
              <span
                >{without.length === 0
                  ? `after each of ${changes} changes`
                  : without.length === changes
                    ? `after none of ${changes} changes`
                    : `not after ${without
                        .slice(0, 5)
                        .map(({ tool, line }) => `T${tool} (line ${line})`)
                        .join(', ')}`}</span
              >
            </li>
          {/each}
        </ul>
        {#if lacking.length > 0}
          <p class="small-words mt-1">
            To be called behind the change and before the tool comes down in Z: behind the first Z it is too
            late.
          </p>
        {/if}
      </section>
    </div>
    <div class="grid content-start gap-6">
      {#if kept}
        <Lines
          title="O{profile.program}"
          lines={kept.text.trimEnd().split('\n')}
          words="#1 and #2 are its own: called by G65 it touches no variable of the program."
          file="/machines/{machine.id}/net/text"
        />
      {/if}
      <section aria-labelledby="how">
        <h3 id="how" class="heading">How it is put to use</h3>
        <ol class="mt-1 list-decimal pl-6">
          <li>Send O{profile.program} to the control, and protect it from being edited there.</li>
          <li>
            Behind each tool change of each program: <code class="font-mono">{profile.call}</code>. One
            subprogram, called everywhere, is changed once.
          </li>
          <li>Try it with no part in, rapids low, single block: every tool must go by.</li>
          <li>
            Set the length of one tool to zero on purpose and call it: it must stop. Set the length back, and
            read it back.
          </li>
          <li>After loading, measuring or changing a tool: write it anew, send it again.</li>
        </ol>
        <p class="caution mt-2">
          It is a net, not a lock: the first approach of a new tool stays in single block, rapids low, a hand
          on feed hold. The machine’s manual and the site’s rules come first.
        </p>
      </section>
    </div>
  </div>
{/if}
{#if data.mayEdit}<NetProfile {profile} kinds={data.kinds} machine={machine.name} />{/if}
