<script lang="ts">
  import { goto } from '$app/navigation';
  import {
    FIRST_SCHOOL_WORDS,
    FIRST_SCHOOLS,
    usualAllowance,
    type FirstSchool,
  } from '$core/correction/first-part-plan';
  import { FEATURE_WORDS, type FeatureKind, type Limits, type Rough } from '$core/inspection/feature';
  import { formatLength, plainDecimal } from '$core/units/format-length';
  import type { LengthUnit } from '$core/units/length';
  import ActionForm from '../ActionForm.svelte';

  interface Props {
    begin: {
      programs: { id: number; number: string; title: string }[];
      program: { id: number; number: string } | null;
      sizes: (Limits & {
        id: number;
        name: string;
        kind: FeatureKind;
        tool: number;
        row: number;
        rough: Rough | null;
        held: boolean;
      })[];
    };
    unit: LengthUnit;
  }
  /** How a first part is brought to size, and which of its sizes. */
  let { begin, unit }: Props = $props();
  let school = $state<FirstSchool>('equalPasses');
  let left = $state<Record<number, boolean>>({});
  const away = $derived(school !== 'runAndCorrect');
  const allowance = (size: Props['begin']['sizes'][number]) =>
    size.rough ? plainDecimal(usualAllowance(school, size.rough.stock), unit) : '';
</script>

{#if !begin.program}
  <p class="mt-5 text-lg">
    No program of this machine has a measuring plan.
    <a class="underline" href="/programs">Bring one in</a> first.
  </p>
{:else}
  <h2 class="mt-5 text-2xl">Bring a first part to size</h2>
  {#if begin.programs.length > 1}
    <select
      class="select mt-2"
      aria-label="Program"
      value={begin.program.id}
      onchange={(event) => void goto(`?program=${event.currentTarget.value}`)}
    >
      {#each begin.programs as each (each.id)}<option value={each.id}>{each.number} {each.title}</option
        >{/each}
    </select>
  {/if}
  <ActionForm action="?/begin" class="mt-3 grid gap-4" label="Begin">
    {#snippet children({ busy })}
      <input type="hidden" name="program" value={begin.program?.id} />
      <fieldset class="grid gap-2 md:grid-cols-3">
        <legend class="sr-only">How</legend>
        {#each FIRST_SCHOOLS as each (each)}
          <label class={['plate flex cursor-pointer gap-3', school === each && 'outline-3 outline-accent']}>
            <input class="radio mt-1" type="radio" name="school" value={each} bind:group={school} />
            <span
              ><b class="font-display text-xl">{FIRST_SCHOOL_WORDS[each].name}</b><br /><span
                class="small-words">{FIRST_SCHOOL_WORDS[each].how}</span
              ></span
            >
          </label>
        {/each}
      </fieldset>
      <div class="relative overflow-x-auto">
        <table class="ruled w-full">
          <thead
            ><tr
              ><th scope="col">Size</th><th scope="col" class="number">Limits, {unit}</th><th scope="col"
                >Finished by</th
              ><th scope="col">Roughed by</th>{#if away}<th scope="col">Stay away by, {unit}, in the size</th
                >{/if}</tr
            ></thead
          >
          <tbody>
            {#each begin.sizes as size (size.id)}
              <tr>
                <th scope="row"
                  ><label class="flex min-h-11 items-center gap-2"
                    ><input
                      class="checkbox"
                      type="checkbox"
                      name="size.{size.id}"
                      bind:checked={() => !left[size.id], (on) => (left[size.id] = !on)}
                    />
                    <span>{size.name}<br /><span class="small-words">{FEATURE_WORDS[size.kind]}</span></span
                    ></label
                  ></th
                >
                <td class="number"
                  >{formatLength(size.nominal, unit)}
                  {formatLength(size.upper, unit, { sign: 'always' })}/{formatLength(size.lower, unit, {
                    sign: 'always',
                  })}</td
                >
                <td>{size.held ? `T${size.tool}, row ${size.row}` : 'no register'}</td>
                <td
                  >{#if size.rough}T{size.rough.tool}, row {size.rough.row}, leaves {formatLength(
                      size.rough.stock,
                      unit,
                    )}{:else}<span class="small-words">not said in the plan</span>{/if}</td
                >
                {#if away}<td
                    >{#if size.held}{#key school}<input
                          class="input w-32"
                          name="allowance.{size.id}"
                          aria-label="{size.name}: stay away by"
                          defaultValue={allowance(size)}
                          data-pad="length"
                          autocomplete="off"
                          disabled={left[size.id]}
                        />{/key}{/if}</td
                  >{/if}
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
      <p class="small-words">
        Who roughs a size and what it leaves stands in the <a
          class="underline"
          href="/programs/{begin.program?.id}">measuring plan</a
        >. Without it the rougher is not looked at.
      </p>
      <button class="btn h-14 justify-self-start px-8 text-lg btn-primary" disabled={busy}>Begin</button>
    {/snippet}
  </ActionForm>
{/if}
