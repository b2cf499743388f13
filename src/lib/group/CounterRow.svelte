<script lang="ts">
  import { PER_SHOWN, type LifeBasis } from '$core/life/count';
  import { REASON_WORDS, type CounterDifference } from '$core/life/counter-difference';
  import type { Flag } from '$core/life/flag';
  import ActionForm from '../ActionForm.svelte';
  import Disc from '../Disc.svelte';
  import { lifeWords } from '../words';

  interface Props {
    counter: {
      tool: number;
      assemblyId: number;
      number: string;
      name: string;
      flag: Flag | null;
      basis: LifeBasis;
      remaining: number;
      limit: number;
      shown: number | null;
      difference: CounterDifference | null;
      key: number;
    };
    lathe: boolean;
    mayTake: boolean;
    /** Parts were cut that are not recorded: a number taken over now would count them twice. */
    unrecorded: boolean;
  }
  let { counter, lathe, mayTake, unrecorded }: Props = $props();
  let told = $state<{ taken: boolean; said: string } | null>(null);
  let typed = $state('');
  const differs = $derived(counter.difference !== null && counter.difference.reason !== 'same');
</script>

<li class="grid gap-x-4 gap-y-1 py-2 md:grid-cols-[3.5rem_3rem_1fr_9rem_9rem]">
  <p class="font-display text-xl font-bold">{lathe ? '' : 'T'}{counter.tool}</p>
  <Disc
    remaining={counter.remaining}
    fullLife={counter.limit}
    basis={counter.basis}
    flag={counter.flag}
    size={36}
    number={false}
  />
  <div>
    <p><a class="underline" href="/tools/{counter.assemblyId}">{counter.number}</a> {counter.name}</p>
    {#if differs}<p class="font-semibold">
        {REASON_WORDS[counter.difference!.reason](counter.difference!)}
      </p>{/if}
    {#if told}<p class="caution mt-1" role="status">{told.taken ? 'Taken over. ' : ''}{told.said}</p>{/if}
  </div>
  <p>
    <span class="small-words block">left by the record</span>
    <b class="font-display text-lg">{lifeWords(counter.remaining, counter.basis)}</b>
    <span class="small-words block">to be keyed: {counter.key}</span>
  </p>
  <p class={[differs && 'text-accent']}>
    <span class="small-words block">the control shows</span>
    <b class="font-display text-lg"
      >{counter.shown === null ? '–' : lifeWords(counter.shown, counter.basis)}</b
    >
  </p>
  <div class="flex flex-wrap gap-x-6 md:col-span-5 md:pl-30">
    {#if differs && mayTake && !unrecorded && counter.shown !== null && counter.difference!.by !== 0 && counter.difference!.reason !== 'notRecorded'}
      <ActionForm
        action="?/read"
        label="Take over what the control shows of T{counter.tool}"
        onDone={(done: typeof told) => (told = done)}
      >
        {#snippet children({ busy })}
          <input type="hidden" name="tool" value={counter.tool} /><input
            type="hidden"
            name="assembly"
            value={counter.assemblyId}
          />
          <input type="hidden" name="seen" value={counter.remaining} /><input
            type="hidden"
            name="shown"
            value={counter.shown! / PER_SHOWN[counter.basis]}
          />
          <button class="btn" name="take" value="on" disabled={busy}>Take the control’s number over</button>
        {/snippet}
      </ActionForm>
    {/if}
    <details>
      <summary class="inline-flex min-h-11 cursor-pointer items-center underline"
        >Type what the control shows</summary
      >
      <ActionForm
        action="?/read"
        class="flex flex-wrap items-end gap-2 pb-2"
        label="What the control shows of T{counter.tool}"
        keep
        onDone={(done: typeof told) => (told = done)}
      >
        {#snippet children({ busy })}
          <input type="hidden" name="tool" value={counter.tool} /><input
            type="hidden"
            name="assembly"
            value={counter.assemblyId}
          />
          <input type="hidden" name="seen" value={counter.remaining} />
          <input
            class="input w-36"
            name="shown"
            inputmode="decimal"
            bind:value={typed}
            aria-label="The control shows for T{counter.tool}"
            required
          />
          <button class="btn btn-primary" disabled={busy}>Compare</button>
          {#if mayTake}<button class="btn" name="take" value="on" disabled={busy || typed.trim() === ''}
              >Take it over</button
            >{/if}
        {/snippet}
      </ActionForm>
    </details>
  </div>
</li>
