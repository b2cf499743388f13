<script lang="ts">
  import { onMount } from 'svelte';
  import { z } from 'zod';
  import ActionForm from '$lib/ActionForm.svelte';

  interface Props {
    /** Key of the form that brought the file. */
    of: string;
  }
  let { of }: Props = $props();
  let done = $state<number | null>(null);
  const Answer = z.object({ done: z.number().nullable() });

  // most files are read before anybody could look
  onMount(() => {
    const look = async () => {
      const answer = await fetch(`/programs/progress?key=${of}`).catch(() => null);
      const said = answer?.ok ? Answer.safeParse(await answer.json()) : null;
      done = said?.data?.done ?? null;
    };
    const timer = setInterval(() => void look(), 400);
    return () => clearInterval(timer);
  });
</script>

{#if done !== null}
  <ActionForm action="?/stop" class="mt-3 flex flex-wrap items-center gap-3" label="Reading the file">
    {#snippet children({ busy })}
      <input type="hidden" name="of" value={of} />
      <progress class="progress w-40" value={done} max="1" aria-label="How much is read"></progress>
      <span class="small-words">{Math.round((done ?? 0) * 100)} % read</span>
      <button class="btn" disabled={busy}>Stop reading</button>
    {/snippet}
  </ActionForm>
{/if}
