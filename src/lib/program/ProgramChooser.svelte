<script lang="ts">
  interface Props {
    programs: { id: number; number: string; title: string; tools: number[] | null }[];
    chosen: number[];
    legend: string;
    machine: string;
  }
  let { programs, chosen, legend, machine }: Props = $props();
</script>

<!-- A choice asks at once; the button of the form around it is for those who cannot wait for the script. -->
<fieldset onchange={(event) => (event.target as HTMLInputElement).form?.requestSubmit()}>
  <legend class="heading">{legend}</legend>
  <!-- none ticked is a choice too -->
  <input type="hidden" name="ticked" value="yes" />
  {#each programs as program (program.id)}
    <label class="flex min-h-11 items-center gap-2 border-b border-base-300"
      ><input
        class="checkbox"
        type="checkbox"
        name="program"
        value={program.id}
        defaultChecked={chosen.includes(program.id)}
      />
      <b>{program.number}</b>
      <span class="flex-1">{program.title}</span>
      <span class="small-words">{program.tools?.length ?? 0} tools</span></label
    >
  {:else}<p class="py-2">There is no program for {machine} yet.</p>{/each}
</fieldset>
