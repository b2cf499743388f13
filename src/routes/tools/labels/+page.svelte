<script lang="ts">
  import ActionForm from '$lib/ActionForm.svelte';
  import Label, { LABEL_SIZES, type LabelSize } from '$lib/tool/Label.svelte';
  import NumbersForm from '$lib/tool/NumbersForm.svelte';

  let { data } = $props();
  let ticked = $state<string[]>([]);
  let printed = $state('');
  const sheet = (numbers: string[]) => `?numbers=${numbers.map(encodeURIComponent).join('+')}`;
</script>

<svelte:head><title>Labels · Tin Almanac</title></svelte:head>

<h1 class="no-print mt-5 text-3xl">Labels</h1>
<NumbersForm asked={data.asked} missing={data.missing} make="Make them" any={data.labels.length > 0} />
{#if data.labels.length > 0}
  {#if data.mayRecord}
    <ActionForm
      action="?/printed"
      class="no-print mt-2"
      label="They are printed"
      onDone={() => (printed = data.asked)}
    >
      {#snippet children({ busy })}
        <input
          type="hidden"
          name="numbers"
          value={data.labels.map((label) => label.shape.number).join(' ')}
        />
        <button class="btn" disabled={busy}
          >{data.labels.length === 1 ? 'It is' : `All ${data.labels.length} are`} printed</button
        >
      {/snippet}
    </ActionForm>
    {#if printed === data.asked}<p class="no-print mt-2 font-semibold" role="status">
        On record as printed. <a class="underline" href="/tools/labels">Those still without one</a>
      </p>{/if}
  {/if}
  <nav class="no-print mt-3 flex flex-wrap gap-2" aria-label="Size of the labels">
    {#each Object.keys(LABEL_SIZES) as LabelSize[] as size (size)}
      <a
        class={['btn', data.size === size && 'btn-primary']}
        aria-current={data.size === size ? 'true' : undefined}
        href="?numbers={data.asked.split(' ').map(encodeURIComponent).join('+')}&size={size}"
        >{LABEL_SIZES[size].words}</a
      >
    {/each}
  </nav>
  <div class="mt-4 flex flex-wrap gap-[3mm]">
    {#each data.labels as label (label.shape.id)}<Label
        number={label.shape.number}
        name={label.shape.name}
        shape={label.shape}
        code={label.code}
        size={data.size}
      />{/each}
  </div>
{:else}
  <section class="mt-6 max-w-3xl" aria-labelledby="without">
    <h2 id="without" class="heading">
      {data.without === 0 ? 'Every assembly has its label' : `${data.without} without a printed label`}
    </h2>
    {#if data.without > 0}
      <p class="mt-2 flex flex-wrap gap-2">
        <a
          class="btn btn-primary"
          href={sheet(ticked.length > 0 ? ticked : data.unlabelled.slice(0, 60).map((each) => each.number))}
          >{ticked.length > 0
            ? `Make the ${ticked.length} ticked`
            : `Make ${data.without > 60 ? 'the newest 60' : data.without === 1 ? 'it' : `all ${data.without}`}`}</a
        >
      </p>
      <ul class="ruled-list mt-2">
        {#each data.unlabelled as each (each.id)}
          <li>
            <label class="flex min-h-11 items-center gap-3"
              ><input class="checkbox" type="checkbox" value={each.number} bind:group={ticked} /><b
                class="w-24">{each.number}</b
              >
              {each.name}</label
            >
          </li>
        {/each}
      </ul>
      {#if data.without > data.unlabelled.length}<p class="small-words">
          The newest {data.unlabelled.length}; for others type their numbers above.
        </p>{/if}
    {/if}
  </section>
{/if}
