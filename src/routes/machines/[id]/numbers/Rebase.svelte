<script lang="ts">
  import { goto } from '$app/navigation';
  import { formatLength, formatWithUnit } from '$core/units/format-length';
  import { subtract } from '$core/units/length';
  import ActionForm from '$lib/ActionForm.svelte';
  import Field from '$lib/Field.svelte';

  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
  const { machine } = $derived(data);
  const unit = $derived(machine.unit);
  const present = $derived(
    machine.lengthSchool === 'touchOff' ? machine.planeConstant : machine.masterLength,
  );
  const unmeasured = $derived(
    data.lengths.flatMap(({ tool, gaugeLength }) => (gaugeLength === null ? [tool] : [])),
  );
  const referenceWords = $derived(
    machine.lengthSchool === 'touchOff' ? 'plane constant' : 'length of the master tool',
  );
</script>

<section class="mt-8" aria-labelledby="rebase">
  <h2 id="rebase" class="text-2xl">When the {referenceWords} changes</h2>
  <form class="mt-2 flex max-w-xl items-end gap-2" method="GET">
    <label class="grid flex-1 gap-1"
      ><span>New {referenceWords}, {unit} (now {formatLength(present, unit)})</span><input
        class="input"
        name="reference"
        data-pad="length"
        defaultValue={data.reference ?? ''}
        autocomplete="off"
      /></label
    ><input type="hidden" name="seen" value={data.entry} /><button class="btn">Show what changes</button>
  </form>
  {#if data.referenceProblem}<p class="caution mt-2">{data.referenceProblem}</p>{/if}
  {#if data.rebased && data.lengthSince}<p class="caution mt-2" role="alert">
      {data.lengthSince.person} recorded the length of row {data.lengthSince.row} since this table was shown. Show
      what changes once more, and key that row anew.
    </p>{/if}
  {#if data.rebased && unmeasured.length > 0}<p class="small-words mt-2">
      At zero, and not known to be measured: {unmeasured.map((tool) => `T${tool}`).join(', ')}. They stay at
      zero.
    </p>{/if}
  {#if data.rebased}
    <div class="mt-3 grid gap-8 lg:grid-cols-[1.35fr_1fr]">
      <table class="ruled">
        <thead
          ><tr
            ><th scope="col">Row</th><th scope="col">Tool</th><th scope="col" class="number">Before</th><th
              scope="col"
              class="number">After</th
            ><th scope="col" class="number">Change</th></tr
          ></thead
        >
        <tbody
          >{#each data.rebased as line (line.row)}<tr
              ><th scope="row">{line.row}</th><td>{line.tool ? `T${line.tool}` : 'no tool: left over?'}</td
              ><td class="number">{formatLength(line.before, unit)}</td><td class="number font-semibold"
                >{formatLength(line.after, unit)}</td
              ><td class="number"
                >{formatLength(subtract(line.after, line.before), unit, { sign: 'always' })}</td
              ></tr
            >{/each}</tbody
        >
      </table>
      {#if data.mayRebase}
        <ActionForm
          action="?/rebase"
          class="plate grid content-start gap-3 self-start"
          label="Re-base"
          onDone={() => void goto('?')}
        >
          {#snippet children({ busy })}
            <input type="hidden" name="before" value={present} />
            <input type="hidden" name="value" value={data.reference} />
            <input type="hidden" name="entry" value={data.seen} />
            <p class="caution text-sm">
              Back up the control’s table first. The tools have not changed: every row moves by one amount,
              and the work offset moves by the same amount the other way.
            </p>
            <Field label="Why it changed"><input class="input" name="why" required maxlength="300" /></Field>
            <label class="flex min-h-11 items-center gap-2"
              ><input class="checkbox" type="checkbox" name="keyed" value="yes" /> All {data.rebased!.length} rows
              are keyed and read back</label
            >
            <p class="caution text-sm">
              First approach after this: single block, rapids low, a hand on feed hold, distance-to-go against
              a scale.
            </p>
            <button class="btn btn-primary" disabled={busy}
              >Re-base {data.rebased!.length} rows to {formatWithUnit(present, unit)} → {data.reference}</button
            >
          {/snippet}
        </ActionForm>
      {:else}<p class="small-words">Only the cell lead re-bases a machine.</p>{/if}
    </div>
  {/if}
</section>
