<script lang="ts">
  import { isRandom } from '$core/changer/layout';
  import { page } from '$app/state';

  let { data, children } = $props();
  const base = $derived(`/machines/${data.machine.id}`);
  const pages = $derived([
    { href: base, label: 'Magazine' },
    ...(isRandom(data.shape) ? [{ href: `${base}/room`, label: 'Make room' }] : []),
    { href: `${base}/jobs`, label: 'Jobs' },
    { href: `${base}/plan`, label: 'Plan' },
    { href: `${base}/load`, label: 'Load' },
    ...(data.machine.changerKind === 'rack' ? [{ href: `${base}/rack`, label: 'Rack' }] : []),
    { href: `${base}/readings`, label: 'Readings' },
    { href: `${base}/run`, label: 'Run' },
    { href: `${base}/lengths`, label: 'Lengths' },
    { href: `${base}/registers`, label: 'Rows' },
    { href: `${base}/plate`, label: 'Plate' },
  ]);
</script>

<header
  class="mt-4 flex flex-wrap items-end gap-x-5 gap-y-2 border-b-[3px] border-double border-base-content pb-2"
>
  <h1 class="text-3xl">{data.machine.name}</h1>
  <p class="small-words pb-1">{data.machine.words}</p>
  <nav class="no-print ml-auto flex flex-wrap gap-1.5" aria-label={data.machine.name}>
    {#each pages as tab (tab.href)}
      <a
        class={['btn', page.url.pathname === tab.href && 'btn-primary']}
        aria-current={page.url.pathname === tab.href ? 'page' : undefined}
        href={tab.href}>{tab.label}</a
      >
    {/each}
  </nav>
</header>
{@render children()}
