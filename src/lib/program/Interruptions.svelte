<script lang="ts">
  import ActionForm from '../ActionForm.svelte';
  import { dayAndClock } from '../time';

  interface Props {
    /** Null: nobody has said yet where it stopped. */
    line: number | null;
    known: { id: number; said: string; why: string; person: string; at: Date; line: number }[];
    mayLog: boolean;
    zone: string;
  }
  let { line, known, mayLog, zone }: Props = $props();
</script>

{#if line !== null && mayLog}
  <section aria-labelledby="log">
    <h2 id="log" class="heading">Write it down</h2>
    <ActionForm action="?/log" label="Write it down" class="mt-1 grid gap-2">
      {#snippet children({ busy })}
        <input type="hidden" name="line" value={line} />
        <label class="grid gap-1"
          ><span class="small-words">Why it stopped</span><input
            class="input w-full"
            name="why"
            maxlength="200"
            required
            autocomplete="off"
          /></label
        >
        <label class="flex min-h-11 items-center gap-2"
          ><input class="checkbox" type="checkbox" name="doubt" checked /> the part in the machine is in doubt:
          it is measured before it goes on</label
        >
        <div><button class="btn" disabled={busy}>Write it down</button></div>
      {/snippet}
    </ActionForm>
  </section>
{/if}
{#if known.length > 0}
  <section aria-labelledby="before">
    <h2 id="before" class="heading">It stopped before</h2>
    <ul class="ruled-list mt-1">
      {#each known as each (each.id)}
        <li class="py-1.5">
          {each.said}
          <span class="small-words block">{each.why}; {each.person}, {dayAndClock(each.at, zone)}</span>
        </li>
      {/each}
    </ul>
  </section>
{/if}
