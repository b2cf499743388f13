<script lang="ts">
  import type { CrossedRegister } from '$core/correction/crossed-moves';
  import { crossedWords, didWords, spreadWords, stepWords } from '$core/correction/crossed-words';
  import { REGISTER_WORDS } from '$core/inspection/register-words';
  import { shortTime } from '../time';

  interface Props {
    registers: readonly CrossedRegister[];
    now: Date;
    zone: string;
    /** Viewers may not open the ledger. */
    mayOpen: boolean;
  }
  let { registers, now, zone, mayOpen }: Props = $props();
</script>

<section aria-labelledby="crossed">
  <h2 id="crossed" class="heading">Moved by both shifts</h2>
  <ul class="ruled-list mt-1">
    {#each registers as register (register.registerId)}
      {@const written = {
        ...register,
        when: (time: number) => shortTime(new Date(time), now, zone),
      }}
      {#each register.crossed as crossed, i (i)}
        <li class="py-2">
          <p>
            <b>{register.machine}</b>
            {REGISTER_WORDS[register.kind]}, row {register.row}. {crossedWords(crossed)}
          </p>
          <ol class="mt-1 font-narrow print:text-xs">
            {#each crossed.kind === 'nudged' ? crossed.steps : [crossed.first, crossed.second, ...(crossed.righted ? [crossed.righted] : [])] as step (step.entry)}
              <li>{stepWords(step, written)}</li>
            {/each}
          </ol>
          {#each crossed.did as did (did.name)}
            {@const words = 'parts' in did ? spreadWords(did, written) : didWords(did, written)}
            {#if words !== ''}<p class="small-words mt-1">{words}</p>{/if}
          {/each}
          {#if mayOpen}<a
              class="no-print inline-flex min-h-11 items-center underline"
              href="/ledger?register={register.registerId}">All moves of this register</a
            >{/if}
        </li>
      {/each}
    {/each}
  </ul>
</section>
