<script lang="ts">
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
        <label class="grid gap-1"
          ><span>Name</span><input class="input w-36" name="name" maxlength="20" required /></label
        >{/if}
      <label class="grid gap-1"
        ><span>Begins</span><input
          class="input"
          type="time"
          name="begins"
          value={shift ? wallClock(shift.startMinute) : ''}
          required
        /></label
      >
      <label class="grid gap-1"
        ><span>Ends</span><input
          class="input"
          type="time"
          name="ends"
          value={shift ? wallClock(shift.startMinute + shift.lengthMinutes) : ''}
          required
        /></label
      >
      <label class="grid gap-1"
        ><span>From</span><input
          class="input"
          type="date"
          name="from"
          min={tomorrow}
          value={tomorrow}
          required
        /></label
      >
    </div>
    <fieldset class="flex flex-wrap gap-x-4">
      <legend class="font-semibold">Begins on</legend>
      {#each [1, 2, 3, 4, 5, 6, 0] as day (day)}<label class="flex min-h-11 items-center gap-2"
          ><input
            class="checkbox"
            type="checkbox"
            name="day{day}"
            checked={shift ? shift.days.includes(day) : day > 0 && day < 6}
          />{DAYS[day]}</label
        >{/each}
    </fieldset>
    <button class="btn justify-self-start btn-primary" disabled={busy}
      >{shift ? 'Set these hours' : 'Add the shift'}</button
    >
  {/snippet}
</ActionForm>
