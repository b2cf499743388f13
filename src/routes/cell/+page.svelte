<script lang="ts">
  import Field from '$lib/Field.svelte';
  import ActionForm from '$lib/ActionForm.svelte';
  import { wallClock } from '$lib/time';
  import ShiftForm from './ShiftForm.svelte';

  let { data } = $props();
  const DAYS = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday'];
  function weekWords(days: readonly number[]): string {
    const set = [1, 2, 3, 4, 5, 6, 0].filter((day) => days.includes(day));
    if (set.length === 7) return 'every day';
    if (set.join() === '1,2,3,4,5') return 'Monday to Friday';
    return set.map((day) => DAYS[day]).join(', ') || 'no day of the week';
  }
  const names = $derived([...new Set(data.shifts.map((each) => each.name))]);
</script>

<svelte:head><title>Cell and shifts · Tin Almanac</title></svelte:head>

<h1 class="mt-5 text-3xl">Cell and shifts</h1>

<div class="mt-4 grid items-start gap-8 lg:grid-cols-2">
  <section aria-labelledby="shifts">
    <h2 id="shifts" class="heading">Shifts</h2>
    <ul class="ruled-list mt-1">
      {#each data.shifts as shift (shift.id)}
        <li>
          <details>
            <summary class="flex min-h-12 cursor-pointer flex-wrap items-center gap-x-4">
              <b class="text-lg">{shift.name}</b>
              <span class="font-display text-lg"
                >{wallClock(shift.startMinute)} to {wallClock(shift.startMinute + shift.lengthMinutes)}</span
              >
              <span class="small-words"
                >{weekWords(shift.days)}{shift.since! >= data.tomorrow
                  ? `, from ${shift.since}`
                  : ''}{shift.until ? `, until ${shift.until}` : ''}</span
              >
            </summary>
            {#if !shift.until}
              <ShiftForm {shift} tomorrow={data.tomorrow} />
              <ActionForm
                action="?/end"
                class="flex flex-wrap items-end gap-3 pb-3"
                label="End the {shift.name} shift"
              >
                {#snippet children({ busy })}
                  <input type="hidden" name="name" value={shift.name} />
                  <Field label="Runs for the last time on"
                    ><input class="input" type="date" name="last" required /></Field
                  >
                  <button class="btn" disabled={busy}>End this shift</button>
                {/snippet}
              </ActionForm>
            {:else}<p class="pb-3">These hours are over after {shift.until}; its leaves stay.</p>{/if}
          </details>
        </li>
      {/each}
    </ul>
    <details class="mt-2">
      <summary class="inline-flex min-h-11 cursor-pointer items-center font-semibold underline"
        >Add a shift</summary
      >
      <ShiftForm shift={null} tomorrow={data.tomorrow} />
    </details>
    <p class="small-words mt-2">
      Hours change from tomorrow on at the earliest. Leaves that were written keep their bells.
    </p>
  </section>

  <div class="grid gap-8">
    <section aria-labelledby="odd">
      <h2 id="odd" class="heading">Days that are not as the week says</h2>
      <ul class="ruled-list mt-1">
        {#if data.exceptions.length === 0}<li class="py-2">None to come.</li>{/if}
        {#each data.exceptions as each (`${each.date} ${each.name}`)}
          <li class="flex min-h-12 flex-wrap items-center gap-x-4">
            <b>{each.date}</b> <span>{each.name} {each.runs ? 'runs' : 'does not run'}</span>
            <span class="small-words flex-1">{each.why}</span>
            <ActionForm action="?/exception" label="Take back {each.name} of {each.date}">
              {#snippet children({ busy })}
                <input type="hidden" name="name" value={each.name} />
                <input type="hidden" name="date" value={each.date} />
                <input type="hidden" name="runs" value="week" />
                <button class="btn" disabled={busy}>Take back</button>
              {/snippet}
            </ActionForm>
          </li>
        {/each}
      </ul>
      <ActionForm action="?/exception" class="mt-3 flex flex-wrap items-end gap-3" label="A day of its own">
        {#snippet children({ busy })}
          <Field label="Day"
            ><input class="input" type="date" name="date" min={data.tomorrow} required /></Field
          >
          <Field label="Shift"
            ><select class="select" name="name"
              >{#each names as name (name)}<option>{name}</option>{/each}</select
            ></Field
          >
          <Field label="It"
            ><select class="select" name="runs"
              ><option value="no">does not run</option><option value="yes">runs</option></select
            ></Field
          >
          <label class="grid min-w-40 flex-1 gap-1"
            ><span>Why</span><input
              class="input"
              name="why"
              maxlength="120"
              placeholder="holiday, overtime …"
            /></label
          >
          <button class="btn" disabled={busy}>Set</button>
        {/snippet}
      </ActionForm>
    </section>
    <section aria-labelledby="name">
      <h2 id="name" class="heading">The cell</h2>
      <ActionForm action="?/name" class="mt-2 grid gap-3 sm:grid-cols-2" label="Name of the cell" keep>
        {#snippet children({ busy })}
          <Field label="Name"
            ><input class="input" name="name" maxlength="60" defaultValue={data.cell!.name} required /></Field
          >
          <Field label="Time zone of its bells"
            ><select class="select" name="timeZone" value={data.cell!.timeZone}
              >{#each data.zones as zone (zone)}<option>{zone}</option>{/each}</select
            ></Field
          >
          <button class="btn justify-self-start" disabled={busy}>Save</button>
        {/snippet}
      </ActionForm>
    </section>
  </div>
</div>
