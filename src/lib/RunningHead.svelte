<script lang="ts">
  import { page } from '$app/state';
  import { ROLE_WORDS, type Person } from '$core/people/roles';
  import type { Shift } from '$core/shift/calendar';
  import Moon from '@lucide/svelte/icons/moon';
  import Search from '@lucide/svelte/icons/search';
  import Sun from '@lucide/svelte/icons/sun';
  import Users from '@lucide/svelte/icons/users';
  import { onMount } from 'svelte';
  import { clock, longDay } from './time';

  interface Props {
    cell: { name: string; timeZone: string };
    person: Person;
    shift: Shift | null;
    now: Date;
    /** Seconds that pass here in one of the wall's clock: more than one in a cell that is played. */
    rate: number;
    /** What was chosen here; null follows the device. */
    theme: 'tin' | 'tin-night' | null;
    mayPeople: boolean;
    onFind: () => void;
  }
  let { cell, person, shift, now, rate, theme, mayPeople, onFind }: Props = $props();

  let ticked = $state<Date | null>(null);
  const time = $derived(ticked ?? now);
  let deviceDark = $state(false);
  const night = $derived(theme === null ? deviceDark : theme === 'tin-night');
  onMount(() => {
    const device = window.matchMedia('(prefers-color-scheme: dark)');
    const look = () => (deviceDark = device.matches);
    look();
    device.addEventListener('change', look);
    return () => device.removeEventListener('change', look);
  });
  onMount(() => {
    if (rate === 1) {
      const timer = setInterval(() => (ticked = new Date()), 15_000);
      return () => clearInterval(timer);
    }
    // a played cell goes on from what the server said
    const [told, from] = [now.getTime(), Date.now()];
    const timer = setInterval(() => (ticked = new Date(told + (Date.now() - from) * rate)), 1000);
    return () => clearInterval(timer);
  });
</script>

<header class="no-print border-b border-base-content bg-base-100">
  <div
    class="mx-auto flex max-w-[1500px] items-center gap-x-2 px-3 py-1.5 max-[375px]:flex-wrap sm:gap-x-5 md:px-6"
  >
    <p class="font-display text-lg font-bold tracking-tight">{cell.name}</p>
    {#if shift}
      <p class="hidden font-narrow text-sm sm:block">
        <span class="max-lg:hidden">{longDay(shift.date)},</span> <b>{shift.name.toLowerCase()} shift</b>,
        bell at {clock(shift.end, cell.timeZone)}
      </p>
    {/if}
    <p class="font-display text-xl font-semibold" aria-label="Time in the cell">
      {clock(time, cell.timeZone)}
    </p>
    <div class="ml-auto flex min-w-0 items-center sm:gap-1.5">
      <button type="button" class="btn btn-ghost" onclick={onFind} aria-keyshortcuts="/">
        <Search size={18} aria-hidden="true" /><span class="hidden md:inline">Scan or find</span><span
          class="key-hint hidden md:inline"
          aria-hidden="true">/</span
        >
        <span class="sr-only md:hidden">Scan or find</span>
      </button>
      <form method="POST" action="/theme">
        <input type="hidden" name="theme" value={night ? 'tin' : 'tin-night'} />
        <input type="hidden" name="to" value={page.url.pathname + page.url.search} />
        <button class="btn btn-square btn-ghost" aria-label={night ? 'Light theme' : 'Night theme'}>
          {#if night}<Sun size={18} />{:else}<Moon size={18} />{/if}
        </button>
      </form>
      {#if mayPeople}<a class="btn btn-square btn-ghost" href="/people" aria-label="People"
          ><Users size={18} /></a
        >{/if}
      <a
        class="btn min-w-0 px-2 sm:px-4"
        href="/sign-in?to={encodeURIComponent(page.url.pathname)}"
        title="Hand this tablet to somebody else"
      >
        <span class="truncate">{person.name}</span><span class="small-words hidden lg:inline"
          >{ROLE_WORDS[person.role]}</span
        >
      </a>
    </div>
  </div>
</header>
