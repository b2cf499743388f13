<script lang="ts">
  import { NEXT_RULES, NEXT_WORDS, RENEWED_RULES, RENEWED_WORDS, ROLES } from '$core/life/group';
  import ActionForm from '../ActionForm.svelte';
  import type { GroupMachineShown, GroupShown } from './shown';

  interface Props {
    group: GroupShown | null;
    machine: GroupMachineShown;
    onDone?: () => void;
  }
  let { group, machine, onDone }: Props = $props();
  const MOST = 12;
  // a form is filled from what it was opened on; what changes meanwhile is refused by the server
  // svelte-ignore state_referenced_locally
  let lines = $state(Math.min(MOST, (group?.members.length ?? 1) + 1));
  const mill = $derived(machine.kind === 'mill');
</script>

<ActionForm
  action="?/write"
  class="mt-2 grid gap-3"
  label={group ? `Change group ${group.number}` : 'Make a group'}
  {onDone}
>
  {#snippet children({ busy })}
    <input type="hidden" name="group" value={group?.id ?? ''} />
    <input type="hidden" name="seen" value={group?.seen ?? ''} />
    <div class="grid gap-3 sm:grid-cols-[9rem_1fr]">
      <label class="grid gap-1"
        ><span class="small-words">Number</span><input
          class="input"
          name="number"
          inputmode="numeric"
          required
          defaultValue={group?.number ?? ''}
        /></label
      >
      <label class="grid gap-1"
        ><span class="small-words">What it is for</span><input
          class="input w-full"
          name="purpose"
          maxlength="80"
          defaultValue={group?.purpose ?? ''}
        /></label
      >
    </div>
    <div class="flex flex-wrap gap-x-6 gap-y-2">
      <label class="grid gap-1"
        ><span class="small-words">Next it takes</span><select class="select" name="next"
          >{#each NEXT_RULES as rule (rule)}<option value={rule} selected={rule === group?.rules.next}
              >{NEXT_WORDS[rule]}</option
            >{/each}</select
        ></label
      >
      <label class="grid max-w-full min-w-0 gap-1"
        ><span class="small-words">After a renewal</span><select
          class="select w-full max-w-full min-w-0"
          name="renewed"
          >{#each RENEWED_RULES as rule (rule)}<option value={rule} selected={rule === group?.rules.renewed}
              >{RENEWED_WORDS[rule]}</option
            >{/each}</select
        ></label
      >
      <label class="flex min-h-11 items-center gap-2 self-end"
        ><input class="checkbox" type="checkbox" name="spares" defaultChecked={group?.rules.spares ?? true} /> takes
        spares</label
      >
      <label class="flex min-h-11 items-center gap-2 self-end"
        ><input
          class="checkbox"
          type="checkbox"
          name="initialise"
          defaultChecked={group?.initialise ?? false}
        /> wants to be initialised after new data</label
      >
    </div>
    <fieldset class="grid gap-2">
      <legend class="small-words">Members in their order; a line without a number is left out</legend>
      {#each { length: lines } as _, i (i)}
        {@const member = group?.members[i]}
        <div class="flex flex-wrap items-end gap-2">
          <label class="grid gap-1"
            ><span class="small-words">{mill ? 'T' : 'Station'}</span><input
              class="input w-20"
              name="tool{i}"
              aria-label="{mill ? 'T' : 'Station'} of member {i + 1}"
              inputmode="numeric"
              defaultValue={member?.tool ?? ''}
            /></label
          >
          <label class="grid gap-1"
            ><span class="small-words">Is</span><select
              class="select w-32"
              name="role{i}"
              aria-label="What member {i + 1} is"
              >{#each ROLES as role (role)}<option value={role} selected={role === member?.role}
                  >{role}</option
                >{/each}</select
            ></label
          >
          <label class="grid gap-1"
            ><span class="small-words"
              >{mill ? 'Length row, if not its own' : 'Rows: first, second, third'}</span
            ><input
              class="input w-44"
              name="length{i}"
              aria-label="Rows of member {i + 1}"
              defaultValue={member?.lengthRows.join(' ') ?? ''}
            /></label
          >
          {#if mill}<label class="grid gap-1"
              ><span class="small-words">D rows A, B, C</span><input
                class="input w-36"
                name="radius{i}"
                aria-label="D rows of member {i + 1}"
                defaultValue={member?.radiusRows.join(' ') ?? ''}
              /></label
            >{/if}
        </div>
      {/each}
      {#if lines < MOST}<button
          type="button"
          class="min-h-11 justify-self-start underline"
          onclick={() => (lines += 1)}>One more</button
        >{/if}
    </fieldset>
    <div class="flex flex-wrap gap-3">
      <button class="btn btn-primary" disabled={busy}>{group ? 'Keep it' : 'Make the group'}</button>
    </div>
  {/snippet}
</ActionForm>
{#if group}
  <ActionForm action="?/remove" class="mt-2" label="Take group {group.number} apart">
    {#snippet children({ busy })}
      <input type="hidden" name="group" value={group.id} />
      <button class="min-h-11 underline" disabled={busy}>Take the group apart; its tools stay</button>
    {/snippet}
  </ActionForm>
{/if}
