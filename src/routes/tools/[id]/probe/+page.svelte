<script lang="ts">
  import ActionForm from '$lib/ActionForm.svelte';
  import Field from '$lib/Field.svelte';
  import Scroll from '$lib/Scroll.svelte';
  import { dayAndClock } from '$lib/time';
  import { formatWithUnit } from '$core/units/format-length';
  import { offCentre } from '$core/readiness/probe';

  let { data } = $props();
  const { probe, machine } = $derived(data);
  const unit = $derived(machine?.unit ?? 'mm');
  const last = $derived(data.calibrations[0] ?? null);
  const run = $derived(last ? offCentre(last) : null);
  const STAND = {
    never: 'It has not been calibrated here yet.',
    tipChanged: 'Its tip or holder has changed since it was calibrated: calibrate it again.',
    putBack: 'It has been put back since it was calibrated: its mark must point as it did.',
    markSeen: 'It has been put back since it was calibrated; its mark was seen where it was.',
    calibrated: 'It stands as it was calibrated.',
  } as const;
</script>

<svelte:head><title>{probe.number}, calibration · Tin Almanac</title></svelte:head>

<header class="mt-4 flex flex-wrap items-end gap-x-5 border-b-[3px] border-double border-base-content pb-2">
  <h1 class="text-3xl">Calibration</h1>
  <p class="text-lg">
    <a class="underline" href="/tools/{probe.id}">{probe.number}</a>
    {probe.name}{machine ? `, T${probe.tool} in ${machine.name}` : ''}
  </p>
</header>

<p class="mt-3 text-xl font-semibold" role="status">
  {machine ? (data.stand ? STAND[data.stand] : '') : 'It stands in no machine now.'}
</p>
{#if last && run && run.off > 0}
  <p class="mt-1">
    Its tip runs {formatWithUnit(run.off, unit)} off centre. Put back half a turn round, the error is not removed
    but doubled: a point is measured {formatWithUnit(run.turned, unit)} away from where it is. Load it the same
    way round for ever: its mark {last.mark}.
  </p>
{/if}
{#if data.stand === 'putBack' && data.mayLook && last}
  <ActionForm action="?/mark" label="Its mark" class="mt-2">
    {#snippet children({ busy })}
      <p class="small-words">
        Orient the spindle, watch it stop, keep your hands away, then look: the mark was {last.mark}.
      </p>
      <button class="btn mt-1" disabled={busy}>Its mark points as it did</button>
    {/snippet}
  </ActionForm>
{/if}
{#if machine && data.mayCalibrate}
  <ActionForm action="?/calibrate" label="A calibration" class="mt-3 flex flex-wrap items-end gap-3">
    {#snippet children({ busy })}
      {#each [['x', 'Off centre in X'], ['y', 'Off centre in Y']] as const as [name, label] (name)}
        <Field label="{label} ({unit})" small
          ><input class="input w-32" {name} inputmode="decimal" autocomplete="off" required /></Field
        >
      {/each}
      <Field label="Where its mark points" small
        ><input
          class="input w-56"
          name="mark"
          maxlength="80"
          placeholder="to the operator, at M19"
          autocomplete="off"
          required
        /></Field
      >
      <button class="btn btn-primary" disabled={busy}>Write it down</button>
    {/snippet}
  </ActionForm>
  <p class="small-words mt-1">
    As the control stores them after calibrating on a ring or a sphere. Calibrate anew after every change of
    the tip, and after a crash.
  </p>
{/if}
{#if data.calibrations.length > 0}
  <Scroll label="Calibrations">
    <table class="ruled mt-4">
      <thead
        ><tr
          ><th>When</th><th>Machine</th><th class="num">X</th><th class="num">Y</th><th>Mark</th><th>By</th
          ></tr
        ></thead
      >
      <tbody>
        {#each data.calibrations as { at, machine: where, x, y, mark, person }, i (i)}
          <tr
            ><td>{dayAndClock(at, data.cell!.timeZone)}</td><td>{where}</td><td class="num"
              >{formatWithUnit(x, unit, { sign: 'always' })}</td
            ><td class="num">{formatWithUnit(y, unit, { sign: 'always' })}</td><td>{mark}</td><td>{person}</td
            ></tr
          >
        {/each}
      </tbody>
    </table>
  </Scroll>
{/if}
