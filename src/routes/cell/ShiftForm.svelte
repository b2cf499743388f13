<script lang="ts">
  import Field from '$lib/Field.svelte';
  import ActionForm from '$lib/ActionForm.svelte';
  import { wallClock } from '$lib/time';

  interface Props {
    shift: { name: string; startMinute: number; lengthMinutes: number; days: readonly number[] } | null;
    tomorrow: string;
  }
  let { shift, tomorrow }: Props = $props();
  const DAYS = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'];
  const title = $derived(shift ? `Hours of ${shift.name}` : 'New shift');
</script>

<ActionForm action="?/shift" class="grid gap-3 py-2" label={title}>
  {#snippet children({ busy })}
    <div class="flex flex-wrap items-end gap-3">
      {#if shift}<input type="hidden" name="name" value={shift.name} />{:else}
        <Field label="Name"><input class="input w-36" name="name" maxlength="20" required /></Field>{/if}
      <Field label="Begins"
        ><input
          class="input"
          type="time"
          name="begins"
          defaultValue={shift ? wallClock(shift.startMinute) : ''}
          required
        /></Field
      >
      <Field label="Ends"
        ><input
          class="input"
          type="time"
          name="ends"
          defaultValue={shift ? wallClock(shift.startMinute + shift.lengthMinutes) : ''}
          required
        /></Field
      >
      <Field label="From"
        ><input
          class="input"
          type="date"
          name="from"
          min={tomorrow}
          defaultValue={tomorrow}
          required
        /></Field
      >
    </div>
    <fieldset class="flex flex-wrap gap-x-4">
      <legend class="font-semibold">Begins on</legend>
      {#each [1, 2, 3, 4, 5, 6, 0] as day (day)}<label class="flex min-h-11 items-center gap-2"
          ><input
            class="checkbox"
            type="checkbox"
            name="day{day}"
            defaultChecked={shift ? shift.days.includes(day) : day > 0 && day < 6}
          />{DAYS[day]}</label
        >{/each}
    </fieldset>
    <button class="btn justify-self-start btn-primary" disabled={busy}
      >{shift ? 'Set these hours' : 'Add the shift'}</button
    >
  {/snippet}
</ActionForm>
