<script lang="ts">
  import Field from '$lib/Field.svelte';
  import { ROLE_WORDS, ROLES, type Role } from '$core/people/roles';
  import ActionForm from '../ActionForm.svelte';

  interface Props {
    /** Null: somebody new. */
    person: {
      id: number;
      name: string;
      role: Role;
      active: boolean;
      wrong: number;
      plantNumber: string | null;
    } | null;
    /** How the plant's sign-in is called here; null: there is none. */
    plant: string | null;
    onDone: () => void;
  }
  let { person, plant, onDone }: Props = $props();
  const shown = $derived(
    JSON.stringify({
      role: person?.role,
      active: person?.active,
      ...(plant === null ? {} : { plantNumber: person?.plantNumber ?? '' }),
    }),
  );
</script>

<h2 class="text-xl">{person ? person.name : 'Somebody new'}</h2>
<ActionForm
  action={person ? '?/change' : '?/add'}
  class="mt-2 grid gap-2"
  label={person ? person.name : 'Add somebody'}
  {onDone}
>
  {#snippet children({ busy })}
    {#if person}
      <input type="hidden" name="person" value={person.id} />
      <input type="hidden" name="shown" value={shown} />
    {:else}
      <Field label="Name"
        ><input class="input" name="name" maxlength="80" required autocomplete="off" /></Field
      >
      <Field label="Badge number"
        ><input class="input" name="badge" inputmode="numeric" required autocomplete="off" /></Field
      >
    {/if}
    <Field label="Role"
      ><select class="select" name="role" value={person?.role ?? 'viewer'}
        >{#each ROLES as role (role)}<option value={role}>{ROLE_WORDS[role]}</option>{/each}</select
      ></Field
    >
    <Field label={person ? 'New PIN (empty: the old one stays)' : 'PIN, 4 to 12 digits'}
      ><input
        class="input"
        name="pin"
        type="password"
        inputmode="numeric"
        required={!person}
        autocomplete="new-password"
      /></Field
    >
    {#if person && plant}
      <Field label="Number at {plant} (empty: PIN only)"
        ><input
          class="input"
          name="plantNumber"
          maxlength="200"
          defaultValue={person.plantNumber ?? ''}
          autocomplete="off"
        /></Field
      >
    {/if}
    {#if person}
      <label class="flex min-h-11 items-center gap-2"
        ><input class="checkbox" type="checkbox" name="active" defaultChecked={person.active} /> may sign in</label
      >
    {/if}
    <button class="btn btn-primary" disabled={busy}>{person ? 'Keep' : 'Add'}</button>
  {/snippet}
</ActionForm>
{#if person && person.wrong > 0}
  <ActionForm action="?/open" class="caution mt-3 grid gap-2" label="Open the badge" {onDone}>
    {#snippet children({ busy })}
      <input type="hidden" name="person" value={person.id} />
      <p>{person.wrong} wrong {person.wrong === 1 ? 'PIN' : 'PINs'} in the last hour.</p>
      <button class="btn" disabled={busy}>Clear them and let the badge in</button>
    {/snippet}
  </ActionForm>
{/if}
{#if person}
  <p class="small-words mt-2">
    A new PIN, a new role, or no longer signing in ends what this person has open elsewhere: they sign in
    again there.
  </p>
{:else}
  <p class="small-words mt-2">
    New people begin as viewers, who change nothing. Tap a name to change somebody.
  </p>
{/if}
