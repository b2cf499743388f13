<script lang="ts">
  import ActionForm from '../ActionForm.svelte';
  import { clock } from '../time';
  import type { LeafData } from '$core/shift/leaf';

  interface Props {
    leaf: LeafData;
    machines: { id: number; name: string }[];
    zone: string;
    mayWrite: boolean;
  }
  let { leaf, machines, zone, mayWrite }: Props = $props();
  const open = $derived(
    leaf.standing === 'past' ? leaf.notes.filter((note) => note.kind === 'question') : leaf.questions,
  );
  const promised = $derived(
    leaf.standing === 'past' ? leaf.notes.filter((note) => note.kind === 'promise') : leaf.promises,
  );
  const notes = $derived(leaf.notes.filter((note) => note.kind === 'note'));
</script>

{#snippet asked(list: typeof open, answerWord: string)}
  {#each list as question (question.id)}
    <li class="py-2">
      <p>
        {#if question.machine}<b>{question.machine}.</b>{/if}
        {question.text}
      </p>
      <p class="small-words">
        {question.person}, {clock(question.at, zone)}{question.leaf === leaf.shift.key
          ? ''
          : `, on ${question.leaf.replace('/', ', ')}`}
      </p>
      {#if question.answer}<p class="mt-1">
          {question.answer} <span class="small-words">{question.answeredBy}</span>
        </p>
      {:else if mayWrite}
        <details class="no-print mt-1">
          <summary class="inline-flex min-h-11 min-w-11 cursor-pointer items-center font-semibold underline"
            >{answerWord}</summary
          >
          <ActionForm action="?/answer" class="mt-1 flex gap-2">
            {#snippet children({ busy })}
              <input type="hidden" name="note" value={question.id} />
              <input class="input" name="text" aria-label={answerWord} required maxlength="1000" />
              <button class="btn" disabled={busy}>{answerWord}</button>
            {/snippet}
          </ActionForm>
        </details>
      {/if}
    </li>
  {/each}
{/snippet}

<section aria-labelledby="questions" class="grid gap-2">
  <h2 id="questions" class="heading">Not understood</h2>
  <ul class="ruled-list">
    {#if open.length === 0}<li class="py-2">No open questions.</li>{/if}
    {@render asked(open, 'Answer')}
  </ul>
  {#if promised.length > 0}
    <h2 class="heading mt-2">Promised</h2>
    <ul class="ruled-list">{@render asked(promised, 'Kept')}</ul>
  {/if}
  {#if notes.length > 0}
    <h2 class="heading mt-2">Notes</h2>
    <ul class="grid gap-2">
      {#each notes as note (note.id)}<li>
          {#if note.machine}<b>{note.machine}.</b>{/if}
          {note.text} <span class="small-words">{note.person}, {clock(note.at, zone)}</span>
        </li>{/each}
    </ul>
  {/if}
  {#if mayWrite && leaf.standing !== 'past'}
    <details class="no-print">
      <summary class="inline-flex min-h-11 cursor-pointer items-center font-semibold underline"
        >Write on the leaf</summary
      >
      <ActionForm action="?/note" class="mt-2 grid gap-2" label="Write on the leaf">
        {#snippet children({ busy })}
          <textarea class="textarea" name="text" rows="2" aria-label="What to write" required maxlength="1000"
          ></textarea>
          <div class="grid gap-2 sm:grid-cols-[1fr_auto_auto_auto]">
            <select class="select" name="machine" aria-label="Machine"
              ><option value="">the whole cell</option>{#each machines as machine (machine.id)}<option
                  value={machine.id}>{machine.name}</option
                >{/each}</select
            >
            <button class="btn" name="kind" value="note" disabled={busy}>Add note</button>
            <button class="btn" name="kind" value="question" disabled={busy}>Ask</button>
            <button class="btn" name="kind" value="promise" disabled={busy}>Promise</button>
          </div>
        {/snippet}
      </ActionForm>
    </details>
  {/if}
</section>
