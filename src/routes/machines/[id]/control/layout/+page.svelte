<script lang="ts">
  import ActionForm from '$lib/ActionForm.svelte';
  import TellLayout from '$lib/control/TellLayout.svelte';

  let { data } = $props();
</script>

<svelte:head><title>Layout of its tables · {data.machine.name} · Tin Almanac</title></svelte:head>

<div class="mt-4 grid gap-8 lg:grid-cols-[2fr_1fr]">
  <section class="min-w-0" aria-labelledby="tell">
    <h2 id="tell" class="heading">How its tables are laid out</h2>
    <p class="mt-2 max-w-2xl">
      Paste a table as {data.machine.name} gives it out, with its head, and say what each column holds. It is kept
      by a name, and every later table of that kind is read so.
    </p>
    {#if data.mayKeep}
      <TellLayout kinds={data.kinds} unit={data.machine.unit} names={data.mappings.map(({ name }) => name)} />
    {:else}<p class="small-words mt-2">A setter or the cell lead tells it.</p>{/if}
  </section>
  <section aria-labelledby="kept">
    <h2 id="kept" class="heading">Kept</h2>
    <ul class="ruled-list mt-1">
      {#each data.mappings as mapping (mapping.id)}
        <li class="flex items-center gap-3 py-1">
          <span class="grow font-semibold">{mapping.name}</span>
          {#if data.mayKeep}<ActionForm action="?/drop" label="Forget {mapping.name}">
              {#snippet children({ busy })}
                <input type="hidden" name="mapping" value={mapping.id} />
                <button class="btn min-h-11 btn-ghost" disabled={busy} aria-label="Forget {mapping.name}"
                  >Forget</button
                >
              {/snippet}
            </ActionForm>{/if}
        </li>
      {:else}<li class="py-2">None yet.</li>{/each}
    </ul>
    <p class="mt-3"><a class="btn" href="/machines/{data.machine.id}/control">Bring a table in</a></p>
  </section>
</div>
