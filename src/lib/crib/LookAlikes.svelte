<script lang="ts">
  import type { Component } from '$core/component/kinds';
  import ActionForm from '../ActionForm.svelte';

  interface Props {
    shown: { lines: (Component & { stock: number; used: number; shelf: string })[]; more: number }[];
    groups: number;
    mayMerge: boolean;
  }
  let { shown, groups, mayMerge }: Props = $props();
</script>

<section class="plate mt-4" aria-label="Look-alikes">
  {#if groups === 0}<p>No two of these catalogue lines are the same thing.</p>{/if}
  {#if groups > shown.length}<p class="pb-2">
      The first {shown.length} of {groups}: a group or a word narrows them, and what is merged makes room.
    </p>{/if}
  {#each shown as { lines: [first, ...others], more } (first!.id)}
    <div class="border-b border-base-300 py-2">
      <p>
        <b>{first!.number}</b>
        {first!.name}: {first!.stock} on {first!.shelf || 'the shelf'}, in {first!.used === 1
          ? 'one tool'
          : `${first!.used} tools`}
      </p>
      {#each others as other (other.id)}
        <div class="flex flex-wrap items-center gap-3 pl-6">
          <p class="flex-1">
            is the same as <b>{other.number}</b>
            {other.name}: {other.stock} on {other.shelf || 'the shelf'}, in {other.used === 1
              ? 'one tool'
              : `${other.used} tools`}
          </p>
          {#if mayMerge}
            <ActionForm action="?/merge" label="Merge {other.number}">
              {#snippet children({ busy })}
                <input type="hidden" name="from" value={other.id} /><input
                  type="hidden"
                  name="into"
                  value={first!.id}
                />
                <button class="btn" disabled={busy}>Merge into {first!.number}</button>
              {/snippet}
            </ActionForm>
          {/if}
        </div>
      {/each}
      {#if more > 0}<p class="pl-6">
          and {more === 1 ? 'one more line that is' : `${more} more lines that are`} the same thing
        </p>{/if}
    </div>
  {/each}
</section>
