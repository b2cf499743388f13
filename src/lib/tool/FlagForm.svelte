<script lang="ts">
  import type { Flag } from '$core/life/flag';
  import ActionForm from '../ActionForm.svelte';

  let { flag, assemblyId }: { flag: Flag | null; assemblyId: number } = $props();
</script>

{#if flag === 'broken'}
  <a class="btn mt-2" href="/tools/{assemblyId}/broken">Its quarantine: parts, replacing, clearing</a>
{:else}
  <ActionForm action="?/flag" class="mt-2 grid gap-2" label="Flag">
    {#snippet children({ busy })}
      <input class="input" name="why" aria-label="Why" placeholder="why" maxlength="300" required />
      <div class="flex flex-wrap gap-2">
        {#if flag}<button class="btn" name="flag" value="none" disabled={busy}>Unlock</button>
        {:else}<button class="btn" name="flag" value="broken" disabled={busy}>It is broken</button><button
            class="btn"
            name="flag"
            value="locked"
            disabled={busy}>Lock it</button
          >{/if}
      </div>
    {/snippet}
  </ActionForm>
{/if}
