<script lang="ts">
  import { addsUp } from '$core/correction/register-text';
  import { SHIFTS, shiftWords } from '$core/program/boring-shift';
  import type { Dialect } from '$core/program/dialect';
  import ActionForm from '../ActionForm.svelte';
  import Field from '../Field.svelte';
  import { REGISTER_WORDS } from '$core/inspection/register-words';

  let { machine }: { machine: { kind: 'mill' | 'lathe'; dialect: Dialect } } = $props();
  const { dialect } = $derived(machine);
  const kinds = $derived(
    machine.kind === 'mill'
      ? ['lengthGeometry', 'lengthWear', 'cutterGeometry', 'cutterWear']
      : ['xGeometry', 'zGeometry', 'xWear', 'zWear'],
  );
  const text = $derived([
    {
      name: 'toolCallCodes',
      label: 'Codes that change the tool',
      value: dialect.toolCallCodes.join(' '),
      hint: 'empty where the T word does it',
    },
    {
      name: 'toolCallMacro',
      label: 'or the O number of a macro',
      value: dialect.toolCallMacro ?? '',
      hint: '',
    },
    {
      name: 'rowDigits',
      label: 'Digits of T that are the row',
      value: dialect.rowDigits,
      hint: '2 in T0101',
    },
    {
      name: 'lengthCodes',
      label: 'Codes that apply a length',
      value: dialect.lengthCodes.join(' '),
      hint: '',
    },
    {
      name: 'automaticRow',
      label: 'H that means “the tool’s own row”',
      value: dialect.automaticRow ?? '',
      hint: 'empty where there is none',
    },
    { name: 'lifeCodes', label: 'Codes that count life', value: dialect.lifeCodes.join(' '), hint: '' },
    {
      name: 'throughCodes',
      label: 'Codes that pump coolant through the tool',
      value: (dialect.throughCodes ?? []).join(' '),
      hint: 'such as M88; empty: the machine has none',
    },
    {
      name: 'harmlessCodes',
      label: 'Codes that change nothing',
      value: (dialect.harmlessCodes ?? []).join(' '),
      hint: 'doors, chip conveyors, air: a code that is not known makes a program “cannot tell”',
    },
  ]);
</script>

<details>
  <summary class="inline-flex min-h-11 cursor-pointer items-center font-display font-semibold underline"
    >How its programs are read and its registers are written</summary
  >
  <ActionForm action="?/dialect" class="mt-2 grid gap-2" label="Dialect profile" keep>
    {#snippet children({ busy })}
      <input type="hidden" name="kind" value={dialect.kind} />
      <input type="hidden" name="shown" value={JSON.stringify(dialect)} />
      {#each text as field (field.name)}
        <label class="grid grid-cols-2 items-center gap-2"
          ><span
            >{field.label}{#if field.hint}<span class="small-words block">{field.hint}</span>{/if}</span
          ><input class="input" name={field.name} defaultValue={field.value} autocomplete="off" /></label
        >
      {/each}
      <label class="grid grid-cols-2 items-center gap-2"
        ><span>Units until G20 or G21</span><select class="select" name="units" value={dialect.units}
          ><option>mm</option><option>in</option></select
        ></label
      >
      <label class="grid grid-cols-2 items-center gap-2"
        ><span>Feed at the start</span><select class="select" name="feed" value={dialect.feed}
          ><option value="perMinute">per minute</option><option value="perRevolution">per revolution</option
          ></select
        ></label
      >
      <label class="grid grid-cols-2 items-center gap-2"
        ><span>X100 without a point means</span><select
          class="select"
          name="pointless"
          value={dialect.pointless}
          ><option value="asWritten">100 units</option><option value="leastIncrement"
            >100 least increments</option
          ></select
        ></label
      >
      {#if machine.kind === 'mill'}
        <label class="grid grid-cols-2 items-center gap-2"
          ><span>Q shifts a fine boring bar towards</span><select
            class="select"
            name="boringShift"
            value={dialect.boringShift ?? 'X+'}
            >{#each SHIFTS as shift (shift)}<option value={shift}>{shiftWords(shift)}</option>{/each}</select
          ></label
        >
      {/if}
      <label class="flex min-h-11 items-center gap-2"
        ><input
          class="checkbox"
          type="checkbox"
          name="turningCycles"
          defaultChecked={dialect.turningCycles}
        /> G70 to G76, G90, G92, G94 are turning cycles</label
      >
      <p class="mt-2 font-display font-semibold">Text that sets a register</p>
      {#each kinds as kind (kind)}
        <label class="grid grid-cols-2 items-center gap-2"
          ><span>{REGISTER_WORDS[kind]}</span><input
            class="input font-mono"
            name="set.{kind}"
            defaultValue={dialect.setRegister[kind] ?? ''}
            placeholder="G10 … P{'{row}'} R{'{value}'}"
            autocomplete="off"
          />{#if addsUp(dialect, kind)}<span class="caution col-span-2 text-sm"
              >U and W add to what stands there in most controls of this family: the text must set it, as X
              and Z do.</span
            >{/if}</label
        >
      {/each}
      <div class="grid grid-cols-2 gap-2">
        {#each [['codeMm', 'A line in mm begins with', 'mm'], ['codeIn', 'A line in inches begins with', 'in']] as const as [name, words, unit] (name)}
          <Field label={words} small
            ><input
              class="input font-mono"
              {name}
              defaultValue={dialect.unitCodes[unit]}
              required
              autocomplete="off"
            /></Field
          >
        {/each}
      </div>
      <p class="mt-2 font-display font-semibold">Text that leaves unless a row shows {'{value}'}</p>
      {#each kinds as kind (kind)}
        <label class="grid grid-cols-2 items-center gap-2"
          ><span>{REGISTER_WORDS[kind]}</span><input
            class="input font-mono"
            name="guard.{kind}"
            defaultValue={dialect.guardRegister[kind] ?? ''}
            placeholder="none"
            autocomplete="off"
          /></label
        >
      {/each}
      <Field label="Such a program ends with" small
        ><textarea class="textarea font-mono" name="guardEnd" rows="2">{dialect.guardEnd.join('\n')}</textarea
        ></Field
      >
      <p class="caution text-sm">Check against the machine’s manual before anybody runs such a line.</p>
      <button class="btn btn-primary" disabled={busy}>Save this profile</button>
    {/snippet}
  </ActionForm>
</details>
