<script lang="ts">
  import { goto } from '$app/navigation';
  import { Command } from 'bits-ui';
  import { tick } from 'svelte';

  interface Hit {
    href: string;
    title: string;
    detail: string;
    group: string;
  }
  interface Found {
    hits: Hit[];
    said: string | null;
  }
  const NOTHING: Found = { hits: [], said: null };
  let { open = $bindable() }: { open: boolean } = $props();
  let dialog = $state<HTMLDialogElement>();
  let asked = $state('');
  let hits = $state<Hit[]>([]);
  let said = $state<string | null>(null);
  let chord = 0;

  const places: Record<string, string> = {
    l: '/leaf',
    w: '/today',
    i: '/crib',
    m: '/machines',
    p: '/programs',
    c: '/corrections',
    t: '/tools',
    e: '/ledger',
  };
  const groups = $derived([...new Set(hits.map((hit) => hit.group))]);

  $effect(() => {
    if (!open || !dialog) return;
    dialog.showModal();
    asked = '';
    void tick().then(() => dialog?.querySelector('input')?.focus());
  });

  // A scanner types faster than an answer comes, with Enter behind it: Enter then waits for the answer to its words.
  let latest = 0;
  let answered = $state('');
  let selected = $state('');
  let entered = false;
  $effect(() => {
    if (!open) return;
    const mine = ++latest;
    const words = asked;
    void fetch(`/find?words=${encodeURIComponent(words)}`)
      .then((response) => (response.ok ? (response.json() as Promise<Found>) : NOTHING))
      .then((found) => {
        if (mine !== latest) return;
        ({ hits, said } = found);
        answered = words;
        // a number that is not on record opens nothing: the nearest is another piece
        const first = said === null ? hits[0] : undefined;
        selected = first ? first.href + first.title : '';
        if (entered && first) visit(first.href);
        entered = false;
      })
      .catch(() => undefined);
  });

  function onEnter(event: KeyboardEvent) {
    if (event.key !== 'Enter' || answered === asked) return;
    event.preventDefault();
    event.stopPropagation();
    entered = true;
  }

  function visit(href: string) {
    dialog?.close();
    void goto(href);
  }

  /** Keys nearer to each other than this come from a scanner, milliseconds; nobody types so fast. */
  const SCANNED = 45;
  let burst = '';
  let lastKey = 0;
  let keysOff = $state(typeof localStorage !== 'undefined' && localStorage.getItem('tin-keys') === 'off');
  const setKeys = (off: boolean) => {
    keysOff = off;
    localStorage.setItem('tin-keys', off ? 'off' : 'on');
  };

  /** A burst of keys is a scan: it opens what it names and does nothing else, whatever has the focus. */
  function scanned(event: KeyboardEvent, typing: boolean): boolean {
    const near = event.timeStamp - lastKey < SCANNED;
    lastKey = event.timeStamp;
    if (typing || event.ctrlKey || event.metaKey || event.altKey) {
      burst = '';
      return false;
    }
    if (event.key === 'Enter' && near && burst.length >= 3) {
      entered = true;
      burst = '';
      return true;
    }
    if (event.key.length !== 1) return false;
    burst = near ? burst + event.key : event.key;
    if (burst.length < 3) return near;
    open = true;
    void tick().then(() => (asked = burst));
    return true;
  }

  function onKey(event: KeyboardEvent) {
    const typing =
      event.target instanceof HTMLElement &&
      event.target.closest(
        'input:not([type=checkbox], [type=radio]), textarea, select, [contenteditable]',
      ) !== null;
    if (scanned(event, typing)) {
      event.preventDefault();
      event.stopPropagation();
      return;
    }
    if (event.key === 'k' && (event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      open = true;
      return;
    }
    if (open || keysOff) return;
    // an act needs a chord: no stray key and no scan does anything
    if (event.altKey && !event.ctrlKey && !event.metaKey && /^Key[A-Z]$/.test(event.code)) {
      const button = document.querySelector<HTMLElement>(
        `[data-key="${event.code.slice(3).toLowerCase()}"]:not([disabled])`,
      );
      if (!button) return;
      event.preventDefault();
      button.focus();
      button.click();
      return;
    }
    if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === '/') {
      event.preventDefault();
      open = true;
    } else if (event.key === 'g') chord = event.timeStamp;
    else if (event.timeStamp - chord < 1500 && places[event.key]) {
      chord = 0;
      void goto(places[event.key]!);
    } else if (event.key.startsWith('Arrow'))
      document.querySelector<HTMLElement>(`a[data-key="${CSS.escape(event.key)}"]`)?.click();
  }
</script>

<svelte:window onkeydowncapture={onKey} />

<dialog bind:this={dialog} class="modal items-start" aria-label="Scan or find" onclose={() => (open = false)}>
  <div class="modal-box mt-[8vh] max-w-2xl border border-base-content p-0">
    <Command.Root
      shouldFilter={false}
      bind:value={selected}
      label="Scan or find"
      loop
      onkeydowncapture={onEnter}
    >
      <Command.Input
        bind:value={asked}
        class="w-full bg-transparent px-5 py-4 font-display text-xl outline-none"
        placeholder="Scan a code, or type a number, a T, a component, a program, a page"
        aria-label="What to find"
      />
      <Command.List tabindex={0} class="max-h-[55vh] overflow-y-auto border-t border-base-300">
        <Command.Viewport>
          {#if said}<p class="px-5 py-4 font-semibold text-accent" role="alert">{said}</p>
          {:else if hits.length === 0}<p class="small-words px-5 py-4">Nothing has that name.</p>{/if}
          {#each groups as group (group)}
            <Command.Group>
              <Command.GroupHeading class="small-words px-5 pt-3 pb-1">{group}</Command.GroupHeading>
              <Command.GroupItems>
                {#each hits.filter((hit) => hit.group === group) as hit (hit.href + hit.title)}
                  <Command.Item
                    value={hit.href + hit.title}
                    onSelect={() => visit(hit.href)}
                    class="flex min-h-11 cursor-pointer items-center gap-4 px-5 py-1.5 data-selected:bg-base-300"
                  >
                    <span class="font-semibold">{hit.title}</span><span class="small-words ml-auto text-right"
                      >{hit.detail}</span
                    >
                  </Command.Item>
                {/each}
              </Command.GroupItems>
            </Command.Group>
          {/each}
        </Command.Viewport>
      </Command.List>
      <label class="flex min-h-11 items-center gap-2 border-t border-base-300 px-5"
        ><input
          class="checkbox"
          type="checkbox"
          checked={keysOff}
          onchange={(event) => setKeys(event.currentTarget.checked)}
        /> Turn keyboard shortcuts off on this tablet</label
      >
    </Command.Root>
  </div>
  <form method="dialog" class="modal-backdrop"><button>Close</button></form>
</dialog>
