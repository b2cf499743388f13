<script lang="ts">
  import type { Change } from '$core/program/changes';
  import type { Proof } from '$core/readiness/proven';
  import ActionForm from '../ActionForm.svelte';

  interface Props {
    proof: Proof & { said: string };
    /** The revision before, and what this one does otherwise. */
    before: { id: number; revision: number; changes: readonly Change[] } | null;
    machine: string;
    mayProve: boolean;
    onLine: (line: number) => void;
  }
  let { proof, before, machine, mayProve, onLine }: Props = $props();
  const proven = $derived(proof.state === 'proven');
</script>

<section aria-labelledby="proof">
  <h2 id="proof" class="heading">
    {proven
      ? `Proven on ${machine}`
      : proof.state === 'changed'
        ? `Changed since it was proven on ${machine}`
        : `Not proven on ${machine} yet`}
  </h2>
  {#if proven && proof.by}<p>
      {proof.by.person}, {proof.by.day}: {proof.said}.
    </p>{/if}
  {#if before}
    <details open={!proven}>
      <summary class="min-h-11 cursor-pointer py-2">
        {before.changes.length === 1 ? 'One change' : `${before.changes.length} changes`} since
        <a class="underline" href="/programs/{before.id}">revision {before.revision}</a>
      </summary>
      <ul class="ruled-list">
        {#each before.changes as { text, line }, i (i)}
          <li class="flex items-center gap-3 py-1">
            <span>{text}</span>
            {#if line > 0}<button type="button" class="btn ml-auto btn-sm" onclick={() => onLine(line)}
                >Line {line}</button
              >{/if}
          </li>
        {/each}
      </ul>
    </details>
  {/if}
  {#if mayProve}
    <ActionForm
      action="?/prove"
      class="mt-1 flex flex-wrap items-end gap-2"
      label={proven ? 'Take the proof back' : 'It is proven'}
    >
      {#snippet children({ busy })}
        {#if !proven}<input type="hidden" name="proven" value="on" />{/if}
        <label class="grid w-full gap-1 sm:w-auto"
          ><span class="small-words"
            >{proven ? 'Why it is no longer' : 'How: which part, measured by whom'}</span
          ><input
            class="input w-full sm:w-64"
            name="said"
            maxlength="300"
            required
            autocomplete="off"
          /></label
        >
        <button class={['btn', !proven && 'btn-primary']} disabled={busy}
          >{proven ? 'Take the proof back' : `It is proven on ${machine}`}</button
        >
      {/snippet}
    </ActionForm>
    {#if !proven}<p class="small-words mt-1">
        Single block first, rapids low, a hand on feed hold; the machine’s manual and the site’s rules come
        first. The proof is of this text with what it calls: when either changes it is lost.
      </p>{/if}
  {/if}
</section>
