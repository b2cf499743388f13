<script lang="ts">
  import { capital } from '$core/words/capital';
  import ActionForm from '../ActionForm.svelte';
  import Field from '../Field.svelte';
  import NumberField from '../NumberField.svelte';
  import { CHECK_METHODS, CHECK_MOMENTS, METHOD_WORDS, MOMENT_WORDS } from '$core/breakage/tool-check';
  import { formatLength, formatWithUnit } from '$core/units/format-length';
  import type { Length, LengthUnit } from '$core/units/length';
  import { shortTime } from '../time';
  import { checkWords } from './shown';
  import type { CheckTold, CheckedPlace } from '$core/breakage/checked-tool';

  interface Props {
    check: CheckedPlace;
    unit: LengthUnit;
    lathe: boolean;
    /** What the control has measured; null: nothing. */
    byControl: Length | null;
    job: { number: string; made: number; partsPerCycle: number } | null;
    open: boolean;
    mayDecide: boolean;
    mayCheck: boolean;
    now: Date;
    zone: string;
  }
  let { check, unit, lathe, byControl, job, open, mayDecide, mayCheck, now, zone }: Props = $props();
  let told = $state<CheckTold | null>(null);
  const decided = $derived(check.decidedBy !== null);
</script>

<li class={['py-2', check.moment === 'none' && !decided && 'text-base-content/80']}>
  <div class="grid gap-x-4 gap-y-1 md:grid-cols-[4rem_1fr_1fr]">
    <p class="font-display text-2xl font-bold">{lathe ? '' : 'T'}{check.tool}</p>
    <div>
      <p>
        <a class="font-semibold underline" href="/tools/{check.assemblyId}">{check.number}</a>
        {check.name}
      </p>
      <p class="font-semibold">
        {check.moment === 'none'
          ? 'Not checked'
          : `${capital(METHOD_WORDS[check.method])}, ${MOMENT_WORDS[check.moment]}`}
      </p>
      {#if check.moment !== 'none'}<p class="small-words">
          Broken when short by {formatWithUnit(check.limits.short, unit)}, pulling out when long by {formatWithUnit(
            check.limits.long,
            unit,
          )}.
        </p>{/if}
      <p class="small-words">
        {decided
          ? `As ${check.decidedBy} decided. Proposed: ${check.proposal.moment === 'none' ? 'not checked' : MOMENT_WORDS[check.proposal.moment]}, `
          : 'Proposed: '}{check.proposal.reasons.join('; ')}.
      </p>
    </div>
    <div>
      {#if check.last}
        <p
          class={[
            (check.last.verdict === 'broken' || check.last.verdict === 'pullingOut') &&
              'font-semibold text-accent',
          ]}
        >
          {checkWords(check.last, unit)}
        </p>
        <p class="small-words">
          {check.last.part === null ? '' : `after part ${check.last.part}, `}{check.last.person}, {shortTime(
            check.last.at,
            now,
            zone,
          )}
        </p>
      {:else}<p class="small-words">No check is on record.</p>{/if}
      {#if check.flag === 'broken'}<p>
          <a
            class="inline-flex min-h-11 items-center font-semibold text-accent underline"
            href="/tools/{check.assemblyId}/broken">In quarantine</a
          >
        </p>{/if}
      {#if told}<p class="caution mt-1" role="status">{told.said}</p>{/if}
    </div>
  </div>
  <div class="flex flex-wrap gap-x-6 md:pl-20">
    {#if mayCheck}
      <details {open}>
        <summary class="inline-flex min-h-11 cursor-pointer items-center font-semibold underline"
          >Check it</summary
        >
        {#if byControl !== null}
          <ActionForm
            action="?/control"
            class="mb-2 flex flex-wrap items-center gap-3"
            label="What the control measured of T{check.tool}"
            onDone={(done: CheckTold) => (told = done)}
          >
            {#snippet children({ busy })}
              <input type="hidden" name="tool" value={check.tool} /><input
                type="hidden"
                name="assembly"
                value={check.assemblyId}
              />
              <input type="hidden" name="method" value={check.method} />
              <span>The control measured <b>{formatLength(byControl, unit)} {unit}</b>.</span>
              <button class="btn" disabled={busy}>Take that</button>
            {/snippet}
          </ActionForm>
        {/if}
        <ActionForm
          action="?/check"
          class="grid gap-2 pb-3 sm:grid-cols-[10rem_10rem_10rem_auto] sm:items-end"
          label="Check T{check.tool}"
          onDone={(done: CheckTold) => (told = done)}
        >
          {#snippet children({ busy })}
            <input type="hidden" name="tool" value={check.tool} /><input
              type="hidden"
              name="assembly"
              value={check.assemblyId}
            />
            <NumberField
              name="measured"
              label="It measures, {unit}"
              required
              placeholder={check.reference === null ? '' : formatLength(check.reference, unit)}
            />
            <Field label="How">
              <select class="select" name="method" value={check.method}
                >{#each CHECK_METHODS as method (method)}<option value={method}>{METHOD_WORDS[method]}</option
                  >{/each}</select
              ></Field
            >
            {#if job}<NumberField
                name="part"
                label="Last part it cut"
                whole
                value={String(job.made + job.partsPerCycle)}
              />{/if}
            <button class="btn btn-primary" disabled={busy}>Judge it</button>
          {/snippet}
        </ActionForm>
      </details>
    {/if}
    {#if mayDecide}
      <details>
        <summary class="inline-flex min-h-11 cursor-pointer items-center underline">Decide how</summary>
        <ActionForm
          action="?/decide"
          class="grid gap-2 pb-3 sm:grid-cols-[11rem_10rem_8rem_8rem_auto] sm:items-end"
          label="Decide how T{check.tool} is checked"
          keep
        >
          {#snippet children({ busy })}
            <input type="hidden" name="tool" value={check.tool} />
            <Field label="When"
              ><select class="select" name="moment" value={check.moment}
                >{#each CHECK_MOMENTS as moment (moment)}<option value={moment}>{MOMENT_WORDS[moment]}</option
                  >{/each}</select
              ></Field
            >
            <Field label="How"
              ><select class="select" name="method" value={check.method}
                >{#each CHECK_METHODS as method (method)}<option value={method}>{METHOD_WORDS[method]}</option
                  >{/each}</select
              ></Field
            >
            <NumberField
              name="short"
              label="Short by, {unit}"
              value={formatLength(check.limits.short, unit)}
            />
            <NumberField name="long" label="Long by, {unit}" value={formatLength(check.limits.long, unit)} />
            <button class="btn" disabled={busy}>Decide</button>
          {/snippet}
        </ActionForm>
      </details>
    {/if}
  </div>
</li>
