<script lang="ts">
  /** Somebody stands by what was asked about: the size, or the number of its part. */
  let { about }: { about?: 'part' | undefined } = $props();
</script>

<label class="caution flex min-h-11 items-center gap-3"
  ><input class="checkbox" type="checkbox" name={about === 'part' ? 'partSure' : 'confirmed'} />
  {about === 'part' ? 'I looked again: the part is right.' : 'I measured again and got the same.'}</label
>
