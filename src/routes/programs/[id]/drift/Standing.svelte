<script lang="ts">
  import type { LengthUnit } from '$core/units/length';
  import type { PageData } from './$types';

  /** Where the size stands, how it changes, and what that means for the next correction, the edge and the measuring. */
  interface Props {
    page: NonNullable<PageData['page']>;
    endsWith: PageData['endsWith'];
    unit: LengthUnit;
    risk: number;
    risks: readonly number[];
    choose: (risk: number) => void;
    inParts: (parts: number | null) => string;
    show: (value: number) => string;
    signed: (value: number) => string;
  }
  let { page, endsWith, unit, risk, risks, choose, inParts, show, signed }: Props = $props();
  const state = $derived(page.drift.state);
  const sure = $derived(Math.abs(state.drift) > 2 * state.driftError);
</script>

<dl class="grid content-start gap-x-4 gap-y-1">
  {#if page.setUpSince}<dt class="font-semibold">Set up anew since it was measured</dt>
    <dd class="small-words">
      Where it stands now, and when it is to be corrected, cannot be told before a part of this set-up is
      measured. Here is how it stood before.
    </dd>{/if}
  {#if page.broughtIn}<dt class="font-semibold">Its first part is being brought to size</dt>
    <dd class="small-words">
      Its row may stand off on purpose until that is done: nothing is corrected beside it.
    </dd>{/if}
  {#if page.edgeSince && !page.setUpSince}<dt class="font-semibold">A new edge, not measured yet</dt>
    <dd class="small-words">Where it stands is where edges before it began: measure its first part.</dd>{/if}
  <dt class="small-words">{page.setUpSince ? 'Stood' : 'Stands'}</dt>
  <dd class="font-display text-2xl">
    {signed(page.drift.now)} <span class="text-base">{unit} ± {show(2 * state.error)}</span>
  </dd>
  <dt class="small-words">Changes in ten parts</dt>
  <dd class="font-display text-2xl">
    {signed(10 * state.drift)} <span class="text-base">± {show(20 * state.driftError)}</span>
    {#if !sure}<span class="small-words block">It cannot be told from standing still.</span>{/if}
  </dd>
  {#if page.jump}
    <dt class="small-words">Jumped between parts {page.jump.after} and {page.jump.before}</dt>
    <dd class="font-display text-2xl">
      {signed(page.jump.by)} <span class="text-base">± {show(2 * page.jump.error)}</span>
      <span class="small-words block"
        >{page.jump.likely > 0.95 ? 'No wear does that' : 'Perhaps; no wear does that'}: a chip off the edge
        or under the part, or something that was moved.</span
      >
    </dd>
  {/if}
  <dt class="small-words">Single parts differ by</dt>
  <dd class="font-display text-2xl">± {show(state.noise)}</dd>
  {#if page.setUpSince}
    <dt class="small-words">Measure</dt>
    <dd class="text-lg">the next part, as a first-off</dd>
  {:else}
    <dt class="small-words">Next correction</dt>
    <dd class="text-lg">
      {page.broughtIn
        ? 'by the steps of its first part'
        : page.edgeSince
          ? 'cannot be told before its first part'
          : inParts(page.drift.toMove)}
    </dd>
    <dt class="small-words">Its mean leaves the limits</dt>
    <dd class="text-lg">
      {page.broughtIn
        ? 'it may be kept beyond one on purpose'
        : page.drift.mayBeOut && page.drift.toLimit !== 0
          ? 'cannot be told: it may be beyond one already'
          : inParts(page.drift.toLimit)}
    </dd>
    {#if page.end}
      <dt class="small-words">Its edge ends</dt>
      <dd class="text-lg">
        {endsWith === null ? 'now: renew it, do not correct it' : `after part ${endsWith}`}
        {#if endsWith !== null && sure}<span class="small-words block"
            >{page.end.moves === 0
              ? 'No correction is due before.'
              : `About ${page.end.moves === 1 ? 'one correction' : `${page.end.moves} corrections`} until then.`}
            {page.end.leavesFirst ? 'Untouched it would leave its limits first.' : ''}</span
          >{/if}
      </dd>
    {/if}
    {#if page.drift.newEdge}
      <dt class="small-words">A new edge begins at about</dt>
      <dd class="text-lg">
        {signed(page.drift.newEdge.mean)} ± {show(2 * page.drift.newEdge.error)}
        <span class="small-words block"
          >by {page.drift.newEdge.earlier === 1
            ? 'one earlier change'
            : `${page.drift.newEdge.earlier} earlier changes`}, with the row as it is</span
        >
      </dd>
    {/if}
    <dt class="small-words">Measure every</dt>
    <dd class="text-lg">
      {page.every <= 1 ? 'part' : `${page.every} parts`}
      <select
        class="select mt-1"
        aria-label="Chance of a bad part"
        value={risk}
        onchange={(event) => choose(Number(event.currentTarget.value))}
        >{#each risks as risk (risk)}<option value={risk}>for 1 bad part in {1 / risk}</option>{/each}</select
      >
      <span class="small-words block"
        >{page.spreads
          ? 'Even so: the spread of single parts alone puts more out than that.'
          : page.every === 0
            ? 'It is not known well enough yet where the edge stands: the next part first.'
            : `It is measured every ${page.measured === 1 ? 'part' : `${page.measured} parts`} now.`}
        {page.jump ? 'Against another jump no interval helps: a look at each part does.' : ''}</span
      >
    </dd>
  {/if}
</dl>
