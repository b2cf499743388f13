<script lang="ts">
  import Field from '$lib/Field.svelte';
  import type { Loose } from './loose';

  interface Props {
    label: string;
    machineId: number;
    loose: Loose;
    required?: boolean;
    /** What stands there before anything is chosen. */
    none?: string;
  }
  let { label, machineId, loose, required = false, none = '–' }: Props = $props();

  let words = $state('');
  let found = $state<Loose | null>(null);
  const shown = $derived(found ?? loose);
  let timer: ReturnType<typeof setTimeout> | undefined;
  let asked = 0;

  /** What comes back late is not shown over what was asked for since. */
  function look() {
    clearTimeout(timer);
    timer = setTimeout(async () => {
      const mine = (asked += 1);
      const answer = await fetch(`/machines/${machineId}/loose?words=${encodeURIComponent(words)}`).catch(
        () => null,
      );
      if (answer?.ok && mine === asked) found = (await answer.json()) as Loose;
    }, 200);
  }
</script>

{#if loose.more}
  <Field label="Find it by number or name"
    ><input class="input" type="search" bind:value={words} oninput={look} maxlength="100" /></Field
  >
{/if}
<Field {label}>
  <select class="select" name="assembly" {required}>
    <option value="">{none}</option>
    {#each shown.list as { id, number, name, flag } (id)}<option value={id}
        >{number} {name}{flag ? ` (${flag})` : ''}</option
      >{/each}
  </select>
  {#if shown.more}<span class="small-words"
      >The first {shown.list.length} by number: type more of it to find another.</span
    >{:else if found && shown.list.length === 0}<span class="small-words">None goes by these words.</span
    >{/if}
</Field>
