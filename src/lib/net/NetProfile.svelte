<script lang="ts">
  import { REGISTER_WORDS } from '$core/inspection/register-words';
  import type { NetProfile } from '$core/program/net-profile';
  import ActionForm from '../ActionForm.svelte';
  import Field from '../Field.svelte';

  let { profile, kinds, machine }: { profile: NetProfile | null; kinds: readonly string[]; machine: string } =
    $props();
  const EXAMPLE: Readonly<Record<string, string>> = {
    lengthGeometry: '#[8000+{row}]',
    xGeometry: '#[2700+{row}]',
    zGeometry: '#[2800+{row}]',
  };
  const plain = $derived([
    { name: 'program', label: 'Its O number', value: profile?.program, example: '9100' },
    { name: 'call', label: 'The line that calls it', value: profile?.call, example: 'G65 P9100' },
    {
      name: 'activeTool',
      label: 'Variable of the T that is in',
      value: profile?.activeTool,
      example: '#4120',
    },
    ...kinds.map((kind) => ({
      name: `register.${kind}`,
      label: `Variable of ${REGISTER_WORDS[kind]!.toLowerCase()}`,
      value: profile?.registers[kind],
      example: EXAMPLE[kind] ?? '#[…{row}]',
    })),
    {
      name: 'alarm',
      label: 'What raises an alarm',
      value: profile?.alarm,
      example: '#3000={number} ({text})',
    },
    {
      name: 'longestText',
      label: 'Characters that an alarm shows',
      value: profile?.longestText,
      example: '26',
    },
  ]);
</script>

<details class="mt-4 border-t border-base-300 pt-2" open={!profile}>
  <summary class="min-h-11 cursor-pointer py-2 font-semibold"
    >How {machine} lets a program look at its table</summary
  >
  <ActionForm action="?/profile" label="How the check is written" keep class="mt-1 grid gap-2">
    {#snippet children({ busy })}
      <div class="grid gap-x-4 gap-y-2 sm:grid-cols-2">
        {#each plain as { name, label, value, example } (name)}
          <Field {label} small
            ><input
              class="input w-full font-mono"
              {name}
              defaultValue={value ?? ''}
              placeholder={example}
              autocomplete="off"
              required
            /></Field
          >
        {/each}
        <Field label="While registers are shown in inches" small
          ><input
            class="input w-full font-mono"
            name="inches"
            defaultValue={profile?.inches ?? ''}
            placeholder="#4006 EQ 20; empty: never changes"
            autocomplete="off"
          /></Field
        >
      </div>
      <p class="small-words">
        The manual of the control says which variables these are. The grey ones are common on controls of this
        family, not on all. A wrong variable makes a check that checks nothing: try it with a length set to
        zero.
      </p>
      <div><button class="btn btn-primary" disabled={busy}>Save</button></div>
    {/snippet}
  </ActionForm>
</details>
