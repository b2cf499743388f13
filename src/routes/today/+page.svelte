<script lang="ts">
  import { ROLE_WORDS, type Role } from '$core/people/roles';
  import { shortTime } from '$lib/time';
  import WorkList from '$lib/WorkList.svelte';

  import { workLists } from './lists';

  let { data } = $props();
  const { work } = $derived(data);
  const zone = $derived(data.cell!.timeZone);
  const when = (tool: { flag: string | null; at: Date | null }) =>
    tool.flag === 'broken' ? 'broken' : tool.flag ? 'out' : tool.at ? shortTime(tool.at, data.now, zone) : '';

  const lists = $derived(workLists(work, when));
  type Name = keyof typeof lists;
  /** What each trade does, its own first. */
  const OWN: Readonly<Record<Role, readonly Name[]>> = {
    setter: ['build', 'load', 'measure', 'renew'],
    crib: ['issue', 'build', 'measure', 'renew'],
    inspector: ['held', 'read', 'stray'],
    operator: ['held', 'read', 'load'],
    lead: ['held', 'build', 'load', 'measure', 'read', 'issue'],
    viewer: ['read', 'build'],
  };
  const role = $derived(data.person!.role);
  const own = $derived(OWN[role]);
  const rest = $derived((Object.keys(lists) as Name[]).filter((name) => !own.includes(name)));
</script>

<svelte:head><title>Work now · Tin Almanac</title></svelte:head>

<header class="mt-5 flex flex-wrap items-end gap-4">
  <h1 class="text-3xl">Work now</h1>
  <p class="small-words pb-1">for the {ROLE_WORDS[role]}, as the cell stands</p>
  <a class="btn ml-auto" href="/board">Board</a>
  <a class="btn" href="/ahead">Ahead</a>
  <a class="btn" href="/leaf">The leaf</a>
</header>
<div class="mt-4 grid gap-x-8 gap-y-6 lg:grid-cols-2">
  {#each own as name (name)}<WorkList id={name} {...lists[name]} />{/each}
</div>
<details class="mt-8">
  <summary class="inline-flex min-h-11 cursor-pointer items-center font-semibold underline"
    >Everything else in the cell</summary
  >
  <div class="mt-2 grid gap-x-8 gap-y-6 lg:grid-cols-2">
    {#each rest as name (name)}<WorkList id={name} {...lists[name]} />{/each}
  </div>
</details>
