<script lang="ts">
  import type { LoadStep } from '$core/changer/load-plan';
  import type { StepWords } from '$core/changer/load-words';

  interface Said extends StepWords {
    key: string;
    step: LoadStep;
  }
  interface Props {
    /** Steps to take at the machine, in their order, and tools to be built before. */
    walk: Said[];
    toBuild: Said[];
    /** Steps taken already. */
    made: number;
    /** Something waits for a pocket. */
    waits: boolean;
    kits: {
      tool: number;
      kit: {
        pieces: { role: string; piece: { number: string; name: string; shelf: string }; count: number }[];
      } | null;
    }[];
  }
  let { walk, toBuild, made, waits, kits }: Props = $props();
  const fetched = $derived(
    walk.flatMap((each) =>
      each.step.act === 'load' && each.step.wanted.assemblyId ? [each.step.wanted] : [],
    ),
  );
</script>

<section>
  <h2 class="heading">To go</h2>
  <ol class="ruled-list">
    {#each walk as each, i (`${each.key} ${i}`)}
      <li class="grid grid-cols-[1.4rem_2.2rem_1fr] gap-x-2 py-1.5 print:break-inside-avoid">
        <span aria-hidden="true">☐</span>
        <b class="font-display">{made + i + 1}</b>
        <span
          >{each.title}
          <span class="hidden print:block"
            >{#each each.confirm as line (line)}<span class="block">☐ {line}</span>{/each}
            {#if each.step.act === 'measure'}<span class="block">☐ Measured: ______________</span>{/if}
            {#each each.cautions as caution (caution)}<span class="small-words block">{caution}</span
              >{/each}</span
          ></span
        >
      </li>
    {:else}<li class="py-2">
        {toBuild.length > 0
          ? 'Only what must be built is left.'
          : waits
            ? 'Only what waits is left.'
            : 'Nothing is left to do.'}
      </li>{/each}
    {#each toBuild as each (each.key)}
      <li class="grid grid-cols-[1.4rem_2.2rem_1fr] gap-x-2 py-1.5">
        <span aria-hidden="true">☐</span><span></span><span
          >{each.title}
          {#if each.step.act === 'build'}
            {@const wanted = each.step.wanted.tool}
            <span class="small-words hidden print:block"
              >{#each kits.find((kit) => kit.tool === wanted)?.kit?.pieces ?? [] as { role, piece, count } (role)}<span
                  class="block"
                  >☐ {count > 1 ? `${count} × ` : ''}{piece.number}
                  {piece.name}, shelf {piece.shelf || '–'}</span
                >{/each}</span
            >{/if}</span
        >
      </li>
    {/each}
  </ol>
  {#if fetched.length > 0}
    <h2 class="heading mt-5">To fetch</h2>
    <ul class="ruled-list">
      {#each fetched as tool (tool.tool)}<li class="flex gap-3 py-1.5">
          <span aria-hidden="true">☐</span><b class="w-12">T{tool.tool}</b>
          <a class="underline" href="/tools/{tool.assemblyId}">{tool.number}</a>
          <span>{tool.name}</span>
        </li>{/each}
    </ul>
    <a class="no-print btn mt-2" href="/tools/kit?numbers={fetched.map((tool) => tool.number).join('+')}"
      >Kit list of their pieces</a
    >
  {/if}
</section>
