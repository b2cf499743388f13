<script lang="ts">
  import ActionForm from '../ActionForm.svelte';

  interface Props {
    steps: { name: string; words: string; done: { person: string; at: Date } | null }[];
    mayCommission: boolean;
  }
  let { steps, mayCommission }: Props = $props();
  const next = $derived(steps.find((step) => !step.done));
</script>

<h2 class="heading">In this order</h2>
<ol class="ruled-list">
  {#each steps as step (step.name)}
    <li class="grid grid-cols-[1.6rem_1fr] gap-x-2 py-2">
      <span aria-hidden="true">{step.done ? '●' : '○'}</span>
      <div>
        <p class={step === next ? 'text-lg font-semibold' : ''}>{step.words}</p>
        {#if step.done}<p class="small-words">
            {step.done.person}, {step.done.at.toLocaleString('en-GB', {
              dateStyle: 'short',
              timeStyle: 'short',
            })}
          </p>
        {:else if step === next && mayCommission}
          {#if step.name === 'slow' || step.name === 'fetch'}<p class="caution my-1 text-sm">
              A fork that is a little off bends holder, fork or spindle. The machine’s manual, the site’s
              rules and licensed practice come first.
            </p>{/if}
          <ActionForm action="?/confirm" label="Confirm">
            {#snippet children({ busy })}
              <input type="hidden" name="step" value={step.name} />
              <button class="btn mt-1 btn-primary" disabled={busy}>Done, and I stand by it</button>
            {/snippet}
          </ActionForm>
        {/if}
      </div>
    </li>
  {/each}
</ol>
