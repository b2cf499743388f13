<script lang="ts">
  import type { PlaceRow } from '$core/changer/place';
  import type { ChangerKind } from '$core/changer/traits';
  import Disc from '../Disc.svelte';
  import { placeWord } from '../words';

  interface Props {
    /** Places with a tool in them. */
    loaded: PlaceRow[];
    changer: ChangerKind;
    onpick: (placeId: number) => void;
  }
  let { loaded, changer, onpick }: Props = $props();
</script>

<h2 class="heading">In the machine</h2>
<ul class="ruled-list mt-1">
  {#each loaded as each (each.id)}
    <li>
      <button
        type="button"
        class="flex min-h-11 w-full items-center gap-3 text-left hover:bg-base-300"
        onclick={() => onpick(each.id)}
      >
        <b class="w-10">T{each.tool}</b><span class="min-w-0 flex-1 truncate"
          >{each.assembly!.number} {each.assembly!.name}</span
        >
        <Disc
          remaining={each.assembly!.remaining}
          fullLife={each.assembly!.fullLife}
          basis={each.assembly!.basis}
          flag={each.assembly!.flag}
          measured={each.assembly!.measured}
          size={20}
        />
        <span class="small-words w-20 text-right"
          >{each.kind === 'spindle' ? 'spindle' : `${placeWord(changer)} ${each.number}`}</span
        >
      </button>
    </li>
  {/each}
</ul>
