<script lang="ts">
  import Scroll from '../Scroll.svelte';
  import ActionForm from '../ActionForm.svelte';
  import type { PlanLookSeen } from './looks';

  /** What a measuring plan would change, before it is taken. */
  let { look, text }: { look: PlanLookSeen; text: string } = $props();
  let taken = $state('');
  const same = $derived(look.sizes.filter(({ verdict }) => verdict === 'same').length);
  const news = $derived(look.sizes.filter(({ verdict }) => verdict !== 'same'));
</script>

<section class="plate mt-4" aria-labelledby="plan-look">
  <h2 id="plan-look" class="text-xl">A measuring plan for {look.program}</h2>
  {#if taken}<p role="status" class="mt-2 font-semibold">
      {taken} <a class="underline" href="/programs/{look.programId}">To the program</a>
    </p>
  {:else}
    {#if news.length > 0}
      <Scroll label="What would change">
        <table class="ruled mt-2">
          <thead
            ><tr><th scope="col">Size</th><th scope="col">Would be</th><th scope="col">What</th></tr></thead
          >
          <tbody>
            {#each news as size (size.name)}
              <tr>
                <th scope="row">{size.name}</th>
                <td>{size.verdict}</td>
                <td class="small-words">
                  {#each size.changes.filter((each) => each.before !== each.after) as change, i (change.column)}
                    {i > 0 ? ' · ' : ''}{change.column.replaceAll('_', ' ')}
                    {#if size.verdict === 'changed'}{change.before || 'nothing'} →{/if}
                    <b>{change.after || 'nothing'}</b>{/each}
                </td>
              </tr>
            {/each}
          </tbody>
        </table>
      </Scroll>
    {/if}
    {#if same > 0}<p class="small-words mt-2">
        {same === 1 ? 'One size is' : `${same} sizes are`} so already. None is removed.
      </p>{/if}
    {#each look.faults as fault (fault)}<p class="caution mt-2" role="alert">{fault}</p>{/each}
    {#each look.doubts as doubt (doubt)}<p class="caution mt-2">Look again: {doubt}</p>{/each}
    {#if look.faults.length === 0 && news.length > 0}
      <ActionForm
        action="?/takePlan"
        class="mt-3"
        label="Take the plan"
        onDone={(done: { sentence: string }) => (taken = done.sentence)}
      >
        {#snippet children({ busy })}
          <input type="hidden" name="program" value={look.programId} />
          <input type="hidden" name="text" value={text} />
          <button class="btn btn-primary" disabled={busy}>Take it</button>
        {/snippet}
      </ActionForm>
    {:else}<p class="mt-2 font-semibold">
        {look.faults.length > 0
          ? 'Nothing is taken: put it right and bring it in again.'
          : 'Nothing to take.'}
      </p>{/if}
  {/if}
</section>
