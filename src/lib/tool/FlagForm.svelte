<script lang="ts">
  import type { Flag } from '$core/life/flag';
  import ActionForm from '../ActionForm.svelte';

  let { flag }: { flag: Flag | null } = $props();
</script>

<ActionForm action="?/flag" class="mt-2 grid gap-2" label="Flag">
  {#snippet children({ busy })}
    <input class="input" name="why" aria-label="Why" placeholder="why" maxlength="300" required />
    <div class="flex flex-wrap gap-2">
      {#if flag}<button class="btn" name="flag" value="none" disabled={busy}
          >{flag === 'broken' ? 'Part inspected, tool replaced: clear' : 'Unlock'}</button
        >
      {:else}<button class="btn" name="flag" value="broken" disabled={busy}>It is broken</button><button
          class="btn"
          name="flag"
          value="locked"
          disabled={busy}>Lock it</button
        >{/if}
    </div>
  {/snippet}
</ActionForm>
