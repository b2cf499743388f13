<script lang="ts">
  import { goto } from '$app/navigation';
  import type { LifeBasis } from '$core/life/count';
  import { toldWords, unseenBy, type LikelyMade } from '$core/shift/likely-made';
  import type { Flag } from '$core/life/flag';
  import ActionForm from '../ActionForm.svelte';
  import Disc from '../Disc.svelte';

  interface Props {
    machine: { id: number; name: string; expiry: 'atZero' | 'belowZero' };
    tools: {
      assemblyId: number;
      tool: number;
      number: string;
      name: string;
      remaining: number;
      fullLife: number;
      basis: LifeBasis;
      flag: Flag | null;
      parts: number;
      sister: { id: number; number: string } | null;
      renewal: boolean;
      group: { number: number; next: boolean } | null;
    }[];
    /** Who may renew, in words. */
    renewers: string[];
    may: { renew: boolean; flag: boolean; place: boolean; call: boolean };
    /** The job that is cut. */
    job: { made: number } | null;
    /** Parts that were cut and are not on record: what waits here, or what the control has counted. */
    uncounted: number;
    /** Parts made by now, if it ran on since it was last told of. */
    likely: LikelyMade | null;
    now: Date;
    zone: string;
  }
  let { machine, tools, renewers, may, job, uncounted, likely, now, zone }: Props = $props();
  /** Parts that nobody counted, and that are made by now if it ran on. */
  const unseen = $derived(job ? unseenBy({ cut: job.made + uncounted, likely }) : 0);
  const spent = $derived(
    tools
      .filter((tool) => !tool.flag && tool.parts > 0 && tool.parts <= unseen && !tool.group)
      .map(({ tool }) => `T${tool}`),
  );
  let called = $state<number[]>([]);
  const standing = (tool: Props['tools'][number]) =>
    tool.flag === 'broken'
      ? 'broken'
      : tool.flag === 'locked'
        ? 'locked'
        : tool.parts === 0
          ? 'run out'
          : `${tool.parts} ${tool.parts === 1 ? 'part' : 'parts'}`;
</script>

<section aria-labelledby="lives">
  <h2 id="lives" class="heading">Tools, soonest first</h2>
  {#if tools.length > 0 && uncounted > 0}
    <p class="small-words">
      Counting in the {uncounted === 1 ? 'part' : `${uncounted} parts`} that {uncounted === 1 ? 'is' : 'are'} not
      on record yet.
    </p>
  {/if}
  {#if tools.length > 0 && unseen > 0}
    <p class={spent.length > 0 ? 'caution' : 'small-words'}>
      Known: {toldWords(likely!.from, now, zone)}; if it ran on, {unseen} more {unseen === 1
        ? 'part is'
        : 'parts are'} made by now{spent.length > 0
        ? `, and ${spent.join(', ')} ${spent.length === 1 ? 'is' : 'are'} used up: count the parts`
        : ''}.
    </p>
  {/if}
  <ul class="ruled-list mt-1">
    {#if tools.length === 0}<li class="py-2">No counted tool is called by what runs.</li>{/if}
    {#each tools as tool (tool.assemblyId)}
      <li>
        <details name="tool">
          <summary
            class="grid min-h-12 cursor-pointer grid-cols-[3rem_1fr_auto_6rem] items-center gap-x-2 hover:bg-base-300"
          >
            <b class="font-display text-lg">T{tool.tool}</b>
            <span class="leading-tight"
              >{tool.name}
              <span class="small-words"
                >{tool.number}{tool.group
                  ? `, group ${tool.group.number}${tool.group.next ? ', cuts next' : ''}`
                  : ''}</span
              ></span
            >
            <Disc remaining={tool.remaining} fullLife={tool.fullLife} basis={tool.basis} flag={tool.flag} />
            <span
              class={[
                'number text-right font-display text-lg font-semibold',
                (tool.parts === 0 || tool.flag) && 'text-accent',
              ]}>{standing(tool)}</span
            >
          </summary>
          <div class="grid gap-2 pb-3">
            {#if tool.flag === 'broken'}
              <p class="caution">
                Hold the part it was in, and look at all since its last good check:
                <a class="underline" href="/tools/{tool.assemblyId}/broken">what is held back</a>.
              </p>
            {/if}
            <div class="flex flex-wrap gap-2">
              <a class="btn h-14 px-5" href="/tools/{tool.assemblyId}">Open {tool.number}</a>
              {#if may.renew && tool.flag !== 'broken'}
                {#if tool.renewal}<a class="btn h-14 px-5 btn-primary" href="/tools/{tool.assemblyId}"
                    >Go on renewing</a
                  >{:else}
                  <ActionForm
                    action="/tools/{tool.assemblyId}?/renew"
                    label="Renew T{tool.tool}"
                    onDone={() => void goto(`/tools/${tool.assemblyId}`)}
                  >
                    {#snippet children({ busy })}<button class="btn h-14 px-5 btn-primary" disabled={busy}
                        >Renew</button
                      >{/snippet}
                  </ActionForm>
                {/if}
              {/if}
              {#if tool.sister && may.place}<a
                  class="btn h-14 px-5"
                  href="/machines/{machine.id}?tool={tool.tool}">Load sister {tool.sister.number}</a
                >{/if}
            </div>
            {#if !may.renew && may.call && (tool.parts === 0 || tool.flag)}
              <ActionForm
                action="?/callFor"
                label="Call for T{tool.tool}"
                onDone={() => (called = [...called, tool.assemblyId])}
              >
                {#snippet children({ busy })}
                  <input
                    type="hidden"
                    name="text"
                    value="T{tool.tool} ({tool.number}) {tool.flag === 'broken'
                      ? 'is broken'
                      : 'has run out'}: please come to {machine.name}."
                  />
                  <p>
                    It is renewed by a {renewers.join(' or ')}{tool.sister
                      ? `; ${tool.sister.number} on the rack is its sister`
                      : ''}.
                  </p>
                  {#if called.includes(tool.assemblyId)}<p role="status" class="font-semibold">
                      Called: it stands on the leaf until somebody answers.
                    </p>{:else}<button class="btn mt-1 h-14 px-5 btn-primary" disabled={busy}
                      >Call for somebody</button
                    >{/if}
                {/snippet}
              </ActionForm>
            {/if}
            {#if may.flag && tool.flag !== 'broken'}
              <ActionForm
                action="/tools/{tool.assemblyId}?/flag"
                class="flex flex-wrap items-center gap-2"
                label="T{tool.tool} broke"
              >
                {#snippet children({ busy })}
                  <input type="hidden" name="flag" value="broken" />
                  <input
                    class="input h-14 min-w-52 flex-1"
                    name="why"
                    maxlength="300"
                    aria-label="What happened to T{tool.tool}"
                    placeholder="what happened, and on which part"
                    required
                  />
                  <button class="btn h-14 px-5" disabled={busy}>It broke</button>
                {/snippet}
              </ActionForm>
            {/if}
          </div>
        </details>
      </li>
    {/each}
  </ul>
  <p class="small-words mt-2">
    {machine.expiry === 'atZero'
      ? 'On this machine a counter runs out when it reaches zero.'
      : 'On this machine a counter runs out below zero: to get N pieces or holes, N − 1 is keyed.'} A tool that
    runs out in the cut finishes its part.
  </p>
</section>
