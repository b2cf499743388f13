<script lang="ts">
  import { page } from '$app/state';

  let { waiting }: { waiting: number } = $props();
  const tabs = [
    { href: '/leaf', root: '/leaf', label: 'Leaf', key: 'l' },
    { href: '/today', root: '/today', label: 'Work', key: 'w' },
    { href: '/machines', root: '/machines', label: 'Machines', key: 'm' },
    { href: '/programs', root: '/programs', label: 'Programs', key: 'p' },
    { href: '/corrections', root: '/corrections', label: 'Corrections', key: 'c' },
    { href: '/tools', root: '/tools', label: 'Tools', key: 't' },
    { href: '/crib', root: '/crib', label: 'Crib', key: 'i' },
    { href: '/ledger', root: '/ledger', label: 'Ledger', key: 'e' },
  ];
  const here = (root: string) => page.url.pathname.startsWith(root);
</script>

<!-- A thumb index, as cut into the edge of a reference book; along the foot on a narrow screen. -->
<nav
  aria-label="Sections"
  class="no-print fixed inset-x-0 bottom-0 z-30 flex border-t border-base-content bg-base-200 md:sticky md:inset-auto md:top-4 md:mt-10 md:w-11 md:shrink-0 md:flex-col md:gap-1 md:border-0 md:bg-transparent"
>
  {#each tabs as tab (tab.href)}
    <a
      href={tab.href}
      aria-current={here(tab.root) ? 'page' : undefined}
      aria-keyshortcuts="g {tab.key}"
      class={[
        'relative flex min-h-12 min-w-0 flex-auto items-center justify-center px-1 text-center font-narrow text-sm font-semibold max-[375px]:px-0 max-[375px]:text-xs md:min-h-0 md:w-11 md:flex-none md:rounded-l-xl md:border md:border-r-0 md:px-4 md:py-0 md:text-base md:[writing-mode:vertical-rl]',
        here(tab.root)
          ? 'border-primary bg-primary text-primary-content'
          : 'border-base-content bg-base-100 hover:bg-base-300',
      ]}
    >
      {tab.label}
      {#if tab.root === '/corrections' && waiting > 0}
        <span
          class="absolute top-0.5 right-1 rounded-full bg-accent px-1.5 text-xs font-bold text-accent-content [writing-mode:horizontal-tb] md:right-auto md:-left-2"
          >{waiting}<span class="sr-only"> waiting</span></span
        >
      {/if}
    </a>
  {/each}
</nav>
