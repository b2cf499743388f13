<script lang="ts">
  import { spindleWords, type EndMachine } from '$core/shift/end-check';
  import ActionForm from '../ActionForm.svelte';
  import { clock } from '../time';

  let { machine, zone, mayTick }: { machine: EndMachine; zone: string; mayTick: boolean } = $props();
  const open = $derived(machine.checks.filter(({ by }) => by === null));
</script>

<section class="plate" aria-labelledby="end-{machine.id}">
  <h2 class="text-xl" id="end-{machine.id}">
    <a class="hover:underline" href="/machines/{machine.id}">{machine.name}</a>
  </h2>
  <ul class="ruled-list mt-1">
    {#each machine.checks as check (check.id)}
      <li class="py-2.5">
        <p>{check.text}</p>
        {#if check.about === 'spindle' && machine.spindle}<p class="small-words mt-0.5">
            {spindleWords(machine)}
          </p>{/if}
        {#if check.about === 'stands'}<p class="small-words mt-0.5">
            <a
              class="no-print inline-flex min-h-11 items-center underline"
              href="/machines/{machine.id}/control">Read its table off the control</a
            >
          </p>{/if}
        {#if check.by !== null}
          <p class={['mt-1', check.otherwise ? 'caution' : 'small-words']}>
            {check.otherwise ? `Not so: ${check.otherwise}. ` : 'Done. '}{check.by}, {clock(check.at!, zone)}
          </p>
        {/if}
        {#if mayTick && (check.by === null || check.otherwise !== null)}
          <div class="no-print mt-2 flex flex-wrap items-start gap-2">
            <ActionForm action="?/tick" label="{machine.name}: {check.text}">
              {#snippet children({ busy })}
                <input type="hidden" name="machine" value={machine.id} />
                <input type="hidden" name="check" value={check.id} />
                <input type="hidden" name="seen" value={check.otherwise ?? ''} />
                <button class="btn min-h-11" disabled={busy}
                  >{check.by === null ? 'Done' : 'Put right'}</button
                >
              {/snippet}
            </ActionForm>
            {#if check.by === null}
              <details>
                <summary class="inline-flex min-h-11 cursor-pointer items-center px-2 underline"
                  >Not so</summary
                >
                <ActionForm
                  action="?/tick"
                  class="mt-1 flex gap-2"
                  label="{machine.name}, not so: {check.text}"
                >
                  {#snippet children({ busy })}
                    <input type="hidden" name="machine" value={machine.id} />
                    <input type="hidden" name="check" value={check.id} />
                    <input
                      class="input"
                      name="otherwise"
                      aria-label="What it is instead"
                      placeholder="what it is instead"
                      required
                      maxlength="300"
                    />
                    <button class="btn min-h-11" disabled={busy}>Write down</button>
                  {/snippet}
                </ActionForm>
              </details>
            {/if}
          </div>
        {/if}
      </li>
    {/each}
  </ul>
  {#if mayTick && open.length > 1}
    <ActionForm action="?/tick" class="no-print mt-2" label="{machine.name}: all of it">
      {#snippet children({ busy })}
        <input type="hidden" name="machine" value={machine.id} />
        <input type="hidden" name="check" value={open.map(({ id }) => id).join(' ')} />
        <button class="btn min-h-11 w-full btn-primary" disabled={busy}
          >{open.length === machine.checks.length ? 'All of it is so' : 'The rest is so'}</button
        >
      {/snippet}
    </ActionForm>
  {/if}
</section>
