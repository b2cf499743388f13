<script lang="ts" generics="Done">
  import { enhance } from '$app/forms';
  import type { Snippet } from 'svelte';

  interface Props {
    action: string;
    children: Snippet<[{ busy: boolean }]>;
    /** Called with what the act answered. */
    onDone?: (done: Done) => void;
    class?: string;
    label?: string;
    /** Keep what was typed after it was taken. */
    keep?: boolean;
    multipart?: boolean;
  }
  let {
    action,
    children,
    onDone,
    class: classes = '',
    label,
    keep = false,
    multipart = false,
  }: Props = $props();

  // One key for one act: it is renewed only once an answer is here, so that pressing again after a lost answer
  // cannot do the act twice.
  let key = $state(crypto.randomUUID());
  let busy = $state(false);
  let problem = $state('');
</script>

<form
  method="POST"
  {action}
  class={classes}
  aria-label={label}
  enctype={multipart ? 'multipart/form-data' : undefined}
  use:enhance={({ cancel, formData }) => {
    if (busy) return cancel();
    busy = true;
    problem = '';
    formData.set('key', key);
    return async ({ result, update }) => {
      busy = false;
      if (result.type === 'error') {
        problem =
          result.status === 413
            ? 'The file is over 32 MB: split it.'
            : result.status === 403 || result.status === 401
              ? result.error.message
              : `${result.status === 503 ? 'The database is away.' : 'No answer came.'} Press again in a moment: it is not done twice.`;
        return;
      }
      key = crypto.randomUUID();
      if (result.type === 'failure') {
        problem = String(result.data?.problem ?? 'That was not accepted.');
        return;
      }
      await update({ reset: !keep });
      if (result.type === 'success') onDone?.(result.data?.done as Done);
    };
  }}
>
  <input type="hidden" name="key" value={key} />
  {@render children({ busy })}
  {#if problem}<p role="alert" class="caution mt-2 font-medium whitespace-pre-line">{problem}</p>{/if}
</form>
