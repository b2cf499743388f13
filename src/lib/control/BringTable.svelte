<script lang="ts">
  import { REGISTER_WORDS } from '$core/inspection/register-words';
  import ActionForm from '../ActionForm.svelte';
  import Field from '../Field.svelte';

  interface Props {
    machine: string;
    /** Registers that the machine has words for. */
    kinds: string[];
  }
  let { machine, kinds }: Props = $props();
</script>

<section class="plate" aria-labelledby="bring-table">
  <h2 id="bring-table" class="text-xl">Bring its table in</h2>
  <p class="small-words mt-1">
    The offset table as {machine} punches it out, or row and number, one under the other. It is taken whole or not
    at all, and changes nothing: it is laid beside the record.
  </p>
  <ActionForm action="?/bring" class="mt-3 grid gap-3" label="Bring its table in" multipart>
    {#snippet children({ busy })}
      <Field label="A file"><input class="file-input min-h-11 w-full" type="file" name="file" /></Field>
      <Field label="or pasted"
        ><textarea class="textarea font-mono" name="text" rows="4" spellcheck="false"></textarea></Field
      >
      <Field label="Lines that only name a row hold"
        ><select class="select" name="kind"
          ><option value="">–</option>{#each kinds as kind (kind)}<option value={kind}
              >{REGISTER_WORDS[kind]}</option
            >{/each}<option value="pockets">which T stands in a pocket</option></select
        ></Field
      >
      <label class="flex min-h-11 items-center gap-2"
        ><input class="checkbox" type="checkbox" name="part" value="yes" /> Only a part was read</label
      >
      <button class="btn btn-primary" disabled={busy}>Lay it beside the record</button>
    {/snippet}
  </ActionForm>
</section>
