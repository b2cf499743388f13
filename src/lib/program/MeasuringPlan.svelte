<script lang="ts">
  import Field from '$lib/Field.svelte';
  import { FEATURE_KINDS, FEATURE_WORDS, type FeatureKind } from '$core/inspection/feature';
  import type { Length, LengthUnit } from '$core/units/length';
  import ActionForm from '../ActionForm.svelte';
  import Size from '../Size.svelte';

  interface Feature {
    id: number;
    name: string;
    kind: FeatureKind;
    nominal: Length;
    upper: Length;
    lower: Length;
    target: Length;
    tool: number;
    row: number;
    policy: string;
    averageOf: number;
  }
  interface Props {
    features: Feature[];
    /** T that the program calls. */
    calls: number[];
    program: { id: number; number: string };
    machineId: number;
    unit: LengthUnit;
    mayPlan: boolean;
  }
  let { features, calls, program, machineId, unit, mayPlan }: Props = $props();
  const tools = $derived([...new Set(calls)].filter((tool) => tool > 0).sort((a, b) => a - b));
</script>

<section aria-labelledby="plan">
  <h2 id="plan" class="heading">
    Measuring plan {#if features.length > 0}<a
        class="small-words font-sans font-normal underline"
        href="/machines/{machineId}/now?program={program.id}">type a reading</a
      >{/if}
  </h2>
  {#if features.length > 0}
    <div class="mt-1 overflow-x-auto">
      <table class="ruled">
        <thead
          ><tr
            ><th scope="col">Feature</th><th scope="col">What</th><th scope="col" class="number">Nominal</th
            ><th scope="col" class="number">Upper</th><th scope="col" class="number">Lower</th><th
              scope="col"
              class="number">Aim</th
            ><th scope="col">T, row</th><th scope="col">Correct</th></tr
          ></thead
        >
        <tbody>
          {#each features as feature (feature.id)}
            <tr>
              <th scope="row">{feature.name}</th><td>{FEATURE_WORDS[feature.kind]}</td>
              <td class="number"><Size value={feature.nominal} {unit} bare /></td><td class="number"
                ><Size value={feature.upper} {unit} bare signed /></td
              ><td class="number"><Size value={feature.lower} {unit} bare signed /></td><td class="number"
                ><Size value={feature.target} {unit} bare /></td
              >
              <td>T{feature.tool}, {feature.row}</td>
              <td
                >{feature.policy === 'everyPart'
                  ? 'every part'
                  : feature.policy === 'average'
                    ? `mean of ${feature.averageOf}`
                    : 'outside the dead band'}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
  {:else}<p class="mt-1">Nothing is measured on {program.number} yet.</p>{/if}
  {#if mayPlan && tools.length > 0}
    <details class="mt-2" open={features.length === 0}>
      <summary class="inline-flex min-h-11 cursor-pointer items-center font-semibold underline"
        >Add a feature</summary
      >
      <ActionForm
        action="?/feature"
        class="mt-1 grid gap-3 sm:grid-cols-2 lg:grid-cols-4"
        label="New feature"
      >
        {#snippet children({ busy })}
          <Field label="What it is called on the drawing" class="sm:col-span-2"
            ><input class="input" name="feature" maxlength="60" required /></Field
          >
          <Field label="What is measured" class="sm:col-span-2"
            ><select class="select" name="kind" required
              ><option value="">choose</option>{#each FEATURE_KINDS as kind (kind)}<option value={kind}
                  >{FEATURE_WORDS[kind]}</option
                >{/each}</select
            ></Field
          >
          {#each [['nominal', 'Nominal'], ['upper', 'Upper deviation'], ['lower', 'Lower deviation']] as const as [name, words] (name)}
            <label class="grid gap-1"
              ><span class="font-semibold">{words}<span class="small-words font-normal">, {unit}</span></span
              ><input class="input" {name} data-pad="length" autocomplete="off" required /></label
            >
          {/each}
          <Field label="Cut by"
            ><select class="select" name="tool" required
              >{#each tools as tool (tool)}<option value={String(tool)}>T{tool}</option>{/each}</select
            ></Field
          >
          <Field label="Offset row, if not the tool’s own"
            ><input class="input" name="row" inputmode="numeric" /></Field
          >
          <Field label="Gauge"><input class="input" name="gauge" maxlength="60" /></Field>
          <button class="btn self-end btn-primary" disabled={busy}>Add it</button>
        {/snippet}
      </ActionForm>
      <p class="small-words mt-1">
        Aimed at the middle, corrected outside a dead band of an eighth of the tolerance. Other choices, and
        many features at once, come in as <a class="underline" href="/programs">a plan in CSV</a>.
      </p>
    </details>
  {/if}
</section>
