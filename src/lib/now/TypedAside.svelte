<script lang="ts">
  interface Props {
    /** What somebody typed for a size, and of which. */
    aside: { typed: string; name: string };
    unit: string;
    onDone: () => void;
  }
  let { aside, unit, onDone }: Props = $props();
</script>

<div role="alert" class="caution mb-3 flex flex-wrap items-center gap-3">
  <p class="flex-1">
    <b>{aside.typed} {unit}</b> was typed for {aside.name}, which is not measured here any more: another
    program stands on the machine. It is not recorded.
  </p>
  <button type="button" class="btn" onclick={onDone}>Put it aside</button>
</div>
