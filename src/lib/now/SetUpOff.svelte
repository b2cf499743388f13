<script lang="ts">
  interface Props {
    /** Where it is not plain which one is meant. */
    machine?: string;
    found: string;
    look: string;
  }
  let { machine, found, look }: Props = $props();
</script>

<!-- All rows of a set-up need the same: said where somebody is about to move them one by one. -->
<section class="caution mt-3" aria-label="The set-up as a whole">
  <h3 class="font-semibold">{machine ? `${machine}: the` : 'The'} set-up, and not each tool?</h3>
  <p class="mt-1">{found} {look}</p>
  <p class="mt-1">
    A work offset that is moved the wrong way drives a tool into the part: change it by the machine’s manual,
    and prove the next approach well above the part.
  </p>
</section>
