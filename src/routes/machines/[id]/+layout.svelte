<script lang="ts">
  import { traitsOf } from '$core/changer/traits';
  import { page } from '$app/state';
  import ControlDiffers from '$lib/control/ControlDiffers.svelte';
  import DoesNow from '$lib/machine/DoesNow.svelte';

  let { data, children } = $props();
  const base = $derived(`/machines/${data.machine.id}`);
  /** The four places of a machine, each with the steps inside it; the first step is the place itself. */
  const places = $derived([
    {
      label: 'Now',
      steps: [
        { href: `${base}/now`, label: 'Now' },
        { href: `${base}/sheet`, label: 'Sheet' },
        { href: `${base}/key`, label: 'Key' },
        { href: `${base}/first-part`, label: 'First part' },
        { href: `${base}/night`, label: 'Night' },
      ],
    },
    {
      label: 'Magazine',
      steps: [
        { href: base, label: 'Table' },
        { href: `${base}/jobs`, label: 'Jobs' },
        { href: `${base}/plan`, label: 'Plan' },
        { href: `${base}/load`, label: 'Load' },
        ...(traitsOf(data.shape).exchanges ? [{ href: `${base}/room`, label: 'Make room' }] : []),
      ],
    },
    {
      label: 'Numbers',
      steps: [
        { href: `${base}/numbers`, label: 'Numbers' },
        { href: `${base}/control`, label: 'Control' },
        { href: `${base}/groups`, label: 'Groups' },
        { href: `${base}/counters`, label: 'Counters' },
        { href: `${base}/checks`, label: 'Checks' },
        { href: `${base}/net`, label: 'Net' },
        ...(data.machine.kind === 'lathe' ? [{ href: `${base}/second-part`, label: 'Second part' }] : []),
      ],
    },
    {
      label: 'Machine',
      steps: [
        { href: `${base}/plate`, label: 'Plate' },
        ...(traitsOf(data.shape).commissioned ? [{ href: `${base}/rack`, label: 'Rack' }] : []),
      ],
    },
  ]);
  const path = $derived(page.url.pathname);
  /** The pages below the control's are steps of it. */
  const at = (href: string) => href === path || (href === `${base}/control` && path.startsWith(`${href}/`));
  const here = $derived(places.find((place) => place.steps.some((step) => at(step.href))));
</script>

<header
  class="mt-4 flex flex-wrap items-end gap-x-5 gap-y-2 border-b-[3px] border-double border-base-content pb-2"
>
  <h1 class="text-3xl">{data.machine.name}</h1>
  <p class="small-words pb-1 max-md:hidden">{data.machine.words}</p>
  <nav
    class="no-print ml-auto flex gap-1.5 max-md:grid max-md:w-full max-md:grid-cols-4"
    aria-label={data.machine.name}
  >
    {#each places as place (place.label)}
      <a
        class={['btn px-3', place === here && 'btn-primary']}
        aria-current={place === here ? 'true' : undefined}
        href={place.steps[0]!.href}>{place.label}</a
      >
    {/each}
  </nav>
</header>
{#if data.heard || data.differing > 0}<div class="mt-1 flex flex-wrap items-baseline gap-x-6">
    {#if data.heard}<DoesNow
        machineId={data.machine.id}
        heard={data.heard}
        now={data.asked}
        zone={data.cell!.timeZone}
      />{/if}
    {#if path !== `${base}/control`}<ControlDiffers
        machineId={data.machine.id}
        differing={data.differing}
      />{/if}
  </div>{/if}
{#if here && here.steps.length > 1}
  <nav class="no-print flex flex-wrap gap-x-1 border-b border-base-300" aria-label="Steps in {here.label}">
    {#each here.steps as step (step.href)}
      <a
        class={[
          'inline-flex min-h-11 items-center px-3 font-semibold hover:bg-base-300',
          at(step.href) && 'border-b-[3px] border-accent',
        ]}
        aria-current={path === step.href ? 'page' : at(step.href) ? 'true' : undefined}
        href={step.href}>{step.label}</a
      >
    {/each}
  </nav>
{/if}
{@render children()}
