<script lang="ts">
  import Label from '$lib/tool/Label.svelte';

  import NumbersForm from '$lib/tool/NumbersForm.svelte';

  let { data } = $props();
</script>

<svelte:head><title>Labels · Tin Almanac</title></svelte:head>

<h1 class="no-print mt-5 text-3xl">Labels</h1>
<NumbersForm asked={data.asked} missing={data.missing} make="Make them" any={data.labels.length > 0} />
<div class="mt-4 flex flex-wrap gap-[3mm]">
  {#each data.labels as label (label.shape.id)}<Label
      number={label.shape.number}
      name={label.shape.name}
      shape={label.shape}
      code={label.code}
    />{/each}
</div>
