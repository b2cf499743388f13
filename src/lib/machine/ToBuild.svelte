<script lang="ts">
  import type { Kit, Shelved } from '$core/holding/pick-kit';
  import ActionForm from '../ActionForm.svelte';
  import ChooseLoose from './ChooseLoose.svelte';
  import type { Loose } from './loose';

  interface Props {
    machineId: number;
    plan: number;
    step: string;
    title: string;
    tool: number;
    /** What asks for it, and the pieces from the shelves; null when nothing says what is asked for. */
    kit: { asked: { program: number; tool: number }; kit: Kit<Shelved> | null } | null;
    loose: Loose;
    mayTick: boolean;
  }
  let { machineId, plan, step, title, tool, kit, loose, mayTick }: Props = $props();

  /** The builder, with what asks for the tool and the pieces chosen already. */
  const builder = $derived(
    `/tools/builder?${[
      ['machine', machineId],
      ...(kit
        ? [
            ['program', kit.asked.program],
            ['tool', kit.asked.tool],
            ...(kit.kit?.pieces ?? []).map(({ role, piece }) => [role, piece.id]),
          ]
        : []),
    ]
      .map(([name, value]) => `${name}=${value}`)
      .join('&')}`,
  );
</script>

<section class="plate no-print mt-4 grid gap-2" aria-label="To be built">
  <p class="text-lg">{title}</p>
  {#if kit?.kit}
    <ul class="border-t border-base-300" aria-label="Kit for T{tool}">
      {#each kit.kit.pieces as { role, piece, count } (role)}
        <li class="grid grid-cols-[1.4rem_4.5rem_1fr_auto] gap-x-3 border-b border-base-300 py-1.5">
          <span aria-hidden="true">☐</span>
          <b>{piece.shelf || '–'}</b>
          <span
            >{count > 1 ? `${count} × ` : ''}<a class="underline" href="/crib?item={piece.id}"
              >{piece.number}</a
            >
            {piece.name}</span
          >
          <span class={['small-words', piece.stock < count && 'text-accent']}>{piece.stock} there</span>
        </li>
      {/each}
    </ul>
    {#each kit.kit.lacking as sentence (sentence)}<p class="caution">{sentence}</p>{/each}
  {:else if kit}<p class="caution">No cutter in the catalogue could become what the program asks for.</p>
  {:else}<p class="small-words">
      No program says what this tool must be: write it under the program’s tools, and its pieces will be
      listed here.
    </p>{/if}
  {#if mayTick}
    <div class="flex flex-wrap items-end gap-3">
      <a class="btn" href={builder}>Build it</a>
      <ActionForm action="?/built" class="flex flex-wrap items-end gap-2" label="Built for T{tool}">
        {#snippet children({ busy })}
          <input type="hidden" name="plan" value={plan} />
          <input type="hidden" name="step" value={step} />
          <ChooseLoose label="It is built: which one" {machineId} {loose} required />
          <button class="btn" disabled={busy}>Take it</button>
        {/snippet}
      </ActionForm>
    </div>
  {/if}
</section>
