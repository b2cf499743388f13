<script lang="ts" generics="Answer">
  import { REGISTER_WORDS } from '$core/inspection/register-words';
  import type { Snippet } from 'svelte';
  import ActionForm from '../ActionForm.svelte';
  import NumberField from '../NumberField.svelte';

  interface Props {
    rows: readonly { id: number; row: number; registerKind: string; twice?: boolean }[];
    action: string;
    /** What the form says beside the rows. */
    hidden?: Readonly<Record<string, string | number>>;
    typed: Record<number, string>;
    onShow: () => void;
    /** What came of each row that was answered: its number, whether it is on record, and what to do where it is not. */
    read: (answer: Answer) => { id: number; kept: boolean; said: string }[];
    /** All of them are on record. */
    onKept: () => void;
    extra?: Snippet;
    /** What they are read off, where they may be sent later. */
    keptAs?: string;
  }
  /** Rows are read back blind: what they should show is put away until all are typed. */
  let {
    rows,
    action,
    hidden = {},
    typed = $bindable(),
    onShow,
    read,
    onKept,
    extra,
    keptAs,
  }: Props = $props();
  let twice = $state<Record<number, string>>({});
  let said = $state<Record<number, string>>({});

  const words = () =>
    `${keptAs}: ${rows
      .filter(({ id }) => (typed[id] ?? '') !== '')
      .map(({ id, row }) => `row ${row} shows ${typed[id]}`)
      .join(', ')}`;
  function kept() {
    for (const { id } of rows) typed[id] = twice[id] = '';
    onKept();
  }

  function done(answer: Answer) {
    const answers = read(answer);
    said = Object.fromEntries(answers.filter((each) => !each.kept).map((each) => [each.id, each.said]));
    for (const { id, kept } of answers) if (kept) typed[id] = twice[id] = '';
    if (answers.every((each) => each.kept)) onKept();
  }
</script>

<p>
  The numbers are put away: type what each row shows, not what it should show. A row left empty stays to be
  keyed.
  <button type="button" class="underline" onclick={onShow}>Show them again</button>
</p>
<ActionForm
  {action}
  class="mt-3 grid gap-3"
  label="Read back"
  keep
  onDone={done}
  {...keptAs !== undefined && { keptAs: words, onKept: kept }}
>
  {#snippet children({ busy })}
    {#each Object.entries(hidden) as [name, value] (name)}<input type="hidden" {name} {value} />{/each}
    {#each rows as each (each.id)}
      <div class="grid gap-x-4 gap-y-1 border-t border-base-300 pt-2 sm:grid-cols-2">
        <NumberField
          name="shown.{each.id}"
          label="{REGISTER_WORDS[each.registerKind]}, row {each.row}"
          class="h-14 font-display text-2xl"
          bind:value={() => typed[each.id] ?? '', (text) => (typed[each.id] = text)}
        />
        {#if each.twice}<NumberField
            name="again.{each.id}"
            label="It moves far: once more"
            class="h-14 font-display text-2xl"
            bind:value={() => twice[each.id] ?? '', (text) => (twice[each.id] = text)}
          />{/if}
        {#if said[each.id]}<p role="alert" class="caution sm:col-span-2">{said[each.id]}</p>{/if}
      </div>
    {/each}
    {@render extra?.()}
    <button class="btn h-14 text-lg btn-primary" disabled={busy}>The control shows this</button>
  {/snippet}
</ActionForm>
