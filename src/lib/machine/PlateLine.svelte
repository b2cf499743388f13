<script lang="ts">
  interface Props {
    name: string;
    words: string;
    /** The limit in its own measure; null: nobody recorded it. */
    limit: number | null;
    typed: string;
    suffix: string;
    /** What comes nearest to the limit now, in the same measure. */
    now: { share: number; words: string } | null;
    mayRecord: boolean;
    optional?: boolean;
  }
  let { name, words, limit, typed, suffix, now, mayRecord, optional = false }: Props = $props();
  const share = $derived(now && limit ? now.share / limit : null);
</script>

<div class="grid grid-cols-[1fr_auto] items-center gap-x-4 border-b border-base-300 py-1.5">
  <label for="plate-{name}"
    >{words}
    {#if limit === null && !optional}<span class="font-semibold text-accent">not recorded</span>{/if}
    {#if now && now.words !== ''}<span class="small-words block"
        >{now.words}{#if share !== null}<progress
            class="progress ml-2 w-24 align-middle {share > 1 ? 'progress-error' : ''}"
            value={Math.min(1, share)}
            max="1"
            aria-label="{words}: {Math.round(share * 100)} % of the limit"
          ></progress>{/if}</span
      >{/if}</label
  >
  <span class="flex items-center gap-2">
    {#if mayRecord}<input
        id="plate-{name}"
        class="input w-32 text-right text-lg font-semibold"
        {name}
        defaultValue={typed}
        placeholder="–"
        maxlength="20"
      />{:else}<b id="plate-{name}" class="text-lg">{typed || '–'}</b>{/if}
    <span class="w-9">{suffix}</span>
  </span>
</div>
