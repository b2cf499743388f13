<script lang="ts">
  import { ROLE_WORDS, ROLES } from '$core/people/roles';
  import ActionForm from '$lib/ActionForm.svelte';

  let { data } = $props();
</script>

<svelte:head><title>People · Tin Almanac</title></svelte:head>

<h1 class="mt-5 text-3xl">People</h1>
<div class="mt-4 grid gap-8 lg:grid-cols-[1.7fr_1fr]">
  <ul class="border-t-[3px] border-double border-base-content">
    {#each data.people as person (person.id)}
      <li class="border-b border-base-300 py-2">
        <ActionForm
          action="?/change"
          label={person.name}
          keep
          class="grid items-center gap-2 sm:grid-cols-[1.3fr_1fr_1fr_auto_auto]"
        >
          {#snippet children({ busy })}
            <input type="hidden" name="person" value={person.id} />
            <span><b>{person.name}</b> <span class="small-words">{person.badge}</span></span>
            <select class="select" name="role" aria-label="Role of {person.name}" value={person.role}
              >{#each ROLES as role (role)}<option value={role}>{ROLE_WORDS[role]}</option>{/each}</select
            >
            <input
              class="input"
              name="pin"
              type="password"
              inputmode="numeric"
              placeholder="new PIN"
              aria-label="New PIN of {person.name}"
              autocomplete="new-password"
            />
            <label class="flex min-h-11 items-center gap-2"
              ><input class="checkbox" type="checkbox" name="active" checked={person.active} /> active</label
            >
            <button class="btn" disabled={busy}>Keep</button>
          {/snippet}
        </ActionForm>
      </li>
    {/each}
  </ul>
  <section class="plate self-start" aria-labelledby="add">
    <h2 id="add" class="text-xl">Add somebody</h2>
    <ActionForm action="?/add" class="mt-2 grid gap-2" label="Add somebody">
      {#snippet children({ busy })}
        <label class="grid gap-1"
          ><span>Name</span><input
            class="input"
            name="name"
            maxlength="80"
            required
            autocomplete="off"
          /></label
        >
        <label class="grid gap-1"
          ><span>Badge number</span><input
            class="input"
            name="badge"
            inputmode="numeric"
            required
            autocomplete="off"
          /></label
        >
        <label class="grid gap-1"
          ><span>Role</span><select class="select" name="role"
            >{#each ROLES as role (role)}<option value={role}>{ROLE_WORDS[role]}</option>{/each}</select
          ></label
        >
        <label class="grid gap-1"
          ><span>PIN</span><input
            class="input"
            name="pin"
            type="password"
            inputmode="numeric"
            required
            autocomplete="new-password"
          /></label
        >
        <button class="btn btn-primary" disabled={busy}>Add</button>
      {/snippet}
    </ActionForm>
  </section>
</div>
