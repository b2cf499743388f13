<script lang="ts">
  import ActionForm from '$lib/ActionForm.svelte';
  import type { Trial } from '$core/life/learnt-limit';

  interface Props {
    trial: Trial;
    /** The limit now, and the one to try, in what the counter counts. */
    limit: number;
    longer: number;
    per: number;
    number: string;
    show: (value: number) => string;
    may: boolean;
  }
  let { trial, limit, longer, per, number, show, may }: Props = $props();
</script>

<p>
  None failed before {show(limit)}: at most {(100 * trial.failAtMost).toFixed(0)} of 100 do. How long they would
  last nobody has seen, so run {trial.edges} edges to {show(longer)}, and look at the edge and at a part when
  one passes {show(limit)}.
</p>
{#if may}
  <ActionForm action="?/adopt" label="Try {show(longer)}">
    {#snippet children({ busy })}
      <input type="hidden" name="limit" value={longer / per} />
      <input type="hidden" name="was" value={limit} />
      <input type="hidden" name="why" value="A trial: none failed before {show(limit)}." />
      <button class="btn" disabled={busy}>Try {show(longer)}</button>
      <p class="small-words mt-1">
        For {number}. Not where a tool that breaks can hurt somebody, or where the tool’s maker or the site
        sets the limit.
      </p>
    {/snippet}
  </ActionForm>
{/if}
