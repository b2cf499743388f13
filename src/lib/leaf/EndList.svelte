<script lang="ts">
  import type { EndMachine } from '$core/shift/end-check';
  import ActionForm from '../ActionForm.svelte';

  let { machines }: { machines: readonly EndMachine[] } = $props();
  /** Every line once, with where it is asked. */
  const lines = $derived([
    ...new Map(
      machines.flatMap((machine) =>
        machine.checks.map((check) => [
          check.id,
          { ...check, where: check.own ? machine.name : 'every machine' },
        ]),
      ),
    ).values(),
  ]);
</script>

<details class="no-print mt-6">
  <summary class="inline-flex min-h-11 cursor-pointer items-center font-semibold underline"
    >Change the list</summary
  >
  <ul class="ruled-list mt-1 max-w-3xl">
    {#each lines as line (line.id)}
      <li class="flex items-center gap-3 py-1">
        <span class="grow">{line.text} <span class="small-words">{line.where}</span></span>
        <ActionForm action="?/drop" label="Take off the list: {line.text}">
          {#snippet children({ busy })}
            <input type="hidden" name="check" value={line.id} />
            <button class="btn min-h-11 btn-ghost" disabled={busy} aria-label="Take off the list: {line.text}"
              >Take off</button
            >
          {/snippet}
        </ActionForm>
      </li>
    {/each}
  </ul>
  <ActionForm action="?/add" class="mt-2 flex max-w-3xl flex-wrap gap-2" label="Put a line on the list">
    {#snippet children({ busy })}
      <input
        class="input grow"
        name="text"
        aria-label="New line"
        placeholder="What is to be so when a shift leaves"
        required
        maxlength="300"
      />
      <select class="select w-44" name="machine" aria-label="Where">
        <option value="">every machine</option>
        {#each machines as machine (machine.id)}<option value={machine.id}>{machine.name}</option>{/each}
      </select>
      <button class="btn min-h-11" disabled={busy}>Put on</button>
    {/snippet}
  </ActionForm>
</details>
