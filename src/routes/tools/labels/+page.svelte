<script lang="ts">
  import ActionForm from '$lib/ActionForm.svelte';
  import Label from '$lib/label/Label.svelte';
  import LabelKinds from '$lib/label/LabelKinds.svelte';
  import LabelSizes from '$lib/label/LabelSizes.svelte';
  import Silhouette from '$lib/Silhouette.svelte';
  import { formatWithUnit } from '$core/units/format-length';
  import NumbersForm from '$lib/tool/NumbersForm.svelte';

  let { data } = $props();
  let ticked = $state<string[]>([]);
  let printed = $state('');
  const sheet = (numbers: string[]) => `?numbers=${numbers.map(encodeURIComponent).join('+')}`;
</script>

<svelte:head><title>Labels · Tin Almanac</title></svelte:head>

<h1 class="no-print mt-5 text-3xl">Labels</h1>
<LabelKinds now="tool" mayBadge={data.mayBadge} />
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
  <LabelSizes now={data.size} />
  <div class="mt-4 flex flex-wrap gap-[3mm]">
    {#each data.labels as { shape, code } (shape.id)}<Label
        number={shape.number}
        name={shape.name}
        more={formatWithUnit(shape.gaugeLength, 'mm')}
        {code}
        size={data.size}>{#snippet drawing()}<Silhouette {shape} height={64} />{/snippet}</Label
      >{/each}
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
