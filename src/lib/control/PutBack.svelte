<script lang="ts">
  import type { PutBackShown } from '$core/control/put-back';
  import ActionForm from '../ActionForm.svelte';
  import Field from '../Field.svelte';
  import Lines from '../program/Lines.svelte';
  import Scroll from '../Scroll.svelte';
  import { dayAndClock } from '../time';

  let { machineId, zone }: { machineId: number; zone: string } = $props();
  let kept = $state.raw<PutBackShown | null>(null);
  let told = $state('');
  const when = $derived.by(() => {
    const at = new Date(kept?.at ?? '');
    return Number.isNaN(at.getTime()) ? kept?.at : dayAndClock(at, zone);
  });
  /** Of these the record was written since the table was kept. */
  const newer = $derived(
    kept?.rows.filter(({ record, to }) => record !== to).map(({ words }) => words) ?? [],
  );
  const unread = $derived(kept?.rows.filter(({ control }) => control === null).length ?? 0);
</script>

<ActionForm
  action="?/look"
  class="mt-3 grid max-w-2xl gap-3"
  label="The table that was kept"
  keep
  multipart
  onDone={(found: PutBackShown) => {
    kept = found;
    told = '';
  }}
>
  {#snippet children({ busy })}
    <Field label="A file"><input class="file-input min-h-11 w-full" type="file" name="file" /></Field>
    <Field label="or pasted"
      ><textarea class="textarea font-mono" name="text" rows="4" spellcheck="false"></textarea></Field
    >
    <label class="flex min-h-11 items-center gap-3"
      ><input class="checkbox" type="checkbox" name="lost" value="yes" /> The control has lost its table: set all
      of it</label
    >
    <button class="btn btn-primary" disabled={busy}>Show before and after</button>
  {/snippet}
</ActionForm>

{#if told}<p class="mt-4 text-lg" role="status">
    {told}
    <a class="underline" href="/machines/{machineId}/control">To the control</a>
  </p>{/if}
{#if kept}
  <p class="mt-4 text-lg" role="status">
    As of {when}: {kept.rows.length === 0
      ? 'nothing is to be set.'
      : `${kept.rows.length} ${kept.rows.length === 1 ? 'register is' : 'registers are'} to be set.`}
    {#if kept.seen}{kept.same}
      {kept.same === 1 ? 'was' : 'were'} seen at the control as {kept.same === 1 ? 'it is' : 'they are'} to be,
      read {dayAndClock(kept.seen, zone)} or later.{/if}
  </p>
  {#if unread > 0}<p class="small-words">
      {unread === kept.rows.length
        ? `What the control holds ${unread === 1 ? 'there' : 'in them'} is not known: ${unread === 1 ? 'it is' : 'all are'} set.`
        : `Of ${unread} of them it is not known what the control holds: they are set too.`}
    </p>{/if}
  {#if newer.length > 0}<p class="caution mt-2 max-w-prose">
      {newer.length === 1 ? 'One of them was' : `${newer.length} of them were`} recorded since this table was kept:
      {newer.slice(0, 6).join(', ')}{newer.length > 6 ? ` and ${newer.length - 6} more` : ''}. What was
      measured or corrected since is taken back with it. A length that goes back may be that of a tool that is
      gone: it stops the job until it is measured again, or keyed as it was.
    </p>{/if}
  {#if kept.left.length > 0}<p class="small-words">
      Not in it, and left as they are: {kept.left.slice(0, 6).join(', ')}{kept.left.length > 6
        ? ` and ${kept.left.length - 6} more`
        : ''}.
    </p>{/if}
  {#if kept.rows.length > 0}
    <div class="mt-3 grid gap-6 lg:grid-cols-2">
      <Scroll label="Before and after">
        <table class="ruled w-full font-narrow">
          <thead><tr><th>Register</th><th>Control before</th><th>Record before</th><th>After</th></tr></thead>
          <tbody>
            {#each kept.rows as row (row.id)}
              <tr>
                <th class="text-left" scope="row">{row.words}</th>
                <td>{row.control ?? 'not read'}</td>
                <td>{row.record}</td>
                <td><b>{row.to}</b></td>
              </tr>
            {/each}
          </tbody>
        </table>
      </Scroll>
      <div class="min-w-0">
        {#if kept.lines}<Lines
            title="To be keyed or run"
            lines={kept.lines}
            words="Read each line before it is run. What it sets is the table above, and nothing else."
          />{:else}<p>
            This machine has no words for one of these registers: key them by hand, in the order of the table.
          </p>{/if}
        <p class="caution mt-2">
          A text that sets registers is run with no tool in cut and somebody who has read it. A wrong length
          drives a tool into the part or the table. The machine’s manual and the site’s rules come first.
        </p>
      </div>
    </div>
    <ActionForm
      action="?/keep"
      class="mt-4 grid max-w-2xl gap-3"
      label="Read back"
      onDone={({ moved }: { moved: number }) => {
        kept = null;
        told = `The control holds all of it. ${moved === 0 ? 'The record held it already.' : `${moved} ${moved === 1 ? 'register' : 'registers'} of the record ${moved === 1 ? 'was' : 'were'} set to it.`}`;
      }}
    >
      {#snippet children({ busy })}
        <input type="hidden" name="text" value={kept!.text} />
        <input type="hidden" name="entry" value={kept!.entry} />
        <Field label="The table as the control gives it out now"
          ><textarea class="textarea font-mono" name="shown" rows="4" spellcheck="false" required
          ></textarea></Field
        >
        <button class="btn btn-primary" disabled={busy}>It was put back: read it back</button>
      {/snippet}
    </ActionForm>
  {/if}
{/if}
