<script lang="ts">
  import type { ToolThere } from '$core/program/elsewhere';
  import { REGISTER_WORDS } from '$core/inspection/register-words';
  import Lines from '$lib/program/Lines.svelte';
  import Printer from '@lucide/svelte/icons/printer';

  let { data } = $props();
  const { program, home, to, found } = $derived(data);
  /** Why the spindle there takes none of those that stay, each once. */
  const staying = $derived([...new Set(Object.values(data.stay).map(({ why }) => why))]);
  /** What to do with each tool. */
  function toDo({ tool, state, serves }: ToolThere): string {
    if (data.taken[tool])
      return `T${tool} is ${data.taken[tool]} there: take that out, or give this one another T there and in the program; then carry it over from ${home.name}`;
    if (data.carried.includes(tool))
      return state === 'unknown'
        ? `Nobody has said what it is: carry the one from ${home.name} over`
        : `Carry it over from ${home.name}`;
    if (data.stay[tool]) return `Build one like ${data.stay[tool].number}, and measure it there`;
    switch (state) {
      case 'there':
        return `Stands there: ${serves}`;
      case 'otherT':
        return `Stands there as ${serves}: give it T${tool}, or change the program`;
      case 'free':
        return `Load ${serves}, and measure it there`;
      case 'none':
        return 'Nothing on record serves: build one, and measure it there';
      case 'unknown':
        return 'Nobody has said what it is: ask the programmer';
      default:
        return `In use: ${serves}`;
    }
  }
</script>

<svelte:head><title>{program.number} to {to.name} · Tin Almanac</title></svelte:head>

<header class="mt-4 flex flex-wrap items-end gap-x-5 border-b-[3px] border-double border-base-content pb-2">
  <h1 class="text-3xl">{program.number} from {home.name} to {to.name}</h1>
  <p class="text-lg"><a class="underline" href="/programs/{program.id}">{program.title}</a></p>
  <button
    type="button"
    class="no-print btn ml-auto btn-square"
    onclick={() => window.print()}
    aria-label="Print this sheet"><Printer size={18} /></button
  >
</header>

{#each found.against as text (text)}<p class="caution mt-3 text-lg font-semibold">{text}</p>{/each}
{#if found.verdict === 'not'}
  <p class="mt-3">
    It does not go there. <a class="underline" href="/programs/{program.id}/elsewhere"
      >Where else it could run</a
    >
  </p>
{:else}
  <div class="mt-4 grid gap-x-8 gap-y-6 lg:grid-cols-[1.2fr_1fr] print:block">
    <div class="grid content-start gap-6">
      <section aria-labelledby="tools">
        <h2 id="tools" class="heading">1. Tools</h2>
        {#each staying as why (why)}<p class="mt-2">
            What stands at {home.name} stays there: {to.name} does not hold it ({why}).
          </p>{/each}
        <table class="ruled mt-1 w-full">
          <thead><tr><th>T</th><th>Asked for</th><th>To do</th></tr></thead>
          <tbody>
            {#each found.tools as tool (tool.tool)}
              <tr><td>T{tool.tool}</td><td>{tool.words}</td><td>{toDo(tool)}</td></tr>
            {/each}
          </tbody>
        </table>
        <p class="caution mt-2">
          Right knob, taper wiped, below the plate’s limits; every tool that goes in is measured straight
          after. The machine’s manual and the site’s rules come first.
        </p>
      </section>
      {#if data.lengths.length > 0}
        <section aria-labelledby="lengths">
          <h2 id="lengths" class="heading">2. Lengths of what is carried over</h2>
          <table class="ruled mt-1 w-full">
            <thead
              ><tr><th>T</th><th>Tool</th><th>Gauge length, {home.unit}</th><th>There, {to.unit}</th></tr
              ></thead
            >
            <tbody>
              {#each data.lengths as line (line.tool)}
                <tr
                  ><td>T{line.tool}</td><td>{line.number}</td><td>{line.gauge}</td><td
                    >{#if line.blocked}not carried over{:else if line.takenBy}{line.after}, once its T is free{:else}{line.before}
                      →
                      <b>{line.after}</b>{/if}{#if line.takenBy || line.blocked || line.caution}<br /><span
                        class="small-words"
                        >{line.blocked ??
                          (line.takenBy
                            ? `T${line.tool} is ${line.takenBy} there: it is not overwritten.`
                            : line.caution)}</span
                      >{/if}</td
                  ></tr
                >
              {/each}
            </tbody>
          </table>
          <p class="small-words mt-1">
            Worked out, to begin with: they are measured at {to.name} before they cut.
          </p>
        </section>
      {/if}
      <section aria-labelledby="wear">
        <h2 id="wear" class="heading">3. Wear: what goes along, and what stays</h2>
        {#if data.wears.length === 0}<p class="mt-2">
            No register of {to.name} answers to what is measured of {program.number}.
          </p>{:else}
          <table class="ruled mt-1 w-full">
            <thead
              ><tr
                ><th>Register</th><th>By</th><th>{home.name}, {home.unit}</th><th>{to.name}, {to.unit}</th
                ></tr
              ></thead
            >
            <tbody>
              {#each data.wears as wear (wear.row + wear.kind)}
                <tr
                  ><td>{REGISTER_WORDS[wear.kind]}, row {wear.row}</td><td>{wear.size}</td><td
                    >{wear.held}{#if wear.shared}<br /><span class="small-words">{wear.shared}</span>{/if}</td
                  ><td
                    >{#if data.taken[wear.tool]}{wear.there}, once its T is free{:else}{wear.now} →
                      <b>{wear.there}</b>{/if}<br /><span class="small-words">{wear.words}</span></td
                  ></tr
                >
              {/each}
            </tbody>
          </table>
          <p class="small-words mt-1">
            The first part is measured before the second is cut, whatever stands here.
          </p>
        {/if}
      </section>
    </div>
    <div class="grid content-start gap-6">
      {#if found.change.length > 0}
        <section aria-labelledby="change">
          <h2 id="change" class="heading">In the program</h2>
          <ul class="ruled-list mt-1">
            {#each found.change as { text }, i (i)}<li class="py-1.5">{text}</li>{/each}
          </ul>
        </section>
      {/if}
      <section aria-labelledby="key">
        <h2 id="key" class="heading">4. To key at {to.name}</h2>
        {#if data.keyText}
          <Lines
            title="Lengths and wear"
            lines={data.keyText}
            words="Look at each row before it is keyed; read the table off the control afterwards."
          />
          <p class="mt-2">
            <a class="inline-flex min-h-11 items-center underline" href="/machines/{to.id}/control"
              >Lay its table beside the record</a
            >
          </p>
        {:else}<p class="mt-2">Nothing, or nothing that {to.name} has words for.</p>{/if}
      </section>
      <section aria-labelledby="ready">
        <h2 id="ready" class="heading">5. Whether it is ready there</h2>
        <p class="mt-2">
          {found.verdict === 'asItIs'
            ? `Nothing in its text speaks against ${to.name}.`
            : `${found.change.length} ${found.change.length === 1 ? 'thing' : 'things'} to change in its text.`}
          Bring it in for {to.name}: the page of the program there then checks tools, lengths, lives and
          limits, and it is proven there like a new one.
        </p>
        <p class="mt-1"><a class="btn" href="/programs">Bring it in</a></p>
      </section>
    </div>
  </div>
{/if}
