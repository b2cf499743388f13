<script lang="ts">
  import Field from '$lib/Field.svelte';
  import { AXES, OPENINGS } from '$core/changer/rack';
  import { formatLength, formatWithUnit } from '$core/units/format-length';
  import type { Length } from '$core/units/length';
  import ActionForm from '$lib/ActionForm.svelte';
  import RackSteps from '$lib/machine/RackSteps.svelte';

  import CaptureFork from './CaptureFork.svelte';

  let { data } = $props();
  const rack = $derived(data.rack);
  const unit = $derived(data.machine.unit);
  const written = (value: Length | null | undefined) =>
    value === null || value === undefined ? '' : formatLength(value, unit, { minus: '-' });
  let picked = $state<number | null>(null);
  const fork = $derived(picked ?? rack.forks.find((each) => !each.captured)?.fork ?? 1);
  const chosen = $derived(rack.forks.find((each) => each.fork === fork)!);
</script>

<svelte:head><title>Rack · {data.machine.name} · Tin Almanac</title></svelte:head>

<div class="mt-4 grid gap-8 lg:grid-cols-[1fr_1.2fr]">
  <section>
    <RackSteps steps={rack.steps} mayCommission={data.mayCommission} />
    <ActionForm action="?/set" class="plate mt-5 grid gap-3" label="Settings of the rack" keep>
      {#snippet children({ busy })}
        <h2 class="heading">Slide and clearance</h2>
        <input type="hidden" name="shown" value={JSON.stringify(rack.setting)} />
        <div class="grid gap-3 sm:grid-cols-2">
          <Field label="Forks open, seen from the front, towards"
            ><select class="select" name="opening" value={rack.setting.opening}
              ><option value="">not read yet</option>{#each OPENINGS as opening (opening)}<option
                  >{opening}</option
                >{/each}</select
            ></Field
          >
          <Field label="Spindle stop, s"
            ><input
              class="input"
              name="spindleSeconds"
              inputmode="decimal"
              defaultValue={rack.setting.spindleSeconds ?? ''}
              placeholder="12 to 15 at first"
            /></Field
          >
          {#each [['slideIn', 'In the fork'], ['slideClear', 'Flange just clear'], ['clearance', 'Clearance height'], ['bump', 'Bump at release']] as const as [name, words] (name)}
            <label class="grid gap-1"
              ><span>{words}, {unit}</span><input
                class="input"
                {name}
                autocomplete="off"
                defaultValue={written(rack.setting[name])}
              /></label
            >
          {/each}
        </div>
        <p class="text-lg" role="status">
          {rack.slide === null
            ? 'Slide distance: jog out along the opening until the flange clears, and type both.'
            : `Slide distance ${formatWithUnit(rack.slide, unit)}; never less.`}
        </p>
        {#if data.mayCommission}<button class="btn" disabled={busy}>Save these</button>{/if}
      {/snippet}
    </ActionForm>
  </section>

  <section>
    <h2 class="heading">Forks</h2>
    {#if rack.odd}<p class="caution mb-2 text-lg" role="alert">
        Fork {rack.odd.fork} stands {formatWithUnit(rack.odd.off, unit)} off the line of the others in {rack.odd.axis.toUpperCase()}:
        a mistake to look at before anything moves.
      </p>{:else if rack.straightness !== null}<p class="mb-2">
        The forks captured so far stand on one even line to within {formatWithUnit(rack.straightness, unit)}.
      </p>{/if}
    <div class="overflow-x-auto">
      <table class="ruled w-full font-narrow">
        <thead
          ><tr
            ><th>Fork</th>{#each AXES as axis (axis)}<th class="text-right">{axis.toUpperCase()} {unit}</th
              >{/each}<th>Captured</th></tr
          ></thead
        >
        <tbody>
          {#each rack.forks as each (each.fork)}
            <tr class={each.fork === fork ? 'bg-base-200' : ''}>
              <td
                ><button
                  type="button"
                  class="btn"
                  aria-pressed={each.fork === fork}
                  onclick={() => (picked = each.fork)}>{each.fork}</button
                ></td
              >
              {#each AXES as axis (axis)}
                <td
                  class={[
                    'text-right',
                    !each.captured && 'italic opacity-80',
                    rack.odd?.fork === each.fork && rack.odd.axis === axis && 'font-bold text-accent',
                  ]}>{written(each.captured?.[axis] ?? each.proposed?.[axis]) || '–'}</td
                >
              {/each}
              <td class="small-words"
                >{each.captured
                  ? each.captured.person
                  : each.proposed
                    ? 'proposed by the line'
                    : 'not yet'}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
    {#if data.mayCommission}<CaptureFork
        {chosen}
        {unit}
        straightness={rack.straightness}
        onDone={() => (picked = null)}
      />{/if}
    <p class="mt-3 flex gap-2">
      <a class="btn" href="/machines/{data.machine.id}/rack/export/csv" download>Table, CSV</a>
      <a class="btn" href="/machines/{data.machine.id}/rack/export/json" download>Table, JSON</a>
    </p>
  </section>
</div>
