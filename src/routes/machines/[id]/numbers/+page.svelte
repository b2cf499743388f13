<script lang="ts">
  import Lengths from './Lengths.svelte';
  import Rows from './Rows.svelte';

  let { data } = $props();
</script>

<svelte:head><title>Numbers of {data.machine.name} · Tin Almanac</title></svelte:head>

<Lengths {data} />
<div class="mt-8"><Rows {data} /></div>
