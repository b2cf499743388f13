<script lang="ts">
  import { MILLISECONDS_PER_MINUTE, type LifeBasis } from '$core/life/count';
  import ActionForm from '../ActionForm.svelte';
  import Field from '../Field.svelte';

  let { assembly }: { assembly: { basis: LifeBasis | null; fullLife: number | null } } = $props();
  const fullLife = $derived(
    assembly.fullLife === null
      ? null
      : assembly.basis === 'minutes'
        ? assembly.fullLife / MILLISECONDS_PER_MINUTE
        : assembly.fullLife,
  );
</script>

<details>
  <summary class="inline-flex min-h-11 cursor-pointer items-center underline"
    >{assembly.basis ? 'Change its life limit' : 'Count its life'}</summary
  >
  <ActionForm action="?/life" class="grid gap-2" label="Life limit">
    {#snippet children({ busy })}
      <div class="grid grid-cols-2 gap-2">
        <Field label="Good for"
          ><input class="input" name="limit" inputmode="decimal" value={fullLife ?? ''} required /></Field
        >
        <Field label="Counted in"
          ><select class="select" name="basis" value={assembly.basis ?? 'pieces'}
            ><option value="pieces">pieces</option><option value="holes">holes</option><option value="minutes"
              >minutes in cut</option
            ></select
          ></Field
        >
      </div>
      <Field label="Left now, if it is counted another way than before"
        ><input class="input" name="left" inputmode="decimal" /></Field
      >
      <input class="input" name="why" maxlength="300" aria-label="Why" placeholder="why" required />
      <button class="btn justify-self-start" disabled={busy}>Set the limit</button>
      <p class="small-words">What it has cut stays cut: the new limit counts from there.</p>
    {/snippet}
  </ActionForm>
</details>
