<script lang="ts">
  import Field from '$lib/Field.svelte';
  import { enhance } from '$app/forms';
  import { untrack } from 'svelte';

  let { data, form } = $props();
  // a badge that was scanned elsewhere is typed already
  let badge = $state(untrack(() => data.badge));
  let pin = $state('');
  let at = $state<'badge' | 'pin'>(untrack(() => (data.badge ? 'pin' : 'badge')));
  let badgeField = $state<HTMLInputElement>();
  let pinField = $state<HTMLInputElement>();

  function press(digit: string) {
    if (at === 'badge') badge += digit;
    else pin += digit;
  }
  function back() {
    if (at === 'badge') badge = badge.slice(0, -1);
    else pin = pin.slice(0, -1);
  }
  function choose(number: string) {
    badge = number;
    at = 'pin';
    pin = '';
    pinField?.focus();
  }
</script>

<svelte:head><title>Sign in · Tin Almanac</title></svelte:head>

<div class="mx-auto grid min-h-dvh max-w-4xl content-center gap-8 py-8 md:grid-cols-[1fr_1.1fr]">
  <section class="self-center">
    <p class="font-display text-5xl leading-none font-bold">Tin<br />Almanac</p>
    <div class="mt-5 border-t-[3px] border-double border-base-content pt-4">
      <p class="max-w-xs">What the tools of the cell will do, and when; what to key, and why.</p>
    </div>
    {#if data.recent.length > 0}
      <h2 class="heading mt-8">Recently on this tablet</h2>
      <ul class="mt-2 grid gap-2">
        {#each data.recent as person (person.badge)}
          <li>
            <button type="button" class="btn w-full justify-start" onclick={() => choose(person.badge)}
              >{person.name}<span class="small-words ml-auto">{person.badge}</span></button
            >
          </li>
        {/each}
      </ul>
    {/if}
  </section>

  <form method="POST" action="?/enter" use:enhance class="plate grid gap-4" aria-label="Sign in">
    <h1 class="text-2xl">{data.present ? `Take over from ${data.present}` : 'Sign in'}</h1>
    <input type="hidden" name="to" value={data.to} />
    <Field label="Badge number">
      <input
        bind:this={badgeField}
        class="input text-xl"
        name="badge"
        inputmode="numeric"
        autocomplete="username"
        bind:value={badge}
        onfocus={() => (at = 'badge')}
        required
      />
    </Field>
    <Field label="PIN">
      <input
        bind:this={pinField}
        class="input text-xl"
        name="pin"
        type="password"
        inputmode="numeric"
        autocomplete="current-password"
        bind:value={pin}
        onfocus={() => (at = 'pin')}
        required
      />
    </Field>
    {#if data.cameBack && !form?.problem}<p role="alert" class="caution font-medium">{data.cameBack}</p>{/if}
    {#if form?.problem}<p role="alert" class="caution font-medium">{form.problem}</p>{/if}
    <div class="grid grid-cols-3 gap-2" role="group" aria-label="Digits">
      {#each ['1', '2', '3', '4', '5', '6', '7', '8', '9'] as digit (digit)}
        <button type="button" class="btn h-14 text-xl" onclick={() => press(digit)}>{digit}</button>
      {/each}
      <button type="button" class="btn h-14" onclick={back}>Back</button>
      <button type="button" class="btn h-14 text-xl" onclick={() => press('0')}>0</button>
      {#if at === 'badge' && badge !== ''}
        <button type="button" class="btn h-14" onclick={() => pinField?.focus()}>PIN</button>
      {:else}
        <button class="btn h-14 btn-primary">Enter</button>
      {/if}
    </div>
    <button class="btn btn-primary">Sign in</button>
    {#if data.plant}<a
        class="btn"
        data-sveltekit-reload
        href="/sign-in/plant?to={encodeURIComponent(data.to)}">Sign in by {data.plant}</a
      >{/if}
  </form>
  {#if data.present}
    <form method="POST" action="?/leave" class="md:col-span-2">
      <button class="btn btn-ghost">Sign {data.present} out and leave the tablet</button>
    </form>
  {/if}
</div>
