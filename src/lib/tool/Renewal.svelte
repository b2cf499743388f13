<script lang="ts">
  import { indexingWords, usedUp, type InsertSet } from '$core/assembly/inserts';
  import type { Making } from '$core/shift/likely-made';
  import DropRenewal from './DropRenewal.svelte';
  import EdgeEnded from './EdgeEnded.svelte';
  import { nextStep, RENEWAL_STEPS, RENEWAL_WORDS, type RenewalStep } from '$core/life/renewal';
  import { referenceOf, gaugeLengthFromRegister, type LengthSchool } from '$core/length/schools';
  import { PER_SHOWN, type LifeBasis } from '$core/life/count';
  import { formatLength } from '$core/units/format-length';
  import type { Length, LengthUnit } from '$core/units/length';
  import ActionForm from '../ActionForm.svelte';
  import MadeUntilNow from '../MadeUntilNow.svelte';
  import { shortTime } from '../time';
  import { REGISTER_WORDS } from '$core/inspection/register-words';

  interface Props {
    assembly: {
      number: string;
      tool: number | null;
      basis: LifeBasis | null;
      fullLife: number | null;
      gaugeLength: Length;
      flag: string | null;
    };
    machine: {
      name: string;
      kind: 'mill' | 'lathe';
      unit: LengthUnit;
      lengthSchool: LengthSchool;
      planeConstant: Length;
      masterLength: Length;
      expiry: string;
    } | null;
    renewal: {
      startedBy: string;
      startedAt: Date;
      steps: { step: RenewalStep; person: string; at: Date }[];
      /** What was counted of it since its edge was changed, in units of its counter. */
      cutSince: number;
    } | null;
    registers: { id: number; kind: string; row: number; value: Length }[];
    wear: { id: number; row: number; kind: string; value: Length }[];
    /** Geometry of the other rows that the tool is called with. */
    others: { id: number; row: number; kind: string; value: Length }[];
    keyed: number | null;
    /** What it is cutting, with what the record and, where it is asked, the control have counted. */
    making: Making | null;
    /** Its inserts, as far as they are on record. */
    inserts: readonly InsertSet[];
    mayRenew: boolean;
    zone: string;
    now: Date;
  }
  let {
    assembly,
    machine,
    renewal,
    registers,
    wear,
    others,
    keyed,
    making,
    inserts,
    mayRenew,
    zone,
    now,
  }: Props = $props();
  const unit = $derived(machine?.unit ?? 'mm');
  let index = $state(true);
  const next = $derived(renewal ? nextStep(renewal.steps.map((step) => step.step)) : null);
  const done = (step: RenewalStep) => renewal?.steps.find((each) => each.step === step);
  const fullLife = $derived(
    assembly.basis === null ? assembly.fullLife : assembly.fullLife! / PER_SHOWN[assembly.basis],
  );
  const cutSince = $derived(
    assembly.basis === null || !renewal ? 0 : renewal.cutSince / PER_SHOWN[assembly.basis],
  );
  const length = $derived(
    machine && registers[0]?.value
      ? gaugeLengthFromRegister(registers[0].value, referenceOf(machine))
      : assembly.gaugeLength,
  );
</script>

<section class="plate" aria-labelledby="renewal">
  <h2 id="renewal" class="text-xl">Renewal</h2>
  {#if !renewal}
    <p class="mt-1">
      Change the edge, set its life, clear the flag, measure again, zero the wear: five steps in this order,
      each kept as it is taken.
    </p>
    {#if mayRenew}
      <ActionForm action="?/renew" class="mt-2" label="Begin a renewal"
        >{#snippet children({ busy })}<button class="btn btn-primary" disabled={busy}>Begin</button
          >{/snippet}</ActionForm
      >
    {/if}
  {:else}
    <p class="small-words">
      Begun by {renewal.startedBy}, {shortTime(renewal.startedAt, now, zone)}. Anyone may carry on.
    </p>
    <ol class="mt-2 grid gap-1">
      {#each RENEWAL_STEPS as step, i (step)}
        {@const taken = done(step)}
        <li class={['grid grid-cols-[2rem_1fr] gap-x-1 py-1', step !== next && !taken && 'opacity-80']}>
          <span class="font-display text-lg font-semibold" aria-hidden="true">{taken ? '●' : i + 1}</span>
          <div>
            <p class="font-semibold">
              {RENEWAL_WORDS[step]}
              {#if taken}<span class="small-words font-normal"
                  >{taken.person}, {shortTime(taken.at, now, zone)}</span
                >{/if}
            </p>
            {#if step === next && mayRenew}
              <ActionForm action="?/step" class="mt-1 grid gap-2" label={RENEWAL_WORDS[step]}>
                {#snippet children({ busy })}
                  <input type="hidden" name="step" value={step} />
                  {#if step === 'changed'}
                    <p class="caution text-sm">
                      {machine?.kind === 'lathe'
                        ? 'Chuck stopped, and the turret clear of it.'
                        : 'Spindle stopped and the tool out of it.'} Sharp edges: gloves, and a rag to draw a cutter
                      out. Grip neither cutter nor taper with a spanner.
                    </p>
                    {#if inserts.length > 0}<label class="flex min-h-11 items-center gap-2"
                        ><input class="checkbox" type="checkbox" name="index" bind:checked={index} />
                        Indexed: {inserts.map(indexingWords).join(', ')}{inserts.some(usedUp)
                          ? ', from the crib'
                          : ''}</label
                      >{/if}
                    <input
                      class="input"
                      name="what"
                      aria-label="What was changed"
                      placeholder={inserts.length > 0 && index
                        ? 'anything else (optional)'
                        : 'fresh edge 3 of 4, new insert, new cutter …'}
                      maxlength="200"
                      required={!(inserts.length > 0 && index)}
                    />
                    {#if making}<MadeUntilNow {making} />{/if}
                    {#if assembly.basis}<EdgeEnded broke={assembly.flag === 'broken'} />{/if}
                  {:else if step === 'lifeSet' && assembly.basis}
                    <label class="grid gap-1"
                      ><span
                        >{{
                          pieces: 'Pieces',
                          holes: 'Holes',
                          minutes: 'Minutes in cut',
                          wear: 'Millimetres of correction',
                        }[assembly.basis]} it now has (full: {fullLife})</span
                      ><input
                        class="input"
                        name="life"
                        inputmode="decimal"
                        defaultValue={fullLife === null ? '' : fullLife - cutSince}
                        required
                      /></label
                    >
                    {#if cutSince > 0}<p class="small-words">
                        {cutSince} of its full {fullLife} were counted since the edge was changed: they are taken
                        off here; take them off what you key too.
                      </p>{/if}
                    {#if keyed !== null && machine}<p class="small-words">
                        For its full life key <b>{keyed}</b> into the control of {machine.name}: its counter
                        expires {machine.expiry === 'atZero' ? 'at zero' : 'below zero'}.
                      </p>{/if}
                  {:else if step === 'flagCleared' && machine}<p class="small-words">
                      Clear it on the control too; some pick new data up only after the group is initialised.
                      {#if assembly.flag === 'broken'}Here it stays flagged broken until its quarantine ends.{/if}
                    </p>
                  {:else if step === 'measured'}
                    {#if machine?.kind === 'lathe'}
                      <p class="caution text-sm">
                        Back off in Z only after the cut: move in X and the number is lost.
                      </p>
                      {#each registers as register (register.id)}<label class="grid gap-1"
                          ><span>{REGISTER_WORDS[register.kind]}, row {register.row}, {unit}</span><input
                            class="input"
                            name={register.kind}
                            data-pad="length"
                            placeholder={formatLength(register.value, unit, { minus: '-' })}
                            autocomplete="off"
                            required
                          /></label
                        ><input type="hidden" name="before.{register.kind}" value={register.value} />{/each}
                    {:else}
                      <label class="grid gap-1"
                        ><span
                          >Gauge length, {unit}{machine
                            ? ` (row ${assembly.tool} of ${machine.name} is worked out from it)`
                            : ''}</span
                        ><input
                          class="input"
                          name="gaugeLength"
                          data-pad="length"
                          placeholder={formatLength(length, unit, { minus: '-' })}
                          autocomplete="off"
                          required
                        /></label
                      ><input type="hidden" name="before.gaugeLength" value={registers[0]?.value ?? 0} />
                    {/if}
                    {#if others.length > 0}
                      <p class="small-words">
                        T{assembly.tool} is called with {others.length > 1 ? 'other rows' : 'another row'} too.
                        What
                        {others.length > 1 ? 'they hold' : 'it holds'} is the old edge’s:
                      </p>
                      {#each others as register (register.id)}<label class="grid gap-1"
                          ><span>{REGISTER_WORDS[register.kind]}, row {register.row}, {unit}</span><input
                            class="input"
                            name="other.{register.id}"
                            data-pad="length"
                            placeholder={formatLength(register.value, unit, { minus: '-' })}
                            autocomplete="off"
                            required
                          /></label
                        ><input type="hidden" name="before.{register.id}" value={register.value} />{/each}
                    {/if}
                  {:else if step === 'wearZeroed'}
                    {#if wear.length === 0}<p>
                        There is no wear to clear{machine ? ` in the rows of T${assembly.tool}` : ''}.
                      </p>
                    {:else}
                      <p>Key zero into these, read each back, and type what it shows:</p>
                      {#each wear as register (register.id)}<label
                          class="grid grid-cols-[1fr_8rem] items-center gap-x-3"
                          ><span class="font-display text-lg"
                            >{REGISTER_WORDS[register.kind]}, row {register.row}: {formatLength(
                              register.value,
                              unit,
                              {
                                sign: 'always',
                              },
                            )} → <b>0</b></span
                          ><input
                            class="input"
                            name="shown.{register.id}"
                            data-pad="length"
                            autocomplete="off"
                            aria-label="{REGISTER_WORDS[register.kind]} of row {register.row} shows"
                            required
                          /></label
                        >{/each}
                    {/if}
                  {/if}
                  <button class="btn btn-primary" disabled={busy}
                    >Done: {RENEWAL_WORDS[step].toLowerCase()}</button
                  >
                {/snippet}
              </ActionForm>
            {/if}
          </div>
        </li>
      {/each}
    </ol>
    {#if mayRenew}<DropRenewal
        number={assembly.number}
        steps={renewal.steps.map((each) => each.step)}
        inserts={inserts.length > 0}
      />{/if}
  {/if}
</section>
