<script lang="ts">
  interface Props {
    /** What the numbers are of. */
    of?: 'assemblies' | 'components';
    asked: string;
    missing: string[];
    make: string;
    /** There is something to print. */
    any: boolean;
  }
  let { of = 'assemblies', asked, missing, make, any }: Props = $props();
</script>

<form class="no-print mt-3 flex max-w-3xl gap-2" method="GET">
  <input
    class="input"
    name="numbers"
    defaultValue={asked}
    aria-label="Numbers of {of}"
    placeholder={of === 'assemblies' ? 'A-101 A-102 …' : 'H40-CC32 C32-10 …'}
  />
  <button class="btn">{make}</button>
  {#if any}<button type="button" class="btn btn-primary" onclick={() => window.print()}>Print</button>{/if}
</form>
{#if missing.length > 0}<p class="caution no-print mt-2">
    No {of === 'assemblies' ? 'assembly' : 'component'} has the number {missing.join(', ')}.
  </p>{/if}
