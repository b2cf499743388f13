<script lang="ts">
  import ActionForm from '../ActionForm.svelte';

  interface Props {
    doubt: { code: string; line: number; text: string; unknownCode: string | null };
    /** Whose programs have such a code, where the person may say what its codes are. */
    machine: string | null;
  }
  let { doubt, machine }: Props = $props();
  const variable = $derived(/#\d+/.exec(doubt.text)?.[0] ?? null);
</script>

<details>
  <summary class="inline-flex min-h-11 cursor-pointer items-center underline"
    >Say what it is<span class="sr-only">, line {doubt.line}</span></summary
  >
  <ActionForm action="?/settle" class="flex flex-wrap items-end gap-2" label="Settle line {doubt.line}">
    {#snippet children({ busy })}
      {#each ['code', 'line', 'text'] as const as name (name)}<input
          type="hidden"
          {name}
          value={doubt[name]}
        />{/each}
      {#if variable}
        <label class="grid gap-1"
          ><span class="small-words">{variable} is, if it is always that</span><input
            class="input w-28"
            name="value"
            inputmode="decimal"
            autocomplete="off"
          /></label
        >
      {/if}
      <label class="grid gap-1"
        ><span class="small-words">How you know</span><input
          class="input w-72"
          name="said"
          maxlength="300"
          required
          autocomplete="off"
        /></label
      >
      <button class="btn" disabled={busy}>Settle it</button>
    {/snippet}
  </ActionForm>
  <p class="small-words">For this revision only; it stands here with your name.</p>
  {#if doubt.unknownCode && machine}
    <ActionForm action="?/harmless" class="mt-2" label="{doubt.unknownCode} on {machine}">
      {#snippet children({ busy })}
        <input type="hidden" name="code" value={doubt.unknownCode} />
        <button class="btn" disabled={busy}>{doubt.unknownCode} changes nothing on {machine}, ever</button>
        <p class="small-words mt-1">
          It goes into the machine’s profile, and all its programs are read anew. Look it up in the manual
          first: a code may be a macro that changes a tool.
        </p>
      {/snippet}
    </ActionForm>
  {/if}
</details>
