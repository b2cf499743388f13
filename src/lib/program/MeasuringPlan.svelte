<script lang="ts">
  import { POLICY_WORDS } from '$core/correction/policies';
  import type { PlannedFeature } from '$core/formats/plan-file';
  import { FEATURE_WORDS, movesOf, type MachineReckoning } from '$core/inspection/feature';
  import type { LengthUnit } from '$core/units/length';
  import Size from '../Size.svelte';
  import { monthOf } from '../time';
  import FeatureForm from './FeatureForm.svelte';

  interface Props {
    features: (PlannedFeature & { id: number })[];
    /** What looks wrong with a feature by the moves of its tool. */
    doubts: { name: string; doubt: string }[];
    /** T that the program calls. */
    calls: number[];
    program: { id: number; number: string };
    machine: MachineReckoning & { id: number };
    unit: LengthUnit;
    mayPlan: boolean;
    /** The present month, as 2026-11. */
    month: string;
    /** Readings that stand in files, and up to which month. */
    inFiles: { lines: number; to: string | null };
  }
  let { features, doubts, calls, program, machine, unit, mayPlan, month, inFiles }: Props = $props();
  let changing = $state<number | null>(null);
  const tools = $derived([...new Set(calls)].filter((tool) => tool > 0).sort((a, b) => a - b));
</script>

<section aria-labelledby="plan">
  <h2 id="plan" class="heading">
    Measuring plan {#if features.length > 0}<a
        class="small-words font-sans font-normal underline"
        href="/machines/{machine.id}/now?program={program.id}">type a reading</a
      >
      <a class="small-words font-sans font-normal underline" href="/gauges">gauges</a>{/if}
  </h2>
  {#if features.length > 0}
    <div class="relative mt-1 overflow-x-auto">
      <table class="ruled">
        <thead
          ><tr
            ><th scope="col">Feature</th><th scope="col">What</th><th scope="col" class="number">Nominal</th
            ><th scope="col" class="number">Upper</th><th scope="col" class="number">Lower</th><th
              scope="col"
              class="number">Aim</th
            ><th scope="col">T, row</th><th scope="col">Correct</th>{#if mayPlan}<th scope="col"
                ><span class="sr-only">Change</span></th
              >{/if}</tr
          ></thead
        >
        <tbody>
          {#each features as feature (feature.id)}
            <tr>
              <th scope="row"
                ><a class="underline" href="/programs/{program.id}/drift?feature={feature.id}"
                  >{feature.name}</a
                ></th
              ><td>{FEATURE_WORDS[feature.kind]}</td>
              <td class="number"><Size value={feature.nominal} {unit} bare /></td><td class="number"
                ><Size value={feature.upper} {unit} bare signed /></td
              ><td class="number"><Size value={feature.lower} {unit} bare signed /></td><td class="number"
                ><Size value={feature.target} {unit} bare /></td
              >
              <td class="whitespace-nowrap"
                >{#each movesOf(feature, machine) as each, i (each.row)}{i > 0 ? ' and ' : ''}T{each.tool}, {each.row}{:else}none{/each}</td
              >
              <td
                >{feature.policy === 'average'
                  ? `by the mean of ${feature.averageOf}`
                  : POLICY_WORDS[feature.policy]}</td
              >
              {#if mayPlan}<td
                  ><button
                    type="button"
                    class="min-h-11 underline"
                    aria-expanded={changing === feature.id}
                    aria-label="Change {feature.name}"
                    onclick={() => (changing = changing === feature.id ? null : feature.id)}>Change</button
                  ></td
                >{/if}
            </tr>
            {#if changing === feature.id}<tr
                ><td colspan="9"
                  ><FeatureForm {feature} {tools} {machine} {unit} onDone={() => (changing = null)} /></td
                ></tr
              >{/if}
          {/each}
        </tbody>
      </table>
    </div>
    {#each doubts as { name, doubt } (name)}
      <p class="caution mt-2"><b>{name}</b>, look again: {doubt}</p>
    {/each}
    <p class="mt-2 flex flex-wrap gap-x-5 gap-y-1">
      <a class="inline-flex min-h-11 items-center underline" href="/programs/{program.id}/plan" download
        >The plan as CSV</a
      >
      <a class="inline-flex min-h-11 items-center underline" href="/programs/{program.id}/readings" download
        >All readings as CSV</a
      >
      <a
        class="inline-flex min-h-11 items-center underline"
        href="/programs/{program.id}/readings?month={month}"
        download>Those of this month</a
      >
      {#if inFiles.lines > 0}<a class="inline-flex min-h-11 items-center underline" href="/ledger/archive"
          >Readings up to {monthOf(inFiles.to!)} may be in the archive</a
        >{/if}
    </p>
  {:else}<p class="mt-1">Nothing is measured on {program.number} yet.</p>{/if}
  {#if mayPlan && tools.length > 0}
    <details class="mt-2" open={features.length === 0}>
      <summary class="inline-flex min-h-11 cursor-pointer items-center font-semibold underline"
        >Add a feature</summary
      >
      <FeatureForm feature={null} {tools} {machine} {unit} />
      <p class="small-words mt-1">
        Aimed at the middle and corrected by all readings of its edge, unless you say otherwise. Many features
        at once come in as <a class="underline" href="/programs">a plan in CSV</a>.
      </p>
    </details>
  {/if}
</section>
