<script lang="ts">
  import type { ReadBack } from '$core/correction/read-back';
  import { absoluteWords } from '$core/correction/register-text';
  import type { Dialect } from '$core/program/dialect';
  import { formatLength } from '$core/units/format-length';
  import type { Length, LengthUnit } from '$core/units/length';
  import ActionForm from '../ActionForm.svelte';
  import Size from '../Size.svelte';

  interface Props {
    from: { name: string };
    to: { id: number; name: string; unit: LengthUnit; dialect: Dialect };
    card: {
      tool: number;
      number: string;
      gaugeLength: Length;
      before: Length;
      after: Length;
      text: string | null;
      takenBy: string | null;
      blocked: string | null;
      caution: string | null;
    }[];
    mayTransfer: boolean;
  }
  let { from, to, card, mayTransfer }: Props = $props();
  type Answer = { written: number[]; stopped: { tool: number; reading: ReadBack & { matches: false } }[] };
  let answer = $state<Answer | null>(null);
  const { unit } = $derived(to);
  const slip = (tool: number) => answer?.stopped.find((each) => each.tool === tool)?.reading ?? null;
  const lines = $derived(
    card.flatMap((line) =>
      line.text && !line.takenBy && !line.blocked && line.before !== line.after ? [line.text] : [],
    ),
  );
  const text = $derived(lines.length === 0 ? '' : [...absoluteWords(to.dialect, unit), ...lines].join('\n'));
</script>

<ActionForm
  action="?/transfer"
  class="mt-3 grid gap-3"
  label="Carry lengths over"
  keep
  onDone={(done: Answer) => (answer = done)}
>
  {#snippet children({ busy })}
    <input type="hidden" name="to" value={to.id} />
    <div class="relative overflow-x-auto">
      <table class="ruled">
        <thead
          ><tr
            ><th scope="col">Row</th><th scope="col">Tool</th><th scope="col" class="number">Gauge length</th
            ><th scope="col" class="number">{to.name} holds</th><th scope="col" class="number"
              >Make it, {unit}</th
            ><th scope="col">It now shows</th></tr
          ></thead
        >
        <tbody>
          {#each card as line (line.tool)}
            {@const wrong = slip(line.tool)}
            <tr>
              <th scope="row" class="font-display text-xl">{line.tool}</th><td
                >{line.number}{#if line.caution}<span class="caution block text-sm">{line.caution}</span
                  >{/if}</td
              >
              <td class="number"><Size value={line.gaugeLength} {unit} bare /></td><td class="number"
                >{formatLength(line.before, unit)}</td
              >
              <td class="number font-display text-xl font-bold text-accent"
                >{line.takenBy || line.blocked ? '' : formatLength(line.after, unit, { sign: 'always' })}</td
              >
              <td>
                {#if line.blocked}<span class="text-accent">{line.blocked}</span>
                {:else if line.takenBy}<span class="text-accent"
                    >T{line.tool} on {to.name} is {line.takenBy}: its row stays</span
                  >
                {:else if line.before === line.after}<b>agrees</b>
                {:else if mayTransfer}
                  <input type="hidden" name="before.{line.tool}" value={line.before} />
                  <input
                    class="input w-40"
                    name="shown.{line.tool}"
                    data-pad="length"
                    aria-label="What row {line.tool} of {to.name} shows"
                    autocomplete="off"
                  />
                  {#if wrong}<p class="caution mt-1 text-sm" role="alert">
                      {wrong.reason}
                      {wrong.remedy}
                    </p>{/if}
                {/if}
              </td>
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
    {#if card.length === 0}<p>No tool of {from.name} has a length to carry over.</p>
    {:else if card.every(({ blocked, takenBy }) => blocked || takenBy)}<p>Nothing is carried over.</p>
    {:else}
      {#if text}<details>
          <summary class="inline-flex min-h-11 cursor-pointer items-center font-semibold underline"
            >The same as NC text</summary
          >
          <pre class="overflow-x-auto bg-base-300 p-3 select-all">{text}</pre>
          <p class="small-words">
            The values are absolute. Check the lines against the machine’s manual first.
          </p>
        </details>{/if}
      <p class="caution text-sm">
        Back up {to.name}’s table first. Key the rows, then read each one off the control and type it here.
        The tool is measured again when it is loaded; first approach in single block, rapids low, a hand on
        feed hold.
      </p>
      {#if answer && answer.written.length > 0}<p role="status" class="font-semibold">
          Written: {answer.written.map((tool) => `row ${tool}`).join(', ')}.
        </p>{/if}
      {#if mayTransfer}<button class="btn w-fit btn-primary" disabled={busy}
          >Keyed: record what I read back</button
        >{/if}
    {/if}
  {/snippet}
</ActionForm>
