<script lang="ts">
  import GroupForm from '$lib/group/GroupForm.svelte';
  import GroupPlate from '$lib/group/GroupPlate.svelte';

  let { data } = $props();
  let changing = $state<number | null>(null);
  const { machine } = $derived(data);
</script>

<svelte:head><title>Groups, {machine.name} · Tin Almanac</title></svelte:head>

<h2 class="mt-4 text-2xl">Groups of sisters</h2>
<p class="small-words mt-1">
  A program calls a group by its number; the control takes the next member when one has expired, and stops
  when none is left. A broken one stops the group: no sister takes over where a part is suspect.
</p>

<div class="mt-3 grid gap-5">
  {#each data.groups as group (group.id)}
    <GroupPlate {group} {machine} job={data.job} mayKey={data.mayKey}>
      {#snippet form()}
        {#if data.mayWrite}
          <button
            type="button"
            class="btn"
            aria-expanded={changing === group.id}
            onclick={() => (changing = changing === group.id ? null : group.id)}>Change it</button
          >
          {#if changing === group.id}
            <GroupForm {group} {machine} onDone={() => (changing = null)} />
          {/if}
        {/if}
      {/snippet}
    </GroupPlate>
  {:else}
    <p>
      {machine.name} has no group: each T is a tool by itself, and the machine stops when it has expired.
    </p>
  {/each}
</div>

{#if data.mayWrite}
  <details class="mt-4 overflow-x-clip" open={data.groups.length === 0}>
    <summary class="inline-flex min-h-11 cursor-pointer items-center font-semibold underline"
      >Make a group</summary
    >
    <GroupForm group={null} {machine} />
  </details>
{/if}
