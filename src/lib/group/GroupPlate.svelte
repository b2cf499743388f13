<script lang="ts">
  import type { Snippet } from 'svelte';
  import { NEXT_WORDS, RENEWED_WORDS, type GroupStop } from '$core/life/group';
  import Disc from '../Disc.svelte';
  import Scroll from '../Scroll.svelte';
  import LifeCard from './LifeCard.svelte';
  import { lifeWords } from '../words';
  import PlayStrip from './PlayStrip.svelte';
  import type { GroupMachineShown, GroupShown } from './shown';

  interface Props {
    group: GroupShown;
    machine: GroupMachineShown;
    job: { number: string; togo: number } | null;
    mayKey: boolean;
    form: Snippet;
  }
  let { group, machine, job, mayKey, form }: Props = $props();
  const place = $derived(machine.kind === 'mill' ? 'T' : 'Station ');
  const STOPS: Record<GroupStop, string> = $derived({
    broken: 'It is stopped: a member is broken. Hold the part, replace the tool, then clear its flag.',
    out: 'Then the group is out and the machine stops.',
    noSpare: 'Then the machine stops: it takes no spares.',
    ownCall: `Then the machine stops at ${place}${group.play?.own ?? ''}, which this program calls by its own number as well.`,
    empty: 'None of its tools is in the machine.',
  });
  const amount = (tool: number, value: number) => {
    const life = group.members.find((each) => each.tool === tool)?.assembly?.life;
    return life ? lifeWords(value, life.basis) : String(value);
  };
  const rules = $derived(
    [
      `Takes ${NEXT_WORDS[group.rules.next]}`,
      RENEWED_WORDS[group.rules.renewed],
      group.rules.spares ? 'with spares' : 'without spares: it stops when the one in use expires',
      group.initialise ? 'new data counts once the group is initialised' : 'new data counts at once',
    ].join('; '),
  );
</script>

<section class="plate" aria-labelledby="group-{group.id}">
  <header class="flex flex-wrap items-baseline gap-x-4">
    <h3 id="group-{group.id}" class="text-xl">Group {group.number}</h3>
    {#if group.purpose}<p class="text-lg">{group.purpose}</p>{/if}
    <p class="small-words ml-auto">{rules}.</p>
  </header>
  <Scroll label="Members of group {group.number}">
    <table class="ruled mt-2">
      <thead
        ><tr
          ><th scope="col">{machine.kind === 'mill' ? 'T' : 'Station'}</th><th scope="col">Tool</th><th
            scope="col">Life left</th
          ><th scope="col">Rows</th><th scope="col">Stands</th></tr
        ></thead
      >
      <tbody>
        {#each group.members as member (member.tool)}
          <tr class={member.tool === group.next ? 'bg-base-200' : ''}>
            <th scope="row" class="font-display text-lg">{place}{member.tool}</th>
            <td
              >{#if member.assembly}<a class="underline" href="/tools/{member.assembly.id}"
                  >{member.assembly.number}</a
                >
                {member.assembly.name}{:else}not in the machine{/if}</td
            >
            <td
              >{#if member.assembly?.life}<Disc
                  remaining={member.assembly.life.remaining}
                  fullLife={member.assembly.life.limit}
                  basis={member.assembly.life.basis}
                  flag={member.assembly.flag}
                />{:else if member.assembly}not counted{/if}</td
            >
            <td
              >{member.lengthRows.join(' ')}{member.radiusRows.length > 0
                ? `, D ${member.radiusRows.join(' ')}`
                : ''}</td
            >
            <td
              >{[
                member.role,
                member.tool === group.next ? 'cuts next' : '',
                member.tool === group.inUse && member.tool !== group.next ? 'cut last' : '',
                member.assembly?.flag ?? '',
                member.fresh ? 'new, not taken up yet' : '',
              ]
                .filter(Boolean)
                .join(', ')}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
  </Scroll>
  {#if group.play && job}
    <h4 class="mt-3 font-semibold">
      What {machine.name} will do on {job.number}, {job.togo}
      {job.togo === 1 ? 'part' : 'parts'} to go
    </h4>
    <PlayStrip play={group.play} parts={Math.max(1, job.togo)} {place} />
    <p class={['mt-1', group.play.stopsAfter !== null && 'font-semibold text-accent']}>
      {#if group.play.stopsAfter === null}It lasts to the end of the job.{:else}{group.play.stopsAfter === 0
          ? ''
          : `After ${group.play.stopsAfter} ${group.play.stopsAfter === 1 ? 'part' : 'parts'}. `}{STOPS[
          group.play.why!
        ]}{/if}
    </p>
  {/if}
  {#if group.did && group.did.told !== 'cannotTell'}
    {#if group.did.told === 'asForetold'}<p class="small-words mt-1">
        The counters of the control stand as this rule says: it has done as was foretold.
      </p>{:else}<p class="caution mt-2" role="status">
        The control did otherwise: {group.did.members
          .filter(({ foretold, took }) => foretold !== took)
          .map(
            ({ tool, foretold, took }) =>
              `${place}${tool} should have lost ${amount(tool, foretold)} and lost ${amount(tool, took)}`,
          )
          .join('; ')}. Look at its rule for the next one, and at
        <a class="underline" href="/machines/{machine.id}/counters">its counters</a>.
      </p>{/if}
  {/if}
  <LifeCard {group} {machine} {mayKey} {place} />
  <div class="mt-3">{@render form()}</div>
</section>
