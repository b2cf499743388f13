<script lang="ts">
  interface Props {
    short: {
      tool: number;
      number: string;
      program: string;
      part: number;
      of: number;
      sister: { id: number; number: string; tool: number } | null;
    }[];
    /** Sisters that are planned in. */
    beside: readonly number[];
    machineId: number;
  }
  let { short, beside, machineId }: Props = $props();
</script>

<fieldset class="lg:col-span-2">
  <legend class="heading w-full">These do not last for their jobs</legend>
  <ul class="ruled-list mt-1">
    {#each short as each (each.tool)}
      <li class="py-1">
        T{each.tool} ({each.number}) is {each.part === 0
          ? `used up before ${each.program} begins`
          : `spent in part ${each.part} of ${each.of} of ${each.program}`}.
        {#if each.sister}<label class="inline-flex min-h-11 items-center gap-2"
            ><input
              class="checkbox"
              type="checkbox"
              name="with"
              value={each.sister.id}
              defaultChecked={beside.includes(each.sister.id)}
            />
            load its sister {each.sister.number} beside it, as T{each.sister.tool}</label
          >{:else}<b>No sister stands on the rack: build one, or renew it.</b>{/if}
      </li>
    {/each}
  </ul>
  {#if beside.length > 0}<p class="small-words mt-1">
      A sister is taken only by a program that calls the <a
        class="underline"
        href="/machines/{machineId}/groups">group</a
      > of both: make it one, with its own length row.
    </p>{/if}
</fieldset>
