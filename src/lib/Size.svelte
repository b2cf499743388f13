<script lang="ts">
  import { formatLength, formatWithUnit, USUAL_DECIMALS } from '$core/units/format-length';
  import { otherUnit, type Length, type LengthUnit } from '$core/units/length';

  interface Props {
    value: Length;
    unit: LengthUnit;
    signed?: boolean;
    bare?: boolean;
  }
  let { value, unit, signed = false, bare = false }: Props = $props();
  let turned = $state(false);

  const sign = $derived(signed ? ('always' as const) : ('negative' as const));
  const other = $derived(otherUnit(unit));
  const shownUnit = $derived(turned ? other : unit);
  const text = $derived(
    bare && !turned
      ? formatLength(value, unit, { sign })
      : formatWithUnit(value, shownUnit, { sign, decimals: USUAL_DECIMALS[shownUnit] }),
  );
</script>

<!-- Shown in the machine's own unit; the other on hover, or with a tap. -->
<button
  type="button"
  tabindex="-1"
  class="inline-flex min-h-11 min-w-11 cursor-help items-center justify-end whitespace-nowrap"
  title={formatWithUnit(value, turned ? unit : other, { sign })}
  onclick={() => (turned = !turned)}>{text}</button
>
