<script lang="ts" generics="Done">
  import { enhance } from '$app/forms';
  import { navigating, page } from '$app/state';
  import { tick, type Snippet } from 'svelte';
  import type { Ask } from '$core/words/ask';

  import { freshKey } from './fresh-key';
  import { beginAct } from './live/own-acts';
  import { nobodyThere } from './offline/kept-pages';
  import { outbox, PATIENCE } from './offline/outbox.svelte';
  import { standing, typingElsewhere } from './typing';

  interface Props {
    action: string;
    children: Snippet<[{ busy: boolean }]>;
    /** What stands behind the form: how far its work is, and how it is stopped. */
    behind?: Snippet<[{ busy: boolean; key: string }]>;
    /** Called with what the act answered, and what was sent: something else that was typed meanwhile stays. */
    onDone?: (done: Done, sent: FormData) => void;
    class?: string;
    label?: string;
    /** Keep what was typed after it was taken. */
    keep?: boolean;
    multipart?: boolean;
    /** What the form says, in words: where there is no answer it is kept in this browser and sent later, and the next may be typed. */
    keptAs?: () => string;
    onKept?: () => void;
  }
  let {
    action,
    children,
    behind,
    onDone,
    class: classes = '',
    label,
    keep = false,
    multipart = false,
    keptAs,
    onKept,
  }: Props = $props();

  // One key for one act: it is renewed only once an answer is here, so that pressing again after a lost answer
  // cannot do the act twice.
  let key = $state(freshKey());
  let busy = $state(false);
  /** Something else was chosen on this page, and is on its way: what stands here is of what was chosen before. */
  const changing = $derived(
    navigating.to !== null &&
      navigating.to.url.pathname === page.url.pathname &&
      navigating.to.url.search !== page.url.search,
  );
  let problem = $state('');
  /** What may be answered to the problem: the form is sent again with it. */
  let ask = $state.raw<Ask>([]);
  /** The button that the question came to: whoever answers it meant that one. */
  let pressed: { name: string; value: string } | null = $state.raw(null);
  const told = $props.id();
  let form: HTMLFormElement | undefined = $state();
  // who the form was made for: somebody else who signs in meanwhile, in another tab, does not sign this act
  const person = $state.snapshot(page.data.person?.id);
  /** What the page knew when somebody began to type here; null: nothing was typed yet. */
  let begunAt: number | null = $state(null);
  const toldTo = $derived(begunAt ?? page.data.told ?? 0);

  /** Keeps the form on this device until it can be sent. */
  async function keepForLater(formData: FormData, words: string) {
    const to = new URL(action, location.href);
    try {
      await outbox.keep({
        key,
        url: to.pathname + to.search,
        fields: [...formData].map(([name, value]) => [name, String(value)]),
        personId: person!,
        person: page.data.person?.name ?? '',
        words,
        page: location.pathname,
        machine: Number(page.data.machine?.id ?? page.data.correction?.machineId) || null,
        seen: page.data.told ?? 0,
        typedAt: Date.now(),
      });
    } catch {
      problem =
        'There was no answer, and this device has no room to keep it. It is still here: press again in a moment.';
      return;
    }
    key = freshKey();
    begunAt = null;
    onKept?.();
  }
  /** Whether something of this person waits still after it was tried once more: what is typed now goes after it. */
  async function mustWait() {
    const own = () => outbox.waiting.some((each) => each.personId === person);
    if (own()) await outbox.send(person!);
    return own();
  }

  /** Marks the fields that something is wrong with, and goes to the first of them. */
  function mark(names: readonly string[]) {
    const controls = names.flatMap((name) => {
      const found = name === '' ? null : form?.elements.namedItem(name);
      return found instanceof HTMLElement && !found.matches('[type=hidden]') ? [found] : [];
    });
    for (const control of controls) {
      control.setAttribute('aria-invalid', 'true');
      control.setAttribute('aria-describedby', told);
    }
    if (!typingElsewhere(form)) controls[0]?.focus();
  }
  function unmark(control: EventTarget | null) {
    // another number is another question
    ask = [];
    begunAt ??= page.data.told ?? 0;
    if (!(control instanceof HTMLElement) || !control.hasAttribute('aria-invalid')) return;
    control.removeAttribute('aria-invalid');
    control.removeAttribute('aria-describedby');
  }

  /** After an act the focus goes where the work goes on, not to the top of the page. */
  async function goOn() {
    await tick();
    const now = document.activeElement;
    if (now && now !== document.body) return;
    const place =
      document.querySelector<HTMLElement>('[data-goes-on]') ??
      document.querySelector<HTMLElement>('main h1, main h2');
    if (!place) return;
    const control = place.matches('[data-goes-on]')
      ? place.querySelector<HTMLElement>('input:not([type=hidden], [disabled]), button:not([disabled])')
      : null;
    if (!control) place.tabIndex = -1;
    (control ?? place).focus();
  }
</script>

<form
  bind:this={form}
  oninput={(event) => unmark(event.target)}
  method="POST"
  {action}
  class={classes}
  aria-label={label}
  enctype={multipart ? 'multipart/form-data' : undefined}
  use:enhance={async ({ cancel, controller, formData, formElement, submitter }) => {
    if (busy || changing) return cancel();
    const retyped = standing(formElement);
    busy = true;
    problem = '';
    ask = [];
    const button = submitter instanceof HTMLButtonElement && submitter.name !== '' ? submitter : null;
    if (button?.dataset.answer === undefined) pressed = button && { name: button.name, value: button.value };
    formData.set('key', key);
    const words = person === undefined ? undefined : keptAs?.();
    if (words && (await mustWait())) {
      cancel();
      await keepForLater(formData, words);
      busy = false;
      return;
    }
    const answered = beginAct(key);
    const patience =
      words &&
      setTimeout(() => {
        controller.abort();
        answered(false);
        void keepForLater(formData, words).finally(() => (busy = false));
      }, PATIENCE);
    return async ({ result, update }) => {
      clearTimeout(patience);
      busy = false;
      if (result.type === 'error') {
        answered(false);
        if (words && (result.status === undefined || nobodyThere(result.status)))
          return keepForLater(formData, words);
        problem =
          result.status === 413
            ? result.error.message
            : result.status === 403 || result.status === 401
              ? result.error.message
              : `${result.status === 503 ? result.error.message : 'There was no answer.'} Press again in a moment: it will not be done twice.`;
        return;
      }
      key = freshKey();
      if (result.type === 'failure') {
        answered(false);
        problem = String(result.data?.problem ?? 'That was not accepted.');
        ask = (result.data?.ask as Ask | undefined) ?? [];
        mark((result.data?.fields as string[] | undefined) ?? []);
        return;
      }
      // digits of the next number may be there already: they are not wiped with those that were sent
      // who has gone on to another page meanwhile is not called back: that page brings its own data
      const here = navigating.to === null;
      await update({ reset: !keep && !retyped(), invalidateAll: here });
      answered(here && navigating.to === null);
      begunAt = null;
      void goOn();
      // what others are told comes back as news of its own, and may build the page once more
      for (const wait of [300, 900, 2000]) setTimeout(() => void goOn(), wait);
      if (result.type === 'success') onDone?.(result.data?.done as Done, formData);
    };
  }}
>
  <input type="hidden" name="key" value={key} />
  {#if person !== undefined}<input type="hidden" name="madeFor" value={person} />{/if}
  <input type="hidden" name="toldTo" value={toldTo} />
  {#if ask.length > 0 && pressed}<input type="hidden" name={pressed.name} value={pressed.value} />{/if}
  {@render children({ busy: busy || changing })}
  {#if problem}<p id={told} role="alert" class="caution mt-2 font-medium whitespace-pre-line">
      {problem}
    </p>{/if}
  {#if ask.length > 0}
    <div class="mt-2 flex flex-wrap gap-2">
      {#each ask as { name, value, words } (words)}
        <button class="btn min-h-14" data-answer {name} {value} disabled={busy || changing}>{words}</button>
      {/each}
    </div>
  {/if}
</form>
{@render behind?.({ busy, key })}
