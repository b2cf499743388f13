<script lang="ts">
  import { chaseWords, partsWithout } from '$core/correction/chase';
  import HeldBack from '../breakage/HeldBack.svelte';
  import { shortTime } from '../time';
  import { registerShow } from '../register';
  import { REGISTER_WORDS } from '$core/inspection/register-words';
  import { toMeasureWords, toolList, type LeafData } from '$core/shift/leaf';

  interface Props {
    leaf: LeafData;
    now: Date;
    zone: string;
  }
  let { leaf, now, zone }: Props = $props();
  // what is cut with the old value longest comes first
  const waiting = $derived(leaf.waiting.toSorted((a, b) => partsWithout(b) - partsWithout(a)));
  const nothing = $derived(
    leaf.waiting.length +
      leaf.stray.length +
      leaf.renewals.length +
      leaf.toMeasure.length +
      leaf.lacking.length +
      leaf.firstParts.length +
      leaf.heldBack.length +
      leaf.controls.length +
      leaf.short.length ===
      0,
  );
</script>

<section aria-labelledby="waits">
  <h2 id="waits" class="heading">Waits</h2>
  <ul class="ruled-list mt-1">
    {#if nothing}<li class="py-2">Nothing waits.</li>{/if}
    {#each leaf.heldBack as held (held.assemblyId)}<li><HeldBack {held} /></li>{/each}
    {#each leaf.lacking as { machineId, machine, program, tools } (`${machineId} ${program}`)}
      <li>
        <a class="flex min-h-11 items-center py-1.5 hover:bg-base-300" href="/machines/{machineId}"
          ><span
            ><b>{machine}</b> lacks {toolList(tools)}: {program} calls
            {tools.length === 1 ? 'it' : 'them'} and has begun</span
          ></a
        >
      </li>
    {/each}
    {#each leaf.controls as { machineId, machine, differing } (machineId)}
      <li>
        <a class="flex min-h-11 items-center py-1.5 hover:bg-base-300" href="/machines/{machineId}/control"
          ><span
            ><b>{machine}</b>: its control holds something else than the record in {differing}
            {differing === 1 ? 'register' : 'registers'}</span
          ></a
        >
      </li>
    {/each}
    {#each waiting as correction (correction.id)}
      <li>
        <a
          class="grid min-h-11 grid-cols-[1fr_auto] items-center gap-x-3 py-1.5 hover:bg-base-300"
          href="/corrections/{correction.id}"
        >
          <span
            ><b>{correction.machine}</b> T{correction.tool}, {correction.feature}<br /><span
              class="small-words"
              >{REGISTER_WORDS[correction.registerKind]} row {correction.row}, {correction.state ===
              'proposed'
                ? 'waits for approval'
                : correction.held !== null
                  ? 'held back, the row is to be read first'
                  : 'approved, to be keyed'}</span
            ></span
          >
          <span
            class={['font-display text-lg font-semibold', correction.state === 'approved' && 'text-accent']}
            >{registerShow(correction)(correction.change)}
            {correction.unit}</span
          >
          {#if correction.state === 'approved' && (correction.held ?? chaseWords(correction))}<span
              class="caution col-span-2 text-sm">{correction.held ?? chaseWords(correction)}</span
            >{/if}
          {#if correction.lastStop}<span class="caution col-span-2 text-sm">{correction.lastStop}</span>{/if}
        </a>
      </li>
    {/each}
    {#each leaf.firstParts as first (first.machineId)}
      <li>
        <a
          class="flex min-h-11 items-center py-1 hover:bg-base-300"
          href="/machines/{first.machineId}/first-part"
          ><span
            ><b>{first.machine}</b> The first part of {first.program} is being brought to size, begun by {first.begunBy}</span
          ></a
        >
      </li>
    {/each}
    {#each leaf.toMeasure as tool (tool.machineId + '-' + tool.tool)}
      <li>
        <a
          class="flex min-h-11 items-center py-1 hover:bg-base-300"
          href="/machines/{tool.machineId}?tool={tool.tool}"
          ><span><b>{tool.machine}</b> T{tool.tool} ({tool.number}) {toMeasureWords(tool)}</span></a
        >
      </li>
    {/each}
    {#each leaf.renewals as renewal (renewal.assemblyId)}
      <li>
        <a class="flex min-h-11 items-center py-1 hover:bg-base-300" href="/tools/{renewal.assemblyId}"
          ><span><b>{renewal.number}</b> {renewal.name}: renewal, {renewal.done} of 5 steps done</span></a
        >
      </li>
    {/each}
    {#if leaf.ahead && (leaf.ahead.edges > 0 || leaf.ahead.falls.length > 0)}
      <li>
        <a class="flex min-h-11 items-center py-1 hover:bg-base-300" href="/ahead"
          ><span
            ><b>Ahead</b>
            {leaf.ahead.edges === 0
              ? 'No edge runs out until the next shift ends'
              : `${leaf.ahead.edges} ${leaf.ahead.edges === 1 ? 'edge runs' : 'edges run'} out until the next shift ends, ${leaf.ahead.build} to build and measure`}{#if leaf.ahead.falls.length > 0};
              below minimum will be {leaf.ahead.falls
                .slice(0, 3)
                .map(({ number, at }) => `${number} ${shortTime(at, now, zone)}`)
                .join(', ')}{/if}</span
          ></a
        >
      </li>
    {/if}
    {#if leaf.short.length > 0}
      <li>
        <a class="flex min-h-11 items-center py-1 hover:bg-base-300" href="/crib?short=1"
          ><span
            ><b>Crib</b>
            {leaf.short.length === 1 ? `${leaf.short[0]!.name} is` : `${leaf.short.length} lines are`} below minimum:
            {leaf.short
              .slice(0, 4)
              .map((each) => each.number)
              .join(', ')}{leaf.short.length > 4 ? ' …' : ''}</span
          ></a
        >
      </li>
    {/if}
    {#each leaf.stray as correction (correction.id)}
      <li>
        <a class="block min-h-11 py-1.5 hover:bg-base-300" href="/corrections/{correction.id}"
          ><b>{correction.machine}</b> T{correction.tool}: {correction.tookWords}</a
        >
      </li>
    {/each}
  </ul>
</section>
