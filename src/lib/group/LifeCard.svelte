<script lang="ts">
  import ActionForm from '../ActionForm.svelte';
  import Scroll from '../Scroll.svelte';
  import type { GroupMachineShown, GroupShown } from './shown';

  interface Props {
    group: GroupShown;
    machine: GroupMachineShown;
    mayKey: boolean;
    place: string;
  }
  let { group, machine, mayKey, place }: Props = $props();
  type Answers = { tool: number; kept: boolean; said: string }[];
  let keyed = $state(false);
  let answers = $state<Answers>([]);
  const fresh = $derived(group.members.filter((each) => each.fresh).map(({ tool }) => tool));
  const unkeyed = $derived(group.members.filter((each) => each.unkeyed).map(({ tool }) => tool));
  const right = $derived(new Set(answers.filter(({ kept }) => kept).map(({ tool }) => tool)));
  /** Every new member whose life is counted was read back. */
  const all = $derived(
    fresh.every((tool) => right.has(tool) || !group.card.some((each) => each.tool === tool)),
  );
  const roles = $derived(new Map(group.members.map(({ tool, role }) => [tool, role])));
  const UNITS = { pieces: 'pcs', holes: 'holes', minutes: 'min', wear: 'mm' };
  const unit = (basis: keyof typeof UNITS) => UNITS[basis];
</script>

<details class="mt-3" open={unkeyed.length > 0}>
  <summary class="inline-flex min-h-11 cursor-pointer items-center font-semibold underline"
    >Life card{unkeyed.length > 0
      ? `: ${unkeyed.map((tool) => `${place}${tool}`).join(', ')} to be keyed`
      : ''}</summary
  >
  {#if group.card.length === 0}<p>None of its tools is counted.</p>{:else}
    <ActionForm
      action="?/readBack"
      label="Read lives of group {group.number} back"
      keep
      onDone={(done: Answers) => (answers = done)}
    >
      {#snippet children({ busy })}
        <input type="hidden" name="group" value={group.id} />
        <Scroll label="What to key for group {group.number}">
          <table class="ruled mt-1">
            <thead
              ><tr
                ><th scope="col">{machine.kind === 'mill' ? 'T' : 'Station'}</th><th scope="col">Group</th><th
                  scope="col">Is</th
                ><th scope="col">Rows</th><th scope="col" class="number">Set</th><th
                  scope="col"
                  class="number">Left</th
                >{#if keyed}<th scope="col">It shows left</th>{/if}</tr
              ></thead
            >
            <tbody>
              {#each group.card as line (line.tool)}
                {@const answer = answers.find(({ tool }) => tool === line.tool)}
                <tr>
                  <th scope="row" class="font-display text-lg">{place}{line.tool}</th>
                  <td>{group.number}</td>
                  <td>{roles.get(line.tool)}</td>
                  <td>{line.row.join(' ')}</td>
                  <td class="number">{keyed ? '•••' : line.set}</td>
                  <td class="number font-display text-xl font-semibold text-accent"
                    >{keyed ? '•••' : line.left} <span class="small-words">{unit(line.basis)}</span></td
                  >
                  {#if keyed}<td
                      ><input
                        class="input h-12 w-28"
                        name="left{line.tool}"
                        inputmode="decimal"
                        autocomplete="off"
                        aria-label="{place}{line.tool} shows left"
                      />
                      {#if answer}<span class={answer.kept ? 'font-semibold' : 'caution block'} role="status"
                          >{answer.kept ? 'right' : answer.said}</span
                        >{/if}</td
                    >{/if}
                </tr>
              {/each}
            </tbody>
          </table>
        </Scroll>
        <p class="small-words mt-1">
          {machine.expiry === 'atZero'
            ? 'This control expires at zero: the uses as they are.'
            : 'This control expires below zero: one less than the uses, minutes as they are.'} A part-worn tool
          is put back with what it has left.
        </p>
        {#if mayKey}
          {#if keyed}<button class="btn mt-2 btn-primary" disabled={busy}>It shows this</button>{:else}<button
              type="button"
              class="btn mt-2"
              onclick={() => (keyed = true)}>I have keyed them</button
            >{/if}
        {/if}
      {/snippet}
    </ActionForm>
    {#if mayKey && fresh.length > 0 && all && (right.size > 0 || group.card.length === 0)}
      <ActionForm action="?/initialise" class="mt-2" label="Group {group.number} is initialised">
        {#snippet children({ busy })}
          <input type="hidden" name="group" value={group.id} />
          <input type="hidden" name="tools" value={fresh.join(' ')} />
          <p>Now initialise the group on the control, as its manual says.</p>
          <button class="btn mt-1 btn-primary" disabled={busy}>It is initialised</button>
        {/snippet}
      </ActionForm>
    {/if}
  {/if}
</details>
