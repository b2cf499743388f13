<script lang="ts">
  import { page } from '$app/state';
  import Label from '$lib/label/Label.svelte';
  import LabelKinds from '$lib/label/LabelKinds.svelte';
  import LabelSizes from '$lib/label/LabelSizes.svelte';
  import { changedQuery } from '$lib/query';
  import NumbersForm from '$lib/tool/NumbersForm.svelte';

  let { data } = $props();
  let ticked = $state<string[]>([]);
  const EMPTY = {
    component: '',
    pocket: 'This machine has no pockets.',
    order: 'Nothing is out, neither ordered nor at the grinder’s.',
    person: 'Nobody may sign in.',
  };
</script>

<svelte:head><title>Labels · Tin Almanac</title></svelte:head>

<h1 class="no-print mt-5 text-3xl">Labels</h1>
<LabelKinds now={data.of} mayBadge={data.mayBadge} />
{#if data.of === 'component'}
  <NumbersForm
    of="components"
    asked={data.asked}
    missing={data.missing}
    make="Make them"
    any={data.labels.length > 0}
  />
{:else}
  {#if data.of === 'pocket'}
    <nav class="no-print mt-3 flex flex-wrap gap-2" aria-label="Machine">
      {#each data.machines as machine (machine.id)}<a
          class={['btn', machine.id === data.machine && 'btn-primary']}
          aria-current={machine.id === data.machine ? 'true' : undefined}
          href={changedQuery(page.url.search, { machine: machine.id })}>{machine.name}</a
        >{/each}
    </nav>
  {:else if data.of === 'person'}<p class="small-words no-print mt-3 max-w-xl">
      A badge’s code fills its number in at the sign-in. The PIN is still asked for: a badge that was found
      opens nothing.
    </p>{/if}
  {#if data.labels.length > 0}<button
      type="button"
      class="no-print btn mt-3 btn-primary"
      onclick={() => window.print()}>Print</button
    >{/if}
{/if}
{#if data.labels.length > 0}
  <LabelSizes now={data.size} />
  <div class="mt-4 flex flex-wrap gap-[3mm]">
    {#each data.labels as label, i (i)}<Label
        number={label.number}
        name={label.name}
        more={label.more}
        code={label.code}
        size={data.size}
      />{/each}
  </div>
{:else if data.of !== 'component'}<p class="mt-4" role="status">{EMPTY[data.of]}</p>
{:else if data.offered.length > 0}
  <section class="mt-6 max-w-3xl" aria-labelledby="offered">
    <h2 id="offered" class="heading">In the crib</h2>
    {#if ticked.length > 0}<p class="mt-2">
        <a class="btn btn-primary" href={changedQuery(page.url.search, { numbers: ticked.join(' ') })}
          >Make the {ticked.length} ticked</a
        >
      </p>{/if}
    <ul class="ruled-list mt-2">
      {#each data.offered as each (each.id)}
        <li>
          <label class="flex min-h-11 items-center gap-3"
            ><input class="checkbox" type="checkbox" value={each.number} bind:group={ticked} /><b
              class="w-28 shrink-0 break-all">{each.number}</b
            ><span class="min-w-0 flex-1">{each.name}</span><span>{each.shelf}</span></label
          >
        </li>
      {/each}
    </ul>
    {#if data.offered.length >= 200}<p class="small-words">
        The first 200; for others type their numbers above.
      </p>{/if}
  </section>
{/if}
