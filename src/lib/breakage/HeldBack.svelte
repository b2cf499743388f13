<script lang="ts">
  import type { HeldBack } from '$core/breakage/quarantine';

  /** A tool whose parts are held back, in a line that leads to its page. */
  let { held }: { held: HeldBack } = $props();
</script>

<a class="flex min-h-11 items-center py-1 hover:bg-base-300" href="/tools/{held.assemblyId}/broken"
  ><span
    ><b>{held.machine ?? 'On the rack'}</b>
    {held.tool === null ? '' : `T${held.tool} `}({held.number}) {held.verdict === 'broken'
      ? 'is broken'
      : 'is pulling out'}: {held.open > 0
      ? `${held.open} of ${held.parts} parts to inspect`
      : held.replaced
        ? held.measured
          ? 'all is done, clear it'
          : 'to be measured'
        : 'to be replaced'}</span
  ></a
>
