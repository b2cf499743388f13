<script lang="ts">
  interface Props {
    programs: {
      id: number;
      number: string;
      title: string;
      machine: string;
      waiting: number;
      running: boolean;
      pallets: number[];
    }[];
    plans: { machineId: number; machine: string }[];
    closed: boolean;
  }
  let { programs, plans, closed }: Props = $props();
  const counts = (program: Props['programs'][number]) =>
    [
      program.running ? 'it is running' : '',
      program.waiting > 0 ? `${program.waiting} ${program.waiting === 1 ? 'job waits' : 'jobs wait'}` : '',
      program.pallets.length > 0
        ? `${program.pallets.length === 1 ? 'pallet' : 'pallets'} ${program.pallets.join(', ')} ${program.pallets.length === 1 ? 'stands' : 'stand'} in the queue`
        : '',
    ].filter(Boolean);
</script>

<ul class="ruled-list mt-1">
  {#each programs as program (program.id)}
    <li>
      <a
        class="flex min-h-11 flex-wrap items-center gap-x-2 py-1 hover:bg-base-300"
        href="/programs/{program.id}"
        ><b>{program.machine} {program.number}</b>
        {program.title}
        {#if counts(program).length > 0}<span class="small-words">{counts(program).join('; ')}</span>{/if}</a
      >
    </li>
  {/each}
  {#each plans as plan (plan.machineId)}
    <li>
      <a class="flex min-h-11 items-center py-1 hover:bg-base-300" href="/machines/{plan.machineId}/load"
        ><span>The open load plan of <b>{plan.machine}</b> counts on it</span></a
      >
    </li>
  {/each}
  {#if programs.length + plans.length === 0}<li class="py-2">
      {closed ? 'Nothing calls it.' : 'Nothing calls it where it stands.'}
    </li>{/if}
</ul>
