<script lang="ts">
  import type { BeginningStep } from '$core/shift/leaf';

  interface Props {
    steps: BeginningStep[];
    machineId: number | null;
  }
  let { steps, machineId }: Props = $props();
  const words: Readonly<Record<BeginningStep['name'], { what: string; how: string; href: string }>> =
    $derived({
      shifts: {
        what: 'Name the cell and set its shifts',
        how: 'Every page and every forecast goes by their bells.',
        href: '/cell',
      },
      people: {
        what: 'Add the people',
        how: 'A badge number and a PIN each: every entry carries a name.',
        href: '/people',
      },
      machine: {
        what: 'Add the first machine',
        how: 'With its plate and its manual at hand. Example: demo/machines/avocet.json.',
        href: '/machines/new',
      },
      tools: {
        what: 'Put its tools on record, and where they stand',
        how: 'One by one by hand, built from the crib, or a list as a file (Tools, In and out, has an empty one); then into their pockets.',
        href: machineId === null ? '/tools/import' : `/machines/${machineId}`,
      },
      program: {
        what: 'Bring in a program',
        how: 'The NC text itself: its tools, times and rows are read from it. Example: demo/programs.',
        href: '/programs',
      },
      job: {
        what: 'Put a job on its list, and see whether it is ready',
        how: 'How many parts, and how long a cycle takes.',
        href: machineId === null ? '/machines' : `/machines/${machineId}/now`,
      },
      plan: {
        what: 'Say what is measured on it',
        how: 'On the program’s page, feature by feature with its limits, or a plan as CSV. Example: demo/plans.',
        href: '/programs',
      },
      reading: {
        what: 'Measure the first part',
        how: 'Type the reading; you are told what to key, which way, and why.',
        href: machineId === null ? '/machines' : `/machines/${machineId}/now?do=measure`,
      },
    });
  const next = $derived(steps.find((step) => !step.done)?.name);
</script>

<section class="plate mt-4" aria-labelledby="begin">
  <h2 id="begin" class="text-xl">A new cell: what comes first</h2>
  <ol class="mt-2 grid gap-1 md:grid-cols-2 md:gap-x-8">
    {#each steps as step, i (step.name)}
      {@const { what, how, href } = words[step.name]}
      <li class="border-t border-base-300">
        <a class="grid min-h-14 grid-cols-[2.5rem_1fr] items-center py-1 hover:bg-base-300" {href}>
          <span
            class={['font-display text-2xl font-bold', step.name === next && 'text-accent']}
            aria-hidden="true">{step.done ? '✓' : i + 1}</span
          >
          <span
            ><b>{what}</b>{#if step.done}<span class="sr-only">, done</span>{/if}<br /><span
              class="small-words">{step.name === next || !step.done ? how : 'Done.'}</span
            ></span
          >
        </a>
      </li>
    {/each}
  </ol>
</section>
