<script lang="ts">
  import { PER_SHOWN, type LifeBasis } from '$core/life/count';
  import ActionForm from '../ActionForm.svelte';
  import Field from '../Field.svelte';

  interface Props {
    assembly: { basis: LifeBasis | null; fullLife: number | null };
    /** What its corrections may be counted by, where it stands in a machine. */
    watchable: { value: string; words: string }[];
    watched: string;
  }
  let { assembly, watchable, watched }: Props = $props();
  const fullLife = $derived(assembly.basis === null ? null : assembly.fullLife! / PER_SHOWN[assembly.basis]);
  // svelte-ignore state_referenced_locally
  let basis = $state<LifeBasis>(assembly.basis ?? 'pieces');
</script>

<details>
  <summary class="inline-flex min-h-11 cursor-pointer items-center underline"
    >{assembly.basis ? 'Change its life limit' : 'Count its life'}</summary
  >
  <ActionForm action="?/life" class="grid gap-2" label="Life limit">
    {#snippet children({ busy })}
      <div class="grid grid-cols-2 gap-2">
        <Field label="Good for"
          ><input
            class="input"
            name="limit"
            inputmode="decimal"
            defaultValue={fullLife ?? ''}
            required
          /></Field
        >
        <Field label="Counted in"
          ><select class="select" name="basis" bind:value={basis}
            ><option value="pieces">pieces</option><option value="holes">holes</option><option value="minutes"
              >minutes in cut</option
            ><option value="wear">mm of correction</option></select
          ></Field
        >
      </div>
      {#if basis === 'wear'}
        <Field label="Which corrections count"
          ><select class="select w-full" name="watched" value={watched}
            ><option value="">those of the row that moves most</option
            >{#each watchable as each (each.value)}<option value={each.value}>{each.words}</option
              >{/each}</select
          ></Field
        >
        <p class="small-words">
          Corrections since its renewal are added up without their signs. What a first-off takes out was there
          before it cut, and does not count.
        </p>
      {/if}
      <Field label="Left now, if it is counted another way than before"
        ><input class="input" name="left" inputmode="decimal" /></Field
      >
      <input class="input" name="why" maxlength="300" aria-label="Why" placeholder="why" required />
      <button class="btn justify-self-start" disabled={busy}>Set the limit</button>
      <p class="small-words">What it has cut stays cut: the new limit counts from there.</p>
    {/snippet}
  </ActionForm>
  {#if assembly.basis}
    <ActionForm action="?/uncount" class="mt-4 grid gap-2" label="Not counted any more">
      {#snippet children({ busy })}
        <p class="small-words">
          Or take it out of life management: then it never expires, nobody is told when it runs out, and no
          sister takes over for it.
        </p>
        <input
          class="input"
          name="why"
          maxlength="300"
          aria-label="Why it is not counted"
          placeholder="why"
          required
        />
        <button class="btn justify-self-start" disabled={busy}>Stop counting it</button>
      {/snippet}
    </ActionForm>
  {/if}
</details>
