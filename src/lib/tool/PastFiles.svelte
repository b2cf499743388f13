<script lang="ts">
  import { dayAndClock } from '../time';

  interface Props {
    files: {
      id: number;
      kind: string;
      fileName: string;
      state: string;
      rowsAll: number;
      answer: string;
      person: string;
      at: Date;
    }[];
    zone: string;
  }
  let { files, zone }: Props = $props();
</script>

<section class="mt-6" aria-labelledby="past">
  <h2 id="past" class="heading">The last files</h2>
  <ul class="ruled-list mt-1">
    {#each files as file (file.id)}
      <li class="flex flex-wrap gap-x-4 py-1.5">
        <b>{file.fileName}</b>
        <span class={['flex-1', file.state !== 'done' && 'text-accent']}
          >{file.rowsAll} {file.kind}: {file.answer || 'stopped before it was saved'}</span
        >
        <span class="small-words">{file.person}, {dayAndClock(file.at, zone)}</span>
      </li>
    {:else}<li class="py-2">No file of tools was brought in yet.</li>{/each}
  </ul>
</section>
