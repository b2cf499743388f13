<script lang="ts">
  import type { Person } from '$core/people/roles';
  import ActionForm from '../ActionForm.svelte';
  import { clock, dayAndClock } from '../time';
  import type { LeafData } from '$core/shift/leaf';

  interface Props {
    leaf: LeafData;
    zone: string;
    maySign: boolean;
    person: Person;
    /** Machines that are not yet left as the list for the end of a shift asks. */
    end: { open: string[] };
  }
  let { leaf, zone, maySign, person, end }: Props = $props();
  const sides = [
    {
      side: 'leaving',
      title: 'Handed over by',
      lead: 'I have written down what I changed, what waits and what I do not understand.',
    },
    { side: 'coming', title: 'Taken over by', lead: 'I have read this leaf.' },
  ] as const;
  const signed = (side: string) => leaf.signatures.find((signature) => signature.side === side);
  const stood = $derived(signed('leaving')?.state);
</script>

<section class="mt-8 break-inside-avoid" aria-labelledby="hand-over">
  <h2 id="hand-over" class="heading border-t-[3px] border-double border-base-content pt-2">Handover</h2>
  {#if leaf.spoken.length > 0}
    <div
      class="mt-2 max-w-3xl text-lg print:max-w-none print:text-sm"
      aria-label="To be read out"
      role="group"
    >
      {#each leaf.spoken as sentence, i (i)}<p class="my-0.5 print:inline">{sentence + ' '}</p>{/each}
      <p class="small-words no-print mt-1">
        {leaf.standing === 'past' && stood
          ? 'What was read out then.'
          : 'To be read out; it writes itself, and is kept with the signature.'}
      </p>
    </div>
  {/if}
  {#if leaf.standing !== 'coming'}
    <p class="no-print mt-2">
      <a class="inline-flex min-h-11 items-center underline" href="/leaf/{leaf.shift.key}/end"
        >How the machines are left</a
      >
      <span class="small-words ml-2"
        >{end.open.length === 0
          ? 'all looked at, all as they should be'
          : end.open.length > 4
            ? `${end.open.length} machines are open`
            : `open: ${end.open.join(', ')}`}</span
      >
    </p>
  {/if}
  {#if stood}
    <p class="mt-1">
      When it was handed over, {stood.waiting}
      {stood.waiting === 1 ? 'correction' : 'corrections'} and {stood.questions}
      {stood.questions === 1 ? 'question' : 'questions'} were open{stood.runsOut.length > 0
        ? `; most urgent first: ${stood.runsOut.map((tool) => `${tool.machine} T${tool.tool} ${tool.flag === 'broken' ? 'broken' : tool.flag === 'locked' ? 'locked' : tool.flag ? 'run out' : tool.at ? `runs out ${dayAndClock(new Date(tool.at), zone)}` : ''}`.trim()).join(', ')}`
        : ''}.
    </p>
  {/if}
  <div class="mt-3 grid gap-4 sm:grid-cols-2 print:grid-cols-2">
    {#each sides as { side, title, lead } (side)}
      {@const signature = signed(side)}
      <div class="plate">
        <h3 class="font-display font-semibold">{title}</h3>
        {#if signature}
          <p class="mt-2 font-display text-xl italic">{signature.person}</p>
          <p class="small-words">{clock(signature.at, zone)}</p>
        {:else if maySign && (side === 'leaving' || signed('leaving'))}
          <p class="small-words mt-1">{lead}</p>
          <ActionForm action="?/sign" class="no-print mt-3" label={title}>
            {#snippet children({ busy })}
              <div class="grid grid-cols-[1fr_1fr_auto] gap-2">
                <input type="hidden" name="side" value={side} />
                <input
                  class="input"
                  name="badge"
                  inputmode="numeric"
                  aria-label="{title}: badge number"
                  placeholder="badge"
                  autocomplete="off"
                  defaultValue={side === 'leaving' ? person.badge : ''}
                  required
                />
                <input
                  class="input"
                  name="pin"
                  type="password"
                  inputmode="numeric"
                  aria-label="{title}: PIN"
                  placeholder="PIN"
                  autocomplete="off"
                  required
                />
                <button class="btn btn-primary" disabled={busy}>Sign</button>
              </div>
            {/snippet}
          </ActionForm>
        {:else}
          <p class="small-words no-print mt-2">
            {side === 'coming' ? 'Signs after the one who leaves.' : 'Not signed.'}
          </p>
        {/if}
        {#if !signature}<p class="mt-9 hidden border-t pt-1 text-sm print:block">name and time</p>{/if}
      </div>
    {/each}
  </div>
</section>
