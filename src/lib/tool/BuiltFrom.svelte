<script lang="ts">
  import type { ComponentProps } from 'svelte';
  import { insertsOf } from '$core/assembly/inserts';
  import type { PartRole } from '$core/assembly/part-roles';
  import type { Component } from '$core/component/kinds';
  import type { Flag } from '$core/life/flag';
  import type { Stack, StackFacts } from '$core/assembly/stack';
  import type { Length } from '$core/units/length';
  import ActionForm from '../ActionForm.svelte';
  import EdgeEnded from './EdgeEnded.svelte';
  import StackSheet from './StackSheet.svelte';

  interface Props {
    assembly: {
      id: number;
      number: string;
      gaugeLength: Length;
      machineId: number | null;
      flag: Flag | null;
      remaining: number | null;
      fullLife: number | null;
    };
    parts: (Component & {
      role: PartRole;
      count: number;
      edges: number | null;
      edgesUsed: number;
      shelf: string;
    })[];
    stack: Stack;
    facts: StackFacts;
    machines: ComponentProps<typeof StackSheet>['machines'];
    /** What an edge costs, in hundredths. */
    edgeCost: number | null;
    mayBuild: boolean;
  }
  let { assembly, parts, stack, facts, machines, edgeCost, mayBuild }: Props = $props();
  const inserts = $derived(insertsOf(parts));
  /** Its edge is counted, and has cut: how it ended is asked. */
  const worn = $derived(assembly.remaining !== null && assembly.remaining < assembly.fullLife!);
</script>

<div class="mt-8 grid gap-8 lg:grid-cols-[1fr_1.4fr]">
  <section aria-labelledby="pieces">
    <h2 id="pieces" class="heading">Built from</h2>
    <ul class="ruled-list mt-1 font-narrow">
      {#each parts as part (part.role)}
        <li>
          <a class="flex min-h-11 items-center gap-3 hover:bg-base-300" href="/crib?item={part.id}"
            ><b class="w-24">{part.number}</b><span class="flex-1"
              >{part.count > 1
                ? `${part.count} × `
                : ''}{part.name}{#if inserts.includes(part) && part.edges}<span class="small-words block"
                  >edge {part.edgesUsed + 1} of {part.edges}</span
                >{/if}</span
            ><span class="small-words">{part.shelf}</span></a
          >
        </li>
      {/each}
    </ul>
    {#if edgeCost !== null}<p class="small-words mt-2">
        An edge of it costs {(edgeCost / 100).toFixed(2)}.
      </p>{/if}
    <div class="mt-3 flex flex-wrap gap-2">
      <a class="btn" href="/tools/{assembly.id}/card">Build card and label</a>
      {#if mayBuild && inserts.length > 0 && assembly.machineId === null}
        {#if worn}
          <details>
            <summary class="btn">Index the inserts</summary>
            <ActionForm action="?/index" label="Index the inserts" class="mt-2 grid gap-2">
              {#snippet children({ busy })}
                <p class="caution text-sm">
                  Sharp edges: gloves. Clean the seat, and tighten by the torque given.
                </p>
                <EdgeEnded broke={assembly.flag === 'broken'} />
                <button class="btn justify-self-start btn-primary" disabled={busy}
                  >Indexed: its life is full again</button
                >
              {/snippet}
            </ActionForm>
          </details>
        {:else}
          <ActionForm action="?/index" label="Index the inserts">
            {#snippet children({ busy })}<button class="btn" disabled={busy}>Index the inserts</button
              >{/snippet}
          </ActionForm>
        {/if}
      {/if}
    </div>
  </section>
  <div class="grid content-start gap-4">
    <StackSheet {stack} {facts} {machines} number={assembly.number} measured={assembly.gaugeLength} />
  </div>
</div>
